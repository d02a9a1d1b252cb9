import { studentTQuantile } from '../statistics/student-t.ts'
import { type Expectation, intervalOf, type Prior } from './expectation.ts'
import { noRuns, noShares, type RunSums, type ShareSums } from './share-sums.ts'

/** The test that is asked about: how many items it is of, and what one weighs where that is known. */
export interface NextTest {
  items: number
  grams?: number | undefined
}

/**
 * Which part of the variance is taken to lie between runs before the log shows another, and how many tests that counts for:
 * for fewer items than the runs had, and for more. Each is what makes the interval the wider.
 */
const usualRunPart = { fewer: 0.1, more: 0.25 }
const splitWorth = 25
/** After a change the sheet's mean counts for less: what it speaks of has changed. */
const worthAfterChange = 0.1
/** So few tests show no line. */
const fewestForLine = 8

/**
 * What share to expect of the next test. Runs differ from each other and so do the items within one: a run of twelve is not
 * one bird, and its share spreads less than one bird's. Where the log shows that the share moves with the item's weight and
 * that is known, so does the expectation. A share is never below nothing, and neither is its interval.
 *
 * Source: normal-inverse-gamma as in `expectation`; variances of runs and items from the plain and the weighted sum of squares
 * (method of moments, as in an analysis of variance of unequal groups); least squares for the line.
 *
 * @param prior share of a test of one item, percent
 * @param afterChange the tests are those since something changed
 * @example expectShare({ mean: 60, sd: 2, worth: 3 }).mean === 60
 */
export function expectShare(
  prior: Prior,
  shares: ShareSums = noShares,
  allRuns: RunSums = noRuns,
  next: NextTest = { items: 1 },
  afterChange = false,
): Expectation {
  const { n } = shares
  const runs = runsOf(shares, allRuns)
  const runPart = runPartOf(shares, runs, usualRunPart[next.items * runs.inverse < n ? 'fewer' : 'more'])
  const spreadOf = (items: number) => runPart + (1 - runPart) / items
  const spreads = n === 0 ? 0 : runPart * n + (1 - runPart) * runs.inverse
  const found =
    n === 0
      ? { mean: 0, squares: 0, degrees: 0, along: 0, slopeError: 0 }
      : tested(shares, runs, n === allRuns.tests ? next : { items: next.items })
  // variance of a test of one item: that of the tests, whose runs were of so many items
  const ofOneItem = found.degrees > 0 ? found.squares / found.degrees / (spreads / n) : 0
  const tests = n === 0 ? 0 : (n * n) / spreads
  const meanWorth = prior.worth * (afterChange ? worthAfterChange : 1)
  const weight = meanWorth + tests
  const spread = spreadOf(next.items)
  // runs of many items say less of how one of them differs
  const degrees = n === 0 ? 0 : n * Math.min(1, spreads / n / spread)
  const degreesOfFreedom = prior.worth + degrees
  // a line along the weight leaves what a share can be far from where the tests were
  const mean = Math.min(100, Math.max(0, (meanWorth * prior.mean + tests * found.mean) / weight + found.along))
  const squares =
    prior.worth * prior.sd ** 2 + Math.max(0, degrees - 1) * ofOneItem + (meanWorth * tests * (found.mean - prior.mean) ** 2) / weight
  const none = ((prior.none ?? 0) * prior.worth + shares.none) / (prior.worth + n)
  const sd = Math.sqrt((squares / degreesOfFreedom) * spread)
  const predictiveSd = Math.hypot(sd * Math.sqrt(1 + 1 / (weight * spread)), found.slopeError)
  return intervalOf({ tests: n, mean, sd, predictiveSd, degreesOfFreedom, weight: weight * spread, none })
}

/** Run sums of an output that not every test has, as of a version of the sheet that came later: as many as there are, like the rest. */
function runsOf({ n }: ShareSums, runs: RunSums): RunSums {
  if (n === runs.tests || runs.tests === 0) return runs
  const part = n / runs.tests
  return { tests: n, n: runs.n * part, nn: runs.nn * part, inverse: runs.inverse * part, w: runs.w * part, ww: runs.ww * part }
}

/** Mean and squares of the tests: about a line through the item's weight where one shows and the next weight is known. */
function tested({ n, y, yy, wy }: ShareSums, { w, ww }: RunSums, { grams }: NextTest) {
  const mean = y / n
  const squares = Math.max(0, yy - (y * y) / n)
  const about = { mean, squares, degrees: n - 1, along: 0, slopeError: 0 }
  const spread = ww - (w * w) / n
  if (grams === undefined || n < fewestForLine || spread < 1e-9 * ww) return about
  const slope = (wy - (w * y) / n) / spread
  const left = Math.max(0, squares - slope * slope * spread)
  const error = Math.sqrt(left / (n - 2) / spread)
  if (Math.abs(slope) <= studentTQuantile(0.99, n - 2) * error) return about
  const off = grams - w / n
  return { mean, squares: left, degrees: n - 2, along: slope * off, slopeError: error * Math.abs(off) }
}

/**
 * Which part of the variance of a test of one item lies between runs, 0–1; the rest lies between items. As usual, until runs of
 * different sizes show otherwise.
 */
function runPartOf({ n, y, yy, ny, nyy }: ShareSums, runs: RunSums, usual: number): number {
  if (n < 4) return usual
  const plain = yy - (y * y) / n
  const weighted = nyy - (ny * ny) / runs.n
  if (plain <= 0) return usual
  const ratio = ((weighted / plain) * (n - 1)) / n
  const between = runs.n - runs.nn / runs.n - (n - 1)
  const divisor = ratio * (n - runs.inverse) - between
  // how unlike the runs are in size: 0 where all are of as many items
  const unlike = Math.min(1, (runs.n * runs.inverse) / (n * n) - 1)
  if (unlike < 0.01 || Math.abs(divisor) < 1e-9) return usual
  const part = Math.min(1, Math.max(0, (n - 1 - ratio * runs.inverse) / divisor))
  const worth = n * unlike
  return (part * worth + usual * splitWorth) / (worth + splitWorth)
}
