import { InputError } from '../input-error.ts'
import { type Profile, type ProfileInput, profileOf } from './profile.ts'

export interface RackInput extends ProfileInput {
  /** Middle of each rib from the first end, cm. */
  ribsCm: readonly number[]
  boneHalfWidthCm: number
  /** Bones of each piece, in order; they add up to the ribs. */
  bonesPerPiece: readonly number[]
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
 * Cuts between bones that make pieces weigh most alike: least Σ (w − w̄)², each cut between the edge of one rib and that of
 * the next, wherever that is.
 *
 * @throws InputError naming the field
 * @example rackCuts({ stations: [{ cm: 0, girthCm: 20 }, { cm: 10, girthCm: 20 }], grams: 300, ribsCm: [2, 8], boneHalfWidthCm: 0.4, bonesPerPiece: [1, 1] }).cutsCm // [5]
 */
export function rackCuts(input: RackInput): RackCuts {
  const profile = profileOf(input)
  const gaps = gapsOf(input, profile)
  const cutsCm = evenCuts(profile, gaps)
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

/** Rounds after which cuts that still move do so by less than any knife; a rack of fifty gaps needs some 5,000. */
const mostRounds = 20_000

/**
 * The weights up to the cuts are drawn like a string through the gaps: each lies halfway between its neighbours unless an
 * edge of bone holds it. That is the least Σ (w − w̄)², which is convex, so that going over the cuts again and again comes
 * to it from anywhere.
 */
function evenCuts(profile: Profile, gaps: readonly Gap[]): number[] {
  const bounds = gaps.map(({ from, to }) => ({ low: profile.weightTo(from), high: profile.weightTo(to) }))
  const upTo = bounds.map(({ low, high }) => (low + high) / 2)
  for (let round = 0; round < mostRounds; round += 1) {
    let moved = 0
    for (const [at, { low, high }] of bounds.entries()) {
      const halfway = ((upTo[at - 1] ?? 0) + (upTo[at + 1] ?? profile.grams)) / 2
      const next = Math.min(high, Math.max(low, halfway))
      moved = Math.max(moved, Math.abs(next - (upTo[at] as number)))
      upTo[at] = next
    }
    if (moved < 1e-9) break
  }
  return gaps.map(({ from, to }, at) => Math.min(to, Math.max(from, profile.placeOf(upTo[at] as number))))
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
