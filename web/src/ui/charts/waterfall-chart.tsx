import { Bar, BarChart, ResponsiveContainer, Tooltip, XAxis, YAxis } from 'recharts'
import { useUnits } from '../units.ts'
import { axis, touched } from './chart-frame.tsx'

export interface WaterfallProps {
  rows: readonly { key: string; name: string; range: [number, number]; written: string; fill: string }[]
}

const rowHeight = 34

/** Steps that begin where the one before ended; their names and amounts stand beside it, row by row. */
export function WaterfallChart({ rows }: WaterfallProps) {
  const { money } = useUnits()
  return (
    <div className="waterfall" style={{ height: rows.length * rowHeight }} aria-hidden="true">
      <ResponsiveContainer width="100%" height="100%">
        <BarChart
          accessibilityLayer={false}
          data={[...rows]}
          layout="vertical"
          margin={{ top: 0, right: 0, bottom: 0, left: 0 }}
          barCategoryGap={8}
        >
          <XAxis {...axis} hide type="number" domain={[0, 'dataMax']} />
          <YAxis hide type="category" dataKey="key" />
          <Tooltip
            {...touched}
            labelFormatter={(key) => rows.find((row) => row.key === key)?.name ?? ''}
            formatter={(range) => [Array.isArray(range) ? range.map((end) => money(Number(end))).join(' – ') : '', 'from – to']}
          />
          <Bar dataKey="range" minPointSize={3} radius={2} isAnimationActive={false} />
        </BarChart>
      </ResponsiveContainer>
    </div>
  )
}
