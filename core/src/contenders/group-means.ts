import type { Random } from '../random/seeded-random.ts'

/** A mean of some tests with the variance of that mean. */
export interface MeasuredMean {
  mean: number
  variance: number
}

export interface CommonMean {
  /** Mean of all, and its variance. */
  mean: number
  variance: number
  /** Variance of the true means about it. */
  between: number
}

const mostSteps = 200

/**
 * Mean of several true means about which each has been measured, and how far they lie apart: restricted maximum likelihood.
 *
 * Source: Fisher scoring for a random-effects model, Viechtbauer 2005, Journal of Educational and Behavioral Statistics 30(3).
 * @example commonMean([{ mean: 60, variance: 1 }, { mean: 60, variance: 1 }]).between // 0
 */
export function commonMean(groups: readonly MeasuredMean[]): CommonMean {
  let between = 0
  for (let step = 0; step < mostSteps; step += 1) {
    const { mean, one, two, three } = weighed(groups, between)
    const squares = groups.reduce((sum, group) => sum + ((group.mean - mean) / (group.variance + between)) ** 2, 0)
    const trace = one - two / one
    const traceOfSquare = two - (2 * three) / one + (two / one) ** 2
    if (!(traceOfSquare > 0)) break
    const next = Math.max(0, between + (squares - trace) / traceOfSquare)
    if (Math.abs(next - between) <= 1e-12 * (1 + between)) break
    between = next
  }
  const { mean, one } = weighed(groups, between)
  return { mean, variance: 1 / one, between }
}

/** Mean by weight, and sums of the weights and of their powers. */
function weighed(groups: readonly MeasuredMean[], between: number) {
  let [one, two, three, sum] = [0, 0, 0, 0]
  for (const { mean, variance } of groups) {
    const weight = 1 / (variance + between)
    one += weight
    two += weight ** 2
    three += weight ** 3
    sum += weight * mean
  }
  return { mean: sum / one, one, two, three }
}

/** What is known of the spread between tests of one group before any: as many tests' worth. */
export interface UsualSpread {
  sd: number
  worth: number
}

const spreadsTried = 48
/** How far, in spreads of a test, the true means are taken to lie apart before there is anything to go by (half-Cauchy). */
const usualApart = 0.6

/**
 * Draws of the true mean of each group of tests. Groups of few tests are drawn toward the mean of all, the more the less the
 * groups show to lie apart; what is not known of that spread, and of the spread between tests, is drawn too.
 *
 * Source: the normal model with a common mean and a variance between groups, its posterior over a grid of that variance: Gelman and
 * others, Bayesian Data Analysis, 5.4.
 *
 * @param groups values of the tests of each
 * @returns for each group as many draws
 */
export function drawGroupMeans(groups: readonly (readonly number[])[], usual: UsualSpread, draws: number, random: Random): Float64Array[] {
  const sizes = groups.map(({ length }) => length)
  const means = groups.map((values) => values.reduce((sum, value) => sum + value, 0) / values.length)
  let squares = usual.worth * usual.sd ** 2
  let degrees = usual.worth
  for (const [at, values] of groups.entries()) {
    for (const value of values) squares += (value - (means[at] as number)) ** 2
    degrees += values.length - 1
  }
  const drawn = groups.map(() => new Float64Array(draws))
  const measured = groups.map((_values, at) => ({ mean: means[at] as number, variance: 0 }))
  const apart = means.length > 1 ? Math.max(...means) - Math.min(...means) : 0
  for (let draw = 0; draw < draws; draw += 1) {
    const within = squares / (2 * random.gamma(degrees / 2))
    for (const [at, group] of measured.entries()) group.variance = within / (sizes[at] as number)
    const between = groups.length > 1 ? drawBetween(measured, Math.sqrt(within), apart, random) : Number.POSITIVE_INFINITY
    const { mean, one } = Number.isFinite(between) ? weighed(measured, between) : { mean: 0, one: 1 }
    const common = random.normal(mean, Math.sqrt(1 / one))
    for (const [at, group] of measured.entries()) {
      const pulled = Number.isFinite(between) ? group.variance / (group.variance + between) : 0
      const spread = Math.sqrt(group.variance * (1 - pulled))
      ;(drawn[at] as Float64Array)[draw] = random.normal((1 - pulled) * group.mean + pulled * common, spread)
    }
  }
  return drawn
}

/** A variance between groups, drawn by how likely it makes what was measured. */
function drawBetween(groups: readonly MeasuredMean[], within: number, apart: number, random: Random): number {
  const most = 3 * apart + 2 * within
  const chances = new Float64Array(spreadsTried)
  let best = Number.NEGATIVE_INFINITY
  for (let at = 0; at < spreadsTried; at += 1) {
    const sd = ((at + 0.5) / spreadsTried) ** 2 * most
    chances[at] = restrictedLikelihood(groups, sd * sd) - Math.log(1 + (sd / (usualApart * within)) ** 2) + Math.log(at + 0.5)
    best = Math.max(best, chances[at] as number)
  }
  let sum = 0
  for (let at = 0; at < spreadsTried; at += 1) sum += chances[at] = Math.exp((chances[at] as number) - best)
  let left = random.next() * sum
  let at = 0
  while (at < spreadsTried - 1 && left >= (chances[at] as number)) {
    left -= chances[at] as number
    at += 1
  }
  return (((at + random.next()) / spreadsTried) ** 2 * most) ** 2
}

/** Log likelihood of a variance between groups, the common mean integrated out. */
function restrictedLikelihood(groups: readonly MeasuredMean[], between: number): number {
  const { mean, one } = weighed(groups, between)
  let log = -0.5 * Math.log(one)
  for (const group of groups) {
    const variance = group.variance + between
    log -= 0.5 * (Math.log(variance) + (group.mean - mean) ** 2 / variance)
  }
  return log
}
