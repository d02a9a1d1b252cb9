import { noSample, pooled, type Sample } from '../statistics/sample.ts'
import { type Expectation, expectation, type Prior, predictiveQuantile } from './expectation.ts'

export interface SeenTest {
  value: number
  /** What was expected of it, from the tests before. */
  expected: Expectation
  /** Outside the middle 98 % of what was expected. */
  isUnusual: boolean
}

/** Each test beside what the ones before it led one to expect, oldest first. */
export function unusualTests(prior: Prior, values: readonly number[]): SeenTest[] {
  let sample: Sample = noSample
  return values.map((value) => {
    const expected = expectation(prior, sample)
    const isUnusual = value < predictiveQuantile(expected, 0.01) || value > predictiveQuantile(expected, 0.99)
    sample = pooled(sample, { n: 1, mean: value, variance: 0 })
    return { value, expected, isUnusual }
  })
}
