import fc from 'fast-check'
import { currencyDecimals, formatMoney } from '../src/quantities/format-money.ts'
import { formatWeight, writeWeight } from '../src/quantities/format-weight.ts'
import { labourCost } from '../src/quantities/labour.ts'
import { costOfPurchase, type Price } from '../src/quantities/price.ts'
import { sumGrams } from '../src/quantities/weight.ts'

test.each([
  [0, 'metric', '0 g'],
  [5, 'metric', '0.5 g'],
  [1840, 'metric', '184 g'],
  [12_505, 'metric', '1 250.5 g'],
  [4_000_000, 'metric', '400 000 g'],
  [-140, 'metric', '−14 g'],
  [1843, 'imperial', '6.5 oz'],
  [10_064, 'imperial', '2 lb 3.5 oz'],
  [4536, 'imperial', '1 lb 0 oz'],
  [4535, 'imperial', '1 lb 0 oz'],
] as const)('%d tenths of a gram, %s, is written %s', (tenths, system, text) => {
  expect(formatWeight(tenths, system)).not.toContain(' ')
  expect(formatWeight(tenths, system).replace(/\s/g, ' ')).toBe(text)
})

test('figure and unit come apart for a readout', () => {
  expect(writeWeight(10_064, 'imperial')).toEqual({ figure: '2\u00a0lb\u00a03.5', unit: 'oz' })
})

test('money is rounded to what its currency has, and nothing is never less than nothing', () => {
  expect(formatMoney(9.597, 'EUR')).toBe('€9.60')
  expect(formatMoney(-1.305, 'EUR')).toBe('−€1.31')
  expect(formatMoney(-0.001, 'EUR')).toBe('€0.00')
  expect(formatMoney(1234.5, 'JPY')).toBe('¥1,235')
  expect([currencyDecimals('EUR'), currencyDecimals('JPY'), currencyDecimals('KWD')]).toEqual([2, 0, 3])
})

test('sums of weights are made on tenths', () => {
  expect(sumGrams([0.1, 0.2, 0.3, 179.9])).toBe(180.5)
})

test('on-cost comes on top of the wage', () => {
  expect(labourCost({ minutes: 90, ratePerHour: 20, onCostPct: 10 })).toBeCloseTo(33, 12)
})

test('what a purchase costs rises in step with the amount quoted', () => {
  const price = fc.oneof(
    fc.constantFrom<Price>({ amount: 1, per: 'kg' }, { amount: 1, per: 'lb' }, { amount: 1, per: 'each' }),
    fc.integer({ min: 1, max: 40 }).map((count): Price => ({ amount: 1, per: 'case', count })),
    fc.integer({ min: 100, max: 20_000 }).map((grams): Price => ({ amount: 1, per: 'case', grams })),
  )
  fc.assert(
    fc.property(price, fc.double({ min: 0, max: 500, noNaN: true }), fc.integer({ min: 1, max: 9000 }), (one, amount, grams) => {
      const bought = { grams, pieces: 2 }
      expect(costOfPurchase({ ...one, amount }, bought)).toBeCloseTo(amount * costOfPurchase(one, bought), 6)
    }),
  )
})
