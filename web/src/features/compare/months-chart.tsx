import { CartesianGrid, Line, LineChart, ResponsiveContainer, Tooltip, XAxis, YAxis } from 'recharts'
import { axis, ChartFrame, touched } from '../../ui/charts/chart-frame.tsx'
import { counted } from '../../ui/counted.ts'
import { percentText } from '../../ui/units.ts'

export interface MonthsProps {
  name: string
  months: readonly { month: string; pct: number; tests: number }[]
}

/** Mains by month. */
export function MonthsChart({ name, months }: MonthsProps) {
  return (
    <ChartFrame
      says={`${name}: mains by month, ${counted(months.length, 'month')}`}
      height={190}
      headings={['month', 'mains', 'tests']}
      rows={months.map(({ month, pct, tests }) => [month, percentText(pct), String(tests)])}
    >
      <ResponsiveContainer width="100%" height="100%">
        <LineChart accessibilityLayer={false} data={[...months]} margin={{ top: 8, right: 12, bottom: 0, left: 0 }}>
          <CartesianGrid stroke="var(--line)" vertical={false} />
          <XAxis {...axis} dataKey="month" height={22} />
          <YAxis {...axis} width={62} domain={['auto', 'auto']} tickFormatter={(pct: number) => percentText(pct)} tickCount={4} />
          <Tooltip {...touched} formatter={(pct) => percentText(Number(pct))} />
          <Line dataKey="pct" name="mains" stroke="var(--main)" strokeWidth={2} dot={{ r: 4 }} isAnimationActive={false} />
        </LineChart>
      </ResponsiveContainer>
    </ChartFrame>
  )
}
