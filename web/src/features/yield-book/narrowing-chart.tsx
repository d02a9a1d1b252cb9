import type { Expectation } from '@fleam/core/yield-book/expectation'
import type { SeenTest } from '@fleam/core/yield-book/unusual-tests'
import { Area, ComposedChart, Line, ResponsiveContainer, Scatter, Tooltip, XAxis, YAxis } from 'recharts'
import { axis, ChartFrame, touched } from '../../ui/charts/chart-frame.tsx'
import { counted } from '../../ui/counted.ts'

export interface NarrowingProps {
  name: string
  /** Each test with what was expected of it, oldest first. */
  seen: readonly SeenTest[]
  /** What is expected now. */
  now: Expectation
  write: (value: number) => string
}

/** Tests in their order, inside the band that nine of ten were expected in: it narrows as the kitchen learns. */
export function NarrowingChart({ name, seen, now, write }: NarrowingProps) {
  const bandOf = ({ low, high, mean }: Expectation) => ({ band: [low, high] as [number, number], mean })
  const points = [
    ...seen.map(({ expected, value, isUnusual }, index) => ({
      at: index + 1,
      ...bandOf(expected),
      ...(isUnusual ? { unusual: value } : { test: value }),
    })),
    { at: seen.length + 1, ...bandOf(now) },
  ]
  // before the first test the band has one place: it is drawn across
  const drawn = points.length === 1 ? [...points, { ...bandOf(now), at: 2 }] : points
  return (
    <ChartFrame
      className="narrowing"
      says={`${name}: ${counted(seen.length, 'test')}; nine of ten of the next are expected between ${write(now.low)} and ${write(now.high)}`}
      height={130}
      headings={['test', 'was', 'expected between']}
      rows={seen.map(({ value, expected }, index) => [
        String(index + 1),
        write(value),
        `${write(expected.low)} and ${write(expected.high)}`,
      ])}
    >
      <ResponsiveContainer width="100%" height="100%">
        <ComposedChart accessibilityLayer={false} data={drawn} margin={{ top: 6, right: 6, bottom: 0, left: 0 }}>
          <XAxis {...axis} dataKey="at" type="number" domain={['dataMin', 'dataMax']} allowDecimals={false} height={22} />
          <YAxis {...axis} width={58} domain={['auto', 'auto']} tickFormatter={write} tickCount={4} />
          <Tooltip
            {...touched}
            labelFormatter={(at) => (Number(at) > seen.length ? 'the next' : `test ${at}`)}
            formatter={(value, what) => [
              Array.isArray(value) ? value.map((end) => write(Number(end))).join(' – ') : write(Number(value)),
              what,
            ]}
          />
          <Area dataKey="band" name="expected" fill="var(--tint-main-deep)" stroke="none" isAnimationActive={false} />
          <Line dataKey="mean" name="mean" stroke="var(--main)" strokeWidth={2} dot={false} isAnimationActive={false} />
          <Scatter
            dataKey="test"
            name="was"
            className="narrowing-test"
            fill="var(--ink)"
            shape={dot('var(--ink)', 3)}
            isAnimationActive={false}
          />
          <Scatter dataKey="unusual" name="unusual" fill="var(--act)" shape={dot('var(--act)', 5)} isAnimationActive={false} />
        </ComposedChart>
      </ResponsiveContainer>
    </ChartFrame>
  )
}

const dot =
  (colour: string, radius: number) =>
  ({ cx, cy }: { cx?: number; cy?: number }) => <circle cx={cx} cy={cy} r={Number.isFinite(cy) ? radius : 0} fill={colour} />
