import type { PortionStatistics } from '@fleam/core/portions/portion-statistics'
import { Cell, ReferenceArea, ReferenceLine, ResponsiveContainer, Scatter, ScatterChart, Tooltip, XAxis, YAxis } from 'recharts'
import { axis, ChartFrame, touched, words } from '../../ui/charts/chart-frame.tsx'
import { useUnits } from '../../ui/units.ts'

export interface PortionSpreadChartProps {
  /** Grams of each portion in the order of cutting, of the target, and either way of it. */
  weights: readonly number[]
  target: number
  tolerance: number
  statistics: Pick<PortionStatistics, 'min' | 'max' | 'under' | 'within' | 'over'>
}

const levels = 5
const colours = { under: 'var(--act)', within: 'var(--main)', over: 'var(--byproduct)' }

/** Every portion as a mark over its weight, beside the target and what is either way allowed. */
export function PortionSpreadChart({ weights, target, tolerance, statistics }: PortionSpreadChartProps) {
  const { grams } = useUnits()
  const reach = Math.max(tolerance * 2, Math.abs(statistics.max - target), Math.abs(target - statistics.min)) * 1.1
  const marks = weights.map((weight, index) => {
    const state = weight < target - tolerance ? 'under' : weight > target + tolerance ? 'over' : 'within'
    // those that would lie on one another are put above each other
    const before = weights.slice(0, index).filter((other) => Math.abs(other - weight) < reach / 18).length
    return { weight, level: before % levels, state: state as keyof typeof colours }
  })
  return (
    <ChartFrame
      className="spread"
      says={`${statistics.under} under, ${statistics.within} within, ${statistics.over} over the target of ${grams(target)}`}
      height={140}
      headings={['portion', 'weight', 'is']}
      rows={marks.map(({ weight, state }, index) => [String(index + 1), grams(weight), state])}
    >
      <ResponsiveContainer width="100%" height="100%">
        <ScatterChart accessibilityLayer={false} margin={{ top: 24, right: 12, bottom: 0, left: 12 }}>
          <XAxis
            {...axis}
            dataKey="weight"
            type="number"
            domain={[target - reach, target + reach]}
            ticks={[target - tolerance, target, target + tolerance]}
            tickFormatter={grams}
            interval="preserveStartEnd"
          />
          <YAxis hide dataKey="level" domain={[-0.8, levels]} />
          <ReferenceArea x1={target - tolerance} x2={target + tolerance} fill="var(--within)" />
          <ReferenceLine x={target} stroke="var(--ink)" strokeWidth={2} label={{ ...words, value: 'target', position: 'top' }} />
          <Tooltip {...touched} formatter={(weight, what) => (what === 'weight' ? [grams(Number(weight)), 'portion'] : [null, null])} />
          <Scatter data={marks} isAnimationActive={false}>
            {marks.map(({ state }, index) => (
              // the portions stand in the order of cutting
              <Cell key={index} fill={colours[state]} />
            ))}
          </Scatter>
        </ScatterChart>
      </ResponsiveContainer>
    </ChartFrame>
  )
}
