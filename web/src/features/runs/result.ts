import type { Run, Tub } from '@fleam/contract/runs'
import { InputError } from '@fleam/core/input-error'
import { type PortionStatistics, portionStatistics } from '@fleam/core/portions/portion-statistics'
import { gramsOf } from '@fleam/core/quantities/weight'
import type { JointCostMethod } from '@fleam/core/runs/joint-cost'
import { portionTub, readyCutCostFor, weightsIn, yieldTestOfRun } from '@fleam/core/runs/run-record'
import type { YieldTest } from '@fleam/core/runs/yield-test'

export const methodNames: Record<JointCostMethod, string> = {
  'byproduct-credit': 'By-product credit',
  'sales-value': 'Sales value',
  weight: 'Weight',
}

/** One sentence each that says when a method is right. */
export const methodReasons: Record<JointCostMethod, string> = {
  'byproduct-credit':
    'Right where one product is the point: everything else is credited at its value, and the mains carry the rest by weight.',
  'sales-value':
    'Right where every part has a market price, as in a whole bird: mains and co-products carry the cost in proportion to what they would sell for.',
  weight: 'Right where the parts are worth much the same per kilo: mains and co-products carry the cost by weight alone.',
}

export interface PortionResult {
  tub: Tub
  weights: number[]
  servedGrams: number
  statistics: PortionStatistics
  makeCost: number | null
  readyCut: number | undefined
  saving: number | null
}

export interface RunResult {
  test: YieldTest
  /** The method shown: the one asked for, or weight where that one lacks a value. */
  method: JointCostMethod
  trouble: string | undefined
  portion: PortionResult | undefined
}

export function resultOf(run: Run, asked: JointCostMethod): RunResult {
  const { test, method, trouble } = shared(run, asked)
  const tub = portionTub(run.tubs)
  const weights = tub ? weightsIn(run, tub.id) : []
  if (!tub || weights.length === 0) return { test, method, trouble, portion: undefined }
  const cost = test.outputs.find((output) => output.id === tub.id)
  const statistics = portionStatistics({
    weights,
    target: gramsOf(tub.targetTenths ?? 0),
    tolerance: gramsOf(tub.toleranceTenths ?? 0),
    costPerKg: cost?.costPerKg ?? undefined,
  })
  const makeCost = cost?.costPerPortion ?? null
  const readyCut = readyCutCostFor(run, statistics.mean)
  const saving = makeCost === null || readyCut === undefined ? null : readyCut - makeCost
  return { test, method, trouble, portion: { tub, weights, servedGrams: statistics.mean, statistics, makeCost, readyCut, saving } }
}

function shared(run: Run, asked: JointCostMethod): Pick<RunResult, 'test' | 'method' | 'trouble'> {
  try {
    return { test: yieldTestOfRun(run, asked), method: asked, trouble: undefined }
  } catch (error) {
    if (!(error instanceof InputError)) throw error
    return { test: yieldTestOfRun(run, 'weight'), method: 'weight', trouble: error.message }
  }
}
