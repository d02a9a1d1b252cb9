import { type ProfileInput, profileOf } from './profile.ts'

export interface EvenSlice {
  fromCm: number
  toCm: number
  grams: number
}

/**
 * A piece cut into slices of one thickness, the last one whatever is left: what cutting without a scale gives.
 * @example evenSlices({ stations: [{ cm: 0, girthCm: 20 }, { cm: 10, girthCm: 20 }], grams: 300 }, 5).map(({ grams }) => grams) // [150, 150]
 */
export function evenSlices(piece: ProfileInput, thicknessCm: number): EvenSlice[] {
  const profile = profileOf(piece)
  const count = Math.max(1, Math.ceil(profile.lengthCm / Math.max(thicknessCm, profile.lengthCm / 1000) - 1e-9))
  return Array.from({ length: count }, (_, index) => {
    const [fromCm, toCm] = [index * thicknessCm, Math.min(profile.lengthCm, (index + 1) * thicknessCm)]
    return { fromCm, toCm, grams: profile.weightTo(toCm) - profile.weightTo(fromCm) }
  })
}
