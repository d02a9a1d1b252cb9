import type { Sample } from '../statistics/sample.ts'
import { type Expectation, expectation, priorOfRange, priorWorth } from './expectation.ts'
import { learnMinutes, type MinutesSums, noMinutes } from './learning.ts'

/**
 * Minutes of one item where so many are done in one go, set-up left out: the sheet's range, brought up to date by the kitchen's tests.
 * Minutes spread by a factor rather than by a sum, so they are learnt in logarithms and given back as minutes.
 * @param worth tests that the sheet's range counts for
 * @example expectMinutes({ low: 10, high: 10 }).tests // 0
 */
export function expectMinutes(
  range: { low: number; high: number },
  sums: MinutesSums = noMinutes,
  itemsPerBatch = 1,
  worth = priorWorth,
): Expectation {
  const { slope } = learnMinutes(sums)
  const [low, high] = [Math.log(range.low), Math.log(range.high)]
  const prior = priorOfRange({ low, typical: (low + high) / 2, high }, worth)
  const found = expectation(prior, minutesAtBatch(sums, slope, Math.log(itemsPerBatch)))
  const mean = Math.exp(found.mean + found.sd ** 2 / 2)
  return {
    ...found,
    mean,
    sd: mean * found.sd,
    predictiveSd: mean * found.predictiveSd,
    low: Math.exp(found.low),
    high: Math.exp(found.high),
  }
}

/** ln minutes an item of every run, each moved along the learning line to one batch size. */
function minutesAtBatch({ n, x, xx, y, xy, yy }: MinutesSums, slope: number, at: number): Sample {
  if (n === 0) return { n, mean: 0, variance: 0 }
  const mean = (y - slope * x) / n + slope * at
  const squares = yy - (y * y) / n - 2 * slope * (xy - (x * y) / n) + slope * slope * (xx - (x * x) / n)
  return { n, mean, variance: n > 1 ? Math.max(0, squares) / (n - 1) : 0 }
}
