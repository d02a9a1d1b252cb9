import jstat from 'jstat'

const { gamma, normal } = jstat.jStat

/**
 * Share of a standard normal distribution below `z`.
 * @example normalShare(0) === 0.5
 */
export function normalShare(z: number): number {
  return normal.cdf(z, 0, 1)
}

/**
 * The value that a share `p` of a standard normal distribution stays below.
 * @example normalQuantile(0.9) // 1.2816
 */
export function normalQuantile(p: number): number {
  return normal.inv(p, 0, 1)
}

/**
 * The value that a share `p` of a gamma distribution of this mean and spread stays below.
 * @example gammaQuantile(0.5, 2, 2) // 1.3863
 */
export function gammaQuantile(p: number, mean: number, sd: number): number {
  const scale = (sd * sd) / mean
  return gamma.inv(p, mean / scale, scale)
}
