import fc from 'fast-check'
import { pairPieces } from '../src/portions/pair-pieces.ts'
import { portionStatistics } from '../src/portions/portion-statistics.ts'

/** Least spread over every way of grouping, by plain enumeration. */
function leastSpreadByEnumeration(pieces: number[], perPortion: number): number {
  const [first, ...others] = pieces.map((grams, at) => ({ grams, at }))
  if (!first) return 0
  const groupings = function* (left: { grams: number; at: number }[]): Generator<number[]> {
    const [lead, ...rest] = left
    if (!lead) {
      yield []
      return
    }
    for (const partners of choose(rest, perPortion - 1)) {
      const sum = [lead, ...partners].reduce((total, piece) => total + Math.round(piece.grams * 10), 0)
      for (const more of groupings(rest.filter((piece) => !partners.includes(piece)))) yield [sum, ...more]
    }
  }
  let best = Number.POSITIVE_INFINITY
  for (const sums of groupings([first, ...others])) best = Math.min(best, Math.max(...sums) - Math.min(...sums))
  return best / 10
}

function choose<Entry>(from: Entry[], size: number): Entry[][] {
  if (size === 0) return [[]]
  return from.flatMap((entry, index) => choose(from.slice(index + 1), size - 1).map((rest) => [entry, ...rest]))
}

const weights = (min: number, max: number) =>
  fc.array(
    fc.integer({ min: 800, max: 2600 }).map((tenths) => tenths / 10),
    { minLength: min, maxLength: max },
  )

test('small sets are grouped as well as plain enumeration finds', () => {
  const sets = fc
    .constantFrom([2, 8] as const, [3, 9] as const, [4, 8] as const, [2, 6] as const)
    .chain(([per, size]) => weights(size, size).map((pieces) => ({ per, pieces })))
  fc.assert(
    fc.property(sets, ({ per, pieces }) => {
      expect(pairPieces({ pieces, perPortion: per }).spreadGrams).toBeCloseTo(leastSpreadByEnumeration(pieces, per), 6)
    }),
  )
})

test('large sets are never worse than heaviest with lightest, and use every piece once', () => {
  fc.assert(
    fc.property(weights(18, 60), (drawn) => {
      const pieces = drawn.slice(0, drawn.length - (drawn.length % 2))
      const { portions, spreadGrams, left, exact } = pairPieces({ pieces, perPortion: 2 })
      const sorted = [...pieces].sort((a, b) => b - a)
      const simple = sorted.slice(0, sorted.length / 2).map((heavy, index) => heavy + (sorted[sorted.length - 1 - index] ?? 0))
      expect(spreadGrams).toBeLessThanOrEqual(Math.max(...simple) - Math.min(...simple) + 1e-6)
      expect(portions.flatMap((portion) => portion.pieces).sort((a, b) => a - b)).toEqual(pieces.map((_, index) => index))
      expect([left, exact]).toEqual([[], false])
    }),
  )
})

test('a piece too many is left out where that makes the rest most even', () => {
  const { left, spreadGrams } = pairPieces({ pieces: [100, 100, 100, 100, 170], perPortion: 2 })
  expect({ left, spreadGrams }).toEqual({ left: [4], spreadGrams: 0 })
})

test('fewer pieces than a portion takes are refused', () => {
  expect(() => pairPieces({ pieces: [100], perPortion: 2 })).toThrow('needs that many pieces')
})

test('one portion has no spread to speak of', () => {
  expect(portionStatistics({ weights: [184], target: 180, tolerance: 6 })).toMatchObject({
    count: 1,
    sd: null,
    cvPct: null,
    within: 1,
    giveawayCost: null,
  })
})

test('portions at the very edge of the tolerance are within it', () => {
  expect(portionStatistics({ weights: [174, 186, 173.9, 186.1], target: 180, tolerance: 6 })).toMatchObject({
    under: 1,
    within: 2,
    over: 1,
  })
})

test('giving away enough for whole portions says how many', () => {
  expect(portionStatistics({ weights: [225, 225, 225, 225], target: 180, tolerance: 6 }).portionsForgone).toBe(1)
})
