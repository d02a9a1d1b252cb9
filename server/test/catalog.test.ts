import { type CutSheetBody, catalogSheet } from '@fleam/contract/cut-sheets'
import { catalog } from '../../catalog/sheets.ts'

const sheets = catalog.map((sheet) => catalogSheet.parse(sheet))
const named = sheets.map(({ slug, body }) => [slug, body] as const)
const wordsOf = ({ title, text, check = '', caution = '' }: CutSheetBody['steps'][number]) => `${title}. ${text} ${check} ${caution}`

/** Words of a step at which an edge goes through bone. */
const throughBone = /\bshears\b|\bsaw\b|cleaver|through (the )?(bones|ribs)\b/i
const notBone = /fins? off with shears|over the ribs, or through them/i

describe.each(named)('%s', (_slug, body) => {
  test('every tub is fed by a step, and what is to be weighed has a tub', () => {
    const fed = new Set(body.steps.flatMap((step) => step.outputs ?? []))
    expect([...fed].sort()).toEqual(body.outputs.map(({ key }) => key).sort())
    const keys = body.outputs.map(({ key, name }) => `${key} ${name}`.toLowerCase()).join(' ')
    for (const step of body.steps) {
      if (/weigh the liquid|weigh it; pat the meat dry/i.test(step.text))
        expect([step.title, keys.includes('liquid')]).toEqual([step.title, true])
      if (/weigh frame and fat apart|weigh the fat/i.test(wordsOf(step)))
        expect([step.title, keys.includes('fat')]).toEqual([step.title, true])
    }
  })

  test('the minutes of its steps come to what it says an item takes', () => {
    const minutes = body.steps.reduce((sum, step) => sum + (step.minutes ?? 0), 0)
    expect(minutes).toBeGreaterThanOrEqual(body.minutes.low)
    expect(minutes).toBeLessThanOrEqual(body.minutes.high)
  })

  test('where bone is cut the tool for it lies ready, and its caution stands', () => {
    const steps = body.steps.filter((step) => throughBone.test(wordsOf(step).replace(notBone, '')))
    const station = body.station.join(' ')
    for (const step of steps) {
      expect([step.title, /shears|saw|cleaver|heavy knife/.test(station)]).toEqual([step.title, true])
      expect([step.title, step.caution ?? '']).not.toEqual([step.title, ''])
    }
  })

  test('raw poultry, fish, game, rolled and stuffed meat carry their cautions', () => {
    const cautions = body.cautions.join(' ')
    expect(cautions).toMatch(/Knife/)
    expect(cautions).toMatch(/Cold chain/)
    if (body.animal === 'bird') expect(cautions).toMatch(/Raw poultry/)
    if (body.animal === 'fish') expect(cautions).toMatch(/allergen/)
    for (const step of body.steps) {
      const isRolled = /\broll (it|up)|\broll(ed)? it|\bRoll and\b|, rolled/i.test(wordsOf(step)) && /tie|film|pin/i.test(step.text)
      if (isRolled) expect([step.title, step.caution ?? '']).toEqual([step.title, expect.stringMatching(/rolled|stuffed|bonded|powder/i)])
      expect(step.text).not.toMatch(/\brinse (each|the) piece|, rinse, and/i)
    }
  })

  test('pieces that come as they are have no target that their animal cannot give', () => {
    for (const { key, portion, countPerItem, lowPct, highPct } of body.outputs) {
      if (!portion || !countPerItem || portion.pieces) continue
      expect([key, (body.weightKg.low * 10 * lowPct) / countPerItem >= portion.targetGrams / 2]).toEqual([key, true])
      expect([key, (body.weightKg.high * 10 * highPct) / countPerItem <= portion.targetGrams * 2]).toEqual([key, true])
    }
  })
})

test('mains that cannot take each other’s place are of different kinds, and no other output has one', () => {
  const kindsOf = (slug: string) =>
    sheets
      .find((sheet) => sheet.slug === slug)
      ?.body.outputs.filter(({ role }) => role === 'main')
      .map(({ kind }) => kind)
  expect(kindsOf('beef-tenderloin-traditional')).toEqual(['steak', 'roast'])
  expect(new Set(kindsOf('top-sirloin-seamed')).size).toBe(3)
  expect(kindsOf('turkey-parts')).toEqual(['breast', 'thigh'])
  expect(new Set(kindsOf('chicken-saute')).size).toBe(1)
  for (const { body } of sheets) for (const { role, kind } of body.outputs) if (role !== 'main') expect(kind).toBeUndefined()
})

test('oily fish has a sheet of its own, apart from white fish', () => {
  const kinds = sheets.flatMap(({ slug, body }) => (body.fishKinds ?? []).map(({ name }) => [name, slug]))
  expect(kinds.filter(([name]) => name === 'Mackerel')).toEqual([['Mackerel', 'mackerel-fillets']])
})
