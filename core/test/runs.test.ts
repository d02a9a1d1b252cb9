import fc from 'fast-check'
import { roundToTotal } from '../src/quantities/round-to-total.ts'
import { balanceOf } from '../src/runs/balance.ts'
import { costLadder } from '../src/runs/cost-ladder.ts'
import { type LedgerLine, readLedger, standing, totalsByTub } from '../src/runs/ledger.ts'
import { projectRun } from '../src/runs/projection.ts'
import {
  decisionCostPerKg,
  figuresOfRun,
  portionsOf,
  projectedDecisionCostPerKg,
  type RunRecord,
  sharedTestOfRun,
  testedOutputsOf,
  yieldTestOfRun,
} from '../src/runs/run-record.ts'

const line = (id: string, tubId: string, grams: number, reversesId: string | null = null) => ({ id, tubId, tenths: grams * 10, reversesId })
const tub = (id: string, role: 'main' | 'coproduct' | 'byproduct' | 'waste', typicalPct: number, valuePerKg: number | null = null) => ({
  id,
  name: id,
  role,
  targetTenths: id === 'steak' ? 1800 : null,
  toleranceTenths: id === 'steak' ? 60 : null,
  typicalPct,
  valuePerKg,
  separableCost: 0,
})
const run: RunRecord = {
  billed: { tenths: 29_500 },
  received: { tenths: 29_360 },
  pieces: 1,
  quote: { price: { amount: 31.4, per: 'kg' } },
  readyCut: null,
  rates: { ratePerHour: 19.5, onCostPct: 12, disposalPerKg: 0.18, unaccountedLimitPct: 2 },
  minutes: 22,
  consumables: 0.6,
  method: 'byproduct-credit',
  tubs: [tub('steak', 'main', 62), tub('tips', 'coproduct', 9, 17), tub('grind', 'byproduct', 14, 8.5), tub('fat', 'waste', 14)],
  weighings: [
    line('1', 'steak', 1840),
    line('2', 'steak', 1840, '1'),
    line('3', 'steak', 184),
    line('4', 'steak', 180),
    line('5', 'fat', 398),
  ],
}

test('a weighing taken back does not stand, and neither does its reversal', () => {
  expect(standing(run.weighings).map((kept) => kept.id)).toEqual(['3', '4', '5'])
  expect(totalsByTub(run.weighings).get('steak')).toEqual({ tenths: 3640, count: 2 })
})

test.each([
  ['within the limit', 29_300, 'within-limit'],
  ['over the limit', 28_000, 'over-limit'],
  ['over it by less than is shown', 28_762, 'within-limit'],
  ['out by no more than 0.1 g a weighing', 29_370, 'within-limit'],
  ['more than was received', 29_371, 'more-than-received'],
])('a balance %s', (_what, weighedTenths, state) => {
  expect(balanceOf(2936, weighedTenths, 10, 2).state).toBe(state)
})

test('a run that has just begun is projected at the typical shares of its sheet', () => {
  const projected = projectRun(1000, [
    { id: 'steak', weighedTenths: 0, typicalPct: 60 },
    { id: 'fat', weighedTenths: 0, typicalPct: 39 },
  ])
  expect([projected.get('steak'), projected.get('fat')]).toEqual([600, 390])
})

test('a projection keeps what was weighed and never promises more than was received', () => {
  const outputs = fc.array(fc.record({ weighedTenths: fc.integer({ min: 0, max: 4000 }), typicalPct: fc.integer({ min: 0, max: 12 }) }), {
    minLength: 1,
    maxLength: 8,
  })
  fc.assert(
    fc.property(outputs, (drawn) => {
      const given = drawn.map((output, index) => ({ id: String(index), ...output }))
      const projected = projectRun(3000, given)
      const weighed = given.reduce((sum, output) => sum + output.weighedTenths, 0)
      const total = [...projected.values()].reduce((sum, grams) => sum + Math.round(grams * 10), 0)
      for (const output of given) expect(Math.round((projected.get(output.id) ?? 0) * 10)).toBeGreaterThanOrEqual(output.weighedTenths)
      expect(total).toBeLessThanOrEqual(Math.max(weighed, 30_000) + given.length)
    }),
  )
})

test('the live cost per portion is the final one once nothing is left to come', () => {
  const complete: RunRecord = {
    ...run,
    weighings: [line('a', 'steak', 1800), line('b', 'tips', 262), line('c', 'grind', 430), line('d', 'fat', 444)],
  }
  expect(projectedDecisionCostPerKg(complete, 99)).toBe(decisionCostPerKg(complete))
})

test('the figures of a run that lacks a sales value are shared by weight', () => {
  const valueless: RunRecord = { ...run, method: 'sales-value', weighings: [line('a', 'steak', 1800), line('b', 'tips', 200)] }
  expect(figuresOfRun(valueless).costPerKg).toBeCloseTo(yieldTestOfRun(valueless, 'weight').outputs[0]?.costPerKg ?? 0, 10)
})

test('portions of several pieces are plates: weight, count and cost are of the plate, not of its pieces', () => {
  const plated: RunRecord = {
    ...run,
    received: { tenths: 20_000 },
    sheet: {
      outputs: [
        { key: 'breast', role: 'main', destination: 'sauté', portion: { pieces: 2 } },
        { key: 'leg', role: 'main', destination: 'sauté' },
      ],
    },
    tubs: [
      { ...tub('breast', 'main', 34), key: 'breast', targetTenths: 3300, toleranceTenths: 200 },
      { ...tub('leg', 'main', 31), key: 'leg' },
    ],
    weighings: [line('a', 'breast', 180), line('b', 'breast', 160), line('c', 'leg', 150), line('d', 'leg', 172)],
  }
  expect(portionsOf(plated)).toEqual([332, 330])
  const { costPerKg, costPerPortion, portions } = figuresOfRun(plated)
  expect(portions).toBe(2)
  expect(costPerPortion).toBeCloseTo(((costPerKg ?? 0) * 331) / 1000, 9)
  expect(yieldTestOfRun(plated).outputs.map((output) => output.costPerPortion)).toEqual([null, null])
  const tested = testedOutputsOf({ ...plated, tubs: plated.tubs.map((one) => ({ ...one, key: one.key ?? null })) })
  expect(tested.get('breast')).toEqual({ sharePct: 17, servedRatio: null })
})

test('a run without a target has its portions and its verdict all the same', () => {
  const turkey: RunRecord = {
    ...run,
    tubs: [tub('breast', 'main', 30), tub('thigh', 'main', 13)],
    weighings: [line('a', 'breast', 900), line('b', 'breast', 880), line('c', 'thigh', 700)],
  }
  expect(portionsOf(turkey)).toEqual([900, 880])
  expect(decisionCostPerKg(turkey)).toBeGreaterThan(0)
  expect(figuresOfRun(turkey).portions).toBe(2)
})

test('an output of the sheet that did not come off is nothing; what portions weigh over their target is kept', () => {
  const given = {
    ...run,
    tubs: run.tubs.map((one) => ({ ...one, key: one.id })),
    weighings: [line('a', 'steak', 184), line('b', 'steak', 182)],
  }
  const tested = testedOutputsOf(given)
  expect(tested.get('tips')).toEqual({ sharePct: 0, servedRatio: null })
  expect(tested.get('steak')?.servedRatio).toBeCloseTo(183 / 180, 12)
})

describe('unlike mains', () => {
  const withRoast = (roast: { kind?: string; valuePerKg: number | null }): RunRecord => ({
    ...run,
    tubs: [{ ...tub('steak', 'main', 40, 58), kind: 'steak' }, { ...tub('roast', 'main', 20), ...roast }, tub('tips', 'coproduct', 9, 17)],
    weighings: [line('a', 'steak', 1170), line('b', 'roast', 580), line('c', 'tips', 262)],
  })
  const costsOf = (given: RunRecord) => sharedTestOfRun(given).test.outputs.map((output) => output.costPerKg)

  test('kinds share the net by what they are worth, within a kind a kilo costs the same', () => {
    const [steak, roast] = costsOf(withRoast({ kind: 'roast', valuePerKg: 38 }))
    expect((steak ?? 0) / (roast ?? 1)).toBeCloseTo(58 / 38, 9)
    const { net } = yieldTestOfRun(withRoast({ kind: 'roast', valuePerKg: 38 })).cost
    expect(1.17 * (steak ?? 0) + 0.58 * (roast ?? 0)).toBeCloseTo(net, 9)
    const [same, alike] = costsOf(withRoast({ kind: 'steak', valuePerKg: 38 }))
    expect(same).toBe(alike)
    const [steakByWeight, roastByWeight] = costsOf({ ...withRoast({ kind: 'roast', valuePerKg: 38 }), method: 'weight' })
    expect(steakByWeight).toBeCloseTo(roastByWeight ?? 0, 9)
  })

  test('a kind without a value is asked for it, and shares by weight until then', () => {
    const valueless = withRoast({ kind: 'roast', valuePerKg: null })
    expect(() => yieldTestOfRun(valueless)).toThrow('roast needs a value per kg')
    expect(sharedTestOfRun(valueless).trouble).toContain('All mains share by weight until then')
    expect(costsOf(valueless)[0]).toBe(costsOf(valueless)[1])
    expect(decisionCostPerKg(valueless)).toBeCloseTo(costsOf(valueless)[0] ?? 0, 9)
    expect(figuresOfRun(valueless).costPerKg).toBe(costsOf(valueless)[0])
  })

  test('a main of another kind is not worth what the portions cost ready-cut', () => {
    const readyCut = {
      terms: { portionTenths: 1800, trimPct: 0, lossPct: 0, feePerOrder: 0, portionsPerOrder: null },
      quote: { price: { amount: 10, per: 'each' as const } },
    }
    const given = withRoast({ kind: 'roast', valuePerKg: null })
    const bothCut = {
      ...given,
      readyCut,
      tubs: given.tubs.map((one) => ({ ...one, valuePerKg: null, targetTenths: one.role === 'main' ? 1800 : null })),
    }
    expect(() => yieldTestOfRun(bothCut)).toThrow('roast needs a value per kg')
    expect(() => yieldTestOfRun({ ...bothCut, tubs: bothCut.tubs.map((one) => ({ ...one, kind: 'steak' })) })).not.toThrow()
  })

  test('for the choice between cutting and buying a roast is credited at what it replaces, whatever the school', () => {
    const given = withRoast({ kind: 'roast', valuePerKg: 38 })
    const { gross } = yieldTestOfRun(given).cost
    const byHand = (gross - 0.58 * 38 - 0.262 * 17) / 1.17
    expect(decisionCostPerKg(given)).toBeCloseTo(byHand, 9)
    expect(decisionCostPerKg({ ...given, method: 'weight' })).toBeCloseTo(byHand, 9)
  })
})

test('the ladder’s printed steps add up to its printed net', () => {
  fc.assert(
    fc.property(
      fc.integer({ min: 1, max: 15_000 }),
      fc.integer({ min: 1, max: 9000 }),
      fc.double({ min: 1, max: 60, noNaN: true }),
      (steak, tips, amount) => {
        const given: RunRecord = {
          ...run,
          quote: { price: { amount, per: 'kg' } },
          weighings: [
            { ...line('a', 'steak', 0), tenths: steak },
            { ...line('b', 'tips', 0), tenths: tips },
          ],
        }
        const { steps, net } = costLadder(yieldTestOfRun(given), given.tubs, given.method, 2)
        expect(Math.round(steps.reduce((sum, step) => sum + step.amount, 0) * 100)).toBe(Math.round(net * 100))
        expect(Math.abs(net - yieldTestOfRun(given).cost.net)).toBeLessThanOrEqual(0.0051)
      },
    ),
  )
})

test('rounded rows add up to the rounded total and stay within one unit of their own', () => {
  fc.assert(
    fc.property(fc.array(fc.double({ min: -500, max: 500, noNaN: true }), { minLength: 1, maxLength: 20 }), (amounts) => {
      const rounded = roundToTotal(amounts, 2)
      const cents = (values: readonly number[]) => values.reduce((sum, value) => sum + Math.round(value * 100), 0)
      expect(cents(rounded)).toBeCloseTo(Math.round(amounts.reduce((sum, value) => sum + value, 0) * 100), 9)
      for (const [index, value] of rounded.entries()) expect(Math.abs(value - (amounts[index] ?? 0))).toBeLessThanOrEqual(0.0100001)
    }),
  )
})

describe('reading a ledger line by line', () => {
  const step = fc.record({
    tub: fc.integer({ min: 0, max: 3 }),
    tenths: fc.integer({ min: 1, max: 5000 }),
    takesBack: fc.option(fc.nat(30)),
  })

  /** What stands, found without remembering anything. */
  function standingOf(lines: readonly LedgerLine[]): LedgerLine[] {
    const reversed = new Set(lines.map((one) => one.reversesId))
    return lines.filter((one) => one.reversesId === null && !reversed.has(one.id))
  }

  test('gives what reading it afresh gives, however it has grown and been taken back', () => {
    fc.assert(
      fc.property(fc.array(step, { maxLength: 40 }), (steps) => {
        let lines: LedgerLine[] = []
        for (const [index, { tub, tenths, takesBack }] of steps.entries()) {
          const target = takesBack === null ? undefined : standingOf(lines)[takesBack]
          const added: LedgerLine = target
            ? { ...target, id: `r${index}`, reversesId: target.id }
            : { id: `w${index}`, tubId: `t${tub}`, tenths, reversesId: null }
          lines = [...lines, added]
          const { standing: stand, totals, byTub, total } = readLedger(lines)
          const expected = standingOf(lines)
          expect(stand).toEqual(expected)
          expect(total).toEqual({ tenths: expected.reduce((sum, one) => sum + one.tenths, 0), count: expected.length })
          for (const id of ['t0', 't1', 't2', 't3']) {
            const own = expected.filter((one) => one.tubId === id)
            expect(byTub.get(id) ?? []).toEqual(own)
            expect(totals.get(id)?.tenths ?? 0).toBe(own.reduce((sum, one) => sum + one.tenths, 0))
          }
        }
      }),
    )
  })

  test('a line that has not been stored yet can give way to the stored one', () => {
    const first = { id: 'a', tubId: 't', tenths: 100, reversesId: null }
    const waiting = { id: 'b', tubId: 't', tenths: 50, reversesId: null }
    expect(readLedger([first, waiting]).total.tenths).toBe(150)
    expect(readLedger([first, { ...waiting }, { id: 'c', tubId: 't', tenths: 7, reversesId: null }]).total.tenths).toBe(157)
    expect(readLedger([first]).total.tenths).toBe(100)
  })

  test('a reversal that arrives before its weighing still takes it back', () => {
    const reversal = { id: 'r', tubId: 't', tenths: 50, reversesId: 'b' }
    expect(readLedger([reversal, { id: 'b', tubId: 't', tenths: 50, reversesId: null }]).total).toEqual({ tenths: 0, count: 0 })
  })
})
