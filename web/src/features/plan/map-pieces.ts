import type { BestMix, BestMixInput, PieceType } from '@fleam/core/plan/best-mix'
import type { Profile } from '@fleam/core/plan/profile'
import type { MappedPiece } from './cut-map.tsx'

/** The pieces between the lines, each with what it is meant to be and what it breaks of that. */
export function mapPieces(profile: Profile, input: BestMixInput, mix: BestMix | undefined, cuts: readonly number[]): MappedPiece[] {
  const edges = [0, ...cuts, profile.lengthCm]
  return edges.slice(1).map((toCm, index) => {
    const fromCm = edges[index] ?? 0
    const grams = profile.weightTo(toCm) - profile.weightTo(fromCm)
    const kind = mix?.pieces[index]?.type ?? kindOf(input.types, grams)
    const rank = input.types.findIndex((type) => type.id === kind)
    const type = input.types[rank]
    return { fromCm, toCm, grams, kind: kind.replace(/^\d+ /, ''), rank, trouble: type && troubleOf(type, grams, toCm - fromCm) }
  })
}

/** What a piece of a weight is meant to be: the kind with the nearest target, or tips where it is lighter than any. */
function kindOf(types: readonly PieceType[], grams: number): string {
  const nearest = types.reduce((best, type) => (Math.abs(type.targetGrams - grams) < Math.abs(best.targetGrams - grams) ? type : best))
  return grams < nearest.minGrams * 0.7 ? 'tips' : nearest.id
}

function troubleOf(type: PieceType, grams: number, cm: number): string | undefined {
  if (grams < type.minGrams - 0.05) return `${Math.round(grams)} g is under ${type.minGrams} g`
  if (grams > type.maxGrams + 0.05) return `${Math.round(grams)} g is over ${type.maxGrams} g`
  if (cm < type.minCm - 1e-6) return `${Math.round(cm * 10)} mm is thinner than ${type.minCm * 10} mm`
  return cm > type.maxCm + 1e-6 ? `${Math.round(cm * 10)} mm is thicker than ${type.maxCm * 10} mm` : undefined
}

/** The middle of the widest piece: where another line goes. */
export function widestMiddle(cuts: readonly number[], lengthCm: number): number {
  const edges = [0, ...cuts, lengthCm]
  const at = edges
    .slice(1)
    .reduce((best, edge, index) => (edge - (edges[index] ?? 0) > (edges[best + 1] ?? 0) - (edges[best] ?? 0) ? index : best), 0)
  return Math.round(((edges[at] ?? 0) + (edges[at + 1] ?? 0)) * 5) / 10
}
