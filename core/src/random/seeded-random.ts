/** A seeded source of numbers: the same seed gives the same sequence. */
export interface Random {
  /** Even over [0, 1). */
  next(): number
  /** Normal. */
  normal(mean: number, sd: number): number
  /** Student-t with so many degrees of freedom, scaled and moved. */
  studentT(mean: number, scale: number, degreesOfFreedom: number): number
  /** Gamma of this shape, its scale 1. */
  gamma(shape: number): number
  pick<Entry>(entries: readonly Entry[]): Entry
}

/**
 * mulberry32, the Box–Muller transform, and Marsaglia and Tsang's gamma for the chi-square of a Student-t.
 * @example seededRandom(7).next() === seededRandom(7).next()
 */
export function seededRandom(seed: number): Random {
  let state = seed >>> 0
  const next = () => {
    state = (state + 0x6d2b79f5) >>> 0
    let mixed = Math.imul(state ^ (state >>> 15), 1 | state)
    mixed = (mixed + Math.imul(mixed ^ (mixed >>> 7), 61 | mixed)) ^ mixed
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 4_294_967_296
  }
  const normal = (mean: number, sd: number) => mean + sd * Math.sqrt(-2 * Math.log(1 - next())) * Math.cos(2 * Math.PI * next())
  const gamma = (shape: number): number => {
    if (shape < 1) return gamma(shape + 1) * (1 - next()) ** (1 / shape)
    const d = shape - 1 / 3
    for (;;) {
      const x = normal(0, 1)
      const v = (1 + x / Math.sqrt(9 * d)) ** 3
      if (v > 0 && Math.log(1 - next()) < 0.5 * x * x + d - d * v + d * Math.log(v)) return d * v
    }
  }
  return {
    next,
    normal,
    gamma,
    studentT: (mean, scale, degreesOfFreedom) => {
      const chiSquare = 2 * gamma(degreesOfFreedom / 2)
      return mean + (scale * normal(0, 1)) / Math.sqrt(chiSquare / degreesOfFreedom)
    },
    pick: (entries) => entries[Math.floor(next() * entries.length)] as (typeof entries)[number],
  }
}
