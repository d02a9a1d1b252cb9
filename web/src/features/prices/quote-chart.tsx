import type { Quote } from '@fleam/contract/prices'
import { perUnit } from '@fleam/core/prices/price-move'
import { format, parseISO } from 'date-fns'
import { CartesianGrid, Line, LineChart, ResponsiveContainer, Tooltip, XAxis, YAxis } from 'recharts'
import { axis, touched } from '../../ui/charts/chart-frame.tsx'
import { useUnits } from '../../ui/units.ts'

const colours = ['var(--main)', 'var(--coproduct)', 'var(--byproduct)', 'var(--act)', 'var(--ink)']

/** Quotes over time, a line a supplier; a price stands until the next one. Only what was quoted on like grounds is drawn together. */
export function QuoteChart({ quotes }: { quotes: readonly Quote[] }) {
  const { money, fromPerKg, perUnit: weightUnit } = useUnits()
  const ground = quotes[0] && perUnit(quotes[0].price).perKg !== undefined ? 'perKg' : 'perPiece'
  const points = quotes
    .flatMap((quote) => {
      const amount = perUnit(quote.price)[ground]
      return amount === undefined
        ? []
        : [
            {
              at: parseISO(quote.quotedOn).getTime(),
              supplier: quote.supplier?.name ?? 'not noted',
              amount: ground === 'perKg' ? fromPerKg(amount) : amount,
            },
          ]
    })
    .sort((a, b) => a.at - b.at)
  if (points.length < 2) return null
  const suppliers = [...new Set(points.map((point) => point.supplier))]
  const now = Date.now()
  const rows = points.map(({ at, supplier, amount }) => ({ at, [supplier]: amount }))
  const standing = Object.fromEntries(
    suppliers.map((supplier) => [supplier, points.findLast((point) => point.supplier === supplier)?.amount]),
  )
  const data = [...rows, { at: Math.max(now, points.at(-1)?.at ?? now), ...standing }]
  return (
    <figure className="quote-chart">
      <figcaption>{ground === 'perKg' ? `Per ${weightUnit}, from quote to quote` : 'A piece, from quote to quote'}</figcaption>
      <ResponsiveContainer width="100%" height={190}>
        <LineChart data={data} margin={{ top: 8, right: 12, bottom: 0, left: 0 }}>
          <CartesianGrid stroke="var(--line)" vertical={false} />
          <XAxis
            dataKey="at"
            type="number"
            scale="time"
            domain={['dataMin', 'dataMax']}
            tickFormatter={(at) => format(at, 'MMM yy')}
            tickCount={5}
            {...axis}
          />
          <YAxis width={58} domain={['auto', 'auto']} tickFormatter={(amount) => money(amount)} {...axis} />
          <Tooltip {...touched} labelFormatter={(at) => format(Number(at), 'd MMM yyyy')} formatter={(amount) => money(Number(amount))} />
          {suppliers.map((supplier, index) => (
            <Line
              key={supplier}
              dataKey={supplier}
              type="stepAfter"
              connectNulls
              stroke={colours[index % colours.length] ?? 'var(--ink)'}
              strokeWidth={2.5}
              dot={{ r: 4 }}
              isAnimationActive={false}
            />
          ))}
        </LineChart>
      </ResponsiveContainer>
      <ul className="chart-names">
        {suppliers.map((supplier, index) => (
          <li key={supplier} style={{ color: colours[index % colours.length] }}>
            {supplier}
          </li>
        ))}
      </ul>
    </figure>
  )
}
