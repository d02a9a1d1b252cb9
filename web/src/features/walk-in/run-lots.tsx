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
      <Labels lots={data} />
      <WaitingLabels />
    </section>
  )
}
