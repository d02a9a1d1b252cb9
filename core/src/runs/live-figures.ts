import { gramsOf } from '../quantities/weight.ts'
import type { Balance } from './balance.ts'
import { balanceOfRun, portionTub, projectedYieldTest, type RunRecord, readyCutCostFor, yieldTestOfRun } from './run-record.ts'
import type { YieldTest } from './yield-test.ts'

export interface LiveFigures {
  yields: YieldTest['yields']
  balance: Balance
  /** Cost of a portion if the run ends as its sheet expects; absent where nothing is portioned. */
  makeCost: number | undefined
  readyCut: number | undefined
}

/**
 * What the bench shows of a run while it goes on, from the same functions that results are stored with.
 * @param usualMinutes what the sheet says that this many items take
 */
export function liveFigures(run: RunRecord, usualMinutes: number): LiveFigures {
  const tub = portionTub(run.tubs)
  const creditRun: RunRecord = { ...run, method: 'byproduct-credit' }
  const projected = projectedYieldTest(creditRun, usualMinutes)
  const cost = projected.outputs.find((output) => output.id === tub?.id)
  return {
    yields: yieldTestOfRun(creditRun).yields,
    balance: balanceOfRun(run),
    makeCost: cost?.costPerKg != null && tub?.targetTenths ? (cost.costPerKg * gramsOf(tub.targetTenths)) / 1000 : undefined,
    readyCut: tub?.targetTenths ? readyCutCostFor(run, gramsOf(tub.targetTenths)) : undefined,
  }
}
