import { bestMix, type PieceType } from '../plan/best-mix.ts'
import { type Profile, profileOf, type Station } from '../plan/profile.ts'
import { rackCuts } from '../plan/rack-cuts.ts'
import { stationsOfShape, type UsualShape } from '../plan/usual-profile.ts'
import { type Random, seededRandom } from '../random/seeded-random.ts'

/** A rung of the ladder: what is cut, and how much one is told while cutting. */
export interface Rung {
  key: string
  name: string
  kind: 'muscle' | 'fillet' | 'rack'
  /** Weights are shown while the lines move, or when all lines lie, or one by one as each slice falls. */
  tells: 'while' | 'after' | 'each'
  word: string
}

/** The ladder, the easiest first. */
export const ladder: readonly Rung[] = [
  { key: 'loin-shown', name: 'A loin, weights shown', kind: 'muscle', tells: 'while', word: 'Every weight moves with its line.' },
  {
    key: 'loin-hidden',
    name: 'A loin, weights hidden',
    kind: 'muscle',
    tells: 'after',
    word: 'Place all lines, then see what they weigh.',
  },
  {
    key: 'loin-sliced',
    name: 'A loin, slice by slice',
    kind: 'muscle',
    tells: 'each',
    word: 'Each slice is weighed as it falls. No slice grows back.',
  },
  { key: 'rack', name: 'A rack', kind: 'rack', tells: 'after', word: 'Even cutlets, and no line through a bone.' },
  {
    key: 'fillet',
    name: 'A side of fish',
    kind: 'fillet',
    tells: 'after',
    word: 'Thick at the shoulder, thin along the belly and at the tail.',
  },
  {
    key: 'fillet-sliced',
    name: 'A side of fish, slice by slice',
    kind: 'fillet',
    tells: 'each',
    word: 'The tail decides whether the head end was right.',
  },
]

interface TaperPiece {
  kind: 'muscle' | 'fillet'
  stations: Station[]
  grams: number
  types: readonly PieceType[]
  tipsValuePerKg: number
  minTipsCm: number
  offTargetPerGram: number
}

interface RackPiece {
  kind: 'rack'
  stations: Station[]
  grams: number
  ribsCm: readonly number[]
  boneHalfWidthCm: number
  bonesPerPiece: readonly number[]
}

/** Something to cut that is drawn and not bought. Lengths in cm, weights in grams, values in any one currency. */
export type ScreenPiece = TaperPiece | RackPiece

/** Cuts lie on a grid of so many cm. */
export const gridCm = 0.1

const loinRoots = [0.78, 0.98, 1.12, 1.18, 1.2, 1.18, 1.14, 1.08, 0.98, 0.84, 0.66, 0.36]
const loinCmOfKilogram = 31
const steak: PieceType = {
  ...{ id: 'steak', value: 11, targetGrams: 180, minGrams: 150, maxGrams: 210 },
  ...{ minCm: 1.5, maxCm: 7, minDiameterCm: 4.5 },
}
const tournedos: PieceType = {
  ...{ id: 'tournedos', value: 4.6, targetGrams: 90, minGrams: 75, maxGrams: 105 },
  ...{ minCm: 1.5, maxCm: 6, minDiameterCm: 3 },
}
const fishPortion: PieceType = {
  ...{ id: 'portion', value: 7.5, targetGrams: 160, minGrams: 135, maxGrams: 185 },
  ...{ minCm: 2, maxCm: 14, minDiameterCm: 2.5 },
}

/**
 * A piece drawn at random by its seed: the same seed, rung and shape always give the same one, so that a whole class cuts the same.
 *
 * @param shape the usual shape of what the kitchen cuts, from its yield book; a shape of our own without it. It is of a muscle
 * @throws InputError naming the field
 * @example drawPiece('rack', 7).kind // 'rack'
 */
export function drawPiece(rung: string, seed: number, shape?: UsualShape | null): ScreenPiece {
  const { kind } = ladder.find(({ key }) => key === rung) ?? (ladder[0] as Rung)
  const random = seededRandom(seed)
  if (kind === 'rack') return drawRack(random)
  return kind === 'fillet'
    ? drawFillet(random)
    : drawLoin(random, shape ?? { pieces: 0, roots: loinRoots, lengthCmOfKilogram: loinCmOfKilogram })
}

/** A shape as no two animals have it: thicker here and thinner there, smoothly. */
function bent(roots: readonly number[], random: Random): number[] {
  const waves = [1, 2, 3].map((wave) => ({ wave, high: random.normal(0, 0.05 / wave), at: random.next() }))
  return roots.map((root, at) => {
    const place = at / (roots.length - 1)
    return root * Math.exp(waves.reduce((sum, { wave, high, at: start }) => sum + high * Math.sin(2 * Math.PI * (wave * place + start)), 0))
  })
}

function drawLoin(random: Random, shape: UsualShape): TaperPiece {
  const grams = Math.round(1300 + random.next() * 900)
  const lengthCmOfKilogram = shape.lengthCmOfKilogram * Math.exp(random.normal(0, 0.04))
  return {
    kind: 'muscle',
    stations: stationsOfShape({ ...shape, roots: bent(shape.roots, random), lengthCmOfKilogram }, grams),
    grams,
    types: [steak, tournedos],
    ...{ tipsValuePerKg: 18, minTipsCm: 2, offTargetPerGram: 0.04 },
  }
}

/** Of what an ellipse of its width and height would hold. */
const filletDensity = 1

function drawFillet(random: Random): TaperPiece {
  const grams = Math.round(900 + random.next() * 600)
  const lengthCm = Math.round(10 * 41 * Math.cbrt(grams / 1200) * Math.exp(random.normal(0, 0.03))) / 10
  const widths = bent([0.72, 0.95, 1.02, 1.05, 1.04, 1, 0.93, 0.84, 0.72, 0.58, 0.44, 0.36], random)
  const heights = bent([0.8, 1.1, 1.22, 1.25, 1.2, 1.12, 1.02, 0.92, 0.8, 0.68, 0.55, 0.42], random)
  const tenth = (value: number) => Math.round(value * 10) / 10
  const stationsAt = (scale: number) =>
    widths.map((width, at) => ({
      cm: tenth((lengthCm * at) / (widths.length - 1)),
      widthCm: tenth(13 * width * scale),
      heightCm: tenth(2.9 * (heights[at] as number) * scale),
    }))
  // as thick as its weight needs, whatever the waves made of it
  const { densityGPerCm3 } = profileOf({ stations: stationsAt(1), grams })
  return {
    kind: 'fillet',
    stations: stationsAt(Math.sqrt(densityGPerCm3 / filletDensity)),
    grams,
    types: [fishPortion],
    ...{ tipsValuePerKg: 14, minTipsCm: 3, offTargetPerGram: 0.03 },
  }
}

const ribs = 8

function drawRack(random: Random): RackPiece {
  const grams = Math.round(640 + random.next() * 360)
  const lengthCm = Math.round(10 * (19 + random.next() * 4)) / 10
  const roots = bent([0.82, 0.86, 0.92, 0.97, 1, 1.04, 1.08, 1.1, 1.12, 1.1, 1.06, 1], random)
  const steps = Array.from({ length: ribs }, () => 1 + random.normal(0, 0.09))
  const whole = steps.reduce((sum, step) => sum + step, 0)
  let at = 0
  const ribsCm = steps.map((step) => {
    const middle = at + step / 2
    at += step
    return Math.round(((lengthCm * middle) / whole) * 10) / 10
  })
  return {
    kind: 'rack',
    stations: stationsOfShape({ pieces: 0, roots, lengthCmOfKilogram: lengthCm }, grams, lengthCm),
    grams,
    ribsCm,
    boneHalfWidthCm: 0.4,
    bonesPerPiece: random.next() < 0.5 ? [2, 2, 2, 2] : [1, 1, 1, 1, 2, 2],
  }
}

export interface CutOff {
  fromCm: number
  toCm: number
  grams: number
  /** What it is good for: the key of a type, `tips`, or `nothing` for a scrap from the middle or a piece through a bone. */
  kind: string
  /** What it is worth. */
  worth: number
  /** Grams over its target, or under it where negative; `null` for what has none. */
  offGrams: number | null
}

export interface CuttingScore {
  /** 100 × worth of what was cut ÷ worth of the best plan; never under 0. */
  score: number
  worth: number
  best: number
  pieces: CutOff[]
  /** Where the best plan of the same piece cuts. */
  bestCutsCm: number[]
}

/**
 * Scores a cutting exercise. Section 11 of the calculations: 100 × (best plan's worth − loss) / best, the loss being what the cuts are worth less
 * than the best plan of the same piece. Cuts of a loin or a fish are taken to the nearest millimetre, on which their best plan is exact.
 *
 * @param cutsCm in any order; those outside the piece, and twice the same, count for nothing
 * @example scoreCuts(drawPiece('rack', 7), []).score // 0
 */
export function scoreCuts(piece: ScreenPiece, cutsCm: readonly number[]): CuttingScore {
  const profile = profileOf(piece)
  return piece.kind === 'rack' ? scoreRack(piece, profile, inOrder(cutsCm, profile)) : scoreTaper(piece, profile, onGrid(cutsCm, profile))
}

/** Cuts inside the piece, each once, from its thick end. */
function inOrder(cutsCm: readonly number[], { lengthCm }: Profile): number[] {
  return [...new Set(cutsCm.filter((cm) => cm > 1e-9 && cm < lengthCm - 1e-9))].sort((a, b) => a - b)
}

const onGrid = (cutsCm: readonly number[], profile: Profile) =>
  inOrder(
    cutsCm.map((cm) => Math.round(cm / gridCm) * gridCm),
    profile,
  )

interface Stretch {
  fromCm: number
  toCm: number
  grams: number
}

function stretchesOf(profile: Profile, cuts: readonly number[]): Stretch[] {
  const edges = [0, ...cuts, profile.lengthCm]
  return edges.slice(1).map((toCm, at) => {
    const fromCm = edges[at] as number
    return { fromCm, toCm, grams: profile.weightTo(toCm) - profile.weightTo(fromCm) }
  })
}

const tolerance = 1e-6

function scoreTaper(piece: TaperPiece, profile: Profile, cuts: readonly number[]): CuttingScore {
  const pieces = stretchesOf(profile, cuts).map((stretch) => bestUse(piece, profile, stretch))
  const worth = pieces.reduce((sum, one) => sum + one.worth, 0)
  const plan = bestMix({ ...piece, stepCm: gridCm })
  const bestCutsCm = plan.pieces.slice(1).map(({ fromCm }) => fromCm)
  return { score: shareOf(worth, plan.score), worth, best: plan.score, pieces, bestCutsCm }
}

function bestUse({ types, tipsValuePerKg, minTipsCm, offTargetPerGram }: TaperPiece, profile: Profile, stretch: Stretch): CutOff {
  const { fromCm, toCm, grams } = stretch
  const thick = toCm - fromCm
  const uses: CutOff[] = types
    .filter(
      (type) =>
        grams >= type.minGrams - tolerance &&
        grams <= type.maxGrams + tolerance &&
        thick >= type.minCm - tolerance &&
        thick <= type.maxCm + tolerance &&
        Math.min(profile.diameterAt(fromCm), profile.diameterAt(toCm)) >= type.minDiameterCm - tolerance,
    )
    .map(({ id, value, targetGrams }) => {
      const offGrams = grams - targetGrams
      return { ...stretch, kind: id, worth: value - offTargetPerGram * Math.abs(offGrams), offGrams }
    })
  const isAtEnd = fromCm <= 0 || toCm >= profile.lengthCm
  if (isAtEnd || thick >= minTipsCm - tolerance)
    uses.push({ ...stretch, kind: 'tips', worth: (tipsValuePerKg * grams) / 1000, offGrams: null })
  return uses.reduce((best, use) => (use.worth > best.worth ? use : best), { ...stretch, kind: 'nothing', worth: 0, offGrams: null })
}

/** A cutlet's worth, and what is taken off for every gram by which the pieces differ (root of the sum of squares). */
const cutletValue = 5
const unevenPerGram = 0.12

function scoreRack(piece: RackPiece, profile: Profile, cuts: readonly number[]): CuttingScore {
  const { bonesPerPiece, ribsCm, boneHalfWidthCm } = piece
  const meant = bonesPerPiece.length
  const plan = rackCuts(piece)
  const isThroughBone = (cm: number) => ribsCm.some((rib) => Math.abs(rib - cm) < boneHalfWidthCm - tolerance)
  const stretches = stretchesOf(profile, cuts)
  const mean = profile.grams / meant
  const pieces = stretches.map((stretch, at): CutOff => {
    const bones = ribsCm.filter((rib) => rib > stretch.fromCm && rib < stretch.toCm).length
    const isWhole = bones === bonesPerPiece[at] && !isThroughBone(stretch.fromCm) && !isThroughBone(stretch.toCm)
    return isWhole
      ? { ...stretch, kind: 'cutlet', worth: cutletValue, offGrams: stretch.grams - mean }
      : { ...stretch, kind: 'nothing', worth: 0, offGrams: null }
  })
  const unevenness = (weights: readonly number[]) => unevenPerGram * Math.hypot(...weights.map((grams) => grams - mean))
  const best = Math.max(1, cutletValue * meant - unevenness(plan.pieces.map(({ grams }) => grams)))
  const whole = pieces.filter(({ kind }) => kind === 'cutlet')
  const worth = whole.length * cutletValue - unevenness(whole.map(({ grams }) => grams))
  return { score: shareOf(worth, best), worth: Math.max(0, worth), best, pieces, bestCutsCm: plan.cutsCm }
}

const shareOf = (worth: number, best: number) => (best > 0 ? Math.min(100, Math.max(0, (100 * worth) / best)) : 0)
