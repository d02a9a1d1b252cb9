import fc from 'fast-check'
import { seededRandom } from '../src/random/seeded-random.ts'
import { blockedDifference } from '../src/statistics/blocked-difference.ts'
import { noSample, pooled, sampleOfSums, summarise } from '../src/statistics/sample.ts'
import { studentTCdf, studentTQuantile } from '../src/statistics/student-t.ts'
import { expectation, priorOfRange, priorOfShare, sdOfMean, together } from '../src/yield-book/expectation.ts'
import { expectCut } from '../src/yield-book/expected-cut.ts'
import { expectShare } from '../src/yield-book/expected-share.ts'
import { findChange } from '../src/yield-book/find-change.ts'
import { learnMinutes, noMinutes, sumMinutes } from '../src/yield-book/learning.ts'
import { noRuns, noShares, type ShareTest, sumRuns, sumShares } from '../src/yield-book/share-sums.ts'
import { sinceChange, type TestRecord, testedCutOf } from '../src/yield-book/tested-cut.ts'
import { unusualShares, unusualTests } from '../src/yield-book/unusual-tests.ts'

test.each([
  [0.95, 1, 6.3138],
  [0.95, 3, 2.3534],
  [0.975, 10, 2.2281],
  [0.99, 30, 2.4573],
  [0.9, 120, 1.2886],
  [0.95, 1e6, 1.6449],
])('the %f quantile of Student’s t with %i degrees of freedom is the one of the printed tables', (p, degrees, tabulated) => {
  expect(studentTQuantile(p, degrees)).toBeCloseTo(tabulated, 3)
  expect(studentTQuantile(1 - p, degrees)).toBeCloseTo(-tabulated, 3)
  expect(studentTCdf(studentTQuantile(p, degrees), degrees)).toBeCloseTo(p, 8)
})

test('a sample put together from two is the sample of all', () => {
  const values = fc.array(fc.double({ min: -50, max: 150, noNaN: true }), { maxLength: 30 })
  fc.assert(
    fc.property(values, values, (a, b) => {
      const [whole, parts] = [summarise([...a, ...b]), pooled(summarise(a), summarise(b))]
      expect(parts.n).toBe(whole.n)
      expect(parts.mean).toBeCloseTo(whole.mean, 8)
      expect(parts.variance).toBeCloseTo(whole.variance, 6)
    }),
  )
})

test('a sample read off running totals is the sample of the values', () => {
  fc.assert(
    fc.property(fc.array(fc.double({ min: 0, max: 100, noNaN: true }), { maxLength: 40 }), (values) => {
      const total = (of: (value: number) => number) => values.reduce((sum, value) => sum + of(value), 0)
      const [whole, read] = [
        summarise(values),
        sampleOfSums(
          values.length,
          total((v) => v),
          total((v) => v * v),
        ),
      ]
      expect(read.n).toBe(whole.n)
      expect(read.mean).toBeCloseTo(whole.mean, 9)
      expect(read.variance).toBeCloseTo(whole.variance, 6)
    }),
  )
})

test('a difference is that within blocks: as least squares with a level for each', () => {
  const random = seededRandom(3)
  const values = (count: number, block: string, mean: number) =>
    Array.from({ length: count }, () => ({ value: random.normal(mean, 1), block }))
  const a = [...values(7, 'ines', 12), ...values(2, 'pip', 9), ...values(3, 'tobias', 5)]
  const b = [...values(3, 'ines', 10), ...values(8, 'pip', 7)]
  const found = blockedDifference(a, b)
  const all = [...a.map((one) => ({ ...one, treated: 1 })), ...b.map((one) => ({ ...one, treated: 0 }))]
  // the slope of values on treatment once both have lost their block's mean (Frisch and Waugh)
  const meanOf = (block: string, of: (one: (typeof all)[number]) => number) =>
    summarise(all.filter((one) => one.block === block).map(of)).mean
  const treated = all.map((one) => one.treated - meanOf(one.block, (other) => other.treated))
  const value = all.map((one) => one.value - meanOf(one.block, (other) => other.value))
  const sum = (of: (at: number) => number) => all.reduce((total, _, at) => total + of(at), 0)
  const spread = sum((at) => (treated[at] as number) ** 2)
  const slope = sum((at) => (treated[at] as number) * (value[at] as number)) / spread
  const left = sum((at) => ((value[at] as number) - slope * (treated[at] as number)) ** 2)
  const degrees = all.length - 3 - 1
  expect(found?.mean).toBeCloseTo(slope, 10)
  expect(found?.degreesOfFreedom).toBe(degrees)
  expect((found?.high ?? 0) - slope).toBeCloseTo(studentTQuantile(0.95, degrees) * Math.sqrt(left / degrees / spread), 10)
  expect(blockedDifference(values(4, 'ines', 1), values(4, 'pip', 2))).toBeUndefined()
})

const range = { low: 22, typical: 25, high: 28 }

test('before any test, nine of ten are expected within the range of the sheet', () => {
  const found = expectation(priorOfRange(range), noSample)
  expect(found).toMatchObject({ tests: 0, mean: 25 })
  expect([found.low, found.high].map((end) => Number(end.toFixed(9)))).toEqual([22, 28])
})

test('three tests weigh as much as the sheet, many leave it behind, and the mean lies between', () => {
  const prior = priorOfRange(range)
  expect(expectation(prior, { n: 3, mean: 29, variance: 0.5 }).mean).toBe(27)
  expect(expectation(prior, { n: 1000, mean: 29, variance: 0.5 }).mean).toBeCloseTo(29, 1)
  fc.assert(
    fc.property(fc.integer({ min: 1, max: 5000 }), fc.double({ min: 1, max: 99, noNaN: true }), (n, mean) => {
      const found = expectation(prior, { n, mean, variance: 1 })
      expect(found.mean).toBeGreaterThanOrEqual(Math.min(25, mean))
      expect(found.mean).toBeLessThanOrEqual(Math.max(25, mean))
    }),
  )
})

test('tests that agree narrow the interval; one alone is an honest little', () => {
  const width = (n: number) => {
    const { low, high } = expectation(priorOfRange(range), { n, mean: 25, variance: 1 })
    return high - low
  }
  const widths = [0, 1, 3, 10, 100, 1000].map(width)
  expect([...widths].sort((a, b) => b - a)).toEqual(widths)
  const spread = (n: number) => sdOfMean(expectation(priorOfRange(range), { n, mean: 25, variance: 1 }))
  expect(spread(1000)).toBeCloseTo(1 / Math.sqrt(1003), 2)
})

test('shares taken together add up, and are as sure as the less tested of them', () => {
  const [first, second] = [
    expectation(priorOfRange(range), { n: 9, mean: 25, variance: 1 }),
    expectation(priorOfRange(range), { n: 2, mean: 20, variance: 4 }),
  ]
  const both = together([first, second])
  expect(both.mean).toBeCloseTo(first.mean + second.mean, 12)
  expect(both.predictiveSd ** 2).toBeCloseTo(first.predictiveSd ** 2 + second.predictiveSd ** 2, 12)
  expect(both).toMatchObject({ tests: 2, weight: second.weight, degreesOfFreedom: second.degreesOfFreedom })
  expect(together([first])).toBe(first)
})

test('the weight of the next item goes by what was delivered, whatever range its sheet is fit for', () => {
  const wide = { weightKg: { low: 0.6, high: 4 }, minutes: { low: 4, high: 8 }, outputs: [] }
  const at = (itemGrams: { n: number; mean: number; variance: number }) =>
    expectCut(wide, { tests: itemGrams.n, itemGrams, minutes: noMinutes, mains: noShares, runs: noRuns, outputs: [] }).itemGrams
  const bass = at({ n: 38, mean: 817, variance: 19 ** 2 })
  expect(bass.mean).toBeCloseTo(817, 9)
  expect(bass.sd).toBeGreaterThan(19)
  expect(bass.sd).toBeLessThan(23)
  expect(at({ n: 1, mean: 817, variance: 0 })).toMatchObject({ mean: 817 })
  expect(at(noSample)).toMatchObject({ tests: 0, mean: 2300 })
})

test('single tests, summed up, are what the whole book would say of them', () => {
  const tests: TestRecord[] = [
    { receivedTenths: 30_000, pieces: 1, minutes: 20, shares: { steak: 40, head: 20, fat: 9 } },
    { receivedTenths: 56_000, pieces: 2, minutes: null, shares: { steak: 44, head: 18 } },
  ]
  const tested = testedCutOf(tests, ['steak', 'head'])
  expect(tested).toMatchObject({
    tests: 2,
    itemGrams: { n: 2, mean: 2900 },
    mains: { n: 2, y: 122 },
    runs: { tests: 2, n: 3, inverse: 1.5, w: 5800 },
    minutes: { n: 1 },
  })
  const shareOf = (key: string) => tested.outputs.find((output) => output.key === key)?.share
  expect(shareOf('steak')).toMatchObject({ n: 2, y: 84, ny: 40 + 2 * 44, none: 0 })
  expect(shareOf('fat')).toMatchObject({ n: 1, y: 9 })
  expect(testedCutOf([], ['steak'])).toMatchObject({ tests: 0, mains: { n: 0 }, outputs: [] })
})

test('the spreads of mains that know nothing of each other add up by their squares', () => {
  const range = (key: string, role: 'main' | 'waste') => ({ key, role, lowPct: 30, typicalPct: 35, highPct: 40 })
  const sheet = {
    weightKg: { low: 2, high: 4 },
    minutes: { low: 9, high: 12 },
    outputs: [range('a', 'main'), range('b', 'main'), range('c', 'waste')],
  }
  const { mains, shares } = expectCut(sheet, undefined)
  const [together, one] = [mains, shares.get('a')].map((found) => (found?.high ?? 0) - (found?.low ?? 0))
  expect(mains.mean).toBe(70)
  expect(together).toBeCloseTo((one ?? 0) * Math.SQRT2, 9)
})

test('of tests that follow the sheet hardly any is unusual, a spoilt one is', () => {
  const random = seededRandom(11)
  const prior = priorOfRange(range)
  const values = Array.from({ length: 400 }, () => random.normal(25, prior.sd))
  const seen = unusualTests(prior, [...values, 15])
  expect(seen.filter((one) => one.isUnusual).length).toBeLessThan(400 * 0.05)
  expect(seen.at(-1)?.isUnusual).toBe(true)
  expect(seen[0]?.expected.tests).toBe(0)
})

describe('learning', () => {
  const runs = (slope: number, noise: number) => {
    const random = seededRandom(5)
    return [1, 2, 4, 8, 1, 2, 4, 8, 3, 6].map((items) => ({
      items,
      minutes: items * 8 * items ** slope * Math.exp(random.normal(0, noise)),
    }))
  }

  test('a fifth off with every doubling is found again', () => {
    const found = learnMinutes(sumMinutes(runs(Math.log2(0.8), 0)))
    expect(found.perDoubling).toBeCloseTo(0.8, 9)
    expect(found.measured?.runs).toBe(10)
  })

  test('noise is not called learning, nor is a single count of items', () => {
    expect(learnMinutes(sumMinutes(runs(0, 0.3))).slope).toBe(0)
    expect(learnMinutes(sumMinutes(Array.from({ length: 50 }, () => ({ items: 5, minutes: 40 })))).measured).toBeUndefined()
    expect(learnMinutes(sumMinutes([{ items: 2, minutes: null }])).slope).toBe(0)
  })

  test('minutes are expected for the batch asked for', () => {
    const sheet = { weightKg: { low: 1.4, high: 2.8 }, minutes: { low: 6, high: 10 }, outputs: [] }
    const tested = {
      tests: 10,
      itemGrams: noSample,
      minutes: sumMinutes(runs(Math.log2(0.8), 0)),
      mains: noShares,
      runs: noRuns,
      outputs: [],
    }
    const at = (items: number) => expectCut(sheet, tested, items).minutesPerItem.mean
    // eight in one go: three doublings, with three tests' worth of the sheet, which knows of no learning
    expect(at(8) / at(1)).toBeGreaterThan(0.8 ** 3)
    expect(at(8) / at(1)).toBeLessThan(0.8 ** 2)
    expect(at(1)).toBeGreaterThan(at(4))
    expect(at(4)).toBeGreaterThan(at(8))
    expect(expectCut(sheet, { ...tested, minutes: noMinutes }).minutesPerItem).toMatchObject({ tests: 0 })
  })
})

test('an empty log leaves the sheet’s own figures', () => {
  const sheet = {
    weightKg: { low: 2, high: 4 },
    minutes: { low: 20, high: 20 },
    outputs: [{ key: 'steak', role: 'main' as const, lowPct: 34, typicalPct: 40, highPct: 46 }],
  }
  const found = expectCut(sheet, undefined)
  expect(found).toMatchObject({ tests: 0, itemGrams: { mean: 3000 } })
  expect(found.minutesPerItem.mean).toBeCloseTo(20, 1)
  expect(found.shares.get('steak')).toMatchObject({ mean: 40, tests: 0 })
})

describe('a share', () => {
  const prior = priorOfShare({ low: 58, typical: 62, high: 66 })
  const tests = (random: ReturnType<typeof seededRandom>, items: readonly number[], of: (items: number, grams: number) => number) =>
    items.map((count): ShareTest => {
      const grams = random.normal(3000, 200)
      return { items: count, grams, pct: of(count, grams) }
    })
  const expected = (list: readonly ShareTest[], next: Parameters<typeof expectShare>[3]) =>
    expectShare(prior, sumShares(list), sumRuns(list), next)

  test('of a run of twelve spreads less than that of one bird', () => {
    const random = seededRandom(4)
    const list = tests(
      random,
      Array.from({ length: 300 }, (_, at) => [1, 6, 12][at % 3] as number),
      (items) => random.normal(62, 3 / Math.sqrt(items)),
    )
    const [one, twelve] = [expected(list, { items: 1 }), expected(list, { items: 12 })]
    expect(one.mean).toBeCloseTo(twelve.mean, 2)
    expect(one.sd).toBeGreaterThan(2.4)
    expect(one.sd).toBeLessThan(3.6)
    expect(twelve.sd).toBeLessThan(one.sd / 2)
  })

  test('moves with the weight of the item where the log shows it, and only there', () => {
    const random = seededRandom(6)
    const ones = Array.from({ length: 40 }, () => 1)
    const rising = tests(random, ones, (_, grams) => 62 + (grams - 3000) / 100 + random.normal(0, 0.5))
    const level = tests(random, ones, () => random.normal(62, 2))
    expect(expected(rising, { items: 1, grams: 3400 }).mean - expected(rising, { items: 1, grams: 2600 }).mean).toBeCloseTo(8, 0)
    expect(expected(rising, { items: 1, grams: 3000 }).sd).toBeLessThan(expected(rising, { items: 1 }).sd / 2)
    expect(expected(level, { items: 1, grams: 3400 })).toEqual(expected(level, { items: 1 }))
  })

  test('is never below nothing, and nothing where it is often not there', () => {
    const near = priorOfShare({ low: 0, typical: 0.6, high: 1.5 })
    fc.assert(
      fc.property(fc.array(fc.double({ min: 0, max: 3, noNaN: true }), { maxLength: 40 }), (pcts) => {
        const list = pcts.map((pct) => ({ pct, items: 1, grams: 3000 }))
        const { low, mean, high } = expectShare(near, sumShares(list), sumRuns(list))
        expect(low).toBeGreaterThanOrEqual(0)
        expect(high).toBeGreaterThanOrEqual(low)
        expect(mean).toBeGreaterThan(0)
      }),
    )
    const oftenNone = [0, 1.2, 0, 0.9, 1.1, 0, 1.3, 1].map((pct) => ({ pct, items: 1, grams: 3000 }))
    expect(expectShare(near, sumShares(oftenNone), sumRuns(oftenNone)).low).toBe(0)
  })

  test('goes by the tests since a change, which the sheet’s figure then hardly moves', () => {
    const random = seededRandom(8)
    const before = Array.from({ length: 30 }, () => random.normal(62, 1))
    const since = Array.from({ length: 8 }, () => random.normal(55, 1))
    expect(findChange([before])).toBe(0)
    expect(findChange([[...before, ...since]])).toBe(30)
    expect(findChange([before.concat(since).map(() => 5), [...before, ...since]])).toBe(30)
    const list = since.map((pct) => ({ pct, items: 1, grams: 3000 }))
    const [anew, kept] = [true, false].map((changed) => expectShare(prior, sumShares(list), sumRuns(list), { items: 1 }, changed).mean)
    expect(Math.abs((anew ?? 0) - 55)).toBeLessThan(0.7)
    expect(kept).toBeGreaterThan(56)
    const records = [...before, ...since].map((pct) => ({ receivedTenths: 30_000, pieces: 1, minutes: null, shares: { steak: pct } }))
    expect(sinceChange(records)).toHaveLength(8)
    expect(testedCutOf(records, ['steak'])).toMatchObject({ tests: 8, mains: { n: 8 } })
    expect(testedCutOf(records, ['steak']).since).not.toBeNull()
  })

  test('finds no change where there is none, all but very seldom', () => {
    const random = seededRandom(12)
    const alarms = Array.from({ length: 1000 }, () => findChange([Array.from({ length: 40 }, () => random.normal(62, 2))])).filter(
      (at) => at > 0,
    )
    expect(alarms.length).toBeLessThan(10)
  })

  test('a test that is unusual for a run of twelve is not for one bird', () => {
    const random = seededRandom(9)
    const usual = tests(
      random,
      Array.from({ length: 40 }, (_, at) => (at % 2 === 0 ? 1 : 12)),
      (items) => random.normal(62, 3 / Math.sqrt(items)),
    )
    const seen = (items: number) => unusualShares(prior, [...usual, { pct: 66, items, grams: 3000 }]).at(-1)
    expect(seen(12)?.isUnusual).toBe(true)
    expect(seen(1)?.isUnusual).toBe(false)
  })
})
