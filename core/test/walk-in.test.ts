import { type FollowOnInput, followOnCost } from '../src/follow-ons/follow-on-cost.ts'
import { keptKindOf, usualKeeping } from '../src/walk-in/keeping.ts'
import { daysAfter, daysBetween, frozen, thawed, useBy } from '../src/walk-in/use-by.ts'
import { expectFields, readReference } from './reference.ts'

test.each(['follow-on-galantine', 'follow-on-stock'])('%s', (name) => {
  const { input, expected } = readReference<FollowOnInput, object>(name)
  expectFields(followOnCost(input), expected)
})

describe('what a follow-on costs', () => {
  const labour = { minutes: 30, ratePerHour: 20, onCostPct: 0 }
  const links = (method: FollowOnInput['method'], valuePerUnit?: number): FollowOnInput => ({
    inputs: [{ id: 'trim', grams: 2000, cost: 8 }],
    added: [{ name: 'fat', grams: 500, cost: 2 }],
    labour,
    method,
    outputs: [
      { id: 'links', role: 'main', amount: 24, unit: 'piece', count: 12, valuePerUnit },
      { id: 'left', role: 'byproduct', amount: 150, unit: 'g', valuePerUnit: 4 },
    ],
  })

  test('by the piece: the cost is all of it, less what is credited, over the pieces', () => {
    const cost = followOnCost(links('byproduct-credit'))
    // 8 + 2 + half an hour at 20, less 0.15 kg at 4
    expect(cost).toMatchObject({ carried: 10, gross: 20, net: 19.4, yieldPct: null })
    expect(cost.outputs[0]?.costPerUnit).toBeCloseTo(19.4 / 24, 12)
    expect(cost.outputs[0]?.costPerPortion).toBeCloseTo(19.4 / 12, 12)
  })

  test('what is shared is what there was: nothing is lost between the outputs', () => {
    for (const method of ['byproduct-credit', 'sales-value', 'weight'] as const) {
      const { gross, outputs } = followOnCost(links(method, 1.5))
      expect(outputs.reduce((sum, { cost }) => sum + cost, 0)).toBeCloseTo(gross, 9)
    }
  })

  test.each([
    ['inputs', { inputs: [] }],
    ['outputs', { outputs: [] }],
    ['outputs.1.unit', { method: 'weight' as const, outputs: [main('a', 'g'), main('b', 'ml')] }],
    ['outputs.0.valuePerUnit', { method: 'sales-value' as const, outputs: [main('a', 'piece')] }],
  ])('refuses by %s', (field, change) => {
    expect(() => followOnCost({ ...links('weight'), ...change })).toThrow(expect.objectContaining({ field }))
  })

  function main(id: string, unit: 'g' | 'ml' | 'piece') {
    return { id, role: 'main' as const, amount: 10, unit }
  }
})

describe('how long a lot keeps', () => {
  const today = '2026-03-14'

  test('days are calendar days, whatever the clocks do', () => {
    expect([daysAfter('2026-03-28', 2), daysAfter('2026-03-01', -1)]).toEqual(['2026-03-30', '2026-02-28'])
    expect(daysBetween('2026-03-28', '2026-03-30')).toBe(2)
  })

  test('the house’s days, never past what it was made of or what its box says', () => {
    expect(useBy('raw cuts', today, usualKeeping)).toBe('2026-03-19')
    expect(useBy('raw cuts', today, usualKeeping, { madeOf: ['2026-03-17', '2026-03-16'], printed: ['2026-03-18'] })).toBe('2026-03-16')
    expect(useBy('stock', today, usualKeeping, { madeOf: ['2026-03-15'] })).toBe('2026-03-15')
    const anew = { ...usualKeeping, cookedBeginsAnew: true }
    expect(useBy('stock', today, anew, { madeOf: ['2026-03-15'] })).toBe('2026-03-18')
    expect(useBy('grind and sausage', today, anew, { madeOf: ['2026-03-15'] })).toBe('2026-03-15')
  })

  test('freezing keeps the days that are left, thawing gives the house’s and no more than those', () => {
    const fresh = { state: 'chilled' as const, useBy: '2026-03-17', chilledDaysLeft: null }
    const cold = frozen(fresh, 'raw cuts', today, usualKeeping)
    expect(cold).toEqual({ state: 'frozen', useBy: '2026-07-12', chilledDaysLeft: 3 })
    expect(thawed(cold, '2026-05-01', { ...usualKeeping, thawedDays: 5 })).toEqual({
      state: 'thawed',
      useBy: '2026-05-04',
      chilledDaysLeft: null,
    })
    const lastDay = frozen({ ...fresh, useBy: today }, 'raw cuts', today, usualKeeping)
    expect(thawed(lastDay, '2026-05-01', usualKeeping).useBy).toBe('2026-05-01')
    expect(thawed(cold, '2026-07-12', usualKeeping).useBy).toBe('2026-07-12')
  })

  test.each([
    [
      'frozen twice',
      () => frozen({ state: 'frozen', useBy: today, chilledDaysLeft: 1 }, 'raw cuts', today, usualKeeping),
      'frozen already',
    ],
    [
      'frozen again',
      () => frozen({ state: 'thawed', useBy: today, chilledDaysLeft: null }, 'raw cuts', today, usualKeeping),
      'not frozen again',
    ],
    [
      'frozen late',
      () => frozen({ state: 'chilled', useBy: '2026-03-13', chilledDaysLeft: null }, 'stock', today, usualKeeping),
      'past its date',
    ],
    ['thawed twice', () => thawed({ state: 'thawed', useBy: today, chilledDaysLeft: null }, today, usualKeeping), 'thawed already'],
    ['thawed unfrozen', () => thawed({ state: 'chilled', useBy: today, chilledDaysLeft: null }, today, usualKeeping), 'not frozen'],
    ['thawed late', () => thawed({ state: 'frozen', useBy: '2026-03-13', chilledDaysLeft: 2 }, today, usualKeeping), 'frozen date was'],
  ])('refuses what is %s', (_what, work, words) => {
    expect(work).toThrow(words)
  })

  test('what comes off a board counts as what it is', () => {
    expect(keptKindOf('bird', 'byproduct', 'Carcass and bones')).toBe('bones and carcasses')
    expect(keptKindOf('bird', 'main', 'Breast fillets')).toBe('raw poultry')
    expect(keptKindOf('beef', 'byproduct', 'Lean trim')).toBe('grind and sausage')
    expect(keptKindOf('fish', 'main', 'Fillets')).toBe('raw fish')
    expect(keptKindOf('lamb', 'main', 'Frenched rack')).toBe('raw cuts')
  })
})
