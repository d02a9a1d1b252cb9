import { studentTQuantile } from '../statistics/student-t.ts'

export type Verdict = 'cut-here' | 'buy' | 'too-close'

/** How sure a verdict must be. */
export const sureFrom = 0.9

/**
 * Cut here from a probability of 0.9 on, buy up to 0.1, else too close to call. Asked of the average, not of the next item.
 * @example verdictOf(0.96) === 'cut-here'
 */
export function verdictOf(probability: number): Verdict {
  if (probability >= sureFrom) return 'cut-here'
  return probability <= 1 - sureFrom + 1e-9 ? 'buy' : 'too-close'
}

/** More than this many tests nobody makes: the two ways then cost the same for all that can be known. */
export const mostFurtherTests = 500

/** What is known of the average saving of a portion, money. */
export interface AverageSaving {
  mean: number
  /** How far it may lie from the truth: the scale of a Student-t of so many degrees of freedom. */
  sd: number
  /** Tests that it rests on, the prior's worth counted in. */
  weight: number
  degreesOfFreedom: number
}

/**
 * How many more tests of the present spread would make a verdict of the average saving, if it stays what it is: the fewest
 * at which nine in ten of what it may be lies on one side of nothing. 0 where there is a verdict already, `null` where no
 * number up to 500 does it.
 *
 * Source: Student-t of the mean of a normal with unknown variance; its scale falls with the square root of the tests.
 * @example furtherTests({ mean: 0.25, sd: 0.3, weight: 8, degreesOfFreedom: 8 }) === 13
 */
export function furtherTests({ mean, sd, weight, degreesOfFreedom }: AverageSaving): number | null {
  const isSure = (more: number) =>
    Math.abs(mean) >= studentTQuantile(sureFrom, degreesOfFreedom + more) * sd * Math.sqrt(weight / (weight + more))
  if (!isSure(mostFurtherTests)) return null
  let [low, high] = [0, mostFurtherTests]
  while (low < high) {
    const middle = Math.floor((low + high) / 2)
    if (isSure(middle)) high = middle
    else low = middle + 1
  }
  return low
}
