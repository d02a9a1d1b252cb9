import jstat from 'jstat'

const { studentt } = jstat.jStat

/**
 * Share of Student's t-distribution below `t`.
 * @example studentTCdf(0, 5) // 0.5
 */
export function studentTCdf(t: number, degreesOfFreedom: number): number {
  return studentt.cdf(t, degreesOfFreedom)
}

const known = new Map<string, number>()

/**
 * The t that has a share `p` (0–1, both ends left out) of the distribution below it.
 * @example studentTQuantile(0.95, 3) // 2.3534
 */
export function studentTQuantile(p: number, degreesOfFreedom: number): number {
  if (!(p > 0 && p < 1)) throw new RangeError('A share lies between 0 and 1.')
  if (p === 0.5) return 0
  if (p < 0.5) return -studentTQuantile(1 - p, degreesOfFreedom)
  const key = `${p} ${degreesOfFreedom}`
  const found = known.get(key) ?? studentt.inv(p, degreesOfFreedom)
  if (known.size < 20_000) known.set(key, found)
  return found
}
