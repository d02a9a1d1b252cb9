import { gammaQuantile, normalShare } from '../statistics/distributions.ts'
import type { Sample } from '../statistics/sample.ts'
import { studentTQuantile } from '../statistics/student-t.ts'

/** What is expected before any test: a mean, the spread of single tests, and how many tests that is worth. */
export interface Prior {
  mean: number
  sd: number
  worth: number
  /** Of a share: how often there is none of it at all, 0–1. */
  none?: number | undefined
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
  /** Of a share, which cannot be below nothing: how often there is none of it at all, 0–1. Absent for anything else. */
  none?: number | undefined
}

/** How many tests a cut sheet's starting figure counts for. */
export const priorWorth = 3

/**
 * A prior whose own 90 % interval for the next test is as wide as the range that a cut sheet gives.
 * @example priorOfRange({ low: 22, typical: 25, high: 28 }).mean === 25
 */
export function priorOfRange({ low, typical, high }: { low: number; typical: number; high: number }, worth = priorWorth): Prior {
  const half = Math.max((high - low) / 2, Math.abs(typical) * 0.02, 1e-6)
  return { mean: typical, sd: half / (studentTQuantile(0.95, worth) * Math.sqrt(1 + 1 / worth)), worth }
}

/** How often there is none of a share whose range begins at nothing. */
const noneAtNothing = 0.1
/** Ranges that people give are narrower than what is met. */
const metBeyond = 1.1

/**
 * The same for a share of the received weight: a range that is cut off at nothing is as wide below as above, and there may be
 * none of it at all.
 * @example priorOfShare({ low: 0, typical: 1, high: 2 }).none === 0.1
 */
export function priorOfShare({ low, typical, high }: { low: number; typical: number; high: number }, worth = priorWorth): Prior {
  const prior = priorOfRange({ low: Math.min(low, 2 * typical - high), typical, high }, worth)
  return { ...prior, sd: prior.sd * metBeyond, none: low <= 0 ? noneAtNothing : 0 }
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
  return intervalOf({ tests: n, mean, sd, predictiveSd, degreesOfFreedom, weight })
}

type Unended = Omit<Expectation, 'low' | 'high'>

/**
 * An expectation with the ends of its 90 % interval. Where a share is often nothing at all, that is its lower end, and nine in
 * ten lie up to the upper.
 * @example intervalOf({ tests: 9, mean: 60, sd: 2, predictiveSd: 2.1, degreesOfFreedom: 12, weight: 12 }).high // 63.7428
 */
export function intervalOf(given: Unended): Expectation {
  const low = predictiveQuantile(given, 0.05)
  return { ...given, low, high: predictiveQuantile(given, low === 0 && given.none !== undefined ? 0.92 : 0.95) }
}

/** Where the spread reaches so far towards nothing, a share is seen as a gamma distribution, which ends there. */
const bentFrom = 0.2

/**
 * The value of the next test that a share `p` of them stays below; of a share never below nothing.
 * @example predictiveQuantile({ tests: 9, mean: 60, sd: 2, predictiveSd: 2.1, degreesOfFreedom: 12, weight: 12 }, 0.5) === 60
 */
export function predictiveQuantile({ mean, predictiveSd, degreesOfFreedom, none }: Unended, p: number): number {
  if (none === undefined) return mean + studentTQuantile(p, degreesOfFreedom) * predictiveSd
  if (mean <= 0 || p <= none) return 0
  const t = studentTQuantile((p - none) / (1 - none), degreesOfFreedom)
  // what there is where there is any: of its own mean and spread, which those without make up the rest of
  const some = mean / (1 - none)
  const sd = Math.sqrt(Math.max((predictiveSd ** 2 + mean ** 2) / (1 - none) - some ** 2, (some * 0.01) ** 2))
  return sd <= bentFrom * some ? some + t * sd : gammaQuantile(normalShare(t), some, sd)
}

/**
 * How far the mean itself may lie from the truth: the scale of a Student-t.
 * @example sdOfMean(expectation({ mean: 60, sd: 2, worth: 4 }, { n: 0, mean: 0, variance: 0 })) === 1
 */
export function sdOfMean({ sd, weight }: Expectation): number {
  return sd / Math.sqrt(weight)
}

/**
 * What to expect of several shares together, each known on its own: their means and the squares of their spreads add up.
 * @throws RangeError where there are none
 * @example together([expectation({ mean: 40, sd: 3, worth: 3 }, { n: 0, mean: 0, variance: 0 }), expectation({ mean: 20, sd: 4, worth: 3 }, { n: 0, mean: 0, variance: 0 })]).sd === 5
 */
export function together(expected: readonly Expectation[]): Expectation {
  const [first] = expected
  if (!first) throw new RangeError('nothing to take together')
  if (expected.length === 1) return first
  const mean = expected.reduce((sum, one) => sum + one.mean, 0)
  const sd = Math.hypot(...expected.map((one) => one.sd))
  const { tests, weight, degreesOfFreedom } = expected.reduce((least, one) => (one.weight < least.weight ? one : least))
  const predictiveSd = Math.hypot(...expected.map((one) => one.predictiveSd))
  return intervalOf({ tests, mean, sd, predictiveSd, degreesOfFreedom, weight, none: first.none === undefined ? undefined : 0 })
}
