import type { Drawn } from '../../workers/draw-worker.ts'

/**
 * From which to which cost the spread is drawn: the draws, and the quotes unless they are far off; those are put at the edge,
 * with their figure.
 */
export function costsShown(drawn: Pick<Drawn, 'bins'>, quotes: readonly { cost: number }[]): { low: number; high: number } {
  const [first, last] = [drawn.bins[0]?.from ?? 0, drawn.bins.at(-1)?.to ?? 1]
  const span = Math.max(last - first, Math.abs(last) * 0.02, 0.01)
  const near = quotes.map(({ cost }) => cost).filter((cost) => cost > first - span * 3 && cost < last + span * 3)
  return { low: Math.min(first, ...near) - span * 0.06, high: Math.max(last, ...near) + span * 0.06 }
}
