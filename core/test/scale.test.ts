import fc from 'fast-check'
import { clearPan, followLoad, type PanLoad, takeLoad } from '../src/scale/pan-load.ts'
import type { ScaleReading } from '../src/scale/scale-reading.ts'
import { simulateScale } from '../src/scale/simulated-scale.ts'
import { steadyWeight, type WeighingWay } from '../src/scale/steady-weight.ts'

const steady = (tenths: number): ScaleReading => ({ tenths, state: 'steady' })
const moving = (tenths: number): ScaleReading => ({ tenths, state: 'moving' })

/** A scale as the server follows it, from a clear pan unless nothing is known of it. */
function pan(known: { load: PanLoad | undefined } = { load: clearPan }) {
  let { load } = known
  let count = 0
  const newId = () => {
    count += 1
    return `load ${count}`
  }
  return {
    read(reading: ScaleReading): PanLoad {
      load = followLoad(load, reading, newId)
      return load
    },
    take(id: string, tenths: number): PanLoad {
      load = takeLoad(load ?? clearPan, { id, tenths }, newId)
      return load
    },
  }
}

/** What hands-free weighing takes from a series of readings. */
function takenFrom(readings: readonly ScaleReading[], way: WeighingWay, inTub = 0): number[] {
  const { read, take } = pan()
  const taken: number[] = []
  for (const reading of readings) {
    const load = read(reading)
    const tenths = steadyWeight(reading, load, way, inTub)
    if (tenths === undefined) continue
    taken.push(tenths)
    take(load.id as string, reading.tenths)
  }
  return taken
}

test('each piece goes in once, when it lies still, and not again until the pan was cleared', () => {
  const readings = [moving(900), steady(1840), steady(1841), moving(1500), steady(1839), moving(200), steady(0), moving(800), steady(1760)]
  expect(takenFrom(readings, 'piece')).toEqual([1840, 1760])
})

test('a second piece laid beside the first does not count by the piece', () => {
  expect(takenFrom([steady(1840), steady(3600), steady(0), steady(1700)], 'piece')).toEqual([1840, 1700])
})

test('into the tub, what was added counts, and what was taken out does not', () => {
  expect(takenFrom([steady(0), steady(1840), steady(3600), steady(1760), steady(3500)], 'into-tub')).toEqual([1840, 1760, 1740])
})

test('the tub at the end counts what the ledger has not', () => {
  expect(takenFrom([steady(6000)], 'tub-at-end', 1500)).toEqual([4500])
  expect(takenFrom([steady(1500)], 'tub-at-end', 1500)).toEqual([])
})

test('a load keeps its name until it is taken, whoever reads it; what is laid on after that has another', () => {
  const { read, take } = pan()
  const first = read(moving(900)).id as string
  expect([read(steady(1840)).id, read(moving(1839)).id]).toEqual([first, first])
  take(first, 1840)
  const second = read(steady(1840))
  expect(second).toMatchObject({ takenTenths: 1840, wasThere: false })
  expect(second.id).not.toBe(first)
  expect(take(first, 1840)).toBe(second)
  read(steady(0))
  const next = read(steady(1760))
  expect(next.takenTenths).toBe(0)
  expect([first, second.id]).not.toContain(next.id)
})

test('what lay there when the scale was found goes in by a tap, never by itself', () => {
  const { read, take } = pan({ load: undefined })
  const found = read(steady(1840))
  expect(found.wasThere).toBe(true)
  expect(steadyWeight(steady(1840), found, 'piece')).toBeUndefined()
  expect(steadyWeight(steady(1840), found, 'piece', 0, 'tap')).toBe(1840)
  take(found.id as string, 1840)
  expect(steadyWeight(steady(1840), read(steady(1840)), 'piece', 0, 'tap')).toBeUndefined()
  expect(steadyWeight(steady(2400), read(steady(2400)), 'into-tub')).toBe(560)
})

test('an overloaded or unloaded scale gives no weight', () => {
  expect(takenFrom([{ tenths: 160_000, state: 'overload' }, { tenths: -50, state: 'underload' }, steady(0)], 'piece')).toEqual([])
})

test('into the tub, what was taken never exceeds what was put on', () => {
  fc.assert(
    fc.property(fc.array(fc.integer({ min: 20, max: 5000 }), { maxLength: 30 }), (pieces) => {
      const totals = pieces.map((_, index) => pieces.slice(0, index + 1).reduce((sum, piece) => sum + piece, 0))
      const readings = totals.map(steady)
      expect(takenFrom([steady(0), ...readings], 'into-tub').reduce((sum, tenths) => sum + tenths, 0)).toBe(totals.at(-1) ?? 0)
    }),
  )
})

/** The same numbers every time. */
function fixedRandom(seed: number): () => number {
  let state = seed
  return () => {
    state = (state * 1_103_515_245 + 12_345) % 2_147_483_648
    return state / 2_147_483_648
  }
}

function readFor(scale: ReturnType<typeof simulateScale>, seconds: number) {
  const readings = []
  for (let passed = 0; passed < seconds; passed += 0.05) readings.push(scale.advance(0.05))
  return readings
}

test('a simulated scale moves, then stands still within a step of the load', () => {
  const scale = simulateScale(fixedRandom(7))
  readFor(scale, 1)
  scale.load(184.3)
  const readings = readFor(scale, 2)
  expect(readings[0]?.state).toBe('moving')
  const still = readings.at(-1)
  expect(still?.state).toBe('steady')
  expect(Math.abs((still?.grams ?? 0) - 184.3)).toBeLessThanOrEqual(0.3)
})

test('tare takes the tub away until it is cleared', () => {
  const scale = simulateScale(fixedRandom(3), { noiseGrams: 0, driftGramsPerMinute: 0 })
  scale.load(412)
  readFor(scale, 2)
  scale.tare()
  expect(readFor(scale, 1).at(-1)).toEqual({ grams: 0, tareGrams: 412, state: 'steady' })
  scale.load(412 + 236)
  expect(readFor(scale, 2).at(-1)).toEqual({ grams: 236, tareGrams: 412, state: 'steady' })
  scale.clearTare()
  expect(readFor(scale, 1).at(-1)?.grams).toBe(648)
})

test('a knocked table keeps the scale from standing still, too much is said', () => {
  const scale = simulateScale(fixedRandom(5), { noiseGrams: 4 })
  scale.load(200)
  expect(readFor(scale, 2).every((reading) => reading.state === 'moving')).toBe(true)
  scale.behave({ noiseGrams: 0.02 })
  expect(readFor(scale, 1).at(-1)?.state).toBe('steady')
  scale.load(16_200)
  expect(readFor(scale, 2).at(-1)?.state).toBe('overload')
})
