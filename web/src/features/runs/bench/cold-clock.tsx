import type { Run } from '@fleam/contract/runs'
import { coldClock } from '@fleam/core/bench/cold-clock'
import Button from 'react-bootstrap/Button'
import { useKitchen } from '../../../api/queries.ts'
import { coldMoves } from './steps.ts'

/** How long the product has been out of the cold; a tap puts it back, or takes it out again. */
export function ColdClock({ run, now, onMove }: { run: Run; now: number; onMove: (isOut: boolean) => void }) {
  const { outOfColdMinutes, coldWarningMinutes } = useKitchen().settings.limits
  const clock = coldClock(new Date(run.startedAt).getTime(), coldMoves(run.events), now, {
    limitMinutes: outOfColdMinutes,
    warningMinutes: coldWarningMinutes,
  })
  const out = Math.floor(clock.minutesOut)
  const words =
    clock.state === 'over'
      ? `${out} min out: over the house limit of ${outOfColdMinutes}`
      : clock.state === 'warning'
        ? `${out} min out: ${Math.ceil(clock.minutesLeft)} left`
        : `${out} of ${outOfColdMinutes} min out`
  return (
    <Button variant="bare" className={`cold-clock cold-${clock.state}`} onClick={() => onMove(!clock.isOut)}>
      {words}
      <small>{clock.isOut ? 'tap: back in the cold' : 'in the cold · tap: out again'}</small>
    </Button>
  )
}
