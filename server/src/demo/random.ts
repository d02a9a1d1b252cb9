/** A seeded source of numbers: the same seed gives the same sequence. */
export interface Random {
  /** Even over [0, 1). */
  next(): number
  /** Normal. */
  normal(mean: number, sd: number): number
  pick<Entry>(entries: readonly Entry[]): Entry
}

/** mulberry32 with the Box–Muller transform. */
export function seededRandom(seed: number): Random {
  let state = seed >>> 0
  const next = () => {
    state = (state + 0x6d2b79f5) >>> 0
    let mixed = Math.imul(state ^ (state >>> 15), 1 | state)
    mixed = (mixed + Math.imul(mixed ^ (mixed >>> 7), 61 | mixed)) ^ mixed
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 4_294_967_296
  }
  return {
    next,
    normal: (mean, sd) => mean + sd * Math.sqrt(-2 * Math.log(1 - next())) * Math.cos(2 * Math.PI * next()),
    pick: (entries) => entries[Math.floor(next() * entries.length)] as (typeof entries)[number],
  }
}
