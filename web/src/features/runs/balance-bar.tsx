import type { Run } from '@fleam/contract/runs'
import { totalsByTub } from '@fleam/core/runs/ledger'
import { useUnits } from '../../ui/units.ts'

/** The received weight as one bar that fills from the left; what is missing stays hatched. */
export function BalanceBar({ run }: { run: Run }) {
  const { weight } = useUnits()
  const totals = totalsByTub(run.weighings)
  const weighed = [...totals.values()].reduce((sum, total) => sum + total.tenths, 0)
  const whole = Math.max(run.received.tenths, weighed)
  const left = run.received.tenths - weighed
  const label = `${weight(weighed)} of ${weight(run.received.tenths)} weighed, ${left >= 0 ? `${weight(left)} unaccounted` : `${weight(-left)} too much`}`
  const leftName = run.status === 'open' ? 'On the board' : 'Unaccounted'
  return (
    <div className="balance-bar" role="img" aria-label={label}>
      {run.tubs.map((tub, index) => {
        const share = ((totals.get(tub.id)?.tenths ?? 0) / whole) * 100
        if (share === 0) return null
        return (
          <span key={tub.id} className={`role-${tub.role} shade-${index % 2}`} style={{ width: `${share}%` }}>
            {share > tub.name.length * 0.9 + 2 && tub.name}
          </span>
        )
      })}
      {left > 0 && (
        <span className="unaccounted" style={{ width: `${(left / whole) * 100}%` }}>
          {(left / whole) * 100 > 9 && <em>{leftName}</em>}
        </span>
      )}
      {left < 0 && <span className="overfull" style={{ width: `${(-left / whole) * 100}%` }} />}
    </div>
  )
}
