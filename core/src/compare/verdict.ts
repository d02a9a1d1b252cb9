import { type Expectation, meanInterval } from '../yield-book/expectation.ts'

export type Verdict = 'cut-here' | 'buy' | 'too-close'

/** Cut here from a probability of 0.9 on, buy up to 0.1, else too close to call. */
export function verdictOf(probability: number): Verdict {
  if (probability >= 0.9) return 'cut-here'
  return probability <= 0.1 ? 'buy' : 'too-close'
}

/** More than this many tests nobody makes: the two ways then cost the same for all that can be known. */
export const mostFurtherTests = 10_000

/**
 * How many more tests of the present spread would settle whether the average yield lies above or below the one at which
 * the answer turns: the fewest at which the 90 % interval of the mean leaves that yield out. 0 where it is settled
 * already, `null` where no number up to 10,000 does it.
 */
export function furtherTests(expected: Expectation, breakEvenYieldPct: number): number | null {
  const isSettled = (more: number) => {
    const { low, high } = meanInterval(expected, more)
    return breakEvenYieldPct < low || breakEvenYieldPct > high
  }
  if (!isSettled(mostFurtherTests)) return null
  let [low, high] = [0, mostFurtherTests]
  while (low < high) {
    const middle = Math.floor((low + high) / 2)
    if (isSettled(middle)) high = middle
    else low = middle + 1
  }
  return low
}
