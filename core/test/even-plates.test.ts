import fc from 'fast-check'
import { evenPlates, type PlatePiece } from '../src/portions/even-plates.ts'

const pieces = (kind: number, ...grams: number[]): PlatePiece[] => grams.map((weight) => ({ tenths: weight * 10, kind }))

test('a heavy breast piece goes with a light leg piece', () => {
  const given = [...pieces(0, 150, 120, 180), ...pieces(1, 130, 160, 100)]
  const plates = evenPlates(given, 2)
  expect(plates.plates.map((plate) => plate.grams)).toEqual([280, 280, 280])
  expect(plates.spreadGrams).toBe(0)
  expect(plates.simpleSpreadGrams).toBe(0)
})

test('pieces of one sort are grouped as they fit best; too few make none', () => {
  expect(evenPlates(pieces(0, 100, 90, 60, 50), 2)).toMatchObject({ spreadGrams: 0, simpleSpreadGrams: 80, left: [] })
  expect(evenPlates(pieces(0, 100), 2)).toMatchObject({ plates: [], left: [0] })
})

/** The least spread of all ways to give every piece of the scarcer sort, the first, a partner of the other. */
function leastSpread(first: readonly number[], second: readonly number[]): number {
  if (first.length === 0) return 0
  let best = Number.POSITIVE_INFINITY
  const place = (rest: number[], sums: number[]): void => {
    if (sums.length === first.length) {
      best = Math.min(best, Math.max(...sums) - Math.min(...sums))
      return
    }
    for (const [index, partner] of rest.entries()) {
      place(
        rest.filter((_, at) => at !== index),
        [...sums, (first[sums.length] ?? 0) + partner],
      )
    }
  }
  place([...second], [])
  return best
}

test('of two sorts no other pairing is more even, whichever pieces are left', () => {
  const weights = fc.array(fc.integer({ min: 50, max: 300 }), { minLength: 2, maxLength: 6 })
  fc.assert(
    fc.property(weights, weights, (one, other) => {
      const [few, many] = one.length <= other.length ? [one, other] : [other, one]
      const plates = evenPlates([...pieces(0, ...one), ...pieces(1, ...other)], 2)
      expect(plates.spreadGrams).toBe(leastSpread(few, many))
      expect(plates.spreadGrams).toBeLessThanOrEqual(plates.simpleSpreadGrams)
      expect(plates.left).toHaveLength(many.length - few.length)
    }),
  )
})

test('of three sorts every plate has one of each and nothing is lost', () => {
  const weights = fc.array(fc.integer({ min: 50, max: 300 }), { minLength: 1, maxLength: 7 })
  fc.assert(
    fc.property(weights, weights, weights, (a, b, c) => {
      const given = [...pieces(0, ...a), ...pieces(1, ...b), ...pieces(2, ...c)]
      const { plates, left } = evenPlates(given, 3)
      for (const plate of plates) expect(plate.pieces.map((at) => given[at]?.kind).sort()).toEqual([0, 1, 2])
      expect([...plates.flatMap((plate) => plate.pieces), ...left].sort((x, y) => x - y)).toEqual(given.map((_, at) => at))
    }),
  )
})
