import type { Progress } from '@fleam/contract/practice'
import { CartesianGrid, Line, LineChart, ReferenceArea, ReferenceLine, ResponsiveContainer, XAxis, YAxis } from 'recharts'

type ProgressRun = Progress['runs'][number]

/** Where a run's yield lies between the ends of what to expect of it: 0 in the middle, 1 and −1 at the ends. */
function placeOf({ mainPct, expected: { low, mean, high } }: ProgressRun): number {
  const end = mainPct >= mean ? high - mean : mean - low
  return end > 0 ? Math.max(-2.5, Math.min(2.5, (mainPct - mean) / end)) : 0
}

const axis = { tickLine: false, stroke: 'var(--dim)', fontSize: 12 } as const

/** Yields of one run after the other, against what to expect of each. */
export function YieldChart({ runs }: { runs: readonly ProgressRun[] }) {
  const points = runs.map((run) => ({ run: run.number, place: placeOf(run) }))
  const within = points.filter(({ place }) => Math.abs(place) <= 1).length
  return (
    <figure className="progress-chart" role="img" aria-label={`${within} of ${points.length} yields lie within what to expect`}>
      <figcaption>Yield against the yield book, run by run</figcaption>
      <ResponsiveContainer width="100%" height={190}>
        <LineChart data={points} margin={{ top: 8, right: 12, bottom: 0, left: 8 }}>
          <ReferenceArea y1={-1} y2={1} fill="var(--main)" fillOpacity={0.12} />
          <ReferenceLine
            y={0}
            stroke="var(--main)"
            label={{ value: 'as expected', position: 'insideTopLeft', fill: 'var(--dim)', fontSize: 12 }}
          />
          <XAxis dataKey="run" {...axis} minTickGap={24} />
          <YAxis
            domain={[-2.5, 2.5]}
            ticks={[-1, 0, 1]}
            width={46}
            {...axis}
            tickFormatter={(value) => ({ '-1': 'low', '0': '', '1': 'high' })[String(value)] ?? ''}
          />
          <Line dataKey="place" stroke="var(--ink)" strokeWidth={2} dot={{ r: 3 }} isAnimationActive={false} />
        </LineChart>
      </ResponsiveContainer>
    </figure>
  )
}

/** How far portions lie apart, run by run. */
export function EvennessChart({ runs }: { runs: readonly ProgressRun[] }) {
  const points = runs.flatMap(({ number, spreadPct }) => (spreadPct === null ? [] : [{ run: number, spread: spreadPct }]))
  if (points.length < 2) return null
  const last = points.at(-1)?.spread ?? 0
  return (
    <figure className="progress-chart" role="img" aria-label={`Portions of the last run lie ${last.toFixed(1)} % apart`}>
      <figcaption>How far portions lie apart, percent</figcaption>
      <ResponsiveContainer width="100%" height={190}>
        <LineChart data={points} margin={{ top: 8, right: 12, bottom: 0, left: 8 }}>
          <CartesianGrid vertical={false} stroke="var(--line)" />
          <XAxis dataKey="run" {...axis} minTickGap={24} />
          <YAxis width={46} domain={[0, 'auto']} {...axis} />
          <Line dataKey="spread" stroke="var(--coproduct)" strokeWidth={2} dot={{ r: 3 }} isAnimationActive={false} />
        </LineChart>
      </ResponsiveContainer>
    </figure>
  )
}
