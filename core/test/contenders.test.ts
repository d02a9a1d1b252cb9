import fc from 'fast-check'
import { commonMean, drawGroupMeans } from '../src/contenders/group-means.ts'
import { type Contender, type ContenderTest, testsToTell, whichContender } from '../src/contenders/which-contender.ts'
import { seededRandom } from '../src/random/seeded-random.ts'

describe('several means about one', () => {
  test('the thirteen tuberculosis trials as published: between 0.3132, mean −0.7145, its error 0.1798', () => {
    const ratios = [-0.8893, -1.5854, -1.3481, -1.4416, -0.2175, -0.7861, -1.6209, 0.012, -0.4694, -1.3713, -0.3394, 0.4459, -0.0173]
    const variances = [0.3256, 0.1946, 0.4154, 0.02, 0.0512, 0.0069, 0.223, 0.004, 0.0564, 0.073, 0.0124, 0.5325, 0.0714]
    const { mean, variance, between } = commonMean(ratios.map((ratio, at) => ({ mean: ratio, variance: variances[at] as number })))
    expect(between).toBeCloseTo(0.3132, 2)
    expect(mean).toBeCloseTo(-0.7145, 3)
    expect(Math.sqrt(variance)).toBeCloseTo(0.1798, 3)
  })

  test('the eight schools as published: no more apart than chance, about 7.7 with an error of 4.1', () => {
    const gains = [28, 8, -3, 7, -1, 1, 18, 12]
    const errors = [15, 10, 16, 11, 9, 11, 10, 18]
    const { mean, variance, between } = commonMean(gains.map((gain, at) => ({ mean: gain, variance: (errors[at] as number) ** 2 })))
    expect(between).toBe(0)
    expect(mean).toBeCloseTo(7.69, 1)
    expect(Math.sqrt(variance)).toBeCloseTo(4.07, 2)
  })
})

describe('groups of tests', () => {
  const mean = (draws: Float64Array | undefined) => (draws ?? new Float64Array()).reduce((sum, one) => sum + one, 0) / (draws?.length ?? 1)
  const around = (centre: number, count: number) => Array.from({ length: count }, (_none, at) => centre + (at % 2 ? 1 : -1))

  test('one test of a newcomer is drawn toward the mean of all, many tests are believed', () => {
    const [a, b, few, many] = drawGroupMeans(
      [around(60, 12), around(60.5, 12), [66], around(66, 40)],
      { sd: 1, worth: 3 },
      2000,
      seededRandom(3),
    ).map(mean)
    expect(many).toBeCloseTo(66, 0)
    expect((few as number) < 65.9 && (few as number) > (a as number)).toBe(true)
    expect(b).toBeLessThan(61.5)
  })

  test('the same seed draws the same; every draw is a number, whatever the tests', () => {
    const values = fc.array(fc.double({ min: 0, max: 100, noNaN: true }), { minLength: 1, maxLength: 5 })
    fc.assert(
      fc.property(fc.array(values, { minLength: 1, maxLength: 5 }), (groups) => {
        const once = drawGroupMeans(groups, { sd: 2, worth: 3 }, 20, seededRandom(5))
        expect(drawGroupMeans(groups, { sd: 2, worth: 3 }, 20, seededRandom(5))).toEqual(once)
        for (const draws of once) for (const one of draws) expect(Number.isFinite(one)).toBe(true)
      }),
      { numRuns: 60 },
    )
  })
})

describe('which of them is really cheaper', () => {
  const tests = (mainPct: number, changes: Partial<ContenderTest> = {}, count = 14): ContenderTest[] =>
    Array.from({ length: count }, (_none, at) => ({
      ...{ mainPct: mainPct + (at % 2 ? 0.6 : -0.6), creditPerKg: 2, minutesPerKg: 4, billedOverReceived: 1 },
      ...changes,
    }))
  const ask = (contenders: Contender[]) => whichContender({ contenders, hourCost: 21, draws: 2000, seed: 11 })

  test('the dearer invoice can be the cheaper plate: price over yield, with the work and what comes off beside', () => {
    const { contenders, best, dearerPerKg } = ask([
      { id: 'cheap', pricePerKg: 30, tests: tests(52) },
      { id: 'dear', pricePerKg: 32, tests: tests(60) },
    ])
    // (30 + 4 min at 21 an hour − 2) / 0.52 and (32 + 1.4 − 2) / 0.60
    expect(contenders[0]?.costPerKg.mean).toBeCloseTo(29.4 / 0.52, 0)
    expect(contenders[1]?.costPerKg.mean).toBeCloseTo(31.4 / 0.6, 0)
    expect([best, (contenders[1]?.cheapest ?? 0) > 0.95, (dearerPerKg[0]?.low ?? 0) > 0]).toEqual([1, true, true])
  })

  test('short weight and claims count; alike, neither is likely the cheapest', () => {
    const { contenders } = ask([
      { id: 'full', pricePerKg: 30, tests: tests(56) },
      { id: 'short', pricePerKg: 30, tests: tests(56, { billedOverReceived: 1.03 }) },
      { id: 'credited', pricePerKg: 30, tests: tests(56, { billedOverReceived: 1.03 }), creditedPerKg: 0.9 },
    ])
    const [full, short, credited] = contenders
    expect((short?.costPerKg.mean ?? 0) - (full?.costPerKg.mean ?? 0)).toBeGreaterThan(0.8)
    expect(Math.abs((credited?.costPerKg.mean ?? 0) - (full?.costPerKg.mean ?? 0))).toBeLessThan(0.4)
    expect(short?.shortPct.mean).toBeGreaterThan(1.5)
    const same = ask([
      { id: 'a', pricePerKg: 30, tests: tests(56, {}, 4) },
      { id: 'b', pricePerKg: 30, tests: tests(56, {}, 4) },
    ])
    expect(same.contenders.every(({ cheapest }) => cheapest > 0.3 && cheapest < 0.7)).toBe(true)
    expect(ask([{ id: 'none', pricePerKg: 30, tests: [] }])).toEqual({ contenders: [], dearerPerKg: [], best: -1 })
  })

  test('how many more would tell', () => {
    expect([
      testsToTell({ difference: 2, sd: 3, tests: [4, 4] }),
      testsToTell({ difference: 2, sd: 3, tests: [20, 20] }),
      testsToTell({ difference: 0, sd: 3, tests: [4, 4] }),
      testsToTell({ difference: 0.01, sd: 3, tests: [4, 4] }),
    ]).toEqual([9, 0, undefined, undefined])
  })
})
