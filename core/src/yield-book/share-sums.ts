/**
 * Sums over tests of y, a share in percent: of y, of y², of both times the items of the run, of y times the item's grams, and
 * how many tests had none of it.
 */
export interface ShareSums {
  n: number
  y: number
  yy: number
  ny: number
  nyy: number
  wy: number
  none: number
}

/** Sums over the same tests of n, the items of a run, and of w, the grams of one item: what all shares of a cut have in common. */
export interface RunSums {
  tests: number
  n: number
  nn: number
  /** Of 1 / n. */
  inverse: number
  w: number
  ww: number
}

export const noShares: ShareSums = { n: 0, y: 0, yy: 0, ny: 0, nyy: 0, wy: 0, none: 0 }
export const noRuns: RunSums = { tests: 0, n: 0, nn: 0, inverse: 0, w: 0, ww: 0 }

/** One test of a share. */
export interface ShareTest {
  /** Percent of the received weight. */
  pct: number
  /** Items of the run, and grams of one of them. */
  items: number
  grams: number
}

/** @example withShare(noShares, { pct: 60, items: 2, grams: 3000 }).ny === 120 */
export function withShare(sums: ShareSums, { pct, items, grams }: ShareTest): ShareSums {
  return {
    n: sums.n + 1,
    y: sums.y + pct,
    yy: sums.yy + pct * pct,
    ny: sums.ny + items * pct,
    nyy: sums.nyy + items * pct * pct,
    wy: sums.wy + grams * pct,
    none: sums.none + (pct === 0 ? 1 : 0),
  }
}

/** @example withRun(noRuns, { items: 2, grams: 3000 }).w === 3000 */
export function withRun(sums: RunSums, { items, grams }: Pick<ShareTest, 'items' | 'grams'>): RunSums {
  return {
    tests: sums.tests + 1,
    n: sums.n + items,
    nn: sums.nn + items * items,
    inverse: sums.inverse + 1 / items,
    w: sums.w + grams,
    ww: sums.ww + grams * grams,
  }
}

/** @example sumShares([{ pct: 60, items: 2, grams: 3000 }]).ny === 120 */
export function sumShares(tests: readonly ShareTest[]): ShareSums {
  return tests.reduce(withShare, noShares)
}

/** @example sumRuns([{ items: 2, grams: 3000 }]).inverse === 0.5 */
export function sumRuns(tests: readonly Pick<ShareTest, 'items' | 'grams'>[]): RunSums {
  return tests.reduce(withRun, noRuns)
}
