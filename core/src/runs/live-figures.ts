import { gramsOf } from '../quantities/weight.ts'
import type { Balance } from './balance.ts'
import { balanceOfRun, portionTub, projectedDecisionCostPerKg, type RunRecord, readyCutCostFor, sharedTestOfRun } from './run-record.ts'
import type { YieldTest } from './yield-test.ts'

export interface LiveFigures {
  yields: YieldTest['yields']
  balance: Balance
  /** Cost of a portion, for the choice between cutting and buying it, if the run ends as its sheet expects; absent where nothing is portioned. */
  makeCost: number | undefined
  readyCut: number | undefined
}

/**
 * What the bench shows of a run while it goes on, from the same functions that results are stored with.
 * @param usualMinutes what the sheet says that this many items take
 */
export function liveFigures(run: RunRecord, usualMinutes: number): LiveFigures {
  const tub = portionTub(run.tubs)
  const costPerKg = projectedDecisionCostPerKg(run, usualMinutes)
  return {
    yields: sharedTestOfRun(run, 'weight').test.yields,
    balance: balanceOfRun(run),
    makeCost: costPerKg !== null && tub?.targetTenths ? (costPerKg * gramsOf(tub.targetTenths)) / 1000 : undefined,
    readyCut: tub?.targetTenths ? readyCutCostFor(run, gramsOf(tub.targetTenths)) : undefined,
  }
}
