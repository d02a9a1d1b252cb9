import type { MovedCost } from '@fleam/contract/follow-ons'
import type { Lot } from '@fleam/contract/walk-in'
import { useQuery } from '@tanstack/react-query'
import { Link } from 'react-router'
import { get } from '../../api/http.ts'
import { dayText } from '../../ui/days.ts'
import { useUnits } from '../../ui/units.ts'
import { amountText, portionsText } from './amounts.ts'
import { Labels, WaitingLabels } from './labels.tsx'

/** Where what came off a run lies, and what is left of it. */
export function RunLots({ runId }: { runId: string }) {
  const units = useUnits()
  const { data } = useQuery({
    queryKey: ['run-lots', runId],
    queryFn: async () => (await get<{ entries: Lot[] }>(`/runs/${runId}/lots`)).entries,
    staleTime: 0,
  })
  if (!data || data.length === 0) return null
  return (
    <section className="no-print">
      <h2>In the walk-in</h2>
      <ul className="plain-list">
        {data.map((lot) => (
          <li key={lot.id}>
            <Link to={`/walk-in/${lot.id}`}>{lot.name}</Link>{' '}
            {lot.leftTenths === 0
              ? 'nothing left'
              : `${amountText(units, lot.unit, lot.leftTenths)}${lot.leftPortions === null ? '' : `, ${portionsText(lot.leftPortions)}`} in ${lot.place}, use by ${dayText(lot.useBy)}`}
          </li>
        ))}
      </ul>
      <Moved runId={runId} />
      <Labels lots={data} />
      <WaitingLabels />
    </section>
  )
}

/** Whose cost moved when the run was put right last: its lots, and all that was made of them. */
function Moved({ runId }: { runId: string }) {
  const { money } = useUnits()
  const { data = [] } = useQuery({
    queryKey: ['moved-costs', runId],
    queryFn: async () => (await get<{ entries: MovedCost[] }>(`/runs/${runId}/moved-costs`)).entries,
    staleTime: 0,
  })
  if (data.length === 0) return null
  return (
    <>
      <h3>Moved when it was put right</h3>
      <ul className="plain-list">
        {data.map(({ lotId, number, name, before, after }) => (
          <li key={lotId}>
            <Link to={`/walk-in/${lotId}`}>
              {name}, lot {number}
            </Link>{' '}
            {money(before)} → <b>{money(after)}</b>
          </li>
        ))}
      </ul>
    </>
  )
}
