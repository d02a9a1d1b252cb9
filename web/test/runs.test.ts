import type { Run } from '@fleam/contract/runs'
import { defectsOf } from '../src/features/runs/defects.ts'
import { checkOf, weightsOf } from '../src/features/runs/delivery-check.tsx'
import { resultOf } from '../src/features/runs/result.ts'
import { sheetOf } from './kitchen.ts'

/** A finished run by a sheet: its tubs as the sheet has them, so many grams a piece in each named. */
function runOf(slug: string, pieces: Record<string, number[]>, values: Record<string, number> = {}): Run {
  const { body } = sheetOf(slug)
  const tubs = body.outputs.map(({ key, name, role, kind, portion, typicalPct }) => ({
    id: key,
    key,
    name,
    role,
    kind,
    targetTenths: portion ? portion.targetGrams * 10 : null,
    toleranceTenths: portion ? portion.toleranceGrams * 10 : null,
    typicalPct,
    valuePerKg: values[key] ?? null,
    separableCost: 0,
  }))
  const weighings = Object.entries(pieces).flatMap(([tubId, grams]) =>
    grams.map((one, at) => ({ id: `${tubId} ${at}`, tubId, tenths: one * 10, reversesId: null })),
  )
  return {
    item: { animal: body.animal },
    sheet: body,
    billed: { tenths: 30_000 },
    received: { tenths: 29_000 },
    pieces: 1,
    quote: { price: { amount: 30, per: 'kg' } },
    readyCut: {
      terms: { portionTenths: 1800, trimPct: 0, lossPct: 0, feePerOrder: 0, portionsPerOrder: null },
      quote: { price: { amount: 11, per: 'each' } },
    },
    rates: { ratePerHour: 20, onCostPct: 0, disposalPerKg: 0, unaccountedLimitPct: 2 },
    minutes: 20,
    consumables: 0,
    method: body.jointCostMethod,
    tubs,
    weighings,
  } as unknown as Run
}

describe('a result', () => {
  const steaks = [184, 179, 181, 180, 178, 182]

  test('decides the same whatever school shares the cost, and says what a portion carries beside it', () => {
    const loin = runOf('beef-tenderloin-traditional', { 'centre-steak': steaks, head: [580] }, { 'centre-steak': 58, head: 38 })
    const [credit, weight] = [resultOf(loin, 'byproduct-credit').portion, resultOf(loin, 'weight').portion]
    expect(credit?.saving).toBeCloseTo(weight?.saving ?? 0, 12)
    expect(credit?.sharedCost).toBeGreaterThan(weight?.sharedCost ?? 0)
    expect(credit?.makeCost).toBeCloseTo(((90 + 20 / 3 - 0.58 * 38) / 1084) * (1084 / 6), 9)
  })

  test('asks for the value of a kind that has none, and shares by weight until then', () => {
    const { trouble, method, portion } = resultOf(
      runOf('beef-tenderloin-traditional', { 'centre-steak': steaks, head: [580] }),
      'byproduct-credit',
    )
    expect(trouble).toContain('Head roast needs a value per kg')
    expect(method).toBe('byproduct-credit')
    expect(portion?.makeCost).toBeCloseTo(portion?.sharedCost ?? 0, 9)
  })

  test('of portions without a target has a verdict, and says nothing of how even they are', () => {
    const { portion } = resultOf(runOf('turkey-parts', { breast: [1100, 1080], thigh: [470, 460] }, { breast: 12, thigh: 8 }), 'weight')
    expect(portion).toMatchObject({ name: 'Breasts, boneless', servedGrams: 1090, statistics: undefined })
    expect(portion?.saving).not.toBeNull()
  })

  test('of plates is of plates', () => {
    const pieces = { breast: [180, 160], leg: [150, 172] }
    const { portion, test: shared } = resultOf(runOf('chicken-saute', pieces), 'byproduct-credit')
    expect(portion).toMatchObject({ name: 'Plates of breast pieces and leg pieces', weights: [332, 330] })
    expect(portion?.statistics?.count).toBe(2)
    expect(shared.outputs.slice(0, 2).map(({ costPerPortion }) => costPerPortion)).toEqual([null, null])
  })

  test('of a run with nothing in its tubs has no portions', () => {
    expect(resultOf(runOf('beef-tenderloin-traditional', {}), 'byproduct-credit').portion).toBeUndefined()
  })
})

test('defects offered are those that the animal can have', () => {
  expect(defectsOf('bird')).toContain('oyster left on the carcass')
  expect(defectsOf('bird')).not.toContain('side muscle thrown away')
  expect(defectsOf('fish')).not.toContain('hip broken instead of parted')
  for (const animal of ['bird', 'fish', 'beef', 'lamb'] as const)
    expect(defectsOf(animal)).toEqual(expect.arrayContaining(['blunt knife', 'other']))
})

test('weights that were looked at stand; other weights are asked about anew', () => {
  let kept = ''
  const fields = { itemId: 'turkey', billed: '31.2', received: '31.2', pieces: '6' }
  const at = (typed: typeof fields) => checkOf({ value: kept, onChange: (value) => (kept = value), error: undefined }, weightsOf(typed))
  expect(at(fields).value).toBe(false)
  at(fields).onChange(true)
  expect(at(fields).value).toBe(true)
  expect(at({ ...fields, pieces: '5' }).value).toBe(false)
  at(fields).onChange(false)
  expect(kept).toBe('')
})
