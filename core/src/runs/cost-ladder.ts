import { roundToTotal } from '../quantities/round-to-total.ts'
import type { JointCostMethod } from './joint-cost.ts'
import type { Role } from './output.ts'
import type { YieldTest } from './yield-test.ts'

export interface LadderRow {
  kind: 'purchase' | 'claim' | 'labour' | 'consumables' | 'disposal' | 'credit'
  /** The output that is credited; only on a credit. */
  outputId?: string
  amount: number
}

/** A row whose signed amount is rounded so that the steps add up to the net. */
export interface LadderStep extends LadderRow {
  /** Where the step starts and ends on the way from nothing to the net. */
  from: number
  to: number
}

/** Rows as steps that stand on each other; rounded by largest remainder, so the printed steps add up to the printed net. */
export function ladderOf(rows: readonly LadderRow[], decimals: number): { steps: LadderStep[]; net: number } {
  const rounded = roundToTotal(
    rows.map((row) => row.amount),
    decimals,
  )
  let reached = 0
  const steps = rows.map((row, index) => {
    const from = reached
    reached = Number((reached + (rounded[index] ?? 0)).toFixed(decimals))
    return { ...row, amount: rounded[index] ?? 0, from, to: reached }
  })
  return { steps, net: reached }
}

/**
 * The way from the invoice to what the portions carry: purchase, what the supplier gave back, labour, consumables, disposal, then
 * each credit.
 *
 * @param outputs the test's outputs with role, value and separable cost, in the test's order
 * @param decimals decimal places of the currency
 */
export function costLadder(
  test: YieldTest,
  outputs: readonly { id: string; role: Role; separableCost: number }[],
  method: JointCostMethod,
  decimals: number,
): { steps: LadderStep[]; net: number } {
  const { cost } = test
  const credits = outputs.flatMap((output, index) => {
    const credited = output.role === 'byproduct' || (output.role === 'coproduct' && method === 'byproduct-credit')
    const own = test.outputs[index]?.cost ?? 0
    const value = credited && own !== 0 ? own - output.separableCost : 0
    return value === 0 ? [] : [{ kind: 'credit' as const, outputId: output.id, amount: -value }]
  })
  const rows: LadderRow[] = [
    { kind: 'purchase', amount: cost.purchase },
    ...(cost.claimCredit === 0 ? [] : [{ kind: 'claim' as const, amount: -cost.claimCredit }]),
    { kind: 'labour', amount: cost.labour },
    { kind: 'consumables', amount: cost.consumables },
    { kind: 'disposal', amount: cost.disposal },
    ...credits,
  ]
  return ladderOf(rows, decimals)
}
