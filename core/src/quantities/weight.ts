/** Weight as an integer count of tenths of a gram, the unit in which Fleam adds. */
export type Tenths = number

/** Units a weight can be entered in. 1 lb = 453.59237 g, 1 oz = 1/16 lb (international avoirdupois pound, 1959). */
export type WeightUnit = 'g' | 'kg' | 'lb' | 'oz'

/** The unit system a kitchen reads and writes in. */
export type WeightSystem = 'metric' | 'imperial'

export const gramsPerPound = 453.59237
/** Grams of one of each unit. */
export const gramsPer: Readonly<Record<WeightUnit, number>> = { g: 1, kg: 1000, oz: gramsPerPound / 16, lb: gramsPerPound }

/** The heaviest thing a bench weighs: 500 kg. */
export const heaviestTenths: Tenths = 5_000_000

/**
 * Grams to tenths of a gram, rounded to the nearest tenth.
 * @example tenthsOf(184.2) === 1842
 */
export function tenthsOf(grams: number): Tenths {
  return Math.round(grams * 10)
}

/**
 * Tenths of a gram to grams.
 * @example gramsOf(1842) === 184.2
 */
export function gramsOf(tenths: Tenths): number {
  return tenths / 10
}

/**
 * Sum of weights in grams, made on integer tenths so that a test that balances balances exactly.
 * @example sumGrams([0.1, 0.2]) === 0.3
 */
export function sumGrams(weights: readonly number[]): number {
  let tenths = 0
  for (const grams of weights) tenths += tenthsOf(grams)
  return gramsOf(tenths)
}
