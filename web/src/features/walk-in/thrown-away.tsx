import { costOfEaten } from '@fleam/core/walk-in/eaten'
import { keptKinds } from '@fleam/core/walk-in/keeping'
import { useQuery } from '@tanstack/react-query'
import { lazy, Suspense } from 'react'
import { portionsEatenQuery, thrownAwayQuery } from '../../api/queries.ts'
import { useUnits } from '../../ui/units.ts'

const WasteChart = lazy(() => import('./waste-chart.tsx').then((module) => ({ default: module.WasteChart })))

/** What was thrown away, in money, by week, kind and reason: "usable" holds only for what is eaten. */
export function ThrownAwayChart() {
  const { data } = useQuery(thrownAwayQuery)
  const { money, grams } = useUnits()
  if (!data || data.length === 0) return null
  const cost = data.reduce((sum, line) => sum + line.cost, 0)
  const weight = data.reduce((sum, line) => sum + line.grams, 0)
  const byReason = new Map<string, number>()
  for (const line of data) byReason.set(line.reason, (byReason.get(line.reason) ?? 0) + line.cost)
  const reasons = [...byReason].sort(([, a], [, b]) => b - a).slice(0, 6)
  const kinds = keptKinds.filter((kind) => data.some((line) => line.kind === kind))
  return (
    <section className="sheet">
      <h2>Thrown away in twelve weeks</h2>
      <p>
        <b className="hot">{money(cost)}</b>, {grams(weight)}: what was called usable and was not eaten. It counts in nobody’s yield, and it
        costs as much as what was.
      </p>
      <Suspense fallback={<div className="waste-chart" />}>
        <WasteChart lines={data} kinds={kinds} />
      </Suspense>
      <ul className="waste-reasons">
        {reasons.map(([reason, sum]) => (
          <li key={reason}>
            <b>{money(sum)}</b> {reason}
          </li>
        ))}
      </ul>
      <Eaten />
    </section>
  )
}

/** What each portion that was eaten cost for those that were not. */
function Eaten() {
  const { data = [] } = useQuery(portionsEatenQuery)
  const { money } = useUnits()
  const rows = data.flatMap((line) => {
    const eaten = costOfEaten(line)
    return eaten === undefined ? [] : [{ ...line, each: line.cost / line.packed, eaten }]
  })
  if (rows.length === 0) return null
  return (
    <>
      <h3>What it does to a portion</h3>
      <ul className="plain-list">
        {rows.map(({ name, packed, thrown, each, eaten }) => (
          <li key={name}>
            <b>{name}</b>: {thrown} of {packed} thrown away, so each that was eaten cost <b className="hot">{money(eaten)}</b> instead of{' '}
            {money(each)}.
          </li>
        ))}
      </ul>
    </>
  )
}
