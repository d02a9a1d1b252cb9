import type { Sample } from '../statistics/sample.ts'
import { studentTQuantile } from '../statistics/student-t.ts'

/** What is expected before any test: a mean, the spread of single tests, and how many tests that is worth. */
export interface Prior {
  mean: number
  sd: number
  worth: number
}

/** What to expect of the next test. */
export interface Expectation {
  /** The kitchen's own tests in it; 0 where it rests on the cut sheet alone. */
  tests: number
  mean: number
  /** Spread of single tests. */
  sd: number
  /** Spread of the next test about the mean, which is not known exactly either: the scale of a Student-t. */
  predictiveSd: number
  degreesOfFreedom: number
  /** Tests, the prior's worth counted in, that the mean rests on. */
  weight: number
  /** Ends of the 90 % interval of the next test. */
  low: number
  high: number
}

/** How many tests a cut sheet's starting figure counts for. */
export const priorWorth = 3

/** A prior whose own 90 % interval for the next test is as wide as the range that a cut sheet gives. */
export function priorOfRange({ low, typical, high }: { low: number; typical: number; high: number }, worth = priorWorth): Prior {
  const half = Math.max((high - low) / 2, Math.abs(typical) * 0.02, 1e-6)
  return { mean: typical, sd: half / (studentTQuantile(0.95, worth) * Math.sqrt(1 + 1 / worth)), worth }
}

/**
 * A prior brought up to date by tests: normal, mean and variance both unknown (normal-inverse-gamma), so that the next
 * test follows a Student-t.
 *
 * Source: Gelman and others, Bayesian Data Analysis, 3.3.
 * @example expectation({ mean: 60, sd: 2, worth: 3 }, { n: 3, mean: 64, variance: 4 }).mean === 62
 */
export function expectation(prior: Prior, sample: Sample): Expectation {
  const { n } = sample
  const weight = prior.worth + n
  const degreesOfFreedom = prior.worth + n
  const mean = (prior.worth * prior.mean + n * sample.mean) / weight
  const squares =
    prior.worth * prior.sd ** 2 + Math.max(0, n - 1) * sample.variance + (prior.worth * n * (sample.mean - prior.mean) ** 2) / weight
  const sd = Math.sqrt(squares / degreesOfFreedom)
  const predictiveSd = sd * Math.sqrt(1 + 1 / weight)
  const half = studentTQuantile(0.95, degreesOfFreedom) * predictiveSd
  return { tests: n, mean, sd, predictiveSd, degreesOfFreedom, weight, low: mean - half, high: mean + half }
}

/** The value of the next test that a share `p` of them stays below. */
export function predictiveQuantile({ mean, predictiveSd, degreesOfFreedom }: Expectation, p: number): number {
  return mean + studentTQuantile(p, degreesOfFreedom) * predictiveSd
}

/** How far the mean itself may lie from the truth: the scale of a Student-t. */
export function sdOfMean({ sd, weight }: Expectation): number {
  return sd / Math.sqrt(weight)
}

/**
 * What to expect of several shares together, each known on its own: their means and the squares of their spreads add up.
 * @throws RangeError where there are none
 */
export function together(expected: readonly Expectation[]): Expectation {
  const [first] = expected
  if (!first) throw new RangeError('nothing to take together')
  if (expected.length === 1) return first
  const mean = expected.reduce((sum, one) => sum + one.mean, 0)
  const sd = Math.hypot(...expected.map((one) => one.sd))
  const { tests, weight, degreesOfFreedom } = expected.reduce((least, one) => (one.weight < least.weight ? one : least))
  const predictiveSd = Math.hypot(...expected.map((one) => one.predictiveSd))
  const half = studentTQuantile(0.95, degreesOfFreedom) * predictiveSd
  return { tests, mean, sd, predictiveSd, degreesOfFreedom, weight, low: mean - half, high: mean + half }
}
