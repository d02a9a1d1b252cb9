import type { Profile, Station } from './profile.ts'

/** How far a hand may slip, cm. */
export const slipCm = 0.5

/**
 * How many grams a slice is heavier or lighter where the knife slips by 5 mm at its far end: the mean of a slip either way.
 *
 * @param toCm far end of the slice; at the end of the piece nothing can slip
 * @example slipGrams(profileOf({ stations: [{ cm: 0, girthCm: 20 }, { cm: 10, girthCm: 20 }], grams: 300 }), 4) === 15
 */
export function slipGrams(profile: Profile, toCm: number): number {
  if (toCm >= profile.lengthCm - 1e-9) return 0
  return (profile.weightTo(toCm + slipCm) - profile.weightTo(toCm - slipCm)) / 2
}

/** A muscle over twice as wide as high is no longer what a tape takes it for. */
const flatFrom = 2

/**
 * Where a flattened muscle is to be taped again: halfway to the places on either side of its flattest one. None where nothing is
 * over twice as wide as high, or only a girth is known.
 *
 * @returns places in cm
 * @example placesToTapeAgain([{ cm: 0, widthCm: 9, heightCm: 6 }, { cm: 10, widthCm: 12, heightCm: 5 }, { cm: 20, widthCm: 6, heightCm: 5 }]) // [5, 15]
 */
export function placesToTapeAgain(stations: readonly Station[]): number[] {
  let flattest: { at: number; aspect: number } | undefined
  for (const [at, { widthCm, heightCm }] of stations.entries()) {
    if (widthCm === undefined || heightCm === undefined || !(heightCm > 0)) continue
    const aspect = Math.max(widthCm / heightCm, heightCm / widthCm)
    if (aspect > flatFrom && aspect > (flattest?.aspect ?? 0)) flattest = { at, aspect }
  }
  if (!flattest) return []
  const { at } = flattest
  return [stations[at - 1], stations[at + 1]].flatMap((beside) =>
    beside ? [Math.round((((stations[at] as Station).cm + beside.cm) / 2) * 10) / 10] : [],
  )
}
