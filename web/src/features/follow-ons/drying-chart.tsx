import type { FollowOn } from '@fleam/contract/follow-ons'
import { CartesianGrid, Line, LineChart, ReferenceLine, ResponsiveContainer, Tooltip, XAxis, YAxis } from 'recharts'
import { axis, touched } from '../../ui/charts/chart-frame.tsx'
import { dayText, momentText } from '../../ui/days.ts'
import { percentText } from '../../ui/units.ts'

/** The share of its weight that something has lost, from weighing to weighing, against where it is done. */
export function DryingChart({
  followOn,
  weighings,
  startGrams,
  doneAtLossPct,
}: {
  followOn: Pick<FollowOn, 'startedAt'>
  /** Those on the way that stand. */
  weighings: readonly { tenths: number; at: string }[]
  startGrams: number
  doneAtLossPct: number | undefined
}) {
  const points = [
    { at: new Date(followOn.startedAt).getTime(), lost: 0 },
    ...weighings.map(({ tenths, at }) => ({ at: new Date(at).getTime(), lost: (1 - tenths / 10 / startGrams) * 100 })),
  ]
  return (
    <figure className="waste-chart chart-drawing">
      <ResponsiveContainer width="100%" height={210}>
        <LineChart data={points} margin={{ top: 8, right: 12, bottom: 0, left: 0 }}>
          <CartesianGrid stroke="var(--line)" vertical={false} />
          <XAxis
            dataKey="at"
            type="number"
            scale="time"
            domain={['dataMin', 'dataMax']}
            tickFormatter={(at) => dayText(new Date(at).toISOString())}
            {...axis}
          />
          <YAxis
            width={64}
            domain={[0, (most: number) => Math.max(40, Math.ceil(most))]}
            tickFormatter={(lost) => percentText(lost, 0)}
            {...axis}
          />
          <Tooltip
            {...touched}
            labelFormatter={(at) => momentText(new Date(Number(at)).toISOString())}
            formatter={(lost) => percentText(Number(lost))}
          />
          {doneAtLossPct !== undefined && (
            <ReferenceLine
              y={doneAtLossPct}
              stroke="var(--act)"
              strokeDasharray="6 4"
              label={{ value: 'done', position: 'insideTopRight', fill: 'var(--act)' }}
            />
          )}
          <Line dataKey="lost" name="lost" stroke="var(--main)" strokeWidth={2.5} dot isAnimationActive={false} />
        </LineChart>
      </ResponsiveContainer>
    </figure>
  )
}
