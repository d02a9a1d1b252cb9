import type { ReactNode } from 'react'

interface ChartFrameProps {
  /** What the chart says, in a sentence. */
  says: string
  height: number
  className?: string
  /** The same figures as a table, for who cannot see the drawing. */
  headings: readonly string[]
  rows: readonly (readonly string[])[]
  children: ReactNode
}

/** A chart with what it says in words, and the figures that it draws for who hears the page. */
export function ChartFrame({ says, height, className = '', headings, rows, children }: ChartFrameProps) {
  return (
    <figure className={`chart ${className}`}>
      <div className="chart-drawing" style={{ height }} aria-hidden="true">
        {children}
      </div>
      <div className="visually-hidden">
        <table>
          <caption>{says}</caption>
          <thead>
            <tr>
              {headings.map((heading) => (
                <th key={heading} scope="col">
                  {heading}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {rows.map((row) => (
              <tr key={row.join()}>
                {row.map((cell, index) => (
                  <td key={headings[index]}>{cell}</td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </figure>
  )
}

/** How axes look everywhere. */
export const axis = {
  tickLine: false,
  axisLine: { stroke: 'var(--edge)' },
  tick: { fill: 'var(--dim)', fontSize: 14, fontFamily: 'var(--figures)' },
} as const

/** How words in a chart look. */
export const words = { fill: 'var(--ink)', fontSize: 15, fontFamily: 'var(--words)' } as const

/** What a touch of a chart shows, on the page's own ground. */
export const touched = {
  contentStyle: { background: 'var(--panel)', borderColor: 'var(--edge)', color: 'var(--ink)', borderRadius: 8 },
  itemStyle: { color: 'var(--ink)' },
  labelStyle: { color: 'var(--dim)' },
  cursor: { fill: 'var(--soft)', stroke: 'var(--line)' },
  isAnimationActive: false,
} as const
