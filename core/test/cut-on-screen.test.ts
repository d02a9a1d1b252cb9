import { profileOf } from '@fleam/core/plan/profile'
import { drawPiece, gridCm, ladder, scoreCuts } from '@fleam/core/practice/screen-piece'
import fc from 'fast-check'

const rungs = fc.constantFrom(...ladder.map(({ key }) => key))
const seeds = fc.integer({ min: 0, max: 2 ** 31 })

test('the same seed gives the whole class the same piece, and another seed another', () => {
  for (const { key } of ladder) {
    expect(drawPiece(key, 11)).toEqual(drawPiece(key, 11))
    expect(drawPiece(key, 11)).not.toEqual(drawPiece(key, 12))
  }
})

test('every piece can be drawn, weighs what meat weighs, and its best plan scores 100', () => {
  fc.assert(
    fc.property(rungs, seeds, (rung, seed) => {
      const piece = drawPiece(rung, seed)
      expect(profileOf(piece).densityIsPlausible).toBe(true)
      const { bestCutsCm } = scoreCuts(piece, [])
      expect(scoreCuts(piece, bestCutsCm).score).toBeGreaterThan(99.999)
    }),
    { numRuns: 40 },
  )
})

test('no cuts beat the best plan, and none score below nothing', () => {
  fc.assert(
    fc.property(rungs, seeds, fc.array(fc.double({ min: -2, max: 45, noNaN: true }), { maxLength: 14 }), (rung, seed, cuts) => {
      const { score, worth, best, pieces } = scoreCuts(drawPiece(rung, seed), cuts)
      expect(score).toBeGreaterThanOrEqual(0)
      expect(score).toBeLessThanOrEqual(100)
      expect(worth).toBeLessThanOrEqual(best + 1e-6)
      expect(pieces.reduce((sum, { grams }) => sum + grams, 0)).toBeCloseTo(drawPiece(rung, seed).grams, 6)
    }),
    { numRuns: 60 },
  )
})

test('the further a line of a rack is moved from the best, the lower the score', () => {
  fc.assert(
    fc.property(seeds, fc.nat(2), (seed, line) => {
      const piece = drawPiece('rack', seed)
      const { bestCutsCm } = scoreCuts(piece, [])
      for (const side of [-1, 1]) {
        let last = 101
        for (let step = 0; step < 12; step += 1) {
          const cuts = bestCutsCm.map((cm, at) => (at === line ? cm + side * step * gridCm : cm))
          const { score } = scoreCuts(piece, cuts)
          expect(score).toBeLessThanOrEqual(last + 1e-9)
          last = score
        }
      }
    }),
    { numRuns: 30 },
  )
})

test('a steak that is further from its target is worth less', () => {
  const piece = drawPiece('loin-shown', 3)
  if (piece.kind === 'rack') throw new Error('A loin is no rack.')
  const profile = profileOf(piece)
  const from = profile.placeOf(400)
  const worthOf = (grams: number) => scoreCuts(piece, [from, profile.placeOf(400 + grams)]).pieces[1]?.worth ?? 0
  expect(worthOf(180)).toBeGreaterThan(worthOf(190))
  expect(worthOf(190)).toBeGreaterThan(worthOf(205))
  expect(worthOf(205)).toBeGreaterThan(worthOf(230))
})

test('a rack cut through a bone, or into other counts than asked, loses those pieces', () => {
  const piece = drawPiece('rack', 5)
  if (piece.kind !== 'rack') throw new Error('A rack is a rack.')
  const { bestCutsCm } = scoreCuts(piece, [])
  const through = [piece.ribsCm[1] ?? 0, ...bestCutsCm.slice(1)]
  expect(
    scoreCuts(piece, through)
      .pieces.slice(0, 2)
      .map(({ kind }) => kind),
  ).toEqual(['nothing', 'nothing'])
  expect(scoreCuts(piece, bestCutsCm.slice(1)).score).toBeLessThan(80)
})
