import fc from 'fast-check'
import { InputError } from '../src/input-error.ts'
import { gramsPerPound } from '../src/quantities/weight.ts'
import { jointCostMethods } from '../src/runs/joint-cost.ts'
import type { Output } from '../src/runs/output.ts'
import { type YieldTestInput, yieldTest } from '../src/runs/yield-test.ts'

const output = fc.record<Output>({
  id: fc.uuid(),
  name: fc.constant('part'),
  role: fc.constantFrom('main', 'coproduct', 'byproduct', 'waste'),
  grams: fc.integer({ min: 1, max: 30_000 }).map((tenths) => tenths / 10),
  count: fc.integer({ min: 1, max: 20 }),
  valuePerKg: fc.double({ min: 0.5, max: 60, noNaN: true }),
  separableCost: fc.double({ min: 0, max: 0.01, noNaN: true }),
})
const input = fc.record<YieldTestInput>({
  purchase: fc.record({
    billedGrams: fc.integer({ min: 1000, max: 90_000 }).map((tenths) => tenths / 10),
    receivedGrams: fc.integer({ min: 1000, max: 90_000 }).map((tenths) => tenths / 10),
    pieces: fc.constant(1),
    price: fc.record({ amount: fc.double({ min: 0.1, max: 80, noNaN: true }), per: fc.constant('kg' as const) }),
  }),
  method: fc.constantFrom(...jointCostMethods),
  labour: fc.record({ minutes: fc.integer({ min: 0, max: 60 }), ratePerHour: fc.constant(20), onCostPct: fc.constant(10) }),
  consumables: fc.constant(0.4),
  disposalPerKg: fc.constant(0.2),
  outputs: fc.array(output, { minLength: 1, maxLength: 12 }),
})

test('what the outputs carry adds up to the net and their separable cost', () => {
  fc.assert(
    fc.property(input, (given) => {
      const test = yieldTest(given)
      const carries = (role: string) => role === 'main' || (role === 'coproduct' && given.method !== 'byproduct-credit')
      const carriers = given.outputs.filter((part) => carries(part.role))
      fc.pre(carriers.length > 0)
      const carried = test.outputs.filter((_, index) => carries(given.outputs[index]?.role ?? '')).reduce((sum, part) => sum + part.cost, 0)
      const separable = carriers.reduce((sum, part) => sum + (part.separableCost ?? 0), 0)
      expect(carried).toBeCloseTo(test.cost.net + separable, 8)
    }),
  )
})

test('parts that are worth no more than their own work share the cost by weight', () => {
  const worthless = (id: string, grams: number): Output => ({
    id,
    name: id,
    role: 'main',
    grams,
    valuePerKg: 1,
    separableCost: grams / 1000,
  })
  const test = yieldTest({ ...plain, method: 'sales-value', outputs: [worthless('a', 600), worthless('b', 200)] })
  expect(test.outputs.map((part) => part.cost)).toEqual([10 * 0.75 + 0.6, 10 * 0.25 + 0.2])
})

test('the weights balance to the tenth of a gram', () => {
  fc.assert(
    fc.property(input, (given) => {
      const { grams } = yieldTest(given)
      const tenths = (value: number) => Math.round(value * 10)
      expect(tenths(grams.main) + tenths(grams.coproduct) + tenths(grams.byproduct) + tenths(grams.waste)).toBe(tenths(grams.weighed))
      expect(tenths(grams.weighed) + tenths(grams.unaccounted)).toBe(tenths(grams.received))
    }),
  )
})

test('a price per lb is the same price per kg', () => {
  fc.assert(
    fc.property(input, (given) => {
      const amount = (given.purchase.price.amount * gramsPerPound) / 1000
      const inPounds = yieldTest({ ...given, purchase: { ...given.purchase, price: { amount, per: 'lb' } } })
      expect(inPounds.cost.net).toBeCloseTo(yieldTest(given).cost.net, 8)
    }),
  )
})

const plain: YieldTestInput = {
  purchase: { billedGrams: 1000, receivedGrams: 1000, pieces: 2, price: { amount: 10, per: 'kg' } },
  method: 'byproduct-credit',
  labour: { minutes: 0, ratePerHour: 0, onCostPct: 0 },
  consumables: 0,
  disposalPerKg: 0,
  outputs: [
    { id: 'a', name: 'Steak', role: 'main', grams: 600, count: 3 },
    { id: 'b', name: 'Trim', role: 'byproduct', grams: 400, valuePerKg: 40 },
  ],
}

test('a by-product worth more than the item leaves the net below zero', () => {
  expect(yieldTest(plain).cost.net).toBe(-6)
})

test('prices by the piece, the case by count and the case by weight', () => {
  const costAt = (price: YieldTestInput['purchase']['price']) =>
    yieldTest({ ...plain, purchase: { ...plain.purchase, price } }).cost.purchase
  expect(costAt({ amount: 4, per: 'each' })).toBe(8)
  expect(costAt({ amount: 10, per: 'case', count: 5 })).toBe(4)
  expect(costAt({ amount: 10, per: 'case', grams: 5000 })).toBe(2)
  expect(() => costAt({ amount: 10, per: 'case' })).toThrow(InputError)
})

test('sharing by sales value asks for the value that is missing', () => {
  expect(() => yieldTest({ ...plain, method: 'sales-value' })).toThrow('Steak needs a value per kg')
})

test('nothing received is refused by name', () => {
  const given = { ...plain, purchase: { ...plain.purchase, receivedGrams: 0 } }
  expect(() => yieldTest(given)).toThrow(expect.objectContaining({ field: 'purchase.receivedGrams' }))
})

test('a test in which nothing that carries cost was weighed shares nothing', () => {
  const test = yieldTest({ ...plain, outputs: [{ id: 'a', name: 'Steak', role: 'main', grams: 0, count: 0 }] })
  expect(test.outputs[0]).toEqual({
    id: 'a',
    cost: 0,
    costPerKg: null,
    costPerPortion: null,
    costFactorPerKg: null,
    costFactorPerPortion: null,
  })
})
