import fc from 'fast-check'
import { type BestMixInput, bestMix } from '../src/plan/best-mix.ts'
import { type BondedPairInput, bondedPair } from '../src/plan/bonded-pair.ts'
import { cutInOrder, type Section } from '../src/plan/cut-in-order.ts'
import { type ProfileInput, profileOf, type Station } from '../src/plan/profile.ts'
import { type RackInput, rackCuts } from '../src/plan/rack-cuts.ts'
import { placesToTapeAgain, slipGrams } from '../src/plan/tape.ts'
import { expectFields, readReference } from './reference.ts'

const stations = fc
  .array(fc.record({ gap: fc.double({ min: 0.5, max: 9, noNaN: true }), girthCm: fc.double({ min: 4, max: 40, noNaN: true }) }), {
    minLength: 2,
    maxLength: 8,
  })
  .map((drawn) => {
    let cm = 0
    return drawn.map(({ gap, girthCm }, index): Station => {
      if (index > 0) cm += gap
      return { cm, girthCm }
    })
  })
const piece = fc.record<ProfileInput>({ stations, grams: fc.integer({ min: 200, max: 4000 }) })

test('the worked examples of cutting in order, a bonded pair and a rack', () => {
  const order = readReference<ProfileInput & { sections: Section[] }, object>('cut-in-order')
  expectFields(cutInOrder(order.input), order.expected)
  const pair = readReference<BondedPairInput, object>('bonded-pair')
  expectFields(bondedPair(pair.input), pair.expected)
  const rack = readReference<RackInput, { midpointSpreadGrams: number; spreadGramsAtMost: number }>('rack')
  const cuts = rackCuts(rack.input)
  expect(cuts.midpointSpreadGrams).toBeCloseTo(rack.expected.midpointSpreadGrams, 6)
  expect(cuts.spreadGrams).toBeLessThanOrEqual(rack.expected.spreadGramsAtMost)
})

test('the worked example of a best mix', () => {
  const { input, expected } = readReference<BestMixInput, { score: number }>('best-mix')
  const mix = bestMix(input)
  expectFields(mix, expected)
  expect(mix.counts.tournedos).toBeLessThanOrEqual(4)
})

test('weight along a piece rises from nothing to the whole, and its inverse finds the place again', () => {
  fc.assert(
    fc.property(piece, fc.double({ min: 0, max: 1, noNaN: true }), (given, share) => {
      const profile = profileOf(given)
      const cm = share * profile.lengthCm
      expect(profile.weightTo(profile.lengthCm)).toBe(given.grams)
      expect(profile.placeOf(profile.weightTo(cm))).toBeCloseTo(cm, 5)
    }),
  )
})

test('pieces and tips of a best mix cover the whole, obey their limits, and are worth the score', () => {
  const types = [
    { id: 'steak', value: 11.5, targetGrams: 180, minGrams: 165, maxGrams: 195, minCm: 1, maxCm: 9, minDiameterCm: 4, maxCount: 3 },
    { id: 'small', value: 5, targetGrams: 90, minGrams: 80, maxGrams: 100, minCm: 0.5, maxCm: 6, minDiameterCm: 3 },
  ]
  fc.assert(
    fc.property(piece, (given) => {
      const input: BestMixInput = { ...given, types, tipsValuePerKg: 17, minTipsCm: 2, offTargetPerGram: 0.01, stepCm: 0.2 }
      const { pieces, score } = bestMix(input)
      let worth = 0
      let reached = 0
      for (const [index, cut] of pieces.entries()) {
        expect(cut.fromCm).toBeCloseTo(reached, 9)
        reached = cut.toCm
        const type = types.find((other) => other.id === cut.type)
        if (!type) {
          const atEnd = index === 0 || index === pieces.length - 1
          expect(atEnd || cut.thicknessCm >= 2 - 1e-6).toBe(true)
          worth += (cut.grams * 17) / 1000
          continue
        }
        expect(cut.grams >= type.minGrams - 1e-6 && cut.grams <= type.maxGrams + 1e-6).toBe(true)
        expect(cut.thicknessCm >= type.minCm - 1e-6 && cut.thicknessCm <= type.maxCm + 1e-6).toBe(true)
        worth += type.value - 0.01 * Math.abs(cut.grams - type.targetGrams)
      }
      expect(pieces.filter((cut) => cut.type === 'steak').length).toBeLessThanOrEqual(3)
      expect(pieces.reduce((sum, cut) => sum + cut.grams, 0)).toBeCloseTo(given.grams, 6)
      expect(score).toBeCloseTo(worth, 6)
    }),
    { numRuns: 40 },
  )
})

test('on a small grid the best mix is what trying everything finds', () => {
  const small = fc.record<ProfileInput>({
    stations: fc.tuple(fc.double({ min: 12, max: 30, noNaN: true }), fc.double({ min: 8, max: 30, noNaN: true })).map(([thick, thin]) => [
      { cm: 0, girthCm: thick },
      { cm: 6, girthCm: thin },
    ]),
    grams: fc.integer({ min: 200, max: 700 }),
  })
  // limits that no even share of whole grams lies on: there, rounding decides
  const types = [
    { id: 'steak', value: 10, targetGrams: 150, minGrams: 99.73, maxGrams: 200.37, minCm: 0.5, maxCm: 5, minDiameterCm: 3, maxCount: 2 },
    { id: 'small', value: 3, targetGrams: 60, minGrams: 39.71, maxGrams: 90.19, minCm: 0.5, maxCm: 3, minDiameterCm: 2 },
  ]
  fc.assert(
    fc.property(small, (given) => {
      const input: BestMixInput = { ...given, types, tipsValuePerKg: 12, minTipsCm: 1.5, offTargetPerGram: 0.02, stepCm: 0.5 }
      expect(bestMix(input).score).toBeCloseTo(bestByTrying(input), 8)
    }),
    { numRuns: 30 },
  )
})

/** Every set of cuts on the grid, every kind for every piece. */
function bestByTrying(input: BestMixInput): number {
  const profile = profileOf(input)
  const last = Math.round(profile.lengthCm / input.stepCm)
  const weight = (at: number) => profile.weightTo(at * input.stepCm)
  const go = (from: number, steaks: number, afterTips: boolean): number => {
    if (from === last) return 0
    let best = Number.NEGATIVE_INFINITY
    for (let to = from + 1; to <= last; to += 1) {
      const grams = weight(to) - weight(from)
      const cm = (to - from) * input.stepCm
      const tipsFit = from === 0 || to === last || cm >= input.minTipsCm
      if (!afterTips && tipsFit) best = Math.max(best, (grams * input.tipsValuePerKg) / 1000 + go(to, steaks, true))
      for (const type of input.types) {
        const faces = Math.min(profile.diameterAt(from * input.stepCm), profile.diameterAt(to * input.stepCm))
        const fits = grams >= type.minGrams && grams <= type.maxGrams && cm >= type.minCm && cm <= type.maxCm && faces >= type.minDiameterCm
        if (!fits || (type.id === 'steak' && steaks === type.maxCount)) continue
        const rest = go(to, steaks + (type.id === 'steak' ? 1 : 0), false)
        best = Math.max(best, type.value - input.offTargetPerGram * Math.abs(grams - type.targetGrams) + rest)
      }
    }
    return best
  }
  return go(0, 0, false)
}

test('the portions of a bonded pair and what is left are both muscles, whatever the offset', () => {
  fc.assert(
    fc.property(piece, piece, fc.double({ min: -0.9, max: 0.9, noNaN: true }), (a, b, shift) => {
      const pair = bondedPair({ a, b, portionGrams: 100, offsetCm: shift * profileOf(a).lengthCm * 0.9 * (shift < 0 ? 0 : 1) })
      expect(pair.portions * 100 + pair.leftGrams).toBeCloseTo(a.grams + b.grams, 6)
      expect(pair.thicknessCm.every((thickness) => thickness > 0)).toBe(true)
      expect(pair.thicknessCm.reduce((sum, thickness) => sum + thickness, 0)).toBeLessThanOrEqual(pair.lengthCm + 1e-6)
    }),
  )
})

test('cuts of a rack stay off the bones and are never less even than straight ones', () => {
  const { input } = readReference<RackInput, object>('rack')
  for (const bonesPerPiece of [[2, 2, 2, 2], [3, 3, 2], [1, 1, 2, 2, 2], [8]]) {
    const { cutsCm, pieces, spreadGrams, midpointSpreadGrams } = rackCuts({ ...input, bonesPerPiece })
    expect(pieces.reduce((sum, cut) => sum + cut.grams, 0)).toBeCloseTo(input.grams, 9)
    for (const cut of cutsCm)
      for (const rib of input.ribsCm) expect(Math.abs(cut - rib)).toBeGreaterThanOrEqual(input.boneHalfWidthCm - 1e-9)
    expect(spreadGrams).toBeLessThanOrEqual(midpointSpreadGrams + 1e-9)
  }
})

test('no cuts on a fine grid, edges of ribs among them, are more even than those of a rack', () => {
  const rack = fc.record({
    girths: fc.array(fc.double({ min: 18, max: 36, noNaN: true }), { minLength: 3, maxLength: 3 }),
    half: fc.double({ min: 0.2, max: 1.1, noNaN: true }),
  })
  fc.assert(
    fc.property(rack, ({ girths, half }) => {
      const stations = girths.map((girthCm, at) => ({ cm: at * 6, girthCm }))
      const input = { stations, grams: 700, ribsCm: [1.5, 4.4, 7.5, 10.3], boneHalfWidthCm: half, bonesPerPiece: [1, 2, 1] }
      const profile = profileOf(input)
      const squaresAt = (cuts: readonly number[]) => {
        const upTo = [0, ...cuts.map((cm) => profile.weightTo(cm)), 700]
        return upTo.slice(1).reduce((sum, to, at) => sum + (to - (upTo[at] ?? 0) - 700 / 3) ** 2, 0)
      }
      const places = (from: number, to: number) => Array.from({ length: 101 }, (_, at) => from + ((to - from) * at) / 100)
      const found = squaresAt(rackCuts(input).cutsCm)
      const [firstGap, lastGap] = [places(1.5 + half, 4.4 - half), places(7.5 + half, 10.3 - half)]
      const least = Math.min(...firstGap.flatMap((a) => lastGap.map((b) => squaresAt([a, b]))))
      expect(found).toBeLessThanOrEqual(least + 1e-6)
    }),
    { numRuns: 20 },
  )
})

const loin = readReference<BestMixInput, object>('best-mix').input
test.each<[string, Partial<BestMixInput>]>([
  ['stations', { stations: [{ cm: 0, girthCm: 20 }] }],
  [
    'stations.1.cm',
    {
      stations: [
        { cm: 5, girthCm: 20 },
        { cm: 5, girthCm: 18 },
      ],
    },
  ],
  [
    'stations.1.cm',
    {
      stations: [
        { cm: 9, girthCm: 20 },
        { cm: 5, girthCm: 18 },
      ],
    },
  ],
  [
    'stations.1.girthCm',
    {
      stations: [
        { cm: 0, girthCm: 20 },
        { cm: 5, girthCm: 0 },
      ],
    },
  ],
  [
    'stations.0.widthCm',
    {
      stations: [
        { cm: 0, widthCm: 8 },
        { cm: 5, girthCm: 9 },
      ],
    },
  ],
  ['stations', { stations: Array.from({ length: 201 }, (_, cm) => ({ cm, girthCm: 20 })) }],
  [
    'stations',
    {
      stations: [
        { cm: 0, girthCm: 20 },
        { cm: 501, girthCm: 20 },
      ],
    },
  ],
  ['grams', { grams: 0 }],
  ['types.0.minGrams', { types: [{ ...(loin.types[0] as BestMixInput['types'][number]), minGrams: 200, maxGrams: 190 }] }],
  ['types.0.targetGrams', { types: [{ ...(loin.types[0] as BestMixInput['types'][number]), targetGrams: 300 }] }],
  ['types', { types: [] }],
])('nonsense at %s is refused by name', (field, change) => {
  expect(() => bestMix({ ...loin, ...change })).toThrow(expect.objectContaining({ field }))
})

test('a slip of 5 mm moves a slice by the weight of 5 mm there, and by nothing at the end', () => {
  fc.assert(
    fc.property(piece, fc.double({ min: 0.1, max: 0.9, noNaN: true }), (given, share) => {
      const profile = profileOf(given)
      const cm = share * profile.lengthCm
      if (cm < 0.5 || cm > profile.lengthCm - 0.5) return
      const [heavier, lighter] = [profile.weightTo(cm + 0.5) - profile.weightTo(cm), profile.weightTo(cm) - profile.weightTo(cm - 0.5)]
      expect(slipGrams(profile, cm)).toBeCloseTo((heavier + lighter) / 2, 9)
      expect(slipGrams(profile, profile.lengthCm)).toBe(0)
    }),
  )
})

test('a flattened muscle is to be taped again on either side, a round one and a tape alone are not', () => {
  const sized = (...sizes: [number, number, number][]) => sizes.map(([cm, widthCm, heightCm]): Station => ({ cm, widthCm, heightCm }))
  expect(placesToTapeAgain(sized([0, 9, 6], [10, 12, 5], [20, 6, 5]))).toEqual([5, 15])
  expect(placesToTapeAgain(sized([0, 13, 5], [10, 9, 5]))).toEqual([5])
  expect(placesToTapeAgain(sized([0, 9, 6], [10, 9, 5]))).toEqual([])
  expect(
    placesToTapeAgain([
      { cm: 0, girthCm: 24 },
      { cm: 9, girthCm: 20 },
    ]),
  ).toEqual([])
})

test('tape and scale agree on a fillet whose section is a wedge, and on no muscle of that density', () => {
  // half of width × height at 1.05 g/cm³
  const grams = 0.5 * 14 * 3 * 40 * 1.05
  const wedge = profileOf({
    stations: [
      { cm: 0, widthCm: 14, heightCm: 3 },
      { cm: 40, widthCm: 14, heightCm: 3 },
    ],
    grams,
  })
  expect(wedge.densityGPerCm3).toBeCloseTo(0.668, 2)
  expect(wedge.densityIsPlausible).toBe(true)
  const round = profileOf({
    stations: [
      { cm: 0, girthCm: 20 },
      { cm: 10, girthCm: 20 },
    ],
    grams: 0.67 * 10 * (400 / (4 * Math.PI)),
  })
  expect(round.densityIsPlausible).toBe(false)
})
