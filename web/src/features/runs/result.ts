import type { Run, Tub } from '@fleam/contract/runs'
import { type PortionStatistics, portionStatistics } from '@fleam/core/portions/portion-statistics'
import { gramsOf, sumGrams } from '@fleam/core/quantities/weight'
import type { JointCostMethod } from '@fleam/core/runs/joint-cost'
import { nameOfPortions, platedTubs } from '@fleam/core/runs/plates'
import {
  costOfPortion,
  decisionCostPerKg,
  portionsOf,
  readyCutCostFor,
  type SharedTest,
  sharedTestOfRun,
  tubOfPortions,
} from '@fleam/core/runs/run-record'

export const methodNames: Record<JointCostMethod, string> = {
  'byproduct-credit': 'By-product credit',
  'sales-value': 'Sales value',
  weight: 'Weight',
}

/** One sentence each that says when a method is right. */
export const methodReasons: Record<JointCostMethod, string> = {
  'byproduct-credit':
    'Right where one product is the point: everything else is credited at its value; the mains carry the rest, kinds by their worth, pieces of a kind by weight.',
  'sales-value':
    'Right where every part has a market price, as in a whole bird: mains and co-products carry the cost in proportion to what they would sell for.',
  weight: 'Right where the parts are worth much the same per kilo: mains and co-products carry the cost by weight alone.',
}

export interface PortionResult {
  tub: Tub
  /** What the portions are called. */
  name: string
  weights: number[]
  servedGrams: number
  /** How even they are; nothing where they were not cut to a target. */
  statistics: PortionStatistics | undefined
  /** What a portion carries of the cost, by the method shown. */
  sharedCost: number | null
  /** What a portion costs for the choice between cutting and buying it, by no school: see `decisionCostPerKg`. */
  makeCost: number | null
  readyCut: number | undefined
  saving: number | null
}

export interface RunResult extends SharedTest {
  portion: PortionResult | undefined
}

export function resultOf(run: Run, asked: JointCostMethod): RunResult {
  const shared = sharedTestOfRun(run, asked)
  const tub = tubOfPortions(run.tubs)
  const weights = portionsOf(run)
  if (!tub || weights.length === 0) return { ...shared, portion: undefined }
  const cost = shared.test.outputs.find((output) => output.id === tub.id)
  const statistics =
    tub.targetTenths === null
      ? undefined
      : portionStatistics({
          weights,
          target: gramsOf(tub.targetTenths),
          tolerance: gramsOf(tub.toleranceTenths ?? 0),
          costPerKg: cost?.costPerKg ?? undefined,
        })
  const servedGrams = sumGrams(weights) / weights.length
  const perKg = decisionCostPerKg(run)
  const makeCost = perKg === null ? null : (perKg * servedGrams) / 1000
  const readyCut = readyCutCostFor(run, servedGrams)
  const saving = makeCost === null || readyCut === undefined ? null : readyCut - makeCost
  const sharedCost = costOfPortion(cost, weights)
  const name = nameOfPortions(tub, platedTubs(run)?.tubs)
  return { ...shared, portion: { tub, name, weights, servedGrams, statistics, sharedCost, makeCost, readyCut, saving } }
}
