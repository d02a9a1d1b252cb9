import fc from 'fast-check'
import { formatWeight } from '../src/quantities/format-weight.ts'
import { parseWeight } from '../src/quantities/parse-weight.ts'

test.each([
  ['184', 1840, '184 g'],
  ['184 g', 1840, '184 g'],
  [' 184.5g ', 1845, '184.5 g'],
  ['1,25 kg', 12_500, '1,25 kg'],
  ['1.25kg', 12_500, '1.25 kg'],
  ['1 250 g', 12_500, '1250 g'],
  ['.5 kg', 5000, '0.5 kg'],
  ['2 lb 3.5 oz', 10_064, '2 lb 3.5 oz'],
  ['2lb3.5oz', 10_064, '2 lb 3.5 oz'],
  ['2 lb 3.5', 10_064, '2 lb 3.5 oz'],
  ['1 LB', 4536, '1 lb'],
  ['6.5 oz', 1843, '6.5 oz'],
  ['12,500 g', 125_000, '12500 g'],
  ['12.500', 125_000, '12500 g'],
  ['1,250.5 g', 12_505, '1250.5 g'],
  ['1.234,5', 12_345, '1234,5 g'],
  ['1.250 kg', 12_500, '1.250 kg'],
  ['0,500 kg', 5000, '0,500 kg'],
])('%s is read', (text, tenths, entered) => {
  expect(parseWeight(text, 'g')).toEqual({ ok: true, tenths, entered })
})

test.each([
  ['', 'Type a weight.'],
  ['0', 'The smallest weight is 0.1 g.'],
  ['0.05 g', 'Weights go down to 0.1 g: leave out the finer figures.'],
  ['-5 g', 'A weight cannot be less than nothing.'],
  ['9 t', '“t” is not a unit here: use g, kg, lb or oz.'],
  ['9000 kg', 'That is over 500 kg: check the figure and its unit.'],
  ['1.2.3', 'There are two decimal signs: write 1.25 kg or 1,25 kg.'],
  ['1,250,5 g', 'There are two decimal signs: write 1.25 kg or 1,25 kg.'],
  ['1,250 oz', 'Three figures after the sign could be thousands: leave out the sign, or write fewer.'],
  ['0.125 g', 'Weights go down to 0.1 g: leave out the finer figures.'],
  ['12,50.5 g', 'There are two decimal signs: write 1.25 kg or 1,25 kg.'],
  ['12 ml', '“ml” is not a unit here: use g, kg, lb or oz.'],
  ['2 kg 300 g', 'Only whole pounds and ounces go together, such as 2 lb 3.5 oz.'],
  ['2.5 lb 3 oz', 'Only whole pounds and ounces go together, such as 2 lb 3.5 oz.'],
  ['12 34', 'Write a weight such as 184 g, 1.25 kg or 2 lb 3.5 oz.'],
  ['steak', 'Write a weight such as 184 g, 1.25 kg or 2 lb 3.5 oz.'],
  ['🥩 5 g', 'Write a weight such as 184 g, 1.25 kg or 2 lb 3.5 oz.'],
  ['Infinity', 'Write a weight such as 184 g, 1.25 kg or 2 lb 3.5 oz.'],
  ['1e3', '“e” is not a unit here: use g, kg, lb or oz.'],
  ['9'.repeat(10_000), 'A weight has at most 40 characters, such as 2 lb 3.5 oz.'],
])('%.12s is refused', (text, message) => {
  expect(parseWeight(text, 'g')).toEqual({ ok: false, message })
})

test('a bare number without a unit of the kitchen is refused', () => {
  expect(parseWeight('184')).toEqual({ ok: false, message: 'Say the unit too: g, kg, lb or oz.' })
})

test('what is written in grams is read back as it was', () => {
  fc.assert(
    fc.property(fc.integer({ min: 1, max: 5_000_000 }), (tenths) => {
      const parsed = parseWeight(formatWeight(tenths, 'metric'))
      return parsed.ok && parsed.tenths === tenths
    }),
  )
})

test('what is written in pounds and ounces is read back to the tenth of an ounce', () => {
  fc.assert(
    fc.property(fc.integer({ min: 100, max: 4_990_000 }), (tenths) => {
      const parsed = parseWeight(formatWeight(tenths, 'imperial'))
      return parsed.ok && Math.abs(parsed.tenths - tenths) <= 15
    }),
  )
})
