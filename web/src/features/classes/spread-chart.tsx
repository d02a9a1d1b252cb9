import { Bar, BarChart, Cell, LabelList, ResponsiveContainer, XAxis, YAxis } from 'recharts'

/** How the class did, by tenths of the whole, and where oneself stands; no names. */
export function SpreadChart({ spread, own }: { spread: readonly number[]; own: number | null }) {
  const mine = own === null ? -1 : Math.min(9, Math.floor(own / 10))
  const bars = spread.map((count, tenth) => ({ range: `${tenth * 10}–${tenth * 10 + 10}`, count, isMine: tenth === mine }))
  const words = bars
    .filter(({ count }) => count > 0)
    .map(({ range, count, isMine }) => `${range} %: ${count}${isMine ? ', you among them' : ''}`)
  return (
    <figure className="spread-chart" role="img" aria-label={`The class: ${words.join('; ')}`}>
      <ResponsiveContainer width="100%" height={170}>
        <BarChart data={bars} margin={{ top: 18, right: 4, bottom: 0, left: 4 }}>
          <XAxis dataKey="range" tickLine={false} interval={0} fontSize={12} stroke="var(--dim)" />
          <YAxis hide allowDecimals={false} />
          <Bar dataKey="count" isAnimationActive={false}>
            {bars.map(({ range, isMine }) => (
              <Cell key={range} fill={isMine ? 'var(--act)' : 'var(--coproduct)'} />
            ))}
            <LabelList dataKey="count" position="top" fill="var(--ink)" formatter={(count) => (Number(count) > 0 ? String(count) : '')} />
          </Bar>
        </BarChart>
      </ResponsiveContainer>
      <figcaption>How many of the class came to each tenth, percent; yours is marked.</figcaption>
    </figure>
  )
}
