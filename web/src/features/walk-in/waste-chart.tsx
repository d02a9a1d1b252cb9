import type { ThrownAway } from '@fleam/contract/walk-in'
import { groupBy } from '@fleam/core/group-by'
import { Bar, BarChart, CartesianGrid, Legend, ResponsiveContainer, Tooltip, XAxis, YAxis } from 'recharts'
import { axis, touched } from '../../ui/charts/chart-frame.tsx'
import { dayText } from '../../ui/days.ts'
import { useUnits } from '../../ui/units.ts'

const colours = ['var(--main)', 'var(--coproduct)', 'var(--byproduct)', 'var(--act)', 'var(--dim)']

/** Money thrown away, a bar a week, by kind. */
export function WasteChart({ lines, kinds }: { lines: readonly ThrownAway[]; kinds: readonly string[] }) {
  const { money } = useUnits()
  const weeks = [...groupBy(lines, ({ week }) => week)].map(([week, ofWeek]) => ({
    week,
    ...Object.fromEntries(
      kinds.map((kind) => [kind, ofWeek.filter((line) => line.kind === kind).reduce((sum, { cost }) => sum + cost, 0)]),
    ),
  }))
  return (
    <figure className="waste-chart chart-drawing">
      <ResponsiveContainer width="100%" height={210}>
        <BarChart data={weeks} margin={{ top: 8, right: 12, bottom: 0, left: 0 }}>
          <CartesianGrid stroke="var(--line)" vertical={false} />
          <XAxis dataKey="week" tickFormatter={(week) => dayText(String(week))} {...axis} />
          <YAxis width={70} tickFormatter={(amount) => money(amount)} {...axis} />
          <Tooltip
            {...touched}
            labelFormatter={(week) => `week of ${dayText(String(week))}`}
            formatter={(amount) => money(Number(amount))}
          />
          <Legend />
          {kinds.map((kind, index) => (
            <Bar
              key={kind}
              dataKey={kind}
              stackId="kinds"
              fill={colours[index % colours.length] ?? 'var(--ink)'}
              isAnimationActive={false}
            />
          ))}
        </BarChart>
      </ResponsiveContainer>
    </figure>
  )
}
