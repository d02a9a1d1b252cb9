import fc from 'fast-check'
import { type MakeOrBuyInput, makeOrBuy } from '../src/compare/make-or-buy.ts'
import { readReference } from './reference.ts'

const { input: loin } = readReference<MakeOrBuyInput, object>('make-or-buy-tenderloin')

const cases = fc.record({
  grams: fc.integer({ min: 300, max: 9000 }),
  itemPrice: fc.double({ min: 1, max: 60, noNaN: true }),
  per: fc.constantFrom('kg' as const, 'lb' as const, 'each' as const),
  yieldPct: fc.double({ min: 20, max: 95, noNaN: true }),
  portionGrams: fc.integer({ min: 60, max: 300 }),
  minutes: fc.double({ min: 0, max: 60, noNaN: true }),
  buyPrice: fc.double({ min: 1, max: 30, noNaN: true }),
  fee: fc.double({ min: 0, max: 20, noNaN: true }),
})

function inputOf(drawn: typeof cases extends fc.Arbitrary<infer Drawn> ? Drawn : never): MakeOrBuyInput {
  return {
    ...loin,
    item: { grams: drawn.grams, price: { amount: drawn.itemPrice, per: drawn.per } },
    yieldPct: drawn.yieldPct,
    portionGrams: drawn.portionGrams,
    labour: { ...loin.labour, minutesPerItem: drawn.minutes },
    buy: { ...loin.buy, price: { amount: drawn.buyPrice, per: 'each' }, feePerOrder: drawn.fee },
  }
}

test('every break-even, put back, makes both sides equal', () => {
  fc.assert(
    fc.property(cases, (drawn) => {
      const given = inputOf(drawn)
      const { breakEven } = makeOrBuy(given)
      const saving = (changed: Partial<MakeOrBuyInput>) => makeOrBuy({ ...given, ...changed }).savingPerPortion
      if (breakEven.itemPrice !== null) {
        expect(saving({ item: { ...given.item, price: { ...given.item.price, amount: breakEven.itemPrice } } })).toBeCloseTo(0, 7)
      }
      if (breakEven.buyPrice !== null) {
        expect(saving({ buy: { ...given.buy, price: { ...given.buy.price, amount: breakEven.buyPrice } } })).toBeCloseTo(0, 7)
      }
      if (breakEven.yieldPct) expect(saving({ yieldPct: breakEven.yieldPct })).toBeCloseTo(0, 7)
      if (breakEven.minutesPerItem !== null) {
        expect(saving({ labour: { ...given.labour, minutesPerItem: breakEven.minutesPerItem } })).toBeCloseTo(0, 7)
      }
    }),
  )
})

test('no yield turns an answer that is lost at 100 %', () => {
  expect(makeOrBuy({ ...loin, buy: { ...loin.buy, price: { amount: 1, per: 'each' } } }).breakEven.yieldPct).toBeNull()
})

test('no minutes turn an answer where labour costs nothing', () => {
  expect(makeOrBuy({ ...loin, labour: { ...loin.labour, ratePerHour: 0 } }).breakEven.minutesPerItem).toBeNull()
})

test.each([
  ['yieldPct', { yieldPct: 0 }],
  ['yieldPct', { yieldPct: 101 }],
  ['portionGrams', { portionGrams: 0 }],
  ['lossPct', { lossPct: 100 }],
  ['buy.portionsPerOrder', { buy: { ...loin.buy, portionsPerOrder: undefined } }],
])('%s is refused by name', (field, change) => {
  expect(() => makeOrBuy({ ...loin, ...change })).toThrow(expect.objectContaining({ field }))
})
