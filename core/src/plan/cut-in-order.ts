import { InputError } from '../input-error.ts'
import { type ProfileInput, profileOf } from './profile.ts'

/** Pieces of one weight cut one after another: a number of them, or as many as keep their shape (`fill`). */
export interface Section {
  id: string
  grams: number
  count: number | 'fill'
  /** With `fill`: no thicker than this. */
  maxCm?: number | undefined
  /** With `fill`: the far face, nearer the thin end, no smaller than this. */
  minDiameterCm?: number | undefined
}

export interface OrderedPiece {
  section: string
  fromCm: number
  toCm: number
  thicknessCm: number
  grams: number
  /** Diameter of the far face. */
  faceCm: number
}

export interface CutInOrder {
  densityGPerCm3: number
  densityIsPlausible: boolean
  pieces: OrderedPiece[]
  remainder: { fromCm: number; cm: number; grams: number }
}

/**
 * Cuts sections from the thick end. A section ends early where the weight runs out; what is left is the remainder.
 * @throws InputError naming the field
 * @example cutInOrder({ stations: [{ cm: 0, girthCm: 20 }, { cm: 10, girthCm: 20 }], grams: 300, sections: [{ id: 'steak', grams: 120, count: 2 }] }).remainder.grams === 60
 */
export function cutInOrder({ sections, ...piece }: ProfileInput & { sections: readonly Section[] }): CutInOrder {
  const profile = profileOf(piece)
  const pieces: OrderedPiece[] = []
  let cut = 0
  for (const [index, section] of sections.entries()) {
    checkSection(section, index, profile.grams)
    for (let made = 0; section.count === 'fill' || made < section.count; made += 1) {
      if (cut + section.grams > profile.grams * (1 + 1e-12)) break
      const fromCm = profile.placeOf(cut)
      const toCm = profile.placeOf(cut + section.grams)
      const faceCm = profile.diameterAt(toCm)
      const tooThick = section.maxCm !== undefined && toCm - fromCm > section.maxCm
      const tooSmall = section.minDiameterCm !== undefined && faceCm < section.minDiameterCm
      if (section.count === 'fill' && (tooThick || tooSmall)) break
      pieces.push({ section: section.id, fromCm, toCm, thicknessCm: toCm - fromCm, grams: section.grams, faceCm })
      cut += section.grams
    }
  }
  const fromCm = profile.placeOf(cut)
  return {
    densityGPerCm3: profile.densityGPerCm3,
    densityIsPlausible: profile.densityIsPlausible,
    pieces,
    remainder: { fromCm, cm: profile.lengthCm - fromCm, grams: profile.grams - cut },
  }
}

function checkSection(section: Section, index: number, grams: number): void {
  if (!(section.grams > 0)) throw new InputError(`sections.${index}.grams`, 'A piece must weigh over 0 g.')
  if (section.grams > grams) {
    throw new InputError(`sections.${index}.grams`, `A piece of ${section.grams} g is heavier than the whole of ${grams} g.`)
  }
  if (section.count === 'fill' && section.grams < grams / 10_000) {
    throw new InputError(`sections.${index}.grams`, 'That would be over ten thousand pieces: check the weight.')
  }
}
