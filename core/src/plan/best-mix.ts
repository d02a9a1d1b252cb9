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
  /** At least so many, where that can be. */
  minCount?: number | undefined
  /** Only as the first piece from the thick end, or only as the last at the thin one. */
  onlyAt?: 'thick-end' | 'thin-end' | undefined
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
  /** The thick end is a fresh face already: a stretch to tips there must be as long as one inside. */
  startIsCut?: boolean | undefined
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
  const found = search({ ...input, types: withFirstOnes(input.types) }, grid)
  return { ...found, densityGPerCm3: profile.densityGPerCm3, densityIsPlausible: profile.densityIsPlausible }
}

/** Worth so much more than any piece that a plan with one of them is always better than one without. */
const mustHave = 1e5
const firstOnes = ' (needed)'

/** A kind of which some are needed is two kinds: those, worth more than anything, and the rest. */
function withFirstOnes(types: readonly PieceType[]): PieceType[] {
  return types.flatMap((type) => {
    const { minCount = 0, maxCount } = type
    if (minCount <= 0) return [type]
    const needed = { ...type, id: `${type.id}${firstOnes}`, value: type.value + mustHave, maxCount: minCount }
    if (maxCount !== undefined && maxCount <= minCount) return [needed]
    return [needed, { ...type, maxCount: maxCount === undefined ? undefined : maxCount - minCount }]
  })
}

const plainId = (id: string) => (id.endsWith(firstOnes) ? id.slice(0, -firstOnes.length) : id)

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
    if (type.onlyAt === 'thick-end') last[to] = Math.min(last[to] as number, 0)
    if (type.onlyAt === 'thin-end' && to < count - 1) last[to] = none
  }
  return { first, last }
}

/**
 * Of plans that are worth the same, the one whose weights lie nearer their targets wins: every squared gram counts this
 * little, which decides between equals and moves no real difference.
 */
const evenness = 1e-12

/** Of places for tips that are worth the same, the one nearer the thin end wins. */
const lateness = 1e-10

/** Memory of the search, kept from one to the next: asking the system for it anew takes longer than filling it. */
const memory: Float64Array[] = []

function scores(place: number, cells: number): Float64Array {
  const held = memory[place]
  const array = held && held.length >= cells ? held : new Float64Array(cells)
  memory[place] = array
  return array.fill(Number.NEGATIVE_INFINITY, 0, cells)
}

interface Searched {
  input: BestMixInput
  grid: Grid
  strides: Strides
  reaches: readonly { first: Int32Array; last: Int32Array }[]
  fits: readonly Uint8Array[]
  /** By place and state: best with a cut here after a piece (or at the start), and after anything. */
  afterPiece: Float64Array
  best: Float64Array
}

function search(input: BestMixInput, grid: Grid): Omit<BestMix, 'densityGPerCm3' | 'densityIsPlausible'> {
  const { types } = input
  const { places, weights, diameters } = grid
  const count = places.length
  const tipsPerGram = input.tipsValuePerKg / 1000
  const strides = stridesOf(types)
  const { states } = strides
  const reaches = types.map((type) => reachOf(type, grid))
  const fits = types.map((type) => Uint8Array.from(diameters, (diameter) => (diameter < type.minDiameterCm - 1e-9 ? 0 : 1)))
  const cells = count * states
  const afterPiece = scores(0, cells)
  const best = scores(1, cells)
  /** Best value of having begun a stretch of tips that may end here: at the ends of any length, inside long enough. */
  const tipsScore = new Float64Array(states).fill(Number.NEGATIVE_INFINITY)
  const rows = new Int32Array(together)
  const gains = new Float64Array(together)
  let tipsReady = 0
  let transitions = 0
  afterPiece[0] = 0
  best[0] = 0
  for (let to = 1; to < count; to += 1) {
    const weight = weights[to] as number
    for (const [kind, type] of types.entries()) {
      const reach = reaches[kind] as { first: Int32Array; last: Int32Array }
      const tried = strides.reach[kind] as number
      const fit = fits[kind] as Uint8Array
      const toRow = to * states + (type.maxCount === undefined ? 0 : (strides.of[kind] as number))
      const last = reach.last[to] as number
      let waiting = 0
      for (let from = reach.first[to] as number; from <= last; from += 1) {
        if (fit[from] === 0) continue
        rows[waiting] = from * states
        gains[waiting] = gainOf(input, type, weight - (weights[from] as number))
        transitions += tried
        waiting += 1
        if (waiting < together) continue
        extendFour(best, afterPiece, rows, gains, toRow, tried)
        waiting = 0
      }
      for (let at = 0; at < waiting; at += 1) extend(best, afterPiece, rows[at] as number, toRow, tried, gains[at] as number)
    }
    while (tipsReady < to && mayBeTips(input, places, tipsReady, to)) {
      const lost = tipsPerGram * (weights[tipsReady] as number) - lateness * tipsReady
      for (let state = 0; state < states; state += 1) {
        const start = (afterPiece[tipsReady * states + state] as number) - lost
        if (start > (tipsScore[state] as number)) tipsScore[state] = start
      }
      tipsReady += 1
    }
    const row = to * states
    for (const state of strides.voids) afterPiece[row + state] = Number.NEGATIVE_INFINITY
    const gained = tipsPerGram * weight
    for (let state = 0; state < states; state += 1) {
      const piece = afterPiece[row + state] as number
      const tips = (tipsScore[state] as number) + gained
      best[row + state] = tips > piece + 1e-9 ? tips : piece
    }
  }
  return { ...readPlan({ input, grid, strides, reaches, fits, afterPiece, best }), transitions }
}

/** So many places to come from are looked at in one pass over the states. */
const together = 4

/** One more piece of a kind, from a row of states to the row it leads to: the inner loop of the search. */
function extend(best: Float64Array, afterPiece: Float64Array, row: number, toRow: number, tried: number, gain: number): void {
  for (let state = 0; state < tried; state += 1) {
    const score = (best[row + state] as number) + gain
    if (score > (afterPiece[toRow + state] as number)) afterPiece[toRow + state] = score
  }
}

/** The same from four rows at once: the best of them is found before it is held against the row it leads to. */
function extendFour(
  best: Float64Array,
  afterPiece: Float64Array,
  rows: Int32Array,
  gains: Float64Array,
  toRow: number,
  tried: number,
): void {
  const [a, b, c, d] = [rows[0] as number, rows[1] as number, rows[2] as number, rows[3] as number]
  const [gainA, gainB, gainC, gainD] = [gains[0] as number, gains[1] as number, gains[2] as number, gains[3] as number]
  for (let state = 0; state < tried; state += 1) {
    let score = (best[a + state] as number) + gainA
    const fromB = (best[b + state] as number) + gainB
    const fromC = (best[c + state] as number) + gainC
    const fromD = (best[d + state] as number) + gainD
    if (fromB > score) score = fromB
    if (fromC > score) score = fromC
    if (fromD > score) score = fromD
    if (score > (afterPiece[toRow + state] as number)) afterPiece[toRow + state] = score
  }
}

function gainOf({ offTargetPerGram }: BestMixInput, type: PieceType, grams: number): number {
  const off = Math.abs(grams - type.targetGrams)
  return type.value - offTargetPerGram * off - evenness * off * off
}

/** Whether a stretch may go to tips: long enough inside, of any length at the ends that have not been cut. */
function mayBeTips({ minTipsCm, startIsCut }: BestMixInput, places: Float64Array, from: number, to: number): boolean {
  if (to === places.length - 1 || (from === 0 && !startIsCut)) return true
  return (places[to] as number) - (places[from] as number) >= minTipsCm - 1e-9
}

/** Walks the best plan back from the thin end, finding again the step that each score came from. */
function readPlan({
  input,
  grid,
  strides,
  reaches,
  fits,
  afterPiece,
  best,
}: Searched): Omit<BestMix, 'densityGPerCm3' | 'densityIsPlausible' | 'transitions'> {
  const { types } = input
  const { places, weights } = grid
  const { states } = strides
  const tipsPerGram = input.tipsValuePerKg / 1000
  const lastPlace = places.length - 1
  let state = 0
  for (let other = 1; other < states; other += 1) {
    if ((best[lastPlace * states + other] as number) > (best[lastPlace * states + state] as number)) state = other
  }
  const plain = types.map((type) => ({ ...type, id: plainId(type.id), value: type.value >= mustHave ? type.value - mustHave : type.value }))
  const pieces: MixedPiece[] = []
  const add = (type: string, from: number, to: number) => {
    const [fromCm, toCm] = [places[from] as number, places[to] as number]
    pieces.unshift({ type, fromCm, toCm, thicknessCm: toCm - fromCm, grams: (weights[to] as number) - (weights[from] as number) })
  }
  for (let to = lastPlace; to > 0; ) {
    if (best[to * states + state] !== afterPiece[to * states + state]) {
      const from = tipsStartOf(to)
      add('tips', from, to)
      to = from
      continue
    }
    const { kind, from } = pieceTo(to)
    const type = types[kind] as PieceType
    add(plainId(type.id), from, to)
    to = from
    if (type.maxCount !== undefined) state -= strides.of[kind] as number
  }
  return { score: pieces.reduce((sum, piece) => sum + worthOf(piece), 0), pieces, ...countsOf(plain, pieces) }

  function tipsStartOf(to: number): number {
    for (let from = 0; from < to; from += 1) {
      if (!mayBeTips(input, places, from, to)) continue
      const start = (afterPiece[from * states + state] as number) - (tipsPerGram * (weights[from] as number) - lateness * from)
      if (start + tipsPerGram * (weights[to] as number) === best[to * states + state]) return from
    }
    throw new Error('The plan cannot be read back.')
  }

  function pieceTo(to: number): { kind: number; from: number } {
    for (const [kind, type] of types.entries()) {
      const { first, last } = reaches[kind] as { first: Int32Array; last: Int32Array }
      const before = type.maxCount === undefined ? state : state - (strides.of[kind] as number)
      if (before < 0 || !strides.mayGrow(kind, before)) continue
      for (let from = first[to] as number; from <= (last[to] as number); from += 1) {
        if (fits[kind]?.[from] === 0) continue
        const gain = gainOf(input, type, (weights[to] as number) - (weights[from] as number))
        if ((best[from * states + before] as number) + gain === afterPiece[to * states + state]) return { kind, from }
      }
    }
    throw new Error('The plan cannot be read back.')
  }

  function worthOf(piece: MixedPiece): number {
    const type = plain.find((one) => one.id === piece.type)
    if (!type) return tipsPerGram * piece.grams
    return type.value - input.offTargetPerGram * Math.abs(piece.grams - type.targetGrams)
  }
}

function countsOf(types: readonly PieceType[], pieces: readonly MixedPiece[]): Pick<BestMix, 'counts' | 'tipsGrams'> {
  return {
    counts: Object.fromEntries(types.map((type) => [type.id, pieces.filter((piece) => piece.type === type.id).length])),
    tipsGrams: pieces.filter((piece) => piece.type === 'tips').reduce((sum, piece) => sum + piece.grams, 0),
  }
}

interface Strides {
  /** What one more of each kind adds to the state; 0 for kinds without a limit. */
  of: number[]
  states: number
  /** From how many states, counted from the first, a piece of each kind is tried. */
  reach: number[]
  /** States that stand for one more of a kind than its limit: they can be reached and are void. */
  voids: Int32Array
  mayGrow(kind: number, state: number): boolean
}

/**
 * The limited types' counts as one mixed-radix number. Every kind but the last has one digit value too many, which is void:
 * so the inner loop may run straight through all states without asking whether a limit is reached.
 */
function stridesOf(types: readonly PieceType[]): Strides {
  const lastLimited = types.findLastIndex((type) => type.maxCount !== undefined)
  let states = 1
  const of: number[] = []
  const radix: number[] = []
  for (const [kind, { maxCount }] of types.entries()) {
    of.push(maxCount === undefined ? 0 : states)
    radix.push(maxCount === undefined ? 1 : maxCount + (kind === lastLimited ? 1 : 2))
    states *= radix[kind] as number
  }
  if (states > mostStates) throw new InputError('types', 'Too many kinds have a limit: leave the limit off those that will not reach it.')
  const digit = (kind: number, state: number) => Math.floor(state / (of[kind] as number)) % (radix[kind] as number)
  const isVoid = (state: number) => types.some(({ maxCount }, kind) => maxCount !== undefined && digit(kind, state) > maxCount)
  return {
    of,
    states,
    reach: types.map(({ maxCount }, kind) => {
      if (maxCount === undefined) return states
      return kind === lastLimited ? (of[kind] as number) * maxCount : states - (of[kind] as number)
    }),
    voids: Int32Array.from(Array.from({ length: states }, (_, state) => state).filter(isVoid)),
    mayGrow: (kind, state) => {
      const { maxCount } = types[kind] as PieceType
      return !isVoid(state) && (maxCount === undefined || digit(kind, state) < maxCount)
    },
  }
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
    if ((type.minCount ?? 0) > (type.maxCount ?? Number.POSITIVE_INFINITY))
      throw refuse('minCount', `At least ${type.minCount} and at most ${type.maxCount} exclude each other.`)
    if (!(type.minGrams > 0)) throw refuse('minGrams', 'A piece must weigh over 0 g.')
  }
}
