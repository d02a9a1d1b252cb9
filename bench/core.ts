import { readLedger } from '@fleam/core/runs/ledger'
import { liveFigures } from '@fleam/core/runs/live-figures'
import type { Output } from '@fleam/core/runs/output'
import type { RunRecord } from '@fleam/core/runs/run-record'
import { type YieldTestInput, yieldTest } from '@fleam/core/runs/yield-test'
import { type Measured, ms, percentile, timeEach } from './measure.ts'

const roles = ['main', 'coproduct', 'byproduct', 'waste'] as const

function testOf(outputs: number): YieldTestInput {
  return {
    purchase: { billedGrams: 9000, receivedGrams: 8950.5, pieces: 1, price: { amount: 31.4, per: 'kg' } },
    method: 'sales-value',
    labour: { minutes: 22, ratePerHour: 19.5, onCostPct: 12 },
    consumables: 0.6,
    disposalPerKg: 0.18,
    outputs: Array.from(
      { length: outputs },
      (_, index): Output => ({
        id: `output-${index}`,
        name: `Output number ${index}`,
        role: roles[index % 4] ?? 'main',
        grams: 120.5 + index * 7.3,
        count: 1 + (index % 9),
        valuePerKg: 3.25 + index,
        separableCost: 0.1,
      }),
    ),
  }
}

/** A run at the bench with so many weighings in eight tubs. */
function runOf(weighings: number): RunRecord {
  const tubs = Array.from({ length: 8 }, (_, index) => ({
    id: `tub-${index}`,
    name: `Tub ${index}`,
    role: roles[index % 4] ?? ('main' as const),
    targetTenths: index === 0 ? 1800 : null,
    toleranceTenths: index === 0 ? 60 : null,
    typicalPct: 11,
    valuePerKg: 9,
    separableCost: 0,
  }))
  return {
    billed: { tenths: 5_000_000 },
    received: { tenths: 4_990_000 },
    pieces: 40,
    quote: { price: { amount: 6.1, per: 'kg' } },
    readyCut: null,
    rates: { ratePerHour: 19.5, onCostPct: 12, disposalPerKg: 0.18, unaccountedLimitPct: 2 },
    minutes: null,
    consumables: 0,
    method: 'sales-value',
    tubs,
    weighings: Array.from({ length: weighings }, (_, index) => line(index)),
  }
}

const line = (index: number) => ({ id: `line-${index}`, tubId: `tub-${index % 8}`, tenths: 1500 + (index % 700), reversesId: null })

/** Live figures after one more weighing, in a run of 2,000 against one of 20; turn about. */
export async function measureLiveFigures(): Promise<Measured[]> {
  const runs = { few: runOf(20), many: runOf(2000) }
  const times = { few: [] as number[], many: [] as number[] }
  const updates = 300
  for (let turn = 0; turn < updates; turn += 1) {
    for (const size of ['few', 'many'] as const) {
      const before = runs[size]
      const start = performance.now()
      const run = { ...before, weighings: [...before.weighings, line(10_000 + turn)] }
      liveFigures(run, 400)
      readLedger(run.weighings)
      times[size].push(performance.now() - start)
      // the run itself stays at its size: every fresh line follows the same twenty, or two thousand
      runs[size] = turn % 20 === 19 ? runOf(size === 'few' ? 20 : 2000) : run
      if (turn % 20 === 19) liveFigures(runs[size], 400)
    }
  }
  const [few, many] = [percentile(times.few.slice(60), 0.5), percentile(times.many.slice(60), 0.5)]
  return [
    { what: 'live figures after a weighing, run of 2,000', value: ms(many), against: `run of 20 ${ms(few)}`, ratio: many / few, limit: 2 },
  ]
}

/** A yield test of 20 outputs against parsing and writing its request as JSON. */
export async function measureCore(): Promise<Measured[]> {
  const input = testOf(20)
  const text = JSON.stringify(input)
  const batch = 200
  const repeat = (work: () => unknown) => () => {
    for (let index = 0; index < batch; index += 1) work()
  }
  const computed =
    percentile(
      await timeEach(
        100,
        repeat(() => yieldTest(input)),
      ),
      0.5,
    ) / batch
  const json =
    percentile(
      await timeEach(
        100,
        repeat(() => JSON.stringify(JSON.parse(text))),
      ),
      0.5,
    ) / batch
  return [
    { what: 'core yield test, 20 outputs', value: ms(computed), against: `JSON both ways ${ms(json)}`, ratio: computed / json, limit: 3 },
  ]
}
