import type { Run } from '@fleam/contract/runs'
import { coldClock } from '@fleam/core/bench/cold-clock'
import { useKitchen } from '../../api/queries.ts'
import { timeText } from '../../ui/days.ts'
import { coldMoves, stepsOf } from './bench/steps.ts'

const placeWords = { product: 'product core', room: 'room', fridge: 'cold store' } as const

/** What was noted at the bench beside the weights: temperatures, time out of the cold, the fish, steps left out. */
export function BenchRecord({ run }: { run: Run }) {
  const { outOfColdMinutes, coldWarningMinutes } = useKitchen().settings.limits
  const steps = stepsOf(run)
  const end = new Date(run.finishedAt ?? Date.now()).getTime()
  const moves = coldMoves(run.events)
  const clock = coldClock(new Date(run.startedAt).getTime(), moves, end, {
    limitMinutes: outOfColdMinutes,
    warningMinutes: coldWarningMinutes,
  })
  const temperatures = run.events.filter((event) => event.what.kind === 'temperature')
  const skipped = steps.filter((step) => step.isSkipped)
  const hasClock = moves.length > 0
  if (!run.fish && temperatures.length === 0 && skipped.length === 0 && !hasClock) return null
  return (
    <section className="sheet">
      <h2>Noted at the bench</h2>
      <ul className="plain-list">
        {run.fish && (
          <li>
            {run.fish.species}
            {run.fish.lengthCm !== null && `, ${run.fish.lengthCm} cm`}
            {run.fish.condition && `, ${run.fish.condition} to the touch`}
          </li>
        )}
        {hasClock && (
          <li className={clock.state === 'over' ? 'hot' : ''}>
            {Math.round(clock.minutesOut)} min out of the cold, house limit {outOfColdMinutes}
          </li>
        )}
        {temperatures.map(
          ({ id, what, by, at }) =>
            what.kind === 'temperature' && (
              <li key={id}>
                <b>{what.celsius} °C</b> {placeWords[what.of]}
                <small>
                  {timeText(at)} · {by.name}
                  {what.action && ` · ${what.action}`}
                </small>
              </li>
            ),
        )}
        {skipped.map((step) => (
          <li key={step.title}>Left out: {step.title}</li>
        ))}
      </ul>
    </section>
  )
}
