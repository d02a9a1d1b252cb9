import { useUnits } from '../../ui/units.ts'
import type { Drawn } from '../../workers/draw-worker.ts'

const [width, height, foot] = [820, 150, 22]

/** How the cost of a portion spreads over the draws, with the ready-cut quotes that it stands against. */
export function CostSpread({ drawn, quotes }: { drawn: Drawn; quotes: readonly { name: string; cost: number; isChosen: boolean }[] }) {
  const { money } = useUnits()
  const [first, last] = [drawn.bins[0]?.from ?? 0, drawn.bins.at(-1)?.to ?? 1]
  const span = Math.max(last - first, Math.abs(last) * 0.02, 0.01)
  // a quote far off the draws is put at the edge, with its figure
  const near = quotes.filter(({ cost }) => cost > first - span * 3 && cost < last + span * 3).map(({ cost }) => cost)
  const [low, high] = [Math.min(first, ...near) - span * 0.06, Math.max(last, ...near) + span * 0.06]
  const x = (cost: number) => ((Math.min(high, Math.max(low, cost)) - low) / (high - low)) * width
  const most = Math.max(...drawn.bins.map((bin) => bin.count), 1)
  const ground = height - foot
  return (
    <svg
      className="cost-spread"
      viewBox={`0 0 ${width} ${height}`}
      role="img"
      aria-label={`Cost of a portion: nine of ten draws lie between ${money(drawn.p5)} and ${money(drawn.p95)}`}
    >
      {drawn.bins.map((bin) => {
        const tall = (bin.count / most) * (ground - 26)
        return (
          <rect key={bin.from} x={x(bin.from) + 0.7} width={Math.max(1.5, x(bin.to) - x(bin.from) - 1.4)} y={ground - tall} height={tall} />
        )
      })}
      <line className="axis" x1="0" x2={width} y1={ground} y2={ground} />
      {ticks(low, high).map((at) => (
        <text key={at} className="tick" x={x(at)} y={height - 4} textAnchor="middle">
          {money(at)}
        </text>
      ))}
      {quotes
        .filter(({ isChosen }) => !isChosen)
        .map((quote) => (
          <line key={quote.name} className="other-quote" x1={x(quote.cost)} x2={x(quote.cost)} y1="30" y2={ground} />
        ))}
      {quotes
        .filter(({ isChosen }) => isChosen)
        .map((quote) => {
          const at = x(quote.cost)
          return (
            <g key={quote.name} className="quote-line">
              <line x1={at} x2={at} y1="4" y2={ground} />
              <text x={at > width / 2 ? at - 6 : at + 6} y="16" textAnchor={at > width / 2 ? 'end' : 'start'}>
                {quote.cost < low && '← '}ready-cut {money(quote.cost)}
                {quote.cost > high && ' →'}
              </text>
            </g>
          )
        })}
    </svg>
  )
}

/** Three to nine round figures between two. */
export function ticks(low: number, high: number): number[] {
  const range = high - low
  const unit = 10 ** Math.floor(Math.log10(range))
  const step = [1, 0.5, 0.2, 0.1].map((times) => times * unit).find((one) => range / one >= 4) ?? unit / 10
  const edge = range * 0.03
  const found: number[] = []
  for (let at = Math.ceil((low + edge) / step); at * step <= high - edge; at += 1) found.push(Number((at * step).toPrecision(12)))
  return found
}

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
