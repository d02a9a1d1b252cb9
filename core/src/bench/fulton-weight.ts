import { InputError } from '../input-error.ts'

/** Fulton's condition factor of a kind of fish, g/cm³ × 100, and what the fish as bought weighs of the whole one. */
export interface Condition {
  lowK: number
  typicalK: number
  highK: number
  boughtPct: number
}

export interface FultonWeight {
  lowGrams: number
  typicalGrams: number
  highGrams: number
}

/**
 * The weight to expect of one fish from its length: W = K × L³ / 100.
 *
 * Source: Fulton's condition factor, fisheries biology.
 *
 * @param lengthCm from snout to tail, over 0
 * @throws InputError
 * @example Math.round(fultonWeight(40, { lowK: 1, typicalK: 1.15, highK: 1.3, boughtPct: 100 }).typicalGrams) === 736
 */
export function fultonWeight(lengthCm: number, { lowK, typicalK, highK, boughtPct }: Condition): FultonWeight {
  if (!(lengthCm > 0)) throw new InputError('lengthCm', 'The length must be over 0 cm.')
  const grams = (k: number) => ((k * lengthCm ** 3) / 100) * (boughtPct / 100)
  return { lowGrams: grams(lowK), typicalGrams: grams(typicalK), highGrams: grams(highK) }
}
