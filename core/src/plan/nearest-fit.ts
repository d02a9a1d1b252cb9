import type { PieceType } from './best-mix.ts'
import { type ProfileInput, profileOf } from './profile.ts'

/** What comes nearest where no piece of a kind fits: the weight that its thickness and face would allow. */
export interface NearestFit {
  type: string
  gramsFrom: number
  gramsTo: number
  /** The limit that stands in the way. */
  because: 'too-thin' | 'too-thick' | 'face-too-small'
}

/**
 * Where nothing that is wanted fits, what of each kind comes nearest: a slice at the thick end, as thin and as thick as
 * the kind allows, against the weights asked for.
 */
export function nearestFits(piece: ProfileInput, types: readonly PieceType[]): NearestFit[] {
  const profile = profileOf(piece)
  return types.flatMap((type): NearestFit[] => {
    const [thin, thick] = [Math.min(type.minCm, profile.lengthCm), Math.min(type.maxCm, profile.lengthCm)]
    const places = Array.from({ length: 200 }, (_, index) => (profile.lengthCm * index) / 200)
    const wide = places.filter((cm) => profile.diameterAt(cm) >= type.minDiameterCm)
    if (wide.length === 0) {
      const widest = places.reduce((best, cm) => (profile.diameterAt(cm) > profile.diameterAt(best) ? cm : best))
      const slice = profile.weightTo(widest + thick) - profile.weightTo(widest)
      return [{ type: type.id, gramsFrom: slice, gramsTo: slice, because: 'face-too-small' }]
    }
    const weigh = (from: number, cm: number) => profile.weightTo(Math.min(profile.lengthCm, from + cm)) - profile.weightTo(from)
    const gramsFrom = Math.min(...wide.map((cm) => weigh(cm, thin)))
    const gramsTo = Math.max(...wide.map((cm) => weigh(cm, thick)))
    if (gramsTo < type.minGrams) return [{ type: type.id, gramsFrom, gramsTo, because: 'too-thick' }]
    return gramsFrom > type.maxGrams ? [{ type: type.id, gramsFrom, gramsTo, because: 'too-thin' }] : []
  })
}
