import type { BestMix, BestMixInput, PieceType } from '@fleam/core/plan/best-mix'
import { bondedPair } from '@fleam/core/plan/bonded-pair'
import { cutInOrder } from '@fleam/core/plan/cut-in-order'
import { evenSlices } from '@fleam/core/plan/even-slices'
import { type Profile, profileOf } from '@fleam/core/plan/profile'

/** One way of cutting the same piece, to set beside the others. */
export interface Way {
  name: string
  counts: number[]
  tipsGrams: number
  /** Greatest distance of a piece from its target, grams. */
  offGrams: number
  /** Heaviest less lightest of the first kind, grams. */
  spreadGrams: number
  minutes: number
  enzymeCost: number
  worth: number
  note?: string
}

const minutesPerCut = 0.5
const bondingMinutes = 6
/** Bonding enzyme by the weight of the meat, and what a kg of it costs; every kitchen's own price is on its cut sheet. */
const enzymeShare = 0.01
const enzymePerKg = 90

function spreadOf(weights: readonly number[]): number {
  return weights.length === 0 ? 0 : Math.max(...weights) - Math.min(...weights)
}

/** What pieces and tips come to at their worth, less what is off target. */
function worthOf(input: BestMixInput, pieces: readonly { type: PieceType; grams: number }[], tipsGrams: number): number {
  const made = pieces.reduce((sum, { type, grams }) => sum + type.value - input.offTargetPerGram * Math.abs(grams - type.targetGrams), 0)
  return made + (tipsGrams * input.tipsValuePerKg) / 1000
}

export function waysOf(input: BestMixInput, mix: BestMix): Way[] {
  const count = (pieces: readonly { type: PieceType }[]) => input.types.map((type) => pieces.filter((piece) => piece.type === type).length)
  const off = (pieces: readonly { type: PieceType; grams: number }[]) =>
    Math.max(0, ...pieces.map(({ type, grams }) => Math.abs(grams - type.targetGrams)))
  const describe = (name: string, pieces: { type: PieceType; grams: number }[], tipsGrams: number): Way => ({
    name,
    counts: count(pieces),
    tipsGrams,
    offGrams: off(pieces),
    spreadGrams: spreadOf(pieces.filter(({ type }) => type === input.types[0]).map(({ grams }) => grams)),
    minutes: pieces.length * minutesPerCut,
    enzymeCost: 0,
    worth: worthOf(input, pieces, tipsGrams),
  })
  const byId = new Map(input.types.map((type) => [type.id, type]))
  const mixed = mix.pieces.flatMap((piece) => {
    const type = byId.get(piece.type)
    return type ? [{ type, grams: piece.grams }] : []
  })
  return [describe('Best mix', mixed, mix.tipsGrams), inOrder(input, byId, describe), even(input, describe), bonded(input)].filter(
    (way) => way !== undefined,
  )
}

/** Slices of one thickness, that of the first kind at its thickest part: those out of its range go to tips. */
function even(
  input: BestMixInput,
  describe: (name: string, pieces: { type: PieceType; grams: number }[], tipsGrams: number) => Way,
): Way | undefined {
  const [first] = input.types
  if (!first) return undefined
  const whole = profileOf(input)
  const thickness = whole.placeOf(whole.grams / 3 + first.targetGrams) - whole.placeOf(whole.grams / 3)
  const slices = evenSlices(input, thickness)
  const fitting = slices.filter(({ grams }) => grams >= first.minGrams && grams <= first.maxGrams)
  const way = describe(
    'Even slices',
    fitting.map(({ grams }) => ({ type: first, grams })),
    whole.grams - fitting.reduce((sum, { grams }) => sum + grams, 0),
  )
  return {
    ...way,
    spreadGrams: spreadOf(slices.map(({ grams }) => grams)),
    note: `${Math.round(thickness * 10)} mm each; ${slices.length - fitting.length} of ${slices.length} out of range`,
  }
}

function inOrder(
  input: BestMixInput,
  byId: ReadonlyMap<string, PieceType>,
  describe: (name: string, pieces: { type: PieceType; grams: number }[], tipsGrams: number) => Way,
): Way {
  const sections = input.types.map((type) => ({
    id: type.id,
    grams: type.targetGrams,
    count: type.maxCount ?? ('fill' as const),
    maxCm: type.maxCm,
    minDiameterCm: type.minDiameterCm,
  }))
  const cut = cutInOrder({ ...input, sections })
  const pieces = cut.pieces.flatMap((piece) => {
    const type = byId.get(piece.section)
    return type ? [{ type, grams: piece.grams }] : []
  })
  return describe('In this order, at target', pieces, cut.remainder.grams)
}

/** Two such muscles head to tail, cut into the first kind; shown for one muscle. Slices that are too thin or thick count as tips. */
function bonded(input: BestMixInput): Way | undefined {
  const [first] = input.types
  if (!first) return undefined
  const pair = bondedPair({ a: input, b: input, portionGrams: first.targetGrams, offsetCm: 0 })
  const fitting = pair.thicknessCm.filter((cm) => cm >= first.minCm && cm <= first.maxCm).length
  const portions = fitting / 2
  const tipsGrams = (pair.grams - fitting * first.targetGrams) / 2
  const enzymeCost = (input.grams * enzymeShare * enzymePerKg) / 1000
  const millimetres = (cm: number) => Math.round(cm * 10)
  return {
    name: 'Two head to tail, bonded',
    counts: input.types.map((_, index) => (index === 0 ? portions : 0)),
    tipsGrams,
    offGrams: 0,
    spreadGrams: 0,
    minutes: portions * minutesPerCut + bondingMinutes,
    enzymeCost,
    worth: portions * first.value + (tipsGrams * input.tipsValuePerKg) / 1000 - enzymeCost,
    note: `per muscle; slices of ${millimetres(Math.min(...pair.thicknessCm))} mm to ${millimetres(Math.max(...pair.thicknessCm))} mm, ${pair.portions - fitting} of ${pair.portions} outside the thickness asked for`,
  }
}

/** The profile, or the sentence that says why there is none. */
export function tryProfile(input: BestMixInput): { profile: Profile } | { refusal: string } {
  try {
    return { profile: profileOf(input) }
  } catch (error) {
    return { refusal: error instanceof Error ? error.message : String(error) }
  }
}
