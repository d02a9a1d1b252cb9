import { InputError } from '../input-error.ts'
import { type ProfileInput, profileOf } from './profile.ts'

export interface BondedPairInput {
  a: ProfileInput
  b: ProfileInput
  portionGrams: number
  /** How far the thin end of the reversed second muscle lies from the thick end of the first, cm; may be negative. */
  offsetCm: number
}

export interface BondedPair {
  lengthCm: number
  grams: number
  portions: number
  /** Thickness of every portion from the first end of the log. */
  thicknessCm: number[]
  leftGrams: number
  thicknessSpreadCm: number
}

/**
 * Two muscles laid head to tail and bonded into one log: the second reversed and offset, weight along the log the sum.
 * Cut into portions of one weight from the first end; the portions' thickness says how even the log is.
 *
 * @throws InputError naming the field
 * @example bondedPair({ a: { stations: [{ cm: 0, girthCm: 24 }, { cm: 20, girthCm: 16 }], grams: 800 }, b: { stations: [{ cm: 0, girthCm: 24 }, { cm: 20, girthCm: 16 }], grams: 800 }, portionGrams: 200, offsetCm: 0 }).portions === 8
 */
export function bondedPair({ a, b, portionGrams, offsetCm }: BondedPairInput): BondedPair {
  const [first, second] = [named('a', () => profileOf(a)), named('b', () => profileOf(b))]
  const start = Math.min(0, offsetCm)
  const end = Math.max(first.lengthCm, offsetCm + second.lengthCm)
  if (offsetCm > first.lengthCm || offsetCm + second.lengthCm < 0)
    throw new InputError('offsetCm', 'The two muscles do not touch: bring them closer.')
  const grams = first.grams + second.grams
  if (!(portionGrams > 0)) throw new InputError('portionGrams', 'A portion must weigh over 0 g.')
  if (portionGrams > grams) throw new InputError('portionGrams', `A portion of ${portionGrams} g is heavier than both muscles together.`)
  if (grams / portionGrams > 5000) throw new InputError('portionGrams', 'That would be thousands of portions: check the weight.')
  const weightTo = (cm: number) => first.weightTo(cm) + second.grams - second.weightTo(second.lengthCm - (cm - offsetCm))
  const placeOf = (wanted: number) => {
    let [low, high] = [start, end]
    for (let turn = 0; turn < 200 && high - low > 1e-13 * (end - start); turn += 1) {
      const middle = (low + high) / 2
      if (weightTo(middle) < wanted) low = middle
      else high = middle
    }
    return (low + high) / 2
  }
  const portions = Math.floor(grams / portionGrams + 1e-9)
  const places = Array.from({ length: portions + 1 }, (_, index) => (index === 0 ? start : placeOf(index * portionGrams)))
  const thicknessCm = places.slice(1).map((place, index) => place - (places[index] as number))
  return {
    lengthCm: end - start,
    grams,
    portions,
    thicknessCm,
    leftGrams: grams - portions * portionGrams,
    thicknessSpreadCm: Math.max(...thicknessCm) - Math.min(...thicknessCm),
  }
}

function named<Result>(muscle: string, make: () => Result): Result {
  try {
    return make()
  } catch (error) {
    throw error instanceof InputError ? new InputError(`${muscle}.${error.field}`, error.message) : error
  }
}
