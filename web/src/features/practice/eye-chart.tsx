import type { Guess } from '@fleam/contract/practice'
import { CartesianGrid, ReferenceArea, ReferenceLine, ResponsiveContainer, Scatter, ScatterChart, Tooltip, XAxis, YAxis } from 'recharts'
import { axis, ChartFrame, touched } from '../../ui/charts/chart-frame.tsx'
import { momentText } from '../../ui/days.ts'
import { percentText, useUnits } from '../../ui/units.ts'

const mostDrawn = 60
/** A trained eye is within so many percent. */
const trainedPct = 5

/** The last guesses, each by how far off it was; the band is a trained eye's. */
export function EyeChart({ guesses }: { guesses: readonly Guess[] }) {
  const { weight } = useUnits()
  const points = guesses.slice(-mostDrawn).map(({ said, weighed }, at) => ({ at: at + 1, off: (said / weighed - 1) * 100 }))
  const most = Math.max(20, ...points.map(({ off }) => Math.abs(off)))
  const edge = Math.ceil(most / 10) * 10
  return (
    <ChartFrame
      says="How far off each guess was, the latest on the right"
      height={240}
      headings={['When', 'What', 'Said', 'Weighed']}
      rows={guesses.slice(-mostDrawn).map(({ at, what, said, weighed }) => [momentText(at), what || '–', weight(said), weight(weighed)])}
    >
      <ResponsiveContainer width="100%" height="100%">
        <ScatterChart margin={{ top: 8, right: 12, bottom: 0, left: 0 }}>
          <CartesianGrid stroke="var(--line)" vertical={false} />
          <XAxis dataKey="at" type="number" domain={[0, Math.max(10, points.length + 1)]} hide />
          <YAxis dataKey="off" type="number" domain={[-edge, edge]} tickFormatter={(pct) => `${pct} %`} width={58} {...axis} />
          <ReferenceArea y1={-trainedPct} y2={trainedPct} fill="var(--within)" fillOpacity={0.7} />
          <ReferenceLine y={0} stroke="var(--edge)" />
          <Tooltip {...touched} formatter={(value) => percentText(Number(value), 1)} />
          <Scatter data={points} fill="var(--main)" isAnimationActive={false} />
        </ScatterChart>
      </ResponsiveContainer>
    </ChartFrame>
  )
}
