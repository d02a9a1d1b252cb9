import { Bar, BarChart, ReferenceLine, ResponsiveContainer, Tooltip, XAxis, YAxis } from 'recharts'
import { axis, ChartFrame, touched, words } from '../../ui/charts/chart-frame.tsx'
import { useUnits } from '../../ui/units.ts'

export interface TornadoProps {
  bars: readonly { name: string; atLow: number; atHigh: number }[]
  /** What a portion costs as everything stands. */
  now: number
}

const rowHeight = 46

/** The name of a bar over what it goes from and to. */
function Named({ y, payload, rows }: { y?: number; payload?: { value: string }; rows: readonly { name: string; written: string }[] }) {
  const row = rows.find(({ name }) => name === payload?.value)
  return (
    <text y={y} {...words} fontSize={14}>
      <tspan x={0} dy={-3}>
        {row?.name}
      </tspan>
      <tspan x={0} dy={17} fill="var(--dim)" fontFamily="var(--figures)">
        {row?.written}
      </tspan>
    </text>
  )
}

/** How far each input moves the cost of a portion, the one that moves it most on top. */
export function TornadoChart({ bars, now }: TornadoProps) {
  const { money } = useUnits()
  const rows = bars.map(({ name, atLow, atHigh }) => {
    const range: [number, number] = [Math.min(atLow, atHigh), Math.max(atLow, atHigh)]
    return { name, range, written: `${money(range[0])} – ${money(range[1])}` }
  })
  return (
    <ChartFrame
      className="tornado"
      says={`What moves the cost of a portion, ${money(now)} as everything stands`}
      height={rows.length * rowHeight + 34}
      headings={['input', 'cost']}
      rows={rows.map(({ name, written }) => [name, written])}
    >
      <ResponsiveContainer width="100%" height="100%">
        <BarChart
          accessibilityLayer={false}
          data={rows}
          layout="vertical"
          margin={{ top: 0, right: 12, bottom: 0, left: 0 }}
          barCategoryGap={14}
        >
          <XAxis {...axis} type="number" domain={['dataMin', 'dataMax']} tickFormatter={money} tickCount={4} />
          <YAxis {...axis} type="category" dataKey="name" width={150} axisLine={false} tick={<Named rows={rows} />} />
          <Tooltip {...touched} formatter={(range) => (Array.isArray(range) ? range.map((end) => money(Number(end))).join(' – ') : '')} />
          <Bar dataKey="range" name="a portion" fill="var(--main-soft)" minPointSize={3} radius={2} isAnimationActive={false} />
          <ReferenceLine x={now} stroke="var(--ink)" strokeWidth={2} />
        </BarChart>
      </ResponsiveContainer>
    </ChartFrame>
  )
}
