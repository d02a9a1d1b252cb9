import fc from 'fast-check'
import { keptInThePan } from '../src/compare/kept-in-the-pan.ts'
import { type MakeOrBuyInput, makeOrBuy } from '../src/compare/make-or-buy.ts'
import { type CheckLimits, isOutOfLimit, type TemperatureCheck } from '../src/follow-ons/checks.ts'
import { expectFollowOn, type MadeFollowOn } from '../src/follow-ons/follow-on-book.ts'
import { type FollowOnInput, followOnCost } from '../src/follow-ons/follow-on-cost.ts'
import { allFollowOnSheets, followOnSheet } from '../src/follow-ons/follow-on-sheets.ts'
import { savedPerKg } from '../src/follow-ons/saved-value.ts'
import { weighedOut } from '../src/follow-ons/weighed-out.ts'
import { usualKeeping } from '../src/walk-in/keeping.ts'
import { happen, type LotHappening, type LotStand } from '../src/walk-in/lot.ts'

describe('what was weighed at the bench of a follow-on', () => {
  const line = (id: string, output: string | null, tenths: number, reversesId: string | null = null) => ({
    ...{ id, output, tenths, reversesId },
    portions: null,
  })

  test('each output has what stands, and what was weighed on the way is apart', () => {
    const lines = [line('a', 'Fat', 500), line('b', null, 9000), line('c', 'Fat', 700), line('d', 'Fat', 500, 'a'), line('e', null, 8100)]
    const { totals, between, standing } = weighedOut(lines)
    expect([...totals]).toEqual([['Fat', { tenths: 700, portions: null, count: 1 }]])
    expect(between.map(({ tenths }) => tenths)).toEqual([9000, 8100])
    expect(standing.map(({ id }) => id)).toEqual(['b', 'c', 'e'])
  })

  test('whatever is taken back in whatever order, what stands is what was not', () => {
    fc.assert(
      fc.property(fc.array(fc.tuple(fc.integer({ min: 1, max: 90_000 }), fc.boolean()), { maxLength: 40 }), (weights) => {
        const weighed = weights.map(([tenths], at) => line(`w${at}`, 'Stock', tenths))
        const back = weights.flatMap(([tenths, isBack], at) => (isBack ? [line(`r${at}`, 'Stock', tenths, `w${at}`)] : [])).reverse()
        const left = weights.reduce((sum, [tenths, isBack]) => sum + (isBack ? 0 : tenths), 0)
        expect(weighedOut([...weighed, ...back]).totals.get('Stock')?.tenths ?? 0).toBe(left)
      }),
    )
  })
})

describe('checks against the kitchen’s limits', () => {
  const limits: CheckLimits = { poultryCoreC: 74, groundCoreC: 71, coolFirstHours: 2, coolSecondHours: 4 }
  const at = (hours: number) => new Date(Date.UTC(2026, 2, 14, 8) + hours * 3_600_000).toISOString()
  const cooled = (celsius: number, hours: number): TemperatureCheck => ({ kind: 'cooling', celsius, at: at(hours) })

  test.each([
    [73.9, 'poultryCoreC', true],
    [74, 'poultryCoreC', false],
    [71, 'groundCoreC', false],
    [20, undefined, false],
  ] as const)('a core of %d °C against %s', (celsius, core, isOut) => {
    expect(isOutOfLimit({ kind: 'core', celsius, at: at(0) }, [], limits, core)).toBe(isOut)
  })

  test('cooling is counted from the first one put down: 20 °C after the first stretch, 5 °C after both', () => {
    const first = cooled(61, 0)
    const isOut = (celsius: number, hours: number) => isOutOfLimit(cooled(celsius, hours), [first], limits, undefined)
    expect(isOutOfLimit(first, [], limits, undefined)).toBe(false)
    expect([isOut(40, 1.9), isOut(21, 2.1), isOut(20, 2.1), isOut(6, 5.9), isOut(6, 6.1), isOut(5, 6.1)]).toEqual([
      ...[false, true, false, false, true, false],
    ])
  })
})

describe('what to expect of a follow-on', () => {
  const legs = (kept: number): MadeFollowOn => ({
    inputGrams: 2000,
    addedGrams: 40,
    minutes: 12,
    outputs: [{ name: 'Confit legs', amount: 2000 * kept }],
  })

  test('before the first it is the sheet’s range; the kitchen’s own draw it to themselves and narrow it', () => {
    const sheet = followOnSheet('confit')
    const [before] = expectFollowOn(sheet, []).outputs
    expect([before?.share.mean, before?.share.low, before?.share.high].map((one) => Math.round(one ?? 0))).toEqual([64, 58, 70])
    const book = expectFollowOn(
      sheet,
      Array.from({ length: 12 }, (_, at) => legs(at % 2 ? 0.6 : 0.61)),
    )
    const [after] = book.outputs
    expect(after?.share.mean).toBeCloseTo((3 * 64 + 12 * 60.5) / 15, 9)
    expect((after?.share.high ?? 0) - (after?.share.low ?? 0)).toBeLessThan(12)
    expect([book.tests, book.minutes]).toEqual([12, 12])
  })

  test('what was not weighed was nothing, and a follow-on of pieces alone says nothing of shares', () => {
    const sheet = followOnSheet('rendered-fat')
    const made = { inputGrams: 1000, addedGrams: 0, minutes: null, outputs: [{ name: 'Rendered fat', amount: 740 }] }
    const [fat, cracklings] = expectFollowOn(sheet, [made, { ...made, inputGrams: 0 }]).outputs
    expect([fat?.share.tests, cracklings?.share.mean]).toEqual([1, (3 * 11) / 4])
  })

  test('every sheet that comes with Fleam has a main, a caution and a range from least to most', () => {
    for (const { key, outputs, cautions, waitHours } of allFollowOnSheets) {
      expect([key, outputs.some(({ role }) => role === 'main'), cautions.length > 0, waitHours.low <= waitHours.high]).toEqual([
        ...[key, true, true, true],
      ])
      for (const { yieldPct } of outputs) expect(yieldPct.low <= yieldPct.typical && yieldPct.typical <= yieldPct.high).toBe(true)
    }
  })
})

test('bones are worth what their stock saved: bought less all that it took beside them', () => {
  // 10 l at 2.20 is 22; 8 of the 14 that it cost were not the bones
  expect(savedPerKg({ amount: 10, boughtPerUnit: 2.2, gross: 14, inputCost: 6, inputGrams: 10_000 })).toBeCloseTo(1.4, 12)
  expect(savedPerKg({ amount: 10, boughtPerUnit: 0.5, gross: 14, inputCost: 6, inputGrams: 10_000 })).toBeCloseTo(-0.3, 12)
  expect(savedPerKg({ amount: 10, boughtPerUnit: 2, gross: 14, inputCost: 6, inputGrams: 0 })).toBeUndefined()
})

describe('a portion as it is served', () => {
  const input: MakeOrBuyInput = {
    item: { grams: 3000, price: { amount: 30, per: 'kg' } },
    yieldPct: 60,
    portionGrams: 180,
    lossPct: 0,
    byproducts: [],
    wastePct: 0,
    disposalPerKg: 0,
    labour: { minutesPerItem: 12, setupMinutes: 0, itemsPerBatch: 1, ratePerHour: 20, onCostPct: 0 },
    consumablesPerItem: 0,
    buy: { price: { amount: 10.9, per: 'each' }, portionGrams: 180 },
  }

  test('150 g on the plate of a steak that keeps five sixths cost what 180 g raw do, on both sides', () => {
    const raw = makeOrBuy(input)
    const panLossPct = 100 / 6
    const served = makeOrBuy({ ...input, portionGrams: 150, panLossPct, buy: { ...input.buy, panLossPct } })
    expect(served.make.costPerPortion).toBeCloseTo(raw.make.costPerPortion, 9)
    expect(served.buy.costPerPortion).toBeCloseTo(raw.buy.costPerPortion, 9)
    // a ready-cut piece that gives off more of its water costs more on the plate
    const wet = makeOrBuy({ ...input, portionGrams: 150, panLossPct, buy: { ...input.buy, panLossPct: 25 } })
    expect(wet.buy.costPerPortion).toBeCloseTo((10.9 * 150) / 135, 9)
  })

  test('a cooking test goes before what is usual', () => {
    expect([keptInThePan('beef', undefined), keptInThePan(null, undefined), keptInThePan('beef', { keptPct: 81.2 })]).toEqual([
      83, 80, 81.2,
    ])
  })
})

test('follow-ons one after the other lose no money and make none: what the last outputs cost is what came in', () => {
  const stage = fc.record({
    added: fc.integer({ min: 0, max: 5000 }),
    minutes: fc.integer({ min: 0, max: 240 }),
    main: fc.integer({ min: 1, max: 9000 }),
    beside: fc.integer({ min: 1, max: 9000 }),
    worth: fc.integer({ min: 0, max: 30 }),
    method: fc.constantFrom('byproduct-credit', 'sales-value', 'weight' as const),
  })
  fc.assert(
    fc.property(fc.integer({ min: 100, max: 50_000 }), fc.array(stage, { minLength: 1, maxLength: 6 }), (cents, stages) => {
      let carried = cents / 100
      let paid = carried
      let kept = 0
      for (const { added, minutes, main, beside, worth, method } of stages) {
        const input: FollowOnInput = {
          inputs: [{ id: 'in', grams: 1000, cost: carried }],
          added: [{ name: 'else', cost: added / 100 }],
          labour: { minutes, ratePerHour: 18, onCostPct: 10 },
          method: method as FollowOnInput['method'],
          outputs: [
            { id: 'main', role: 'main', amount: main, unit: 'g', valuePerUnit: 10 },
            { id: 'beside', role: 'coproduct', amount: beside, unit: 'g', valuePerUnit: worth + 1 },
          ],
        }
        const { outputs } = followOnCost(input)
        paid += added / 100 + (minutes / 60) * 18 * 1.1
        kept += outputs.find(({ id }) => id === 'beside')?.cost ?? 0
        carried = outputs.find(({ id }) => id === 'main')?.cost ?? 0
      }
      expect(carried + kept).toBeCloseTo(paid, 6)
    }),
  )
})

describe('the books of a lot', () => {
  const today = '2026-03-14'
  const start: LotStand = {
    kind: 'raw cuts',
    state: 'chilled',
    useBy: '2026-03-18',
    chilledDaysLeft: null,
    leftTenths: 30_000,
    leftPortions: 16,
    place: 'Shelf',
    isBlocked: false,
  }
  const some = fc.option(fc.integer({ min: 1, max: 31_000 }))
  const few = fc.option(fc.integer({ min: 1, max: 17 }))
  const happening: fc.Arbitrary<LotHappening> = fc.oneof(
    fc.record({
      kind: fc.constant('take' as const),
      tenths: some,
      portions: few,
      takenFor: fc.constantFrom('dish', 'staff', 'follow-on', 'thrown away' as const) as fc.Arbitrary<'dish'>,
      note: fc.constant('x'),
    }),
    fc.record({ kind: fc.constant('split' as const), lotId: fc.uuid(), tenths: some, portions: few, place: fc.constant('Freezer') }),
    fc.record({
      kind: fc.constant('count' as const),
      tenths: fc.integer({ min: 0, max: 40_000 }),
      portions: fc.integer({ min: 0, max: 20 }),
      note: fc.constant('counted'),
    }),
    fc.constantFrom<LotHappening>(
      { kind: 'freeze', place: 'Freezer' },
      { kind: 'thaw', place: 'Shelf' },
      { kind: 'block', note: 'called back' },
      { kind: 'release', note: 'it was another' },
      { kind: 'keep', useBy: '2026-03-20', note: 'vacuum held' },
    ),
  )

  test('whatever happens, or is refused: what is left is what the lines add up to, never below nothing, and thawing gives no days', () => {
    fc.assert(
      fc.property(fc.array(happening, { maxLength: 30 }), (happenings) => {
        let lot = start
        let [tenths, portions] = [start.leftTenths, start.leftPortions ?? 0]
        for (const what of happenings) {
          let change: ReturnType<typeof happen>
          try {
            change = happen(lot, what, today, usualKeeping)
          } catch (error) {
            expect(error).toHaveProperty('field')
            continue
          }
          tenths += change.tenths
          portions += change.portions
          if (what.kind === 'thaw') expect(change.after.useBy <= (lot.chilledDaysLeft === null ? lot.useBy : '2026-03-20')).toBe(true)
          lot = change.after
          expect([lot.leftTenths, lot.leftPortions]).toEqual([tenths, portions])
          expect(lot.leftTenths).toBeGreaterThanOrEqual(0)
          expect(lot.leftPortions).toBeGreaterThanOrEqual(0)
          if (lot.leftTenths === 0) expect(lot.leftPortions).toBe(0)
        }
      }),
      { numRuns: 400 },
    )
  })
})
