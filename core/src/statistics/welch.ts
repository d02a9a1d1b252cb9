import type { Sample } from './sample.ts'
import { studentTQuantile } from './student-t.ts'

export interface Difference {
  mean: number
  /** Ends of the interval that holds the true difference at the level asked for. */
  low: number
  high: number
  degreesOfFreedom: number
}

/**
 * Difference of two means, a − b, whose spreads need not be alike; `undefined` where either has fewer than two values.
 *
 * Source: Welch's t-interval with the Welch–Satterthwaite degrees of freedom.
 */
export function welchDifference(a: Sample, b: Sample, level = 0.9): Difference | undefined {
  if (a.n < 2 || b.n < 2) return undefined
  const [ofA, ofB] = [a.variance / a.n, b.variance / b.n]
  const mean = a.mean - b.mean
  if (ofA + ofB === 0) return { mean, low: mean, high: mean, degreesOfFreedom: a.n + b.n - 2 }
  const degreesOfFreedom = (ofA + ofB) ** 2 / (ofA ** 2 / (a.n - 1) + ofB ** 2 / (b.n - 1))
  const half = studentTQuantile((1 + level) / 2, degreesOfFreedom) * Math.sqrt(ofA + ofB)
  return { mean, low: mean - half, high: mean + half, degreesOfFreedom }
}
