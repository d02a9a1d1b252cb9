import { InputError } from '../input-error.ts'
import { type Profile, type ProfileInput, profileOf } from './profile.ts'

export interface RackInput extends ProfileInput {
  /** Middle of each rib from the first end, cm. */
  ribsCm: readonly number[]
  boneHalfWidthCm: number
  /** Bones of each piece, in order; they add up to the ribs. */
  bonesPerPiece: readonly number[]
  /** Grid on which cuts may lie, cm; half a millimetre unless given. */
  stepCm?: number | undefined
}

export interface RackPiece {
  fromCm: number
  toCm: number
  grams: number
  bones: number
}

export interface RackCuts {
  cutsCm: number[]
  pieces: RackPiece[]
  spreadGrams: number
  midpointCutsCm: number[]
  midpointSpreadGrams: number
}

/**
 * Cuts between bones that make pieces weigh most alike: least Σ (w − w̄)² on the grid, each cut between the edge of one
 * rib and that of the next. The mean is fixed by the whole, so the sum is separable and dynamic programming is exact.
 *
 * @throws InputError naming the field
 */
export function rackCuts(input: RackInput): RackCuts {
  const profile = profileOf(input)
  const gaps = gapsOf(input, profile)
  const mean = profile.grams / input.bonesPerPiece.length
  const cutsCm = evenCuts(profile, gaps, mean, input.stepCm ?? 0.05)
  const midpointCutsCm = gaps.map((gap) => (gap.from + gap.to) / 2)
  const pieces = piecesOf(profile, cutsCm, input.bonesPerPiece)
  return {
    cutsCm,
    pieces,
    spreadGrams: spreadOf(pieces),
    midpointCutsCm,
    midpointSpreadGrams: spreadOf(piecesOf(profile, midpointCutsCm, input.bonesPerPiece)),
  }
}

interface Gap {
  from: number
  to: number
}

/** Where each cut may lie. */
function gapsOf({ ribsCm, boneHalfWidthCm, bonesPerPiece }: RackInput, profile: Profile): Gap[] {
  const bones = bonesPerPiece.reduce((sum, count) => sum + count, 0)
  if (bonesPerPiece.some((count) => !Number.isInteger(count) || count < 1))
    throw new InputError('bonesPerPiece', 'Every piece has a bone or more.')
  if (bones !== ribsCm.length) throw new InputError('bonesPerPiece', `The pieces have ${bones} bones and the rack ${ribsCm.length}.`)
  for (const [index, rib] of ribsCm.entries()) {
    const before = ribsCm[index - 1]
    if (rib < 0 || rib > profile.lengthCm)
      throw new InputError(`ribsCm.${index}`, `A rib at ${rib} cm lies outside the rack of ${profile.lengthCm} cm.`)
    if (before !== undefined && rib - before <= 2 * boneHalfWidthCm) {
      throw new InputError(`ribsCm.${index}`, `Between the ribs at ${before} and ${rib} cm there is no room for a knife.`)
    }
  }
  let last = -1
  return bonesPerPiece.slice(0, -1).map((count) => {
    last += count
    return { from: (ribsCm[last] as number) + boneHalfWidthCm, to: (ribsCm[last + 1] as number) - boneHalfWidthCm }
  })
}

function evenCuts(profile: Profile, gaps: readonly Gap[], mean: number, step: number): number[] {
  const choices = gaps.map(({ from, to }) => {
    const first = Math.ceil(from / step - 1e-9)
    const last = Math.floor(to / step + 1e-9)
    const onGrid = Array.from({ length: Math.max(0, last - first + 1) }, (_, index) => Number(((first + index) * step).toFixed(9)))
    return onGrid.length > 0 ? onGrid : [(from + to) / 2]
  })
  let reached = [{ cm: 0, squares: 0, cuts: [] as number[] }]
  for (const places of choices) {
    reached = places.map((cm) => {
      let best = { cm, squares: Number.POSITIVE_INFINITY, cuts: [] as number[] }
      for (const before of reached) {
        const squares = before.squares + (profile.weightTo(cm) - profile.weightTo(before.cm) - mean) ** 2
        if (squares < best.squares - 1e-12) best = { cm, squares, cuts: [...before.cuts, cm] }
      }
      return best
    })
  }
  let best: (typeof reached)[number] | undefined
  for (const before of reached) {
    const squares = before.squares + (profile.grams - profile.weightTo(before.cm) - mean) ** 2
    if (!best || squares < best.squares - 1e-12) best = { ...before, squares }
  }
  return best?.cuts ?? []
}

function piecesOf(profile: Profile, cuts: readonly number[], bones: readonly number[]): RackPiece[] {
  const edges = [0, ...cuts, profile.lengthCm]
  return bones.map((count, index) => {
    const [fromCm, toCm] = [edges[index] as number, edges[index + 1] as number]
    return { fromCm, toCm, grams: profile.weightTo(toCm) - profile.weightTo(fromCm), bones: count }
  })
}

function spreadOf(pieces: readonly RackPiece[]): number {
  const weights = pieces.map((piece) => piece.grams)
  return Math.max(...weights) - Math.min(...weights)
}
