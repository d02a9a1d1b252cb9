import { InputError } from '../input-error.ts'
import { profileOf, type Station } from './profile.ts'

/** What a slice should have weighed by the tape, and what it did. */
export interface CutSlice {
  plannedGrams: number
  grams: number
}

/** A piece that was measured, planned and cut: its tape, and its slices from the thick end. */
export interface MeasuredPiece {
  stations: readonly Station[]
  grams: number
  slices: readonly CutSlice[]
}

/** A shape without a size: at even steps from the thick end to the thin, the root of the area, 1 on average. */
export interface UsualShape {
  pieces: number
  roots: readonly number[]
  /** Length of a piece of 1 kg; a heavier one grows alike in every direction. */
  lengthCmOfKilogram: number
}

const points = 12

/**
 * The usual shape of what a kitchen cuts, from pieces that were measured and cut to a plan. Where slices came out
 * heavier than the tape said, the meat is thicker there than it was taped, so the shape is moved by their ratio.
 *
 * @returns `null` where there is nothing to learn from
 */
export function learnUsualShape(pieces: readonly MeasuredPiece[]): UsualShape | null {
  if (pieces.length === 0) return null
  const sums = new Float64Array(points)
  let length = 0
  for (const piece of pieces) {
    const profile = profileOf(piece)
    const corrections = correctionsOf(piece)
    const roots = Array.from({ length: points }, (_, at) => {
      const cm = (profile.lengthCm * at) / (points - 1)
      const area = (profile.diameterAt(cm) / 2) ** 2 * Math.PI
      return Math.sqrt(area * corrections(profile.weightTo(cm)))
    })
    const mean = roots.reduce((sum, root) => sum + root, 0) / points
    roots.forEach((root, at) => {
      sums[at] = (sums[at] as number) + root / mean
    })
    length += profile.lengthCm / Math.cbrt(piece.grams / 1000)
  }
  return {
    pieces: pieces.length,
    roots: Array.from(sums, (sum) => sum / pieces.length),
    lengthCmOfKilogram: length / pieces.length,
  }
}

/** By how much the slice at a weight from the thick end was heavier than planned. */
function correctionsOf({ slices }: MeasuredPiece): (grams: number) => number {
  const ends: number[] = []
  let planned = 0
  for (const slice of slices) {
    planned += slice.plannedGrams
    ends.push(planned)
  }
  return (grams) => {
    const slice = slices[ends.findIndex((end) => grams <= end)]
    return slice && slice.plannedGrams > 0 ? slice.grams / slice.plannedGrams : 1
  }
}

const usualDensity = 1.03

/**
 * Stations of a new piece of the usual shape, for its weight and, where it was measured, its length. The density is that
 * of meat, so the tape can be held against them.
 *
 * @throws InputError naming the field
 */
export function stationsOfShape(
  shape: UsualShape,
  grams: number,
  lengthCm = shape.lengthCmOfKilogram * Math.cbrt(grams / 1000),
): Station[] {
  if (!(grams > 0)) throw new InputError('grams', 'The weight must be over 0 g.')
  if (!(lengthCm > 0)) throw new InputError('lengthCm', 'The length must be over 0 cm.')
  const plain = shape.roots.map((root, at) => ({ cm: (lengthCm * at) / (shape.roots.length - 1), girthCm: Math.sqrt(4 * Math.PI) * root }))
  const scale = Math.sqrt(profileOf({ stations: plain, grams }).densityGPerCm3 / usualDensity)
  return plain.map(({ cm, girthCm }) => ({ cm: Math.round(cm * 10) / 10, girthCm: Math.round(girthCm * scale * 10) / 10 }))
}
