import { catalog } from '../../catalog/sheets.ts'
import { readReference } from '../../core/test/reference.ts'
import { makeOrBuyRequest, pairPiecesRequest, portionsRequest, yieldTestRequest } from '../src/calc.ts'
import { catalogSheet } from '../src/cut-sheets.ts'
import { kitchenSettings, usualCutting, usualLimits } from '../src/kitchen.ts'
import { personCreate } from '../src/people.ts'
import { itemCreate } from '../src/prices.ts'
import { day, line, moment, note, price, weightEntry } from '../src/primitives.ts'

test('every cut sheet of the catalog is what the contract says, under a name of its own', () => {
  const sheets = catalog.map((entry) => catalogSheet.parse(entry))
  expect(new Set(sheets.map((sheet) => sheet.slug)).size).toBe(sheets.length)
  for (const { body } of sheets) {
    const typical = body.outputs.reduce((sum, output) => sum + output.typicalPct, 0)
    expect(typical).toBeGreaterThanOrEqual(96)
    expect(typical).toBeLessThanOrEqual(100)
    expect(body.cautions.some((caution) => caution.includes('Knife'))).toBe(true)
    const weighedAt = new Set(body.steps.flatMap((step) => step.outputs ?? []))
    expect([body.name, body.outputs.filter((output) => !weighedAt.has(output.key)).map((output) => output.key)]).toEqual([body.name, []])
    const words = body.cautions.join(' ').toLowerCase()
    if (body.animal === 'bird') expect([body.name, words.includes('raw poultry')]).toEqual([body.name, true])
    if (body.animal === 'fish') expect([body.name, words.includes('allergen')]).toEqual([body.name, true])
    if (body.steps.some((step) => /saw|cleaver/i.test(step.caution ?? '')))
      expect([body.name, /saw|chips/.test(words)]).toEqual([body.name, true])
  }
})

test.each([
  ['yield-test-tenderloin', yieldTestRequest],
  ['yield-test-bird-sales-value', yieldTestRequest],
  ['portions', portionsRequest],
  ['pair-pieces', pairPiecesRequest],
  ['make-or-buy-tenderloin', makeOrBuyRequest],
  ['make-or-buy-fish', makeOrBuyRequest],
])('the worked example %s is a request of the contract', (name, schema) => {
  const { input } = readReference<object, object>(name)
  expect(schema.parse(input)).toMatchObject(input)
})

const refused = (schema: { safeParse(value: unknown): { success: boolean } }, value: unknown) => !schema.safeParse(value).success

test('text of four-byte characters and of every script is taken; control characters are not', () => {
  expect(line(40).parse(' 🐟 Fischküche 魚 ')).toBe('🐟 Fischküche 魚')
  expect(refused(line(40), 'two\nlines')).toBe(true)
  expect(refused(line(40), 'bell\u0007')).toBe(true)
  expect(refused(line(40), '   ')).toBe(true)
  expect(refused(line(40), 'x'.repeat(10_000))).toBe(true)
  expect(note(40).parse('two\nlines')).toBe('two\nlines')
})

test('a weight says its unit', () => {
  expect(weightEntry.parse('1,25 kg')).toEqual({ tenths: 12_500, entered: '1,25 kg' })
  for (const text of ['1250', '', 1250, null, '9 t']) expect(refused(weightEntry, text)).toBe(true)
})

test('days and moments of another century are refused', () => {
  for (const text of ['1890-01-01', '2026-02-30', '3026-01-01', 'yesterday']) expect(refused(day, text)).toBe(true)
  for (const text of ['1890-01-01T00:00:00Z', '2999-01-01T00:00:00Z', '2026-01-01']) expect(refused(moment, text)).toBe(true)
})

test('only a case has a count or a weight, and it has one of them', () => {
  expect(refused(price, { amount: 10, per: 'case' })).toBe(true)
  expect(refused(price, { amount: 10, per: 'kg', count: 5 })).toBe(true)
  expect(refused(price, { amount: -1, per: 'kg' })).toBe(true)
  expect(price.parse({ amount: 10, per: 'case', grams: 5000 })).toEqual({ amount: 10, per: 'case', grams: 5000 })
})

test('a ready-cut item says what its portion weighs, and a fee is shared by a number of portions', () => {
  const ready = { id: '01a20a1c-f130-7508-9b1f-ac17bbd31e93', name: 'Steak', kind: 'ready-cut', animal: 'beef', againstId: null }
  expect(refused(itemCreate, { ...ready, readyCut: null })).toBe(true)
  expect(refused(itemCreate, { ...ready, readyCut: { portion: '180 g', feePerOrder: 12 } })).toBe(true)
  expect(refused(itemCreate, { ...ready, readyCut: { portion: '180 g', feePerOrder: 12, portionsPerOrder: 60 } })).toBe(false)
})

test('managers and leads sign in with a passphrase, a cook with a PIN that nobody tries first', () => {
  const person = { id: '01a20a1c-f130-7508-9b1f-ac17bbd31e93', name: 'Wren', secret: '4719' }
  expect(refused(personCreate, { ...person, role: 'cook' })).toBe(false)
  for (const role of ['manager', 'lead']) {
    expect(refused(personCreate, { ...person, role })).toBe(true)
    expect(refused(personCreate, { ...person, role, secret: 'four wet oars' })).toBe(false)
    expect(refused(personCreate, { ...person, role, secret: 'wren, wren, wren' })).toBe(true)
  }
  for (const secret of ['1234', '0000', '8765', '471', '471947194', 'four wet oars'])
    expect(refused(personCreate, { ...person, role: 'cook', secret })).toBe(true)
})

test('a kitchen’s currency is one that exists', () => {
  const settings = {
    currency: 'EUR',
    weightSystem: 'metric',
    labour: { ratePerHour: 19.5, onCostPct: 12 },
    disposalPerKg: 0,
    cutting: usualCutting,
    limits: usualLimits,
    scales: [],
  }
  expect(refused(kitchenSettings, settings)).toBe(false)
  expect(refused(kitchenSettings, { ...settings, currency: 'XQZ' })).toBe(true)
  expect(refused(kitchenSettings, { ...settings, currency: 'eur' })).toBe(true)
})
