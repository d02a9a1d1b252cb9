import type { LadderStep } from '@fleam/core/runs/cost-ladder'
import type { Role } from '@fleam/core/runs/yield-test'
import { useUnits } from './units.ts'

export interface NamedStep extends LadderStep {
  name: string
  role?: Role | undefined
}

/** From the invoice to what is left to carry, each step where it starts; the steps add up as printed. */
export function Ladder({ steps, net, netName }: { steps: readonly NamedStep[]; net: number; netName: string }) {
  const { money } = useUnits()
  const most = Math.max(net, ...steps.map((step) => Math.max(step.from, step.to)), 0.01)
  const place = (from: number, to: number) => ({
    left: `${(Math.max(0, Math.min(from, to)) / most) * 100}%`,
    width: `${Math.max(0.4, (Math.abs(to - from) / most) * 100)}%`,
  })
  return (
    <table className="ladder">
      <caption className="visually-hidden">From the invoice to what the portions carry</caption>
      <tbody>
        {steps
          .filter((step) => step.amount !== 0)
          .map((step) => (
            <tr key={step.outputId ?? step.kind}>
              <th scope="row">{step.name}</th>
              <td className="ladder-track">
                <i className={step.role ? `role-${step.role}` : ''} style={place(step.from, step.to)} />
              </td>
              <td className="ladder-amount">
                {step.kind === 'purchase' ? '' : step.amount < 0 ? '− ' : '+ '}
                {money(Math.abs(step.amount))}
              </td>
            </tr>
          ))}
        <tr className="ladder-net">
          <th scope="row">{netName}</th>
          <td className="ladder-track">
            <i className="role-main" style={place(0, net)} />
          </td>
          <td className="ladder-amount">{money(net)}</td>
        </tr>
      </tbody>
    </table>
  )
}

/** What a step of the ladder is called where it is no credit. */
export const ladderNames: Record<Exclude<LadderStep['kind'], 'credit' | 'labour'>, string> = {
  purchase: 'As invoiced',
  consumables: 'Wrap, twine',
  disposal: 'Waste haulage',
}
