import { InputError } from '../input-error.ts'
import { type Profile, type ProfileInput, profileOf } from './profile.ts'

/** A kind of piece that is wanted: what it is worth, what it may weigh, how thick and how wide it must be. */
export interface PieceType {
  id: string
  value: number
  targetGrams: number
  minGrams: number
  maxGrams: number
  minCm: number
  maxCm: number
  /** Least diameter of both faces. */
  minDiameterCm: number
  maxCount?: number | undefined
}

export interface BestMixInput extends ProfileInput {
  types: readonly PieceType[]
  tipsValuePerKg: number
  /** Least length of a stretch to tips inside the muscle; at its ends it may be of any length. */
  minTipsCm: number
  /** Taken off a piece's value for every gram it is off its target. */
  offTargetPerGram: number
  /** Grid on which cuts may lie, cm. */
  stepCm: number
}

export interface MixedPiece {
  type: string | 'tips'
  fromCm: number
  toCm: number
  thicknessCm: number
  grams: number
}

export interface BestMix {
  score: number
  densityGPerCm3: number
  densityIsPlausible: boolean
  pieces: MixedPiece[]
  counts: Record<string, number>
  tipsGrams: number
  /** How many ways of making one more piece the search looked at: additions and comparisons of its inner loop. */
  transitions: number
}

const mostStates = 20_000
const none = -1

/**
 * The most valuable way to cut a piece into given types: Σ value − offTargetPerGram × |grams − target| + tips.
 * Dynamic programming over the grid, with the number made so far of every limited type as state: exact on the grid and
 * deterministic. Of equal plans, the one whose weights lie nearer their targets (least squares) wins.
 *
 * @throws InputError naming the field
 */
export function bestMix(input: BestMixInput): BestMix {
  const profile = profileOf(input)
  check(input, profile)
  const grid = gridOf(profile, input.stepCm)
  const found = search(input, grid)
  return { ...found, densityGPerCm3: profile.densityGPerCm3, densityIsPlausible: profile.densityIsPlausible }
}

interface Grid {
  places: Float64Array
  weights: Float64Array
  diameters: Float64Array
}

function gridOf(profile: Profile, stepCm: number): Grid {
  const whole = Math.floor(profile.lengthCm / stepCm + 1e-9)
  const endsOnGrid = profile.lengthCm - whole * stepCm < 1e-9
  const count = whole + (endsOnGrid ? 1 : 2)
  const places = Float64Array.from({ length: count }, (_, index) => (index === count - 1 ? profile.lengthCm : index * stepCm))
  return { places, weights: places.map(profile.weightTo), diameters: places.map(profile.diameterAt) }
}

/** First and last grid place from which a piece of a type may reach each place; empty where first > last. */
function reachOf(type: PieceType, { places, weights, diameters }: Grid): { first: Int32Array; last: Int32Array } {
  const count = places.length
  const first = new Int32Array(count)
  const last = new Int32Array(count).fill(none)
  let [heavy, light, thick, thin] = [0, 0, 0, 0]
  for (let to = 0; to < count; to += 1) {
    const [weight, place] = [weights[to] as number, places[to] as number]
    while (heavy < to && weight - (weights[heavy] as number) > type.maxGrams + 1e-9) heavy += 1
    while (light < to && weight - (weights[light] as number) >= type.minGrams - 1e-9) light += 1
    while (thick < to && place - (places[thick] as number) > type.maxCm + 1e-9) thick += 1
    while (thin < to && place - (places[thin] as number) >= type.minCm - 1e-9) thin += 1
    if ((diameters[to] as number) < type.minDiameterCm - 1e-9) {
      first[to] = 1
      last[to] = 0
      continue
    }
    first[to] = Math.max(heavy, thick)
    last[to] = Math.min(light, thin) - 1
  }
  return { first, last }
}

function search(input: BestMixInput, grid: Grid): Omit<BestMix, 'densityGPerCm3' | 'densityIsPlausible'> {
  const { types, offTargetPerGram, minTipsCm } = input
  const { places, weights, diameters } = grid
  const count = places.length
  const tipsPerGram = input.tipsValuePerKg / 1000
  const strides = stridesOf(types)
  const states = strides.states
  const reaches = types.map((type) => reachOf(type, grid))
  const cells = count * states
  /** Best with a cut here after a piece (or at the start), and best with a cut here after anything. */
  const afterPiece = new Float64Array(cells).fill(Number.NEGATIVE_INFINITY)
  const best = new Float64Array(cells).fill(Number.NEGATIVE_INFINITY)
  const unevenAfterPiece = new Float64Array(cells)
  const uneven = new Float64Array(cells)
  const pieceFrom = new Int32Array(cells).fill(none)
  const pieceType = new Int8Array(cells).fill(none)
  const tipsFrom = new Int32Array(cells).fill(none)
  /** Best place to have begun a stretch of tips that may end here: at the ends of any length, inside long enough. */
  const tipsStart = new Int32Array(states).fill(none)
  const tipsScore = new Float64Array(states).fill(Number.NEGATIVE_INFINITY)
  let tipsReady = 0
  let transitions = 0
  afterPiece[0] = 0
  best[0] = 0
  for (let to = 1; to < count; to += 1) {
    const weight = weights[to] as number
    for (const [kind, type] of types.entries()) {
      const reach = reaches[kind] as { first: Int32Array; last: Int32Array }
      const shift = type.maxCount === undefined ? 0 : (strides.of[kind] as number)
      const open = strides.open[kind] as Int32Array
      const toRow = to * states + shift
      for (let from = reach.first[to] as number; from <= (reach.last[to] as number); from += 1) {
        if ((diameters[from] as number) < type.minDiameterCm - 1e-9) continue
        const off = Math.abs(weight - (weights[from] as number) - type.targetGrams)
        const gain = type.value - offTargetPerGram * off
        const fromRow = from * states
        transitions += open.length
        for (let at = 0; at < open.length; at += 1) {
          const state = open[at] as number
          const score = (best[fromRow + state] as number) + gain
          const known = afterPiece[toRow + state] as number
          if (!(score > known - 1e-9)) continue
          const spread = (uneven[fromRow + state] as number) + off * off
          if (score <= known + 1e-9 && spread >= (unevenAfterPiece[toRow + state] as number)) continue
          afterPiece[toRow + state] = score
          unevenAfterPiece[toRow + state] = spread
          pieceFrom[toRow + state] = from
          pieceType[toRow + state] = kind
        }
      }
    }
    const isEnd = to === count - 1
    while (tipsReady < to && (isEnd || tipsReady === 0 || (places[to] as number) - (places[tipsReady] as number) >= minTipsCm - 1e-9)) {
      for (let state = 0; state < states; state += 1) {
        const start = (afterPiece[tipsReady * states + state] as number) - tipsPerGram * (weights[tipsReady] as number)
        if (start <= (tipsScore[state] as number) + 1e-9) continue
        tipsScore[state] = start
        tipsStart[state] = tipsReady
      }
      tipsReady += 1
    }
    for (let state = 0; state < states; state += 1) {
      const cell = to * states + state
      const piece = afterPiece[cell] as number
      const tips = (tipsScore[state] as number) + tipsPerGram * weight
      const withTips = tips > piece + 1e-9
      best[cell] = withTips ? tips : piece
      tipsFrom[cell] = withTips ? (tipsStart[state] as number) : none
      const start = tipsStart[state] as number
      uneven[cell] = withTips ? (unevenAfterPiece[start * states + state] as number) : (unevenAfterPiece[cell] as number)
    }
  }
  const end = (count - 1) * states
  let state = 0
  for (let other = 1; other < states; other += 1) {
    const gain = (best[end + other] as number) - (best[end + state] as number)
    if (gain > 1e-9 || (gain > -1e-9 && (uneven[end + other] as number) < (uneven[end + state] as number))) state = other
  }
  const score = best[end + state] as number
  const pieces: MixedPiece[] = []
  const add = (type: string, from: number, to: number) => {
    const [fromCm, toCm] = [places[from] as number, places[to] as number]
    pieces.unshift({ type, fromCm, toCm, thicknessCm: toCm - fromCm, grams: (weights[to] as number) - (weights[from] as number) })
  }
  for (let to = count - 1; to > 0; ) {
    const tips = tipsFrom[to * states + state] as number
    if (tips !== none) {
      add('tips', tips, to)
      to = tips
      continue
    }
    const cell = to * states + state
    const kind = pieceType[cell] as number
    const type = types[kind] as PieceType
    add(type.id, pieceFrom[cell] as number, to)
    to = pieceFrom[cell] as number
    if (type.maxCount !== undefined) state -= strides.of[kind] as number
  }
  const counts = Object.fromEntries(types.map((type) => [type.id, pieces.filter((piece) => piece.type === type.id).length]))
  const tipsGrams = pieces.filter((piece) => piece.type === 'tips').reduce((sum, piece) => sum + piece.grams, 0)
  return { score, pieces, counts, tipsGrams, transitions }
}

/** Mixed-radix places of the limited types' counts in one state number, and the states in which a type may grow. */
function stridesOf(types: readonly PieceType[]): { of: number[]; states: number; open: Int32Array[] } {
  let states = 1
  const of = types.map((type) => {
    if (type.maxCount === undefined) return 0
    const stride = states
    states *= type.maxCount + 1
    return stride
  })
  if (states > mostStates) throw new InputError('types', 'Too many kinds have a limit: leave the limit off those that will not reach it.')
  const all = Array.from({ length: states }, (_, state) => state)
  const open = types.map(({ maxCount }, kind) =>
    Int32Array.from(
      maxCount === undefined ? all : all.filter((state) => Math.floor(state / (of[kind] as number)) % (maxCount + 1) < maxCount),
    ),
  )
  return { of, states, open }
}

function check(input: BestMixInput, profile: Profile): void {
  const steps = profile.lengthCm / input.stepCm
  if (!(input.stepCm > 0)) throw new InputError('stepCm', 'The grid must be over 0 cm.')
  if (steps > 5000) throw new InputError('stepCm', 'That grid is too fine for this length: use 0.1 cm.')
  if (input.types.length === 0) throw new InputError('types', 'Say at least one kind of piece.')
  if (input.types.length > 12) throw new InputError('types', 'At most twelve kinds of piece.')
  for (const [index, type] of input.types.entries()) {
    const refuse = (field: string, message: string) => new InputError(`types.${index}.${field}`, message)
    if (type.minGrams > type.maxGrams)
      throw refuse('minGrams', `From ${type.minGrams} g to ${type.maxGrams} g is no range: put the smaller first.`)
    if (type.minCm > type.maxCm) throw refuse('minCm', `From ${type.minCm} cm to ${type.maxCm} cm is no range: put the smaller first.`)
    if (type.targetGrams < type.minGrams || type.targetGrams > type.maxGrams) {
      throw refuse('targetGrams', `The target of ${type.targetGrams} g lies outside ${type.minGrams}–${type.maxGrams} g.`)
    }
    if (type.targetGrams > profile.grams)
      throw refuse('targetGrams', `A piece of ${type.targetGrams} g is heavier than the whole of ${profile.grams} g.`)
    if (!(type.minGrams > 0)) throw refuse('minGrams', 'A piece must weigh over 0 g.')
  }
}
