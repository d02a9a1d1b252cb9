import { lazyChart } from '../../ui/charts/lazy-chart.tsx'
import type { Drawn } from '../../workers/draw-worker.ts'
import type { CostSpreadProps } from './cost-spread-chart.tsx'

export const CostSpread = lazyChart<CostSpreadProps>(async () => (await import('./cost-spread-chart.tsx')).CostSpreadChart, 170)

/** The middle nine of ten draws as a bar, with the ready-cut quote as a line: one glance says how far apart they lie. */
export function SpreadStrip({ drawn, cost }: { drawn: Pick<Drawn, 'p5' | 'p50' | 'p95'>; cost: number }) {
  const [low, high] = [Math.min(drawn.p5, cost), Math.max(drawn.p95, cost)]
  const pad = Math.max((high - low) * 0.08, 0.01)
  const place = (value: number) => `${((value - low + pad) / (high - low + 2 * pad)) * 100}%`
  return (
    <span className="spread-strip" aria-hidden="true">
      <i className="strip-range" style={{ left: place(drawn.p5), right: `calc(100% - ${place(drawn.p95)})` }} />
      <i className="strip-middle" style={{ left: place(drawn.p50) }} />
      <i className="strip-quote" style={{ left: place(cost) }} />
    </span>
  )
}
