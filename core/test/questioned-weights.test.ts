import fc from 'fast-check'
import { questionedWeights } from '../src/runs/questioned-weights.ts'
import { noSample } from '../src/statistics/sample.ts'

const write = (grams: number) => `${Math.round(grams)} g`
const turkey = { low: 5, high: 10 }
const ask = (billedGrams: number, receivedGrams: number, pieces: number, delivered = noSample) =>
  questionedWeights({ billedGrams, receivedGrams, pieces }, delivered, turkey, write)

test.each([
  [31.2, 31.2, 6, '6 items of 5 g each, where 5000 g to 10000 g is usual: are weight and count right?'],
  [6.5, 2920, 1, 'Billed 7 g and received 2920 g: was one of them mistyped?'],
  [2400, 2400, 1, 'An item of 2400 g, where 5000 g to 10000 g is usual: are weight and count right?'],
  [43_300, 6000, 1, 'Billed 43300 g and received 6000 g: was one of them mistyped?'],
  [43_300, 43_200, 60, '60 items of 720 g each, where 5000 g to 10000 g is usual: are weight and count right?'],
])('billed %d g, received %d g in %d is asked about', (billed, received, pieces, sentence) => {
  expect(ask(billed, received, pieces)).toBe(sentence)
})

test('what came so far says what is usual, whatever the sheet is fit for', () => {
  const delivered = { n: 4, mean: 3200, variance: 40_000 }
  expect(ask(3300, 3200, 1, delivered)).toBeUndefined()
  expect(ask(7200, 7200, 1, delivered)).toContain('3200 g is usual')
})

test('nothing is asked of an ordinary delivery, and what is asked says its figures', () => {
  const grams = fc.integer({ min: 5000, max: 10_000 })
  fc.assert(
    fc.property(grams, fc.integer({ min: 1, max: 12 }), fc.double({ min: 0.85, max: 1.15, noNaN: true }), (each, pieces, billedAt) => {
      expect(ask(each * pieces * billedAt, each * pieces, pieces)).toBeUndefined()
      expect(ask(each * pieces, (each * pieces) / 1000, pieces)).toContain(write(each / 1000))
    }),
  )
})
