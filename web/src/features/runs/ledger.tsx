import type { Run } from '@fleam/contract/runs'
import { timeText } from '../../ui/days.ts'
import { useUnits } from '../../ui/units.ts'

/** Every weighing as it was made; one that was taken back is struck through and never gone. */
export function Ledger({ run }: { run: Run }) {
  const { weight } = useUnits()
  const takenBackBy = new Map(run.weighings.flatMap((line) => (line.reversesId ? [[line.reversesId, line] as const] : [])))
  const movedTo = new Map(run.weighings.flatMap((line) => (line.movedFromId ? [[line.movedFromId, line.tubId] as const] : [])))
  const tubName = (id: string | undefined) => run.tubs.find((tub) => tub.id === id)?.name
  return (
    <section className="sheet">
      <h2>Weighings, as made</h2>
      {run.weighings.length === 0 && <p>None yet.</p>}
      <ol className="ledger">
        {run.weighings
          .filter((line) => line.reversesId === null)
          .map((line) => {
            const reversal = takenBackBy.get(line.id)
            return (
              <li key={line.id} className={reversal ? 'taken-back' : ''}>
                <b>{weight(line.tenths)}</b>
                <span>{tubName(line.tubId)}</span>
                <small>
                  {timeText(line.weighedAt)} · {line.by.name}
                  {line.piece !== null && ` · piece ${line.piece}`}
                  {reversal && (
                    <em>
                      {' '}
                      · {movedTo.has(line.id) ? `moved to ${tubName(movedTo.get(line.id))}` : 'taken back'} {timeText(reversal.weighedAt)},{' '}
                      {reversal.by.name}
                    </em>
                  )}
                </small>
              </li>
            )
          })}
      </ol>
    </section>
  )
}
