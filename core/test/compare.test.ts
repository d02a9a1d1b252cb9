import fc from 'fast-check'
import { type MakeOrBuyInput, makeOrBuy } from '../src/compare/make-or-buy.ts'
import { foodCostPct, menuPriceFor } from '../src/compare/menu.ts'
import {
  inputOfCase,
  movedInputs,
  openCase,
  quoteInput,
  shareInput,
  spreadsOfAverage,
  spreadsOfCase,
  valueInput,
  withSharesAlong,
} from '../src/compare/portion-case.ts'
import { stepFromLog } from '../src/compare/step-from-log.ts'
import { stepWorth } from '../src/compare/step-worth.ts'
import { tornado } from '../src/compare/tornado.ts'
import { binCosts, drawMakeCosts, drawMakeCostsInSteps, probabilitiesAgainst } from '../src/compare/uncertainty.ts'
import { type Part, valueInParts } from '../src/compare/value-in-parts.ts'
import { furtherTests, verdictOf } from '../src/compare/verdict.ts'
import { orderFor, weekInPacks } from '../src/compare/week-in-packs.ts'
import { priceMove } from '../src/prices/price-move.ts'
import { priceOfYear } from '../src/prices/price-of-year.ts'
import { guessDecimalSign, parseAmount } from '../src/quantities/parse-amount.ts'
import { gramsPerPound } from '../src/quantities/weight.ts'
import { noSample } from '../src/statistics/sample.ts'
import { studentTCdf } from '../src/statistics/student-t.ts'
import { expectCut } from '../src/yield-book/expected-cut.ts'
import { noMinutes } from '../src/yield-book/learning.ts'
import { noRuns, noShares } from '../src/yield-book/share-sums.ts'
import { readReference } from './reference.ts'

const { input: loin } = readReference<MakeOrBuyInput, object>('make-or-buy-tenderloin')
const uncertainty = { yieldSdPct: 3, minutesSd: 3, itemGramsSd: 220, degreesOfFreedom: 9, draws: 2000, seed: 7 }

describe('draws', () => {
  test('a cost drawn is the cost that the certain formula gives for what was drawn', () => {
    const costs = drawMakeCosts(loin, { draws: 3, seed: 1, itemPrice: { low: 25, high: 25 } })
    const certain = makeOrBuy({ ...loin, item: { ...loin.item, price: { ...loin.item.price, amount: 25 } } })
    expect(costs[1]).toBeCloseTo(certain.make.costPerPortion, 10)
  })

  test('in steps or at once, they are the same; each step says how far it is', () => {
    const steps = drawMakeCostsInSteps(loin, uncertainty, 500)
    const seen: number[] = []
    let result = steps.next()
    while (!result.done) {
      seen.push(result.value)
      result = steps.next()
    }
    expect(seen).toEqual([500, 1000, 1500])
    expect(result.value).toEqual(drawMakeCosts(loin, uncertainty))
  })

  test('all but the outermost draws are in a bin, and a dearer quote is never the safer one', () => {
    const costs = drawMakeCosts(loin, uncertainty)
    expect(binCosts(costs, 30).reduce((sum, bin) => sum + bin.count, 0)).toBe(1980)
    expect(binCosts(drawMakeCosts(loin, { draws: 5, seed: 1 }), 30)).toHaveLength(1)
    const quotes = [8, 9, 9.5, 10, 12].map((amount) => ({ ...loin.buy, price: { amount, per: 'each' as const } }))
    const found = probabilitiesAgainst(costs, quotes, loin.portionGrams)
    expect([...found].sort((a, b) => a - b)).toEqual(found)
  })
})

describe('verdict', () => {
  test.each([
    [0.9, 'cut-here'],
    [0.89, 'too-close'],
    [0.11, 'too-close'],
    [0.1, 'buy'],
  ] as const)('sure to %f is %s', (probability, verdict) => expect(verdictOf(probability)).toBe(verdict))

  test('the fewest tests that settle it: one fewer would not', () => {
    const saving = { mean: 0.2, sd: 0.3, weight: 7, degreesOfFreedom: 7 }
    const needed = furtherTests(saving) ?? 0
    const probabilityAfter = (more: number) =>
      studentTCdf(saving.mean / (saving.sd * Math.sqrt(7 / (7 + more))), saving.degreesOfFreedom + more)
    expect(needed).toBeGreaterThan(3)
    expect(verdictOf(probabilityAfter(needed))).toBe('cut-here')
    expect(verdictOf(probabilityAfter(needed - 1))).toBe('too-close')
    expect(furtherTests({ ...saving, mean: -0.2 })).toBe(needed)
    expect(furtherTests({ ...saving, mean: 0.3 })).toBeLessThan(needed)
    expect(furtherTests({ ...saving, mean: 3 })).toBe(0)
    expect(furtherTests({ ...saving, mean: 0 })).toBeNull()
  })
})

test('what moves it most comes first, and a dearer loin makes a dearer steak', () => {
  const bars = tornado(loin, [
    { input: 'minutes', low: 20, high: 24 },
    { input: 'item-price', low: 24, high: 36 },
    { input: 'yield', low: 58, high: 64 },
    { input: 'item-weight', low: 2700, high: 3200 },
    { input: 'side-cuts', low: 2, high: 8 },
  ])
  expect(bars[0]?.input).toBe('item-price')
  const at = (input: string) => bars.find((bar) => bar.input === input) ?? { atLow: 0, atHigh: 0 }
  expect(at('item-price').atHigh).toBeGreaterThan(at('item-price').atLow)
  expect(at('yield').atHigh).toBeLessThan(at('yield').atLow)
  expect(at('side-cuts').atHigh).toBeLessThan(at('side-cuts').atLow)
})

describe('a week in whole packs', () => {
  const sides = {
    make: { perPack: 1, minimum: 0, portionsPerUnit: 9.9, costPerUnit: 95 },
    buy: { perPack: 20, minimum: 40, portionsPerUnit: 1, costPerUnit: 11 },
  }

  test('what is left is used: the week pays for what it serves; lost: for what came', () => {
    const used = weekInPacks({ portions: 130, leftOver: 'used', ...sides })
    expect(used.buy).toEqual({ needed: 130, ordered: 140, portionsLeft: 10, cost: 1430 })
    expect(used.make.ordered).toBe(14)
    expect(weekInPacks({ portions: 130, leftOver: 'lost', ...sides }).buy.cost).toBe(1540)
  })

  test('whatever the packs, enough comes, in whole packs, and less than one pack too many', () => {
    const count = fc.integer({ min: 1, max: 60 })
    fc.assert(
      fc.property(fc.double({ min: 0.01, max: 900, noNaN: true }), count, (needed, perPack) => {
        const ordered = orderFor(needed, { perPack, minimum: 0 })
        expect(ordered % perPack).toBe(0)
        expect(ordered).toBeGreaterThanOrEqual(needed - 1e-6)
        expect(ordered - needed).toBeLessThan(perPack + 1e-6)
      }),
    )
  })

  test('the least order counts, an exact fit needs no pack more, and nothing needs nothing', () => {
    expect(orderFor(12, { perPack: 20, minimum: 60 })).toBe(60)
    expect(orderFor(1, { perPack: 5, minimum: 12 })).toBe(15)
    expect(orderFor(0.1 + 0.2, { perPack: 1, minimum: 0 })).toBe(1)
    expect(orderFor(3 * 20.000000000001, { perPack: 20, minimum: 0 })).toBe(60)
    expect(orderFor(0, { perPack: 20, minimum: 60 })).toBe(0)
    expect(() => orderFor(3, { perPack: 0, minimum: 0 })).toThrow('A pack has at least one piece.')
  })
})

test('menu price and food cost are each other’s way back', () => {
  fc.assert(
    fc.property(fc.double({ min: 0.1, max: 90, noNaN: true }), fc.double({ min: 5, max: 95, noNaN: true }), (cost, pct) => {
      expect(foodCostPct(cost, menuPriceFor(cost, pct) ?? 0)).toBeCloseTo(pct, 9)
    }),
  )
  expect(foodCostPct(4, 0)).toBeNull()
  expect(menuPriceFor(4, 0)).toBeNull()
})

describe('a step by the log', () => {
  const runs = (share: number, minutes: number, count: number) =>
    Array.from({ length: count }, (_, at) => ({
      cook: { id: at % 3 === 0 ? 'ines' : 'jory' },
      receivedTenths: 100_000,
      pieces: 5,
      minutes: 5 * (minutes + (at % 2 === 0 ? 0.1 : -0.1)),
      shares: { breast: share + (at % 2 === 0 ? 0.05 : -0.05) },
    }))
  const asked = { outputKey: 'breast', itemGrams: 2000, valuePerKg: 12, perMinute: 0.35 }

  test('frees what the shares differ by, takes what the minutes do, and is worth the one less the other', () => {
    const { grams, minutes, worth } = stepFromLog({ ...asked, withStep: runs(26, 6.5, 20), without: runs(25, 6, 20) })
    expect(grams?.mean).toBeCloseTo(20, 9)
    expect(minutes?.mean).toBeCloseTo(0.5, 9)
    expect(worth?.mean).toBeCloseTo(0.02 * 12 - 0.5 * 0.35, 9)
    for (const found of [grams, minutes, worth]) expect(found?.low).toBeLessThan(found?.mean ?? 0)
  })

  test('a practised hand does not pass for the step: each cook is set against himself', () => {
    const by = (id: string, list: ReturnType<typeof runs>) => list.map((run) => ({ ...run, cook: { id } }))
    const found = stepFromLog({
      ...asked,
      withStep: [...by('ines', runs(30, 5, 18)), ...by('pip', runs(26, 6, 2))],
      without: [...by('ines', runs(29, 4.5, 2)), ...by('pip', runs(25, 5.5, 18))],
    })
    // side by side without regard to who cut it would be 4.2 % of 2 kg, 84 g
    expect(found.grams?.mean).toBeCloseTo(20, 9)
    expect(found.minutes?.mean).toBeCloseTo(0.5, 9)
    const apart = stepFromLog({ ...asked, withStep: by('ines', runs(30, 5, 9)), without: by('pip', runs(25, 5.5, 9)) })
    expect(apart).toMatchObject({ grams: undefined, withStep: 9, without: 9, cooks: 0 })
  })

  test('says nothing of what was not weighed, timed or left out often enough', () => {
    const untimed = runs(26, 6, 9).map((run) => ({ ...run, minutes: null }))
    expect(stepFromLog({ ...asked, withStep: untimed, without: runs(25, 6, 9) })).toMatchObject({ minutes: undefined, worth: undefined })
    expect(stepFromLog({ ...asked, withStep: runs(26, 6, 9), without: runs(25, 6, 1) })).toMatchObject({ without: 1 })
    const unweighed = runs(26, 6, 9).map((run) => ({ ...run, shares: {} }))
    expect(stepFromLog({ ...asked, withStep: unweighed, without: runs(25, 6, 9) }).grams).toBeUndefined()
  })
})

test('a step at its break-even minutes earns exactly its wage', () => {
  const step = { grams: 9, valuePerKg: 13, minutes: 0.5, ratePerHour: 19.5, onCostPct: 12 }
  const found = stepWorth(step)
  expect(found).toMatchObject({ pays: false })
  expect(found.gain).toBeCloseTo(0.117, 9)
  const even = stepWorth({ ...step, minutes: found.breakEvenMinutes ?? 0 })
  expect(even.gain).toBeCloseTo(even.wage, 12)
  expect(stepWorth({ ...step, ratePerHour: 0 })).toMatchObject({ breakEvenMinutes: null, pays: true })
  expect(stepWorth({ ...step, grams: -2 }).breakEvenMinutes).toBe(0)
})

describe('value in parts', () => {
  const parts: Part[] = [
    { key: 'breast', role: 'main', pct: 25, marketPerKg: 13, ownPerKg: 9 },
    { key: 'leg', role: 'coproduct', pct: 30, marketPerKg: null, ownPerKg: 5 },
    { key: 'carcass', role: 'byproduct', pct: 35, marketPerKg: 2, ownPerKg: 1 },
    { key: 'trim', role: 'waste', pct: 5, marketPerKg: 4, ownPerKg: null },
  ]
  const bird = {
    item: { grams: 2000, price: { amount: 46.5, per: 'case' as const, count: 5 } },
    parts,
    labour: { minutesPerItem: 6, setupMinutes: 5, itemsPerBatch: 5, ratePerHour: 20, onCostPct: 0 },
    consumables: 0.1,
    disposalPerKg: 0.2,
  }
  const valued = (byproducts: 'market' | 'own' | 'nothing') => valueInParts({ ...bird, byproducts })

  test('each part at its own price; by-products as chosen; waste costs its haulage', () => {
    const found = valued('market')
    expect(found.parts.map((part) => [part.value, part.source])).toEqual([
      [6.5, 'market'],
      [3, 'own'],
      [1.4, 'market'],
      [0, 'nothing'],
    ])
    expect(found).toMatchObject({ purchase: 9.3, consumables: 0.1 })
    expect(found.labour).toBeCloseTo(7 / 3, 9)
    expect(found.disposal).toBeCloseTo(0.02, 9)
    expect(found.gain).toBeCloseTo(10.9 - found.cost, 9)
    expect(valued('own').value).toBeCloseTo(10.2, 9)
    expect(valued('nothing').value).toBeCloseTo(9.5, 9)
  })

  test('what is left is the parts less everything paid, and a dearer part never leaves less', () => {
    fc.assert(
      fc.property(fc.double({ min: 0, max: 60, noNaN: true }), fc.double({ min: 0, max: 60, noNaN: true }), (cheap, more) => {
        const at = (marketPerKg: number) =>
          valueInParts({
            ...bird,
            byproducts: 'market',
            parts: parts.map((part) => (part.key === 'breast' ? { ...part, marketPerKg } : part)),
          })
        const [low, high] = [at(cheap), at(cheap + more)]
        expect(low.gain).toBeCloseTo(
          low.parts.reduce((sum, part) => sum + part.value, 0) - low.purchase - low.labour - low.consumables - low.disposal,
          9,
        )
        expect(high.gain).toBeGreaterThanOrEqual(low.gain - 1e-9)
      }),
    )
  })

  test('a part that nothing values is said, not hidden', () => {
    const unknown = valueInParts({
      ...bird,
      byproducts: 'market',
      parts: [{ key: 'x', role: 'main', pct: 50, marketPerKg: null, ownPerKg: null }],
    })
    expect(unknown.parts[0]).toMatchObject({ valuePerKg: null, source: 'unknown', value: 0 })
  })
})

describe('a case', () => {
  const sheet = {
    weightKg: { low: 2.5, high: 3.4 },
    minutes: { low: 15, high: 25 },
    outputs: [
      { key: 'steak', role: 'main' as const, lowPct: 56, typicalPct: 60, highPct: 64 },
      { key: 'tips', role: 'coproduct' as const, lowPct: 8, typicalPct: 10, highPct: 12 },
      { key: 'fat', role: 'waste' as const, lowPct: 6, typicalPct: 9, highPct: 14 },
    ],
  }
  const opened = openCase({
    outputKey: 'steak',
    price: { amount: 31.4, per: 'kg' },
    servedGrams: 180,
    overServedPct: 0,
    sideCuts: [{ key: 'tips', name: 'Tips', role: 'coproduct', marketPerKg: 17, ownPerKg: 12 }],
    wasteKeys: ['fat'],
    quotes: [{ id: 'q', readyCut: { price: { amount: 10.9, per: 'each' }, portionGrams: 180, lossPct: 2 } }],
    byproducts: 'market',
    portionKeys: ['steak'],
    isCounted: false,
    yieldKeys: ['steak'],
    expected: expectCut(sheet, { tests: 0, itemGrams: noSample, minutes: noMinutes, mains: noShares, runs: noRuns, outputs: [] }),
    labour: { setupMinutes: 6, itemsPerBatch: 2, ratePerHour: 20, onCostPct: 10 },
    storageLossPct: 1,
    rejectedPct: 1,
    consumablesPerItem: 0.5,
    disposalPerKg: 0.2,
    portionsPerWeek: 100,
  })

  test('its inputs are the kitchen’s figures, and make the input of the comparison', () => {
    expect(opened.inputs).toMatchObject({ itemGrams: 2950, yieldPct: 60, wastePct: 9, [valueInput('tips')]: 17 })
    const input = inputOfCase(opened, opened.inputs, 'q', false)
    expect(input).toMatchObject({ byproducts: [{ pct: 10, valuePerKg: 17 }], buy: { portionGrams: 180, lossPct: 2 } })
    expect(input.lossPct).toBeCloseTo(1.99, 9)
    expect(makeOrBuy(inputOfCase(opened, opened.inputs, 'q', true)).make.labour).toBe(0)
  })

  test('a yield tried out takes the other shares along; shares over the whole are refused', () => {
    const at80 = withSharesAlong(opened, { ...opened.inputs, yieldPct: 80 })
    expect([at80[shareInput('tips')], at80.wastePct]).toEqual([5, 4.5])
    expect(withSharesAlong(opened, { ...opened.inputs, yieldPct: 80, [shareInput('tips')]: 3 })[shareInput('tips')]).toBe(3)
    expect(inputOfCase(opened, at80, 'q', false).byproducts).toEqual([{ pct: 5, valuePerKg: 17 }])
    expect(() => inputOfCase(opened, { ...opened.inputs, yieldPct: 85 }, 'q', false)).toThrow('104.0 % of the item')
  })

  test('portions cut one percent over what is served cost one percent more', () => {
    const at = (overServedPct: number) => makeOrBuy(inputOfCase(opened, { ...opened.inputs, overServedPct }, 'q', false))
    expect(at(1).make.costPerPortion / at(0).make.costPerPortion).toBeCloseTo(1.01, 12)
    expect(at(1).buy).toEqual(at(0).buy)
    expect(at(1).breakEven.yieldPct ?? 0).toBeCloseTo((at(0).breakEven.yieldPct ?? 0) * 1.01, 9)
    const [costs] = [drawMakeCosts(inputOfCase(opened, { ...opened.inputs, overServedPct: 1 }, 'q', false), { draws: 1, seed: 1 })]
    expect(costs[0]).toBeCloseTo(at(1).make.costPerPortion, 9)
  })

  test('a changed input goes through to the answer', () => {
    const dearer = { ...opened.inputs, [quoteInput('q', 'amount')]: 14 }
    const at = (inputs: typeof opened.inputs) => makeOrBuy(inputOfCase(opened, inputs, 'q', false)).buy.costPerPortion
    expect(at(dearer) / at(opened.inputs)).toBeCloseTo(14 / 10.9, 9)
  })

  test('priors alone spread by a Student-t of three, and move about what was typed', () => {
    expect(spreadsOfCase(opened)).toMatchObject({ degreesOfFreedom: 3 })
    const { yieldSdPct = 0, minutesSd = 0 } = spreadsOfAverage(opened)
    expect((spreadsOfCase(opened).yieldSdPct ?? 0) / yieldSdPct).toBeCloseTo(2, 9)
    expect(minutesSd).toBeLessThan(spreadsOfCase(opened).minutesSd ?? 0)
    const [first, ...rest] = movedInputs(opened, { ...opened.inputs, yieldPct: 50 }, { low: 28, high: 33 })
    expect(first).toEqual({ input: 'item-price', low: 28, high: 33 })
    const share = rest.find((one) => one.input === 'yield')
    expect(((share?.low ?? 0) + (share?.high ?? 0)) / 2).toBeCloseTo(50, 9)
    expect(movedInputs(opened, opened.inputs, undefined).map((one) => one.input)).not.toContain('item-price')
  })

  test('by-products worth more than the item leave less than nothing to carry, and the answer says so', () => {
    const { make, breakEven } = makeOrBuy(inputOfCase(opened, { ...opened.inputs, [valueInput('tips')]: 900 }, 'q', false))
    expect(make.netCost).toBeLessThan(0)
    expect(make.costPerPortion).toBeLessThan(0)
    expect(breakEven.buyPrice).toBeNull()
  })
})

test('everything in pounds instead of kilos changes nothing', () => {
  const inPounds = (perKg: number) => (perKg * gramsPerPound) / 1000
  fc.assert(
    fc.property(fc.double({ min: 1, max: 80, noNaN: true }), fc.double({ min: 1, max: 80, noNaN: true }), (item, ready) => {
      const at = (per: 'kg' | 'lb', convert: (perKg: number) => number) =>
        makeOrBuy({
          ...loin,
          item: { ...loin.item, price: { amount: convert(item), per } },
          buy: { ...loin.buy, price: { amount: convert(ready), per } },
        })
      const [kilos, pounds] = [at('kg', (price) => price), at('lb', inPounds)]
      expect(pounds.savingPerPortion).toBeCloseTo(kilos.savingPerPortion, 9)
      expect(pounds.breakEven.itemPrice ?? -1).toBeCloseTo(kilos.breakEven.itemPrice === null ? -1 : inPounds(kilos.breakEven.itemPrice), 7)
    }),
  )
})

test('the year’s price is the quote in force day by day, in the unit of today’s', () => {
  const quotes = [
    { price: { amount: 10, per: 'kg' as const }, quotedOn: '2024-01-01' },
    { price: { amount: 12, per: 'kg' as const }, quotedOn: '2026-03-01' },
    { price: { amount: 20, per: 'each' as const }, quotedOn: '2026-02-01' },
  ]
  const found = priceOfYear(quotes, { amount: (13 * gramsPerPound) / 1000, per: 'lb' }, '2026-06-30')
  expect(found?.low).toBeCloseTo((10 * gramsPerPound) / 1000, 9)
  expect(found?.high).toBeCloseTo((13 * gramsPerPound) / 1000, 9)
  expect(priceOfYear(quotes.slice(1), { amount: 12, per: 'kg' }, '2026-06-30')).toBeUndefined()
})

test('prices move on grounds that compare, or say nothing', () => {
  expect(priceMove({ amount: 5, per: 'kg' }, { amount: 6, per: 'kg' })).toBeCloseTo(20, 9)
  expect(priceMove({ amount: 10, per: 'kg' }, { amount: (10 * gramsPerPound) / 1000, per: 'lb' })).toBeCloseTo(0, 9)
  expect(priceMove({ amount: 46, per: 'case', count: 5 }, { amount: 9.2, per: 'each' })).toBeCloseTo(0, 9)
  expect(priceMove({ amount: 46, per: 'case', count: 5 }, { amount: 9.2, per: 'kg' })).toBeNull()
  expect(priceMove({ amount: 0, per: 'kg' }, { amount: 9.2, per: 'kg' })).toBeNull()
})

test.each([
  ['31.40', '.', 31.4],
  ['€ 31,40', ',', 31.4],
  ['1.234,50 EUR', ',', 1234.5],
  ['EUR 1,234.50', '.', 1234.5],
  ["1'234.50", '.', 1234.5],
  ['1 234,5', ',', 1234.5],
  ['12', ',', 12],
  ['31.40', ',', undefined],
  ['31,40', '.', undefined],
  ['-3', '.', undefined],
  ['on request', '.', undefined],
  ['', '.', undefined],
  ['1,23,456', '.', undefined],
] as const)('an amount written %j with a decimal %s is %s', (text, sign, amount) => expect(parseAmount(text, sign)).toBe(amount))

test('the decimal sign is read off the column', () => {
  expect(guessDecimalSign(['12,40', '1.234,00', '7'])).toBe(',')
  expect(guessDecimalSign(['12.40', '1,234.00'])).toBe('.')
  expect(guessDecimalSign(['1,234', '12'])).toBe('.')
})
