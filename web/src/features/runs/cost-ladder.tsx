import type { Run } from '@fleam/contract/runs'
import { costLadder, type LadderStep } from '@fleam/core/runs/cost-ladder'
import type { JointCostMethod } from '@fleam/core/runs/joint-cost'
import type { YieldTest } from '@fleam/core/runs/yield-test'
import { useUnits } from '../../ui/units.ts'

const names: Record<Exclude<LadderStep['kind'], 'credit'>, string> = {
  purchase: 'As invoiced',
  labour: 'Labour',
  consumables: 'Wrap, twine',
  disposal: 'Waste haulage',
}

/** From the invoice to what the portions carry, each step where it starts; the steps add up as printed. */
export function CostLadder({ run, test, method }: { run: Run; test: YieldTest; method: JointCostMethod }) {
  const { money, decimals } = useUnits()
  const { steps, net } = costLadder(test, run.tubs, method, decimals)
  const most = Math.max(net, ...steps.map((step) => Math.max(step.from, step.to)), 0.01)
  const place = (from: number, to: number) => ({
    left: `${(Math.max(0, Math.min(from, to)) / most) * 100}%`,
    width: `${Math.max(0.4, (Math.abs(to - from) / most) * 100)}%`,
  })
  const rows = steps.filter((step) => step.amount !== 0)
  return (
    <table className="ladder">
      <caption className="visually-hidden">From the invoice to what the portions carry</caption>
      <tbody>
        {rows.map((step) => {
          const tub = run.tubs.find((other) => other.id === step.outputId)
          const name =
            step.kind === 'credit'
              ? `less ${tub?.name ?? ''}`
              : step.kind === 'labour'
                ? `Labour, ${run.minutes ?? 0} min`
                : names[step.kind]
          return (
            <tr key={step.outputId ?? step.kind}>
              <th scope="row">{name}</th>
              <td className="ladder-track">
                <i className={tub ? `role-${tub.role}` : ''} style={place(step.from, step.to)} />
              </td>
              <td className="ladder-amount">
                {step.kind === 'purchase' ? '' : step.amount < 0 ? '− ' : '+ '}
                {money(Math.abs(step.amount))}
              </td>
            </tr>
          )
        })}
        <tr className="ladder-net">
          <th scope="row">Left to carry</th>
          <td className="ladder-track">
            <i className="role-main" style={place(0, net)} />
          </td>
          <td className="ladder-amount">{money(net)}</td>
        </tr>
      </tbody>
    </table>
  )
}
