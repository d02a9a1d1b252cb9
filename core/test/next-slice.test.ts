import fc from 'fast-check'
import { type BestMixInput, bestMix, type PieceType } from '../src/plan/best-mix.ts'
import { evenSlices } from '../src/plan/even-slices.ts'
import { nearestFits } from '../src/plan/nearest-fit.ts'
import { nextSlice } from '../src/plan/next-slice.ts'
import { pieceOnBoard } from '../src/plan/piece-on-board.ts'
import { withoutStrip } from '../src/plan/pin-bone-strip.ts'
import { planAround } from '../src/plan/plan-around.ts'
import { profileOf } from '../src/plan/profile.ts'
import { learnUsualShape, stationsOfShape } from '../src/plan/usual-profile.ts'

const steak: PieceType = { id: 'steak', value: 11.5, targetGrams: 180, minGrams: 165, maxGrams: 195, minCm: 2, maxCm: 6, minDiameterCm: 5 }
const tournedos: PieceType = {
  id: 'tournedos',
  value: 6,
  targetGrams: 112,
  minGrams: 104,
  maxGrams: 122,
  minCm: 1.8,
  maxCm: 5,
  minDiameterCm: 4,
}
const loin: BestMixInput = {
  stations: [
    { cm: 0, girthCm: 20 },
    { cm: 6, girthCm: 27 },
    { cm: 18, girthCm: 25 },
    { cm: 32, girthCm: 22.5 },
    { cm: 44, girthCm: 16.5 },
    { cm: 52, girthCm: 7 },
  ],
  grams: 1980,
  types: [steak, { ...tournedos, maxCount: 4 }],
  tipsValuePerKg: 17,
  minTipsCm: 2,
  offTargetPerGram: 0.01,
  stepCm: 0.1,
}

/** Cuts a whole loin as the bench says, each slice off by what `slip` says. */
function cutByTheBench(input: BestMixInput, slip: (index: number) => number) {
  const weighed: { type: string; grams: number }[] = []
  for (let turn = 0; turn < 60; turn += 1) {
    const { next, leftGrams } = nextSlice({ ...input, weighed })
    if (!next) return { weighed, leftGrams }
    weighed.push({ type: next.type, grams: Math.min(leftGrams, next.grams + slip(turn)) })
  }
  throw new Error('The loin never ended.')
}

test('before the first weighing the next slice is the plan’s own first cut', () => {
  fc.assert(
    fc.property(fc.integer({ min: 900, max: 3000 }), fc.integer({ min: 150, max: 260 }), (grams, targetGrams) => {
      const input = {
        ...loin,
        grams,
        types: [{ ...steak, targetGrams, minGrams: targetGrams - 15, maxGrams: targetGrams + 15 }, tournedos],
      }
      const plan = bestMix(input)
      const { next } = nextSlice({ ...input, weighed: [] })
      expect(next && { type: next.type, grams: next.grams }).toEqual({ type: plan.pieces[0]?.type, grams: plan.pieces[0]?.grams })
    }),
    { numRuns: 30 },
  )
})

test('cut without a slip, the slices are those of the plan', () => {
  const { weighed } = cutByTheBench(loin, () => 0)
  const made = weighed.filter((slice) => slice.type !== 'tips').length
  const planned = bestMix({ ...loin, startIsCut: true }).pieces.filter((piece) => piece.type !== 'tips').length
  expect(Math.abs(made - planned)).toBeLessThanOrEqual(1)
  for (const slice of weighed) if (slice.type === 'steak') expect(Math.abs(slice.grams - 180)).toBeLessThanOrEqual(15)
})

test('however the slices come out, every gram is accounted for and no limit is passed', () => {
  fc.assert(
    fc.property(fc.array(fc.integer({ min: -12, max: 12 }), { minLength: 30, maxLength: 30 }), (slips) => {
      const { weighed, leftGrams } = cutByTheBench(loin, (turn) => slips[turn] ?? 0)
      const total = weighed.reduce((sum, slice) => sum + slice.grams, 0)
      expect(total + leftGrams).toBeCloseTo(1980, 6)
      expect(weighed.filter((slice) => slice.type === 'tournedos').length).toBeLessThanOrEqual(4)
    }),
    { numRuns: 15 },
  )
})

test('the knife is where the profile weighs what has been cut; more than there was is refused', () => {
  const { cutCm, leftGrams, remaining } = nextSlice({
    ...loin,
    weighed: [
      { type: 'steak', grams: 184 },
      { type: 'tournedos', grams: 110 },
    ],
  })
  expect(profileOf(loin).weightTo(cutCm)).toBeCloseTo(294, 6)
  expect(leftGrams).toBe(1686)
  expect(remaining.tournedos).toBeLessThanOrEqual(3)
  expect(() => nextSlice({ ...loin, weighed: [{ type: 'steak', grams: 2100 }] })).toThrow('2100 g have been cut from a piece of 1980 g')
})

test('near the end it says how the rest could be shared out', () => {
  const cylinder = {
    ...loin,
    stations: [
      { cm: 0, girthCm: 24 },
      { cm: 40, girthCm: 24 },
    ],
    types: [steak],
  }
  const { choices, next } = nextSlice({ ...cylinder, weighed: Array.from({ length: 8 }, () => ({ type: 'steak', grams: 185 })) })
  expect(next?.type).toBe('steak')
  const [planned, ...others] = choices
  expect(planned?.count).toBeGreaterThan(0)
  for (const choice of others) expect(choice.gramsEach).toBeGreaterThan(0)
})

test('at least so many are made wherever they can be, and the rest stays the best', () => {
  const needed = bestMix({ ...loin, types: [steak, { ...tournedos, minCount: 3, maxCount: 4 }] })
  expect(needed.counts.tournedos).toBeGreaterThanOrEqual(3)
  const free = bestMix({ ...loin, types: [steak, { ...tournedos, value: 0.1, maxCount: 4 }] })
  const forced = bestMix({ ...loin, types: [steak, { ...tournedos, value: 0.1, minCount: 2, maxCount: 4 }] })
  expect(free.counts.tournedos).toBeLessThan(2)
  expect(forced.counts.tournedos).toBe(2)
  expect(forced.score).toBeLessThanOrEqual(free.score + 1e-9)
})

test('a kind for one end stays at that end', () => {
  const roast: PieceType = {
    ...steak,
    id: 'roast',
    value: 30,
    targetGrams: 450,
    minGrams: 380,
    maxGrams: 560,
    minCm: 5,
    maxCm: 16,
    minDiameterCm: 0,
    maxCount: 1,
    onlyAt: 'thick-end',
  }
  const folded: PieceType = { ...steak, id: 'folded', maxCount: 1, maxCm: 14, minDiameterCm: 0, onlyAt: 'thin-end' }
  const mix = bestMix({ ...loin, types: [roast, steak, folded] })
  expect(mix.pieces[0]?.type).toBe('roast')
  expect(mix.pieces.slice(1).map((piece) => piece.type)).not.toContain('roast')
  expect(mix.pieces.slice(0, -1).map((piece) => piece.type)).not.toContain('folded')
})

test('held lines stay where they are, the whole stays whole, and holding never makes it worth more', () => {
  const free = bestMix(loin)
  fc.assert(
    fc.property(
      fc.array(
        fc.integer({ min: 20, max: 500 }).map((mm) => mm / 10),
        { minLength: 1, maxLength: 3 },
      ),
      (held) => {
        const plan = planAround(loin, held)
        const lines = plan.pieces.slice(1).map((piece) => piece.fromCm)
        for (const cm of held) expect(lines.some((line) => Math.abs(line - cm) < 1e-9)).toBe(true)
        expect(plan.pieces.reduce((sum, piece) => sum + piece.grams, 0)).toBeCloseTo(1980, 6)
        expect(plan.counts.tournedos).toBeLessThanOrEqual(4)
        expect(plan.score).toBeLessThanOrEqual(free.score + 0.5)
      },
    ),
    { numRuns: 20 },
  )
})

test('where nothing fits, the nearest that would is named with what stands in the way', () => {
  const types = [
    { ...steak, id: 'huge', targetGrams: 900, minGrams: 850, maxGrams: 950, maxCm: 4 },
    { ...steak, id: 'wide', minDiameterCm: 20 },
    { ...steak, id: 'light', targetGrams: 20, minGrams: 15, maxGrams: 25, minCm: 3 },
    steak,
  ]
  const fits = nearestFits(loin, types)
  expect(fits.map((fit) => [fit.type, fit.because])).toEqual([
    ['huge', 'too-thick'],
    ['wide', 'face-too-small'],
    ['light', 'too-thin'],
  ])
  expect(fits[0]?.gramsTo).toBeGreaterThan(150)
  expect(fits[2]?.gramsFrom).toBeGreaterThan(25)
})

test('even slices cover the piece and are of one thickness but for the last', () => {
  const slices = evenSlices(loin, 3.5)
  expect(slices.reduce((sum, slice) => sum + slice.grams, 0)).toBeCloseTo(1980, 6)
  expect(slices.slice(0, -1).every((slice) => Math.abs(slice.toCm - slice.fromCm - 3.5) < 1e-9)).toBe(true)
})

test('the pin-bone strip weighs its share of the fillet and leaves the rest', () => {
  const fillet = {
    stations: [
      { cm: 0, widthCm: 10, heightCm: 2 },
      { cm: 40, widthCm: 10, heightCm: 2 },
    ],
    grams: 800,
  }
  const { grams, lossGrams, stations } = withoutStrip(fillet, { fromCm: 0, toCm: 20, widthCm: 1 })
  expect(lossGrams).toBeCloseTo(40, 1)
  expect(grams + lossGrams).toBeCloseTo(800, 6)
  expect(profileOf({ stations, grams }).weightTo(20)).toBeCloseTo(360, 0)
  expect(() => withoutStrip(fillet, { fromCm: 0, toCm: 20, widthCm: 11 })).toThrow('wider than the fillet')
  expect(() => withoutStrip(fillet, { fromCm: 20, toCm: 10, widthCm: 1 })).toThrow('put the smaller first')
  expect(withoutStrip(fillet, { fromCm: 0, toCm: 20, widthCm: 0 }).lossGrams).toBe(0)
})

test('a kitchen’s usual shape is that of its pieces, and where slices came out heavy it grows thicker', () => {
  const shape = learnUsualShape([
    { ...loin, slices: [] },
    { ...loin, grams: 2200, slices: [] },
  ])
  expect(shape?.pieces).toBe(2)
  const stations = stationsOfShape(shape as NonNullable<typeof shape>, 1980, 52)
  const [own, learnt] = [profileOf(loin), profileOf({ stations, grams: 1980 })]
  for (const cm of [8, 16, 26, 40]) expect(Math.abs(learnt.weightTo(cm) - own.weightTo(cm))).toBeLessThan(45)
  expect(learnt.densityGPerCm3).toBeCloseTo(1.03, 1)
  const heavyHead = learnUsualShape([{ ...loin, slices: [{ plannedGrams: 400, grams: 480 }] }])
  const thicker = profileOf({ stations: stationsOfShape(heavyHead as NonNullable<typeof heavyHead>, 1980, 52), grams: 1980 })
  expect(thicker.weightTo(8)).toBeGreaterThan(learnt.weightTo(8))
  expect(learnUsualShape([])).toBeNull()
})

test('a strip cut out of any fillet takes weight away, never gives it back', () => {
  const size = fc.double({ min: 2, max: 18, noNaN: true })
  fc.assert(
    fc.property(
      fc.array(fc.tuple(size, size), { minLength: 2, maxLength: 6 }),
      fc.double({ min: 0.1, max: 1.5, noNaN: true }),
      (sizes, widthCm) => {
        const stations = sizes.map(([width, heightCm], at) => ({ cm: at * 8, widthCm: width, heightCm }))
        const { lossGrams } = withoutStrip({ stations, grams: 1500 }, { fromCm: 0, toCm: 5, widthCm })
        expect(lossGrams).toBeGreaterThanOrEqual(0)
      },
    ),
  )
})

test.each([
  ['alike', { boardGrams: 1984, byproductGrams: 0 }, 1980, false],
  ['board lighter: asked about', { boardGrams: 1812, byproductGrams: 0 }, 1980, true],
  [
    'said to be what the board has; a by-product then comes out of it',
    { saidGrams: 1812, boardGrams: 1812, byproductGrams: 40 },
    1772,
    false,
  ],
  ['planned trimmed: trim comes out of what the board has more', { saidGrams: 1980, boardGrams: 2936, byproductGrams: 700 }, 1980, false],
  ['and then out of the piece', { saidGrams: 1980, boardGrams: 2936, byproductGrams: 1000 }, 1936, false],
  ['one of several: nobody knows what is on the board', { boardGrams: undefined, byproductGrams: 300 }, 1980, false],
])('the piece on the board, %s', (_, given, grams, asks) => {
  expect(pieceOnBoard({ plannedGrams: 1980, ...given })).toEqual({ grams, asks })
})
