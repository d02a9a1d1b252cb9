import { Bar, BarChart, CartesianGrid, LabelList, ResponsiveContainer, XAxis, YAxis } from 'recharts'
import { axis, ChartFrame, words } from '../../ui/charts/chart-frame.tsx'

export interface KitchensChartProps {
  says: string
  /** What is drawn, in a word. */
  measure: string
  bars: readonly { name: string; value: number; text: string }[]
}

const barHeight = 46

/** One measure of each kitchen, a bar each. */
export function KitchensChart({ says, measure, bars }: KitchensChartProps) {
  return (
    <ChartFrame
      says={says}
      height={bars.length * barHeight + 30}
      headings={['Kitchen', measure]}
      rows={bars.map(({ name, text }) => [name, text])}
    >
      <ResponsiveContainer width="100%" height="100%">
        <BarChart accessibilityLayer={false} layout="vertical" data={[...bars]} margin={{ top: 4, right: 92, bottom: 0, left: 0 }}>
          <CartesianGrid stroke="var(--line)" horizontal={false} />
          <XAxis {...axis} type="number" hide domain={[0, 'dataMax']} />
          <YAxis {...axis} type="category" dataKey="name" width={210} tick={{ ...words, fontSize: 15 }} axisLine={false} />
          <Bar dataKey="value" fill="var(--main)" radius={[0, 4, 4, 0]} barSize={24} isAnimationActive={false}>
            <LabelList dataKey="text" position="right" fill="var(--ink)" fontSize={15} />
          </Bar>
        </BarChart>
      </ResponsiveContainer>
    </ChartFrame>
  )
}
