import type { Run } from '@fleam/contract/runs'
import { costLadder } from '@fleam/core/runs/cost-ladder'
import type { JointCostMethod } from '@fleam/core/runs/joint-cost'
import type { YieldTest } from '@fleam/core/runs/yield-test'
import { Ladder, ladderNames } from '../../ui/ladder.tsx'
import { useUnits } from '../../ui/units.ts'

/** From the invoice to what the portions of a run carry. */
export function CostLadder({ run, test, method }: { run: Run; test: YieldTest; method: JointCostMethod }) {
  const { decimals } = useUnits()
  const { steps, net } = costLadder(test, run.tubs, method, decimals)
  const named = steps.map((step) => {
    const tub = run.tubs.find((other) => other.id === step.outputId)
    if (step.kind === 'credit') return { ...step, name: `less ${tub?.name ?? ''}`, role: tub?.role }
    return { ...step, name: step.kind === 'labour' ? `Labour, ${run.minutes ?? 0} min` : ladderNames[step.kind] }
  })
  return <Ladder steps={named} net={net} netName="Left to carry" />
}
