import type { LadderStep } from '@fleam/core/runs/cost-ladder'
import type { Role } from '@fleam/core/runs/output'
import { lazyChart } from './charts/lazy-chart.tsx'
import type { WaterfallProps } from './charts/waterfall-chart.tsx'
import { useUnits } from './units.ts'

const Waterfall = lazyChart<WaterfallProps>(async () => (await import('./charts/waterfall-chart.tsx')).WaterfallChart, 240)

export interface NamedStep extends LadderStep {
  name: string
  role?: Role | undefined
}

/** From the invoice to what is left to carry, each step where it starts; the steps add up as printed. */
export function Ladder({ steps, net, netName }: { steps: readonly NamedStep[]; net: number; netName: string }) {
  const { money } = useUnits()
  const shown = steps.filter((step) => step.amount !== 0)
  const amountOf = ({ kind, amount }: NamedStep) => `${kind === 'purchase' ? '' : amount < 0 ? '− ' : '+ '}${money(Math.abs(amount))}`
  const rows = [
    ...shown.map((step) => ({
      key: step.outputId ?? step.kind,
      name: step.name,
      range: [Math.min(step.from, step.to), Math.max(step.from, step.to)] as [number, number],
      written: amountOf(step),
      fill: step.role ? `var(--${step.role})` : 'var(--ink-soft)',
    })),
    { key: 'net', name: netName, range: [0, net] as [number, number], written: money(net), fill: 'var(--main)' },
  ]
  return (
    <div className="ladder">
      <Waterfall rows={rows} />
      <ol className="ladder-amounts">
        {rows.map(({ key, name, written }) => (
          <li key={key}>
            <span>{name}</span>
            <span className="ladder-amount">{written}</span>
          </li>
        ))}
      </ol>
    </div>
  )
}

/** What a step of the ladder is called where it is no credit. */
export const ladderNames: Record<Exclude<LadderStep['kind'], 'credit' | 'labour'>, string> = {
  purchase: 'As invoiced',
  claim: 'Given back by the supplier',
  consumables: 'Wrap, twine',
  disposal: 'Waste haulage',
}
