import { InputError } from '../input-error.ts'
import { gramsOf, tenthsOf } from '../quantities/weight.ts'
import { portionState } from './portion-state.ts'

/** Weighed portions in grams against a target and a tolerance in grams; cost per kg in the kitchen's currency. */
export interface PortionsInput {
  weights: readonly number[]
  target: number
  tolerance: number
  costPerKg?: number | undefined
}

export interface PortionStatistics {
  count: number
  mean: number
  /** Sample standard deviation (n − 1), grams; `null` under two portions. */
  sd: number | null
  cvPct: number | null
  min: number
  max: number
  under: number
  within: number
  over: number
  /** Grams served above the target, over all portions. */
  giveawayGrams: number
  giveawayCost: number | null
  /** Whole portions that the same weight would have made at the target, less the portions made. */
  portionsForgone: number
}

/**
 * How even a batch of portions is and what it gives away.
 * @throws InputError where there are no weights or the target is not over 0
 * @example portionStatistics({ weights: [184, 178], target: 180, tolerance: 6 }).giveawayGrams === 4
 */
export function portionStatistics({ weights, target, tolerance, costPerKg }: PortionsInput): PortionStatistics {
  if (weights.length === 0) throw new InputError('weights', 'There are no portions to look at.')
  if (!(target > 0)) throw new InputError('target', 'The target must be over 0 g.')
  const tenths = weights.map(tenthsOf)
  const targetTenths = tenthsOf(target)
  const total = tenths.reduce((sum, weight) => sum + weight, 0)
  const count = weights.length
  const mean = gramsOf(total) / count
  const squares = weights.reduce((sum, weight) => sum + (weight - mean) ** 2, 0)
  const sd = count > 1 ? Math.sqrt(squares / (count - 1)) : null
  const stand = tenths.map((weight) => portionState(weight, targetTenths, tenthsOf(tolerance)))
  const under = stand.filter((state) => state === 'under').length
  const over = stand.filter((state) => state === 'over').length
  const giveawayGrams = gramsOf(tenths.reduce((sum, weight) => sum + Math.max(0, weight - targetTenths), 0))
  return {
    count,
    mean,
    sd,
    cvPct: sd === null ? null : (sd / mean) * 100,
    min: gramsOf(tenths.reduce((least, weight) => Math.min(least, weight), Number.POSITIVE_INFINITY)),
    max: gramsOf(tenths.reduce((greatest, weight) => Math.max(greatest, weight), 0)),
    under,
    within: count - under - over,
    over,
    giveawayGrams,
    giveawayCost: costPerKg === undefined ? null : (giveawayGrams * costPerKg) / 1000,
    portionsForgone: Math.floor(total / targetTenths) - count,
  }
}
