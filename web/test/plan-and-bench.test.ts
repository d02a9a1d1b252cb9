import { randomUUID } from 'node:crypto'
import type { BenchEvent, Happening } from '@fleam/contract/bench'
import type { Run } from '@fleam/contract/runs'
import { bestMix } from '@fleam/core/plan/best-mix'
import { fieldsOf, presets, stationsOf } from '../src/features/plan/plan-fields.ts'
import { planUnits } from '../src/features/plan/plan-units.tsx'
import { waysOf } from '../src/features/plan/ways.ts'
import { coldMoves, piecesDone, presentSteps, signsOfWork, stationTicks, stepsOf } from '../src/features/runs/bench/steps.ts'
import { standIn } from '../src/ui/days.ts'
import { numberOf, numberOrNull } from '../src/ui/fields.tsx'
import { sheetOf } from './kitchen.ts'

const sheet = sheetOf('chicken-supremes-and-legs')
const [ines, jory] = [
  { id: randomUUID(), name: 'Ines' },
  { id: randomUUID(), name: 'Jory' },
]
let second = 0
const event = (what: Happening, by = ines): BenchEvent => {
  second += 1
  return { id: randomUUID(), sequence: second, what, by, at: new Date(Date.UTC(2026, 2, 1, 9, 0, second)).toISOString() }
}
const runWith = (events: BenchEvent[]) =>
  ({ sheet: sheet.body, events, cook: ines, startedAt: '2026-03-01T09:00:00.000Z', weighings: [] }) as unknown as Run

describe('steps at the bench', () => {
  const optional = sheet.body.steps.findIndex((step) => step.optional) + 1

  test('the station comes first, and every step has a caution', () => {
    const steps = stepsOf(runWith([]))
    expect(steps).toHaveLength(sheet.body.steps.length + 1)
    expect(steps[0]).toMatchObject({ title: 'Set the station', station: sheet.body.station })
    for (const step of steps) expect(step.caution).toMatch(/\w{3}/)
  })

  test('an optional step that is left out is skipped, until it is done after all', () => {
    const left = event({ kind: 'optional-step', step: optional, done: false })
    const taken = event({ kind: 'optional-step', step: optional, done: true })
    expect(stepsOf(runWith([left]))[optional]?.isSkipped).toBe(true)
    expect(stepsOf(runWith([left, taken]))[optional]?.isSkipped).toBe(false)
  })

  test('ticks, places and items are as they were last said', () => {
    const events = [
      event({ kind: 'station', line: 0, ticked: true }),
      event({ kind: 'station', line: 1, ticked: true }),
      event({ kind: 'station', line: 0, ticked: false }),
      event({ kind: 'step', step: 2 }),
      event({ kind: 'step', step: 4 }, jory),
      event({ kind: 'step', step: 3 }),
      event({ kind: 'piece-done', piece: 2 }),
      event({ kind: 'cold', out: true }),
    ]
    expect([...stationTicks(events)]).toEqual([1])
    expect([...presentSteps(events).values()].map(({ name, step }) => [name, step])).toEqual([
      ['Ines', 3],
      ['Jory', 4],
    ])
    expect([...piecesDone(events)]).toEqual([2])
    expect(coldMoves(events)).toEqual([{ at: Date.parse(events.at(-1)?.at ?? ''), isOut: true }])
    const signs = signsOfWork(runWith(events))
    expect(signs).toHaveLength(events.length + 1)
    expect(signs.filter((sign) => sign.step !== undefined).map((sign) => sign.step)).toEqual([0, 2, 4, 3])
  })
})

describe('ways of cutting a piece', () => {
  const [loin] = presets
  const input = {
    stations: loin?.stations ?? [],
    grams: loin?.grams ?? 0,
    types: [{ id: 'steak', value: 10, targetGrams: 180, minGrams: 172, maxGrams: 188, minCm: 2, maxCm: 6, minDiameterCm: 5 }],
    tipsValuePerKg: 17,
    minTipsCm: 2,
    offTargetPerGram: 0.01,
    stepCm: 0.1,
  }

  test('none is worth more than the best mix, and each says what it makes', () => {
    const ways = waysOf(input, bestMix(input))
    expect(ways[0]?.name).toBe('Best mix')
    expect(ways.length).toBeGreaterThan(2)
    // a bonded pair is two pieces, so it is not set against the worth of one
    for (const way of ways.slice(1, 3)) expect(way.worth).toBeLessThanOrEqual((ways[0]?.worth ?? 0) + 1e-9)
    for (const way of ways) expect(way.counts).toHaveLength(1)
  })

  test.each(presets.map((preset) => [preset.name, preset] as const))('%s goes into its fields and back', (_name, preset) => {
    expect(stationsOf(fieldsOf(preset.stations, preset.grams))).toEqual(preset.stations)
  })
})

test('where a comma is the decimal sign, a point before three figures is none', () => {
  standIn({ locale: 'de-AT', timeZone: 'UTC' })
  expect([numberOf('1.234,5'), numberOf('1,234'), numberOf('1.234'), numberOf('12.5')]).toEqual([1234.5, 1.234, Number.NaN, 12.5])
  standIn({ locale: 'en-GB', timeZone: 'UTC' })
})

test.each([
  ['12,5', 12.5],
  [' 12.5 ', 12.5],
  ['-3', -3],
  ['1,234.5', 1234.5],
  ['1,234,567', 1_234_567],
  ['1,234', Number.NaN],
  ['1.234', 1.234],
  ['0,125', 0.125],
  ['1.234,5', Number.NaN],
  ['', Number.NaN],
  ['12 g', Number.NaN],
])('a number typed as %j is %d', (text, value) => {
  expect(numberOf(text)).toBe(value)
  expect(numberOrNull(text)).toBe(text.trim() === '' ? null : value)
})

describe('a plan in the kitchen’s units', () => {
  const [metric, imperial] = [planUnits('metric'), planUnits('imperial')]

  test('is written in inches and ounces to a tenth, or as it is kept', () => {
    expect([imperial.written('cm', 52), imperial.written('mm', 31), imperial.written('g', 173)]).toEqual(['20.5 in', '1.2 in', '6.1 oz'])
    expect([metric.written('cm', 52), metric.written('mm', 31.4), metric.written('g', 172.6)]).toEqual(['52 cm', '31 mm', '173 g'])
  })

  test('what is typed is kept in the plan’s own units, every figure of a list', () => {
    expect(imperial.kept('cm', '1, 2.5')).toBe('2.54, 6.35')
    expect(imperial.shown('cm', '2.54, 6.35')).toBe('1, 2.5')
    expect(imperial.kept('g', '6.3')).toBe('178.6')
    expect([metric.kept('g', '1980'), metric.shown('cm', '1.4, 3.9')]).toEqual(['1980', '1.4, 3.9'])
    expect(imperial.kept('cm', '')).toBe('')
  })

  test('the plan’s sentences say its lengths and weights so too', () => {
    expect(imperial.said('Two measurements stand at 6 cm: take one out.')).toBe('Two measurements stand at 2.4 in: take one out.')
    expect(imperial.said('A piece of 180 g is heavier than the whole of 150 g.')).toBe(
      'A piece of 6.3 oz is heavier than the whole of 5.3 oz.',
    )
    expect(metric.said('31 mm is thinner than 25 mm')).toBe('31 mm is thinner than 25 mm')
  })
})
