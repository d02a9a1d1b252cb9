import { type Output, type YieldTestInput, yieldTest } from '@fleam/core/runs/yield-test'
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
