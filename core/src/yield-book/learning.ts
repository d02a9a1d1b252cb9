import { studentTQuantile } from '../statistics/student-t.ts'

/** Sums over runs of x = ln items and y = ln minutes an item: all that a line through them needs. */
export interface MinutesSums {
  n: number
  x: number
  xx: number
  y: number
  xy: number
  yy: number
}

export const noMinutes: MinutesSums = { n: 0, x: 0, xx: 0, y: 0, xy: 0, yy: 0 }

/**
 * @returns sums of runs that noted their minutes; those of no minutes teach nothing and are left out
 * @example sumMinutes([{ items: 2, minutes: null }, { items: 1, minutes: 10 }]).n === 1
 */
export function sumMinutes(runs: readonly { items: number; minutes: number | null }[]): MinutesSums {
  const sums = { ...noMinutes }
  for (const { items, minutes } of runs) {
    if (minutes === null || minutes <= 0) continue
    const [x, y] = [Math.log(items), Math.log(minutes / items)]
    sums.n += 1
    sums.x += x
    sums.xx += x * x
    sums.y += y
    sums.xy += x * y
    sums.yy += y * y
  }
  return sums
}

export interface Learning {
  /** Minutes an item change as count ** slope: 0 where no learning shows. */
  slope: number
  /** Share of the time that is left when the count doubles, 0–1. */
  perDoubling: number
  /** 90 % interval of the slope as measured; `undefined` with fewer than four runs, or counts all alike. */
  measured: { slope: number; low: number; high: number; runs: number } | undefined
}

/**
 * How minutes per item fall as more are done in one go: a power law, fitted as a line through logarithms. It counts
 * only where the whole 90 % interval lies below zero.
 *
 * Source: the learning curve (Wright 1936).
 * @example learnMinutes(sumMinutes([1, 2, 4, 8].map((items) => ({ items, minutes: 10 * items ** 0.5 })))).perDoubling // 0.7071
 */
export function learnMinutes({ n, x, xx, y, xy, yy }: MinutesSums): Learning {
  const none: Learning = { slope: 0, perDoubling: 1, measured: undefined }
  if (n < 4) return none
  const spread = xx - (x * x) / n
  if (spread < 1e-9) return none
  const slope = (xy - (x * y) / n) / spread
  const left = Math.max(0, yy - (y * y) / n - slope * slope * spread)
  const half = studentTQuantile(0.95, n - 2) * Math.sqrt(left / (n - 2) / spread)
  const measured = { slope, low: slope - half, high: slope + half, runs: n }
  return measured.high < 0 ? { slope, perDoubling: 2 ** slope, measured } : { ...none, measured }
}
