import { Area, ComposedChart, ReferenceLine, ResponsiveContainer, Tooltip, XAxis, YAxis } from 'recharts'
import { axis, ChartFrame, touched, words } from '../../ui/charts/chart-frame.tsx'
import { useUnits } from '../../ui/units.ts'
import type { Drawn } from '../../workers/draw-worker.ts'
import { costsShown } from './costs-shown.ts'

export interface CostSpreadProps {
  drawn: Drawn
  quotes: readonly { name: string; cost: number; isChosen: boolean }[]
}

/** How the cost of a portion spreads over the draws, with the ready-cut quotes that it stands against. */
export function CostSpreadChart({ drawn, quotes }: CostSpreadProps) {
  const { money } = useUnits()
  const { low, high } = costsShown(drawn, quotes)
  const steps = [...drawn.bins.map((bin) => ({ cost: bin.from, draws: bin.count })), { cost: drawn.bins.at(-1)?.to ?? high, draws: 0 }]
  const inside = (cost: number) => Math.min(high, Math.max(low, cost))
  return (
    <ChartFrame
      className="cost-spread"
      says={`Cost of a portion: nine of ten draws lie between ${money(drawn.p5)} and ${money(drawn.p95)}`}
      height={170}
      headings={['from', 'draws']}
      rows={drawn.bins.map((bin) => [money(bin.from), String(bin.count)])}
    >
      <ResponsiveContainer width="100%" height="100%">
        <ComposedChart accessibilityLayer={false} data={steps} margin={{ top: 26, right: 8, bottom: 0, left: 8 }}>
          <XAxis {...axis} dataKey="cost" type="number" domain={[low, high]} tickFormatter={money} tickCount={8} />
          <YAxis hide domain={[0, 'dataMax']} />
          <Tooltip {...touched} labelFormatter={(cost) => `from ${money(Number(cost))}`} formatter={(draws) => [String(draws), 'draws']} />
          <Area dataKey="draws" type="stepAfter" fill="var(--main)" fillOpacity={0.85} stroke="none" isAnimationActive={false} />
          {quotes.map(({ name, cost, isChosen }) => (
            <ReferenceLine
              key={name}
              x={inside(cost)}
              stroke={isChosen ? 'var(--act)' : 'var(--edge)'}
              strokeWidth={isChosen ? 3 : 1.5}
              strokeDasharray={isChosen ? '' : '4 3'}
              label={
                isChosen
                  ? {
                      ...words,
                      value: `${cost < low ? '← ' : ''}ready-cut ${money(cost)}${cost > high ? ' →' : ''}`,
                      position: inside(cost) > (low + high) / 2 ? 'insideTopRight' : 'insideTopLeft',
                      offset: -20,
                      fill: 'var(--act)',
                      fontWeight: 600,
                    }
                  : ''
              }
            />
          ))}
        </ComposedChart>
      </ResponsiveContainer>
    </ChartFrame>
  )
}
