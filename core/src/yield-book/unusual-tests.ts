import { noSample, pooled, type Sample } from '../statistics/sample.ts'
import { type Expectation, expectation, type Prior, predictiveQuantile } from './expectation.ts'
import { expectShare } from './expected-share.ts'
import { noRuns, noShares, type ShareTest, withRun, withShare } from './share-sums.ts'

export interface SeenTest {
  value: number
  /** What was expected of it, from the tests before. */
  expected: Expectation
  /** Outside the middle 98 % of what was expected. */
  isUnusual: boolean
}

function seenAs(value: number, expected: Expectation): SeenTest {
  const isUnusual = value < predictiveQuantile(expected, 0.01) || value > predictiveQuantile(expected, 0.99)
  return { value, expected, isUnusual }
}

/**
 * Each test beside what the ones before it led one to expect, oldest first.
 * @example unusualTests({ mean: 25, sd: 1, worth: 3 }, [25, 40]).map(({ isUnusual }) => isUnusual) // [false, true]
 */
export function unusualTests(prior: Prior, values: readonly number[]): SeenTest[] {
  let sample: Sample = noSample
  return values.map((value) => {
    const seen = seenAs(value, expectation(prior, sample))
    sample = pooled(sample, { n: 1, mean: value, variance: 0 })
    return seen
  })
}

/**
 * The same for shares, each test by its own number of items and their weight.
 * @param changeAt place of the first test after something changed: what came before says nothing of it
 * @example unusualShares({ mean: 60, sd: 1, worth: 3 }, [{ pct: 60, items: 1, grams: 3000 }, { pct: 90, items: 1, grams: 3000 }]).map(({ isUnusual }) => isUnusual) // [false, true]
 */
export function unusualShares(prior: Prior, tests: readonly ShareTest[], changeAt = 0): SeenTest[] {
  let [shares, runs] = [noShares, noRuns]
  return tests.map((test, at) => {
    if (at === changeAt) [shares, runs] = [noShares, noRuns]
    const seen = seenAs(test.pct, expectShare(prior, shares, runs, test, changeAt > 0 && at >= changeAt))
    shares = withShare(shares, test)
    runs = withRun(runs, test)
    return seen
  })
}
