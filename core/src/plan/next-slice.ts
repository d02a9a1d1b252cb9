import { InputError } from '../input-error.ts'
import { type BestMix, type BestMixInput, bestMix, type PieceType } from './best-mix.ts'
import { stationsBetween } from './plan-around.ts'
import { profileOf } from './profile.ts'

/** A piece that has been cut and weighed, in the order of cutting from the thick end. */
export interface WeighedSlice {
  type: string | 'tips'
  grams: number
}

export interface NextSliceInput extends BestMixInput {
  weighed: readonly WeighedSlice[]
}

/** So many more pieces of a kind, and what each would weigh. */
export interface SliceChoice {
  type: string
  count: number
  gramsEach: number
  isWithinRange: boolean
}

export interface NextSlice {
  /** Where the knife is: the place up to which the profile weighs what has been cut. */
  cutCm: number
  leftCm: number
  leftGrams: number
  next: { type: string | 'tips'; thicknessCm: number; grams: number } | null
  /** What is still to come by kind. */
  remaining: Record<string, number>
  tipsGrams: number
  /** How the rest of the present kind could be shared out, the plan's way first. */
  choices: SliceChoice[]
  plan: BestMix | null
}

/**
 * Plans the rest of a piece from what the scale says has been cut. The weights cut so far place the knife on the
 * profile; the rest is planned anew, with the counts that are still open.
 *
 * @throws InputError where more has been weighed than there was
 */
export function nextSlice({ weighed, ...input }: NextSliceInput): NextSlice {
  const whole = profileOf(input)
  const cutGrams = weighed.reduce((sum, slice) => sum + slice.grams, 0)
  if (cutGrams > whole.grams + 0.05) {
    throw new InputError(
      'weighed',
      `${Math.round(cutGrams)} g have been cut from a piece of ${Math.round(whole.grams)} g: check the weights.`,
    )
  }
  const cutCm = whole.placeOf(cutGrams)
  const leftCm = whole.lengthCm - cutCm
  const leftGrams = whole.grams - cutGrams
  const made = (id: string) => weighed.filter((slice) => slice.type === id).length
  const types = input.types
    .filter((type) => type.onlyAt !== 'thick-end' || weighed.length === 0)
    .flatMap((type) => stillOpen(type, made(type.id)))
  const over = { cutCm, leftCm, leftGrams, next: null, remaining: {}, tipsGrams: leftGrams, choices: [], plan: null }
  const fitting = types.filter((type) => type.minGrams <= leftGrams)
  if (leftCm < input.stepCm || fitting.length === 0) return over
  // before the first cut the rest is the whole, and its plan the plan
  const plan =
    weighed.length === 0
      ? bestMix(input)
      : bestMix({
          ...input,
          types: fitting.map((type) => within(type, leftGrams)),
          stations: stationsBetween(whole, input.stations, cutCm, whole.lengthCm),
          grams: leftGrams,
          startIsCut: true,
        })
  const [first] = plan.pieces
  if (!first) return over
  return {
    cutCm,
    leftCm,
    leftGrams,
    next: { type: first.type, thicknessCm: first.thicknessCm, grams: first.grams },
    remaining: plan.counts,
    tipsGrams: plan.tipsGrams,
    choices: choicesOf(plan, types, first.type === 'tips' ? undefined : first.type),
    plan,
  }
}

function stillOpen(type: PieceType, made: number): PieceType[] {
  const { maxCount, minCount } = type
  if (maxCount !== undefined && maxCount <= made) return []
  return [
    {
      ...type,
      maxCount: maxCount === undefined ? undefined : maxCount - made,
      minCount: minCount === undefined ? undefined : Math.max(0, minCount - made),
    },
  ]
}

/** A kind whose target the rest no longer reaches aims at what there is. */
function within(type: PieceType, grams: number): PieceType {
  return type.targetGrams <= grams ? type : { ...type, targetGrams: grams, maxGrams: Math.min(type.maxGrams, grams) }
}

/** The rest of one kind and of the tips, shared out as the plan does, as one more piece and as one fewer. */
function choicesOf(plan: BestMix, types: readonly PieceType[], id: string | undefined): SliceChoice[] {
  const type = types.find((one) => one.id === id)
  const count = plan.counts[id ?? ''] ?? 0
  if (!type || count === 0) return []
  const planned = plan.pieces.filter((piece) => piece.type === id).reduce((sum, piece) => sum + piece.grams, 0)
  const choice = (pieces: number, grams: number): SliceChoice => {
    const gramsEach = grams / pieces
    return {
      type: type.id,
      count: pieces,
      gramsEach,
      isWithinRange: gramsEach >= type.minGrams - 0.05 && gramsEach <= type.maxGrams + 0.05,
    }
  }
  const others = [count + 1, count - 1].filter((pieces) => pieces > 0 && pieces <= (type.maxCount ?? Number.POSITIVE_INFINITY))
  return [choice(count, planned), ...others.map((pieces) => choice(pieces, planned + plan.tipsGrams))]
}
