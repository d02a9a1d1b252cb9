import { counted } from '../src/ui/counted.ts'
import { percentText, unitsOf } from '../src/ui/units.ts'

const [metric, imperial] = [unitsOf({ currency: 'EUR', weightSystem: 'metric' }), unitsOf({ currency: 'USD', weightSystem: 'imperial' })]
const plain = (text: string) => text.replace(/\s/g, ' ')

test('weights are written as the kitchen weighs', () => {
  expect([plain(metric.weight(12_505)), plain(imperial.weight(10_100))]).toEqual(['1 250.5 g', '2 lb 3.6 oz'])
  expect([plain(metric.grams(184.2)), plain(imperial.grams(180))]).toEqual(['184.2 g', '6.3 oz'])
})

test('a bare number is the kitchen’s unit; what says its own keeps it', () => {
  expect([metric.withUnit('184'), imperial.withUnit('6.5'), metric.withUnit('1.2 kg'), metric.withUnit(' ')]).toEqual([
    '184 g',
    '6.5 oz',
    '1.2 kg',
    ' ',
  ])
  expect([metric.read('184'), imperial.read('16')]).toMatchObject([
    { ok: true, tenths: 1840 },
    { ok: true, tenths: 4536 },
  ])
})

test('money by weight is per kg or per lb, and back without loss', () => {
  expect([metric.perUnit, imperial.perUnit]).toEqual(['kg', 'lb'])
  expect([metric.fromPerKg(31.4), imperial.perKgFrom(imperial.fromPerKg(31.4))]).toEqual([31.4, expect.closeTo(31.4, 10)])
  expect(plain(imperial.perWeight(22.046_226_218_5))).toBe('$10.00 / lb')
})

test('a price says what it is for, a case what it holds', () => {
  expect(plain(metric.price({ amount: 31.4, per: 'kg' }))).toBe('€31.40 / kg')
  expect(plain(metric.price({ amount: 10.9, per: 'each' }))).toBe('€10.90 / piece')
  expect(plain(metric.price({ amount: 60, per: 'case', count: 5, grams: 9000 }))).toBe('€60.00 / case of 5 pieces, 9 000 g')
})

test('percent has a minus that is one, and counts agree with their nouns', () => {
  expect([percentText(-1.25), percentText(80, 0)]).toEqual(['−1.3 %', '80 %'])
  expect([counted(1, 'run'), counted(0, 'run'), plain(counted(1200, 'loss', 'losses'))]).toEqual(['1 run', '0 runs', '1 200 losses'])
})
