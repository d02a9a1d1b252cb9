import type { LiveReading } from '@fleam/contract/scales'
import { followLoad, type PanLoad, takeLoad } from '@fleam/core/scale/pan-load'
import type { ScaleReading } from '@fleam/core/scale/scale-reading'
import type { WeighingWay } from '@fleam/core/scale/steady-weight'
import { type HandsNow, type ScaleWeight, weighingHands } from '../src/features/scales/weighing-hands.ts'

/** A bench with its scale as the server follows it; the server hears of a taking when the test says so. */
function bench(way: WeighingWay, { isHandsFree = true, inTubTenths = 0, known = true } = {}) {
  let [count, time] = [0, 0]
  const newId = () => {
    count += 1
    return `load ${count}`
  }
  let load: PanLoad | undefined = known ? { id: null, takenTenths: 0, wasThere: false } : undefined
  let tareTenths = 0
  const taken: ScaleWeight[] = []
  let now: HandsNow = { way, isHandsFree, inTubTenths, tubId: 'steaks', onTaken: (weight) => taken.push(weight) }
  const hands = weighingHands(now, () => time)
  return {
    hands,
    taken,
    weights: () => taken.map(({ tenths }) => tenths),
    reads(tenths: number, state: ScaleReading['state'] = 'steady') {
      load = followLoad(load, { tenths, state }, newId)
      hands.read({ tenths, tareTenths, state, load } satisfies LiveReading)
    },
    tares(tenths: number) {
      tareTenths = tenths
      load = { id: null, takenTenths: 0, wasThere: false }
      hands.tared()
    },
    hearsOf: ({ load: { id, tenths } }: ScaleWeight) => {
      load = takeLoad(load as PanLoad, { id, tenths }, newId)
    },
    becomes(part: Partial<HandsNow>) {
      now = { ...now, ...part }
      hands.become(now)
    },
    waits: (ms: number) => {
      time += ms
    },
  }
}

describe('hands-free', () => {
  test('a piece goes in once, also while the server has not heard of it yet, and after it has', () => {
    const { reads, weights, hearsOf, taken } = bench('piece')
    reads(900, 'moving')
    reads(1840)
    reads(1841)
    hearsOf(taken[0] as ScaleWeight)
    reads(1840)
    reads(0)
    reads(1760)
    expect(weights()).toEqual([1840, 1760])
  })

  test('into the tub what is added counts, each once the server has heard of the one before', () => {
    const { reads, tares, weights, hearsOf, taken, hands } = bench('into-tub')
    expect(hands.awaits()).toBe('tare')
    reads(4120)
    tares(4120)
    reads(0)
    expect(hands.awaits()).toBe('nothing')
    reads(800)
    reads(1464)
    expect(weights()).toEqual([800])
    hearsOf(taken[0] as ScaleWeight)
    reads(1464)
    expect(weights()).toEqual([800, 664])
  })

  test('a product that comes as soon as the tare is taken is product', () => {
    const { reads, tares, weights } = bench('into-tub')
    tares(4120)
    reads(800, 'moving')
    reads(800)
    expect(weights()).toEqual([800])
  })

  test('another tub on the pan is tared first', () => {
    const { reads, tares, becomes, hands } = bench('into-tub')
    tares(4120)
    reads(0)
    becomes({ tubId: 'tips' })
    expect(hands.awaits()).toBe('zero')
  })

  test('the tub at the end gives what the ledger has not; another tub chosen while it stands gets nothing', () => {
    const { reads, weights, becomes } = bench('tub-at-end', { inTubTenths: 6000 })
    reads(6000)
    becomes({ tubId: 'tips', inTubTenths: 0 })
    reads(6000)
    expect(weights()).toEqual([])
    reads(0)
    reads(2500)
    expect(weights()).toEqual([2500])
  })

  test('what lay there when the scale was found goes in by a tap alone', () => {
    const { reads, weights, hands } = bench('piece', { known: false })
    reads(1840)
    expect(weights()).toEqual([])
    expect(hands.take()?.tenths).toBe(1840)
    expect(hands.take()).toBeUndefined()
  })
})

describe('by a tap', () => {
  test('takes what is steady, once, and nothing while hands are off', () => {
    const { reads, hands, weights } = bench('piece', { isHandsFree: false })
    reads(1840)
    expect(weights()).toEqual([])
    expect(hands.take()).toMatchObject({ tenths: 1840, load: { tenths: 1840 } })
    expect(hands.take()).toBeUndefined()
  })

  test('that came while the pan swung is for the weight that it comes to rest at', () => {
    const { reads, hands } = bench('piece', { isHandsFree: false })
    const early: number[] = []
    reads(1500, 'moving')
    hands.onceSteady(({ tenths }) => early.push(tenths))
    reads(1790, 'moving')
    reads(1840)
    reads(1840)
    expect(early).toEqual([1840])
  })

  test('is forgotten where the pan is handled for longer, or cleared', () => {
    const { reads, hands, waits } = bench('piece', { isHandsFree: false })
    const early: number[] = []
    const take = ({ tenths }: ScaleWeight) => early.push(tenths)
    reads(1500, 'moving')
    hands.onceSteady(take)
    waits(2001)
    reads(1840)
    reads(0)
    reads(900, 'moving')
    hands.onceSteady(take)
    reads(0)
    reads(1760)
    expect(early).toEqual([])
  })

  test('takes nothing of an overloaded scale, and begins a way anew', () => {
    const { reads, hands } = bench('piece', { isHandsFree: false })
    reads(160_000, 'overload')
    expect(hands.take()).toBeUndefined()
    hands.startWay('into-tub')
    expect(hands.awaits()).toBe('tare')
    hands.startWay('piece')
    expect(hands.awaits()).toBe('nothing')
  })
})
