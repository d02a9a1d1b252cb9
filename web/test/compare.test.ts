import { makeOrBuy } from '@fleam/core/compare/make-or-buy'
import { inputOfCase, quoteInput, valueInput, withSharesAlong } from '@fleam/core/compare/portion-case'
import { formatMoney } from '@fleam/core/quantities/format-money'
import { expectation, priorOfRange } from '@fleam/core/yield-book/expectation'
import { bodyOf, linkTo } from '../src/features/compare/body-link.ts'
import { costsShown } from '../src/features/compare/costs-shown.ts'
import {
  drawnPortion,
  firstBody,
  type OpenPortion,
  openPortion,
  partsOf,
  quotesFor,
  type Sources,
  sheetsFor,
} from '../src/features/compare/open-portion.ts'
import { effectsOf } from '../src/features/compare/price-effects.ts'
import { groupsOf } from '../src/features/compare/try-inputs.ts'
import { waysInParts } from '../src/features/compare/ways.ts'
import { howSure, reasonOf, shortName, testsText, turnsOf } from '../src/features/compare/words.ts'
import { entryOf, itemOf, readyCutOf, sheetOf, sourcesOf } from './kitchen.ts'

const supremes = sheetOf('chicken-supremes-and-legs')
const pieces = sheetOf('chicken-eight-pieces')
const flat = sheetOf('chicken-spatchcock')
const supreme = readyCutOf('Supreme', 'bird', 220, { amount: 13.2, per: 'kg' })
const leg = readyCutOf('Leg', 'bird', 260, { amount: 5.3, per: 'kg' })
const chicken = itemOf('Chicken, whole', 'bird', { amount: 46.5, per: 'case', count: 5 }, { againstId: supreme.id })
const kitchen = sourcesOf({
  items: [chicken, supreme, leg],
  sheets: [supremes, pieces, flat],
  book: [entryOf(chicken, supremes, 30), entryOf(chicken, pieces, 4)],
  ways: [
    { itemId: chicken.id, cutSheetId: supremes.id, shown: true, version: 1, parts: { leg: { readyCutId: leg.id, ownPerKg: 4 } } },
    { itemId: chicken.id, cutSheetId: flat.id, shown: true, version: 1, parts: {} },
  ],
})

function opened(sources: Sources = kitchen, changes: object = {}): OpenPortion {
  const body = firstBody(sources, chicken)
  const open = openPortion(sources, { ...(body as NonNullable<typeof body>), ...changes })
  if ('missing' in open) throw new Error(open.missing)
  return open
}

describe('what is compared', () => {
  test('starts from the way that is cut most and the quote that it stands against', () => {
    expect(sheetsFor(kitchen, chicken).map((sheet) => sheet.slug)).toEqual([supremes.slug, pieces.slug, flat.slug])
    expect(firstBody(kitchen, chicken)).toMatchObject({ cutSheetId: supremes.id, outputKey: 'supreme', readyCutIds: [supreme.id] })
  })

  test('takes its figures from the tests, its served weight from the quote', () => {
    const { portionCase, expected } = opened()
    expect(expected.tests).toBe(30)
    // two supremes a bird, however heavy
    expect(portionCase.inputs).toMatchObject({ portionGrams: 250, itemsPerBatch: 4, [valueInput('leg')]: 5.3, [valueInput('fat')]: 1.4 })
    expect(portionCase.inputs.portionsPerWeek).toBe(20)
    const { portionGrams } = withSharesAlong(portionCase, { ...portionCase.inputs, itemGrams: (portionCase.inputs.itemGrams ?? 0) * 1.1 })
    expect(portionGrams).toBeCloseTo(275, 9)
  })

  test('plates of a breast and a leg piece are four a bird, and both sorts carry the cost', () => {
    const saute = sheetOf('chicken-saute')
    const sources = sourcesOf({ items: [chicken, supreme], sheets: [saute], book: [entryOf(chicken, saute, 9)] })
    const body = firstBody(sources, chicken) as NonNullable<ReturnType<typeof firstBody>>
    const open = openPortion(sources, body) as OpenPortion
    expect(open.name).toBe('Plates of breast pieces and leg pieces')
    expect(open.portionCase.inputs).toMatchObject({ portionGrams: (2000 * 0.65) / 4, portionsPerWeek: 40, overServedPct: 0 })
    expect(makeOrBuy(inputOfCase(open.portionCase, open.portionCase.inputs, supreme.id, false)).make.portionsPerItem).toBeCloseTo(
      4 * (1 - inputOfCase(open.portionCase, open.portionCase.inputs, supreme.id, false).lossPct / 100),
      9,
    )
  })

  test('what nothing says a value of is worth nothing, not something guessed', () => {
    expect(partsOf(kitchen, chicken, flat, opened().expected).map((part) => part.marketPerKg)).toEqual([null, null])
    expect(opened().portionCase.inputs[valueInput('wing')]).toBe(0)
    expect(quotesFor(kitchen, chicken, supremes, 'leg').map((item) => item.name)).toEqual(['Leg', 'Supreme'])
  })

  test('mains of a sheet that shares by value are credited; together, their yield is one', () => {
    const turkey = sheetOf('turkey-parts')
    const bird = itemOf('Turkey', 'bird', { amount: 6, per: 'kg' }, { againstId: supreme.id })
    const sources = sourcesOf({ items: [bird, supreme], sheets: [turkey], book: [entryOf(bird, turkey, 12, {}, 7000)] })
    const body = firstBody(sources, bird) as NonNullable<ReturnType<typeof firstBody>>
    expect(body.mains).toBe('credited')
    const yieldOf = (mains: typeof body.mains) => (openPortion(sources, { ...body, mains }) as OpenPortion).portionCase.inputs.yieldPct
    expect(yieldOf('together')).toBeCloseTo(43, 1)
    expect(yieldOf('credited')).toBeCloseTo(43, 1)
    expect((openPortion(sources, body) as OpenPortion).unvalued).toEqual(['Thighs, boned'])
    sources.ways = [
      { itemId: bird.id, cutSheetId: turkey.id, shown: true, version: 1, parts: { thigh: { readyCutId: null, ownPerKg: 7 } } },
    ]
    expect(yieldOf('credited')).toBeCloseTo(30, 1)
    const { portionCase } = openPortion(sources, { ...body, mains: 'together' }) as OpenPortion
    expect(portionCase.portionShare).toBeCloseTo(30 / 43, 3)
    expect((openPortion(sources, body) as OpenPortion).portionCase.inputs[valueInput('thigh')]).toBe(7)
  })

  test.each([
    ['no price', { items: [{ ...chicken, latestQuote: null }, supreme] }, 'has no price yet'],
    ['an item that is gone', { items: [supreme] }, 'no longer in the kitchen’s lists'],
  ])('%s is said', (_what, changes, sentence) => {
    const body = firstBody(kitchen, chicken) as NonNullable<ReturnType<typeof firstBody>>
    expect(openPortion({ ...kitchen, ...changes }, body)).toMatchObject({ missing: expect.stringContaining(sentence) })
  })

  test('an item that was never cut is compared with nothing', () => {
    expect(firstBody(sourcesOf({ items: [chicken], sheets: [supremes] }), chicken)).toBeUndefined()
  })

  test('an address that asks for batches of nothing is taken for batches of one', () => {
    expect(opened(kitchen, { changed: { itemsPerBatch: 0 } }).expected.minutesPerItem.mean).toBeGreaterThan(0)
  })

  test('its draws are seeded, and stand against every quote', () => {
    const open = opened(kitchen, { readyCutIds: [supreme.id, leg.id] })
    const drawn = drawnPortion(open, open.portionCase.inputs, { idleHands: false })
    expect(drawn?.quotes).toHaveLength(2)
    const { degreesOfFreedom } = open.portionCase.yieldExpected
    expect(drawn?.uncertainty).toMatchObject({ draws: 5000, degreesOfFreedom })
    expect(drawnPortion(opened(kitchen, { readyCutIds: [] }), {}, { idleHands: false })).toBeUndefined()
  })
})

test('an address holds a whole comparison, and nonsense none', () => {
  const body = firstBody(kitchen, chicken) as NonNullable<ReturnType<typeof firstBody>>
  const changed = { ...body, changed: { [quoteInput(supreme.id, 'amount')]: 14.25, yieldPct: 23 } }
  const search = new URLSearchParams(linkTo(changed).split('?')[1])
  expect(bodyOf(search.get('of'))).toEqual(changed)
  for (const text of [null, '', '{"itemId', '[]', '{}']) expect(bodyOf(text)).toBeUndefined()
})

test('every input of a case can be tried out, once, and its figure lies on its slider', () => {
  const { portionCase, quotes } = opened()
  const base = { ...portionCase.inputs, makePerPack: 5, makeMinimum: 0, buyPerPack: 1, buyMinimum: 0 }
  const specs = groupsOf(portionCase, quotes, base, 'Yield').flatMap((group) => group.inputs)
  expect(new Set(specs.map((spec) => spec.name)).size).toBe(specs.length)
  expect(specs.map((spec) => spec.name).sort()).toEqual(Object.keys(base).sort())
  for (const { name, low, high } of specs) {
    const value = base[name as keyof typeof base] ?? Number.NaN
    expect([name, low <= value && value <= high]).toEqual([name, true])
  }
})

describe('words', () => {
  const { portionCase } = opened()
  const result = makeOrBuy(inputOfCase(portionCase, portionCase.inputs, supreme.id, false))
  const share = expectation(priorOfRange({ low: 22, typical: 25, high: 28 }), { n: 9, mean: 25, variance: 1 })
  const money = (amount: number) => formatMoney(amount, 'EUR')
  const given = { result, itemName: 'Chicken, whole', priceRisePct: 18.7, share, averageHalf: 0.3, shares: [24, 25, 26], money }

  test('cut here: how far the price can rise, and what the tests say', () => {
    expect(reasonOf({ ...given, verdict: 'cut-here', result: { ...result, breakEven: { ...result.breakEven, yieldPct: 24.5 } } })).toBe(
      'Chicken can rise 18 % before ready-cut is cheaper, and 1 of 3 tests fell below the 24.5 % at which the answer turns.',
    )
    expect(reasonOf({ ...given, verdict: 'cut-here', shares: undefined, share: { ...share, tests: 0 } })).toContain(
      'There is no test of it yet',
    )
  })

  test('buy: the yield that would be needed, or that none would do', () => {
    const at = (yieldPct: number | null) =>
      reasonOf({ ...given, verdict: 'buy', result: { ...result, breakEven: { ...result.breakEven, yieldPct } } })
    expect(at(31)).toBe('Cutting would need a yield of 31.0 %; the best of 3 tests gave 26.0 %.')
    expect(at(null)).toBe('No yield would make cutting cheaper at these prices.')
  })

  test('too close: which is cheaper on average, and what would settle it', () => {
    const at = (savingPerPortion: number) => reasonOf({ ...given, verdict: 'too-close', result: { ...result, savingPerPortion } })
    expect(at(-0.2)).toMatch(/^On average buying is €0\.20 a portion cheaper\. About \d+ more tests like these would settle it\.$/)
    expect(at(0)).toContain('cost the same for all that can be known')
  })

  test('net below nothing is said first', () => {
    const free = { ...result, make: { ...result.make, netCost: -3 } }
    expect(reasonOf({ ...given, verdict: 'cut-here', result: free })).toContain('the portions come free')
  })

  test('where it turns goes the way that the answer lies', () => {
    const turns = (saving: number) =>
      turnsOf({
        result: { ...result, savingPerPortion: saving, breakEven: { itemPrice: 40, buyPrice: null, yieldPct: 22, minutesPerItem: 9.25 } },
        itemName: 'Chicken, whole',
        itemPrice: money,
        buyPrice: money,
        today: { itemPrice: 46.5, buyPrice: 13.2, yieldPct: 25, minutes: 12 },
        basis: testsText(1),
      }).map(({ label, value, today }) => `${label}: ${value} (${today})`)
    expect(turns(1)).toEqual([
      'Chicken dearer than: €40.00 (today €46.50)',
      'Ready-cut cheaper than: turns nothing (today €13.20)',
      'Yield under: 22.0 % (25.0 %, from 1 test)',
      'Knife time over: 9.3 min (12 min an item, from 1 test)',
    ])
    expect(turns(-1)[0]).toContain('Chicken cheaper than')
  })

  test.each([
    ['cut-here', 0.999, 0.71, 'on average, sure to over 99 %; the next loin: 7\u00a0of\u00a010'],
    ['cut-here', 0.934, 0.58, 'on average, sure to 93 %; the next loin: 6\u00a0of\u00a010'],
    ['buy', 0.07, 0.31, 'on average, sure to 93 %; the next loin: 7\u00a0of\u00a010'],
    ['too-close', 0.54, 0.52, '54 % sure that cutting is cheaper on average; the next loin: 5\u00a0of\u00a010'],
  ] as const)('%s at %f and %f is “%s”', (verdict, onAverage, next, words) =>
    expect(howSure(verdict, { onAverage, next }, 'Loin')).toBe(words),
  )

  test('an item goes by what stands before its first comma', () => expect(shortName('Salmon, gutted, head on')).toBe('Salmon'))
})

describe('ways in parts', () => {
  test('the one that leaves most comes first; an item without a price has none', () => {
    const ways = waysInParts(kitchen, chicken, 'market')
    expect(ways).toHaveLength(3)
    const gains = ways.map((way) => way.value.gain)
    expect([...gains].sort((a, b) => b - a)).toEqual(gains)
    expect(ways[0]?.perCase).toBeCloseTo((ways[0]?.value.gain ?? 0) * 5, 9)
    expect(waysInParts(kitchen, { ...chicken, latestQuote: null }, 'market')).toEqual([])
  })

  test('idle hands cost nothing, by-products at nothing are worth no more', () => {
    const of = (sources: Sources, choice: 'own' | 'nothing') =>
      waysInParts(sources, chicken, choice).find((way) => way.sheet === supremes)?.value ?? { labour: -1, value: -1 }
    const idle = { ...kitchen, settings: { ...kitchen.settings, cutting: { ...kitchen.settings.cutting, idleHands: true } } }
    expect(of(idle, 'own').labour).toBe(0)
    expect(of(kitchen, 'nothing').value).toBeLessThan(of(kitchen, 'own').value)
  })
})

describe('what a price move does', () => {
  const effects = (itemId: string, movePct: number, sources = kitchen) => effectsOf({ itemId, movePct }, sources)

  test('to what is bought: every portion cut from it, by what it was before', () => {
    const found = effects(chicken.id, 10).find(({ name }) => name === 'Chicken: Supremes')
    const open = opened()
    const at = (itemPrice: number) =>
      makeOrBuy(inputOfCase(open.portionCase, { ...open.portionCase.inputs, itemPrice }, supreme.id, false)).make
    expect(found?.after).toBeCloseTo(at(46.5).costPerPortion, 9)
    expect(found?.before).toBeCloseTo(at(46.5 / 1.1).costPerPortion, 9)
    expect(found?.perWeek).toBeGreaterThan(0)
  })

  test('to what it is set against: the other side; to a part beside it: the credit', () => {
    expect(effects(supreme.id, 10)[0]).toMatchObject({ name: 'Chicken: Supremes, ready-cut' })
    const credited = effects(leg.id, 25)[0]
    expect(credited?.name).toBe('Chicken: Supremes')
    expect(credited?.after).toBeLessThan(credited?.before ?? 0)
  })

  test('a move that turns the answer says so; one that nothing stands on does nothing', () => {
    expect(effects(chicken.id, 120).some(({ turned }) => turned === 'Ready-cut is the cheaper one now')).toBe(true)
    expect(effects('nobody', 50)).toEqual([])
  })
})

test('the spread of costs is drawn with the quotes that lie near it; one far off is put at the edge', () => {
  const bins = [
    { from: 9, to: 9.5, count: 3 },
    { from: 9.5, to: 10, count: 5 },
  ]
  const near = costsShown({ bins }, [{ cost: 11 }])
  expect([near.low < 9, near.high > 11]).toEqual([true, true])
  const far = costsShown({ bins }, [{ cost: 40 }])
  expect([far.low, far.high]).toEqual([near.low, expect.closeTo(10.06, 6)])
})
