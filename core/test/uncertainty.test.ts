import { type MakeOrBuyInput, makeOrBuy } from '../src/compare/make-or-buy.ts'
import { uncertainMakeOrBuy } from '../src/compare/uncertainty.ts'
import { gramsPerPound } from '../src/quantities/weight.ts'
import { seededRandom } from '../src/random/seeded-random.ts'
import { readReference } from './reference.ts'

const { input } = readReference<MakeOrBuyInput, object>('make-or-buy-tenderloin')
const spread = { yieldSdPct: 3, minutesSd: 3, itemGramsSd: 220, draws: 5000, seed: 7 }
const asked = (change: object = {}, uncertainty: object = {}) =>
  uncertainMakeOrBuy({ ...input, ...change, uncertainty: { ...spread, ...uncertainty } })

test('the same seed gives the same answer, another a like one', () => {
  expect(asked()).toEqual(asked())
  const other = asked({}, { seed: 8 })
  expect(other.p50).not.toBe(asked().p50)
  expect(Math.abs(other.p50 - asked().p50)).toBeLessThan(0.1)
})

test('without spread every draw is the certain answer', () => {
  const certain = makeOrBuy(input)
  const { probability, p5, p50, p95 } = uncertainMakeOrBuy({ ...input, uncertainty: { draws: 10, seed: 1 } })
  expect(probability).toBe(1)
  for (const percentile of [p5, p50, p95]) expect(percentile).toBeCloseTo(certain.make.costPerPortion, 12)
})

test('the dearer the ready-cut quote, the likelier that cutting is cheaper', () => {
  const at = (amount: number) => asked({ buy: { ...input.buy, price: { amount, per: 'each' } } }).probability
  const probabilities = [7.5, 8.5, 9.1, 9.6, 10.5, 12].map(at)
  expect([...probabilities].sort((a, b) => a - b)).toEqual(probabilities)
  expect(probabilities[0]).toBeLessThan(0.1)
  expect(probabilities.at(-1)).toBeGreaterThan(0.95)
})

test('a price per lb that is the same per kg changes nothing', () => {
  const amount = (input.item.price.amount * gramsPerPound) / 1000
  expect(asked({ item: { ...input.item, price: { amount, per: 'lb' } } }).p95).toBeCloseTo(asked().p95, 9)
})

test('few tests (Student-t) leave wider bounds than many', () => {
  const width = (uncertainty: object) => {
    const { p5, p95 } = asked({}, uncertainty)
    return p95 - p5
  }
  expect(width({ degreesOfFreedom: 3 })).toBeGreaterThan(width({}) * 1.1)
  expect(Math.abs(width({ degreesOfFreedom: 10_000 }) / width({}) - 1)).toBeLessThan(0.06)
})

test('impossible draws are drawn again, and a spread that leaves none is refused', () => {
  const { p5 } = asked({}, { yieldSdPct: 60, itemGramsSd: 4000, minutesSd: 40 })
  expect(p5).toBeGreaterThan(0)
  expect(() => asked({ labour: { ...input.labour, minutesPerItem: -1e6 } })).toThrow('hardly any possible value')
  expect(() => asked({}, { draws: 0 })).toThrow('Draw 1 to 100000 times.')
})

test('drawn Student-t numbers have the spread that theory gives', () => {
  const random = seededRandom(3)
  const degrees = 8
  const drawn = Array.from({ length: 40_000 }, () => random.studentT(0, 1, degrees))
  const variance = drawn.reduce((sum, value) => sum + value * value, 0) / drawn.length
  expect(Math.abs(variance - degrees / (degrees - 2))).toBeLessThan(0.06)
})
