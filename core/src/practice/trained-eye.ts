import { gammaQuantile } from '../statistics/distributions.ts'
import { summarise } from '../statistics/sample.ts'
import { studentTQuantile } from '../statistics/student-t.ts'

/** A weight that was said before the scale said it; any one unit. */
export interface Guess {
  said: number
  weighed: number
}

export interface Eye {
  guesses: number
  /** How far one is off on average, percent, to which side; with its 90 % interval. */
  bias: { pct: number; low: number; high: number }
  /** How far single guesses lie apart, percent, with its 90 % interval; `null` for one guess. */
  spread: { pct: number; low: number; high: number } | null
  /** Whether guesses come nearer: the slope over the last ones lies below zero for sure. `null` where they are too few to say. */
  isImproving: boolean | null
}

const lastGuesses = 60
const leastForSlope = 8
/** Two guesses that lie far apart say next to nothing: an end beyond this is none. */
const farthestPct = 1000
const percent = (log: number) => Math.min(farthestPct, (Math.exp(log) - 1) * 100)

/**
 * How well somebody judges weights. Section 11 of the calculations: bias is the mean of ln(said/weighed) and spread its standard deviation,
 * with 90 % intervals; improving is a slope of how far off the last 60 guesses are whose 90 % interval lies below zero.
 *
 * @param guesses the earliest first; weights above zero
 * @returns `undefined` where nothing was guessed
 * @example eyeOf([{ said: 110, weighed: 100 }, { said: 110, weighed: 100 }]).bias.pct // 10
 */
export function eyeOf(guesses: readonly Guess[]): Eye | undefined {
  const logs = guesses.filter(({ said, weighed }) => said > 0 && weighed > 0).map(({ said, weighed }) => Math.log(said / weighed))
  const { n, mean, variance } = summarise(logs)
  if (n === 0) return undefined
  const sd = Math.sqrt(variance)
  const margin = n > 1 ? (studentTQuantile(0.95, n - 1) * sd) / Math.sqrt(n) : Number.POSITIVE_INFINITY
  return {
    guesses: n,
    bias: { pct: percent(mean), low: n > 1 ? percent(mean - margin) : -100, high: n > 1 ? percent(mean + margin) : farthestPct },
    spread: n > 1 ? { pct: percent(sd), low: percent(spreadBound(sd, n - 1, 0.95)), high: percent(spreadBound(sd, n - 1, 0.05)) } : null,
    isImproving: isFalling(logs.slice(-lastGuesses).map(Math.abs)),
  }
}

/** A bound of a standard deviation: (n − 1) s²/σ² is chi-square, a gamma of mean n − 1 and spread √(2(n − 1)). */
function spreadBound(sd: number, degreesOfFreedom: number, share: number): number {
  return sd * Math.sqrt(degreesOfFreedom / gammaQuantile(share, degreesOfFreedom, Math.sqrt(2 * degreesOfFreedom)))
}

/** Whether values fall from one to the next: the 90 % interval of their slope lies below zero. */
function isFalling(values: readonly number[]): boolean | null {
  const n = values.length
  if (n < leastForSlope) return null
  const middle = (n - 1) / 2
  const mean = values.reduce((sum, value) => sum + value, 0) / n
  const across = values.reduce((sum, _, at) => sum + (at - middle) ** 2, 0)
  const slope = values.reduce((sum, value, at) => sum + (at - middle) * (value - mean), 0) / across
  const rest = values.reduce((sum, value, at) => sum + (value - mean - slope * (at - middle)) ** 2, 0)
  const error = Math.sqrt(rest / (n - 2) / across)
  return slope + studentTQuantile(0.95, n - 2) * error < 0
}
