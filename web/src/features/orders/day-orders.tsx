import type { KitchenDay, PlannedDay } from '@fleam/contract/day'
import type { KitchenOrder } from '@fleam/contract/ordering'
import { shortLines } from '@fleam/core/ordering/order'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import Button from 'react-bootstrap/Button'
import { Link } from 'react-router'
import { send } from '../../api/http.ts'
import { newId } from '../../api/new-id.ts'
import { ordersQuery, suppliersQuery, useHasRole } from '../../api/queries.ts'
import { counted } from '../../ui/counted.ts'
import { momentText } from '../../ui/days.ts'
import { Warning, Word } from '../../ui/notes.tsx'
import { useUnits } from '../../ui/units.ts'
import { useChange } from '../../ui/use-change.ts'

/** What to order of whom for a day; written once, then sent or taken out as a file. */
export function DayOrders({ day, planned }: { day: KitchenDay; planned: PlannedDay }) {
  const suppliers = useQuery(suppliersQuery).data ?? []
  const kept = (useQuery(ordersQuery).data ?? []).filter(({ dayId }) => dayId === day.id)
  const isLead = useHasRole('lead')
  const [ids] = useState(() => new Map(planned.orders.map(({ supplierId }) => [supplierId, newId()])))
  const refresh = [ordersQuery.queryKey]
  const writing = useChange<PlannedDay['orders'][number], KitchenOrder>({
    send: ({ supplierId, lines }) =>
      send<KitchenOrder>('POST', '/orders', { id: ids.get(supplierId) ?? newId(), supplierId, dayId: day.id, wantedOn: day.date, lines }),
    refresh,
  })
  const fresh = planned.orders.filter(({ supplierId }) => !kept.some(({ supplier }) => supplier.id === supplierId))
  if (fresh.length === 0 && kept.length === 0) return null
  return (
    <section className="stack">
      <h3>Orders</h3>
      {writing.trouble && <Warning>{writing.trouble}</Warning>}
      {fresh.map((order) => (
        <div key={order.supplierId} className="order">
          <h4>{suppliers.find(({ id }) => id === order.supplierId)?.name}</h4>
          <Lines lines={order.lines} />
          {isLead && (
            <Button variant="plain" disabled={writing.busy} onClick={() => void writing.change(order)}>
              Write this order
            </Button>
          )}
        </div>
      ))}
      {kept.map((order) => (
        <WrittenOrder
          key={order.id}
          order={order}
          takesOrders={suppliers.find(({ id }) => id === order.supplier.id)?.feed?.address === 'simulated'}
        />
      ))}
    </section>
  )
}

function Lines({ lines }: { lines: KitchenOrder['lines'] | PlannedDay['orders'][number]['lines'] }) {
  const { money } = useUnits()
  return (
    <ul className="plain-list">
      {lines.map(({ article, quantity, unit, price }) => (
        <li key={article}>
          <b>
            {quantity}{' '}
            {unit === 'each' ? (quantity === 1 ? 'piece' : 'pieces') : unit === 'case' ? (quantity === 1 ? 'case' : 'cases') : unit}
          </b>{' '}
          {article}
          {price !== null && <small> at {money(price)}</small>}
        </li>
      ))}
    </ul>
  )
}

function WrittenOrder({ order, takesOrders }: { order: KitchenOrder; takesOrders: boolean }) {
  const isLead = useHasRole('lead')
  const { id, number, supplier, note, sentAt } = order
  const sending = useChange<void, KitchenOrder>({
    send: () => send<KitchenOrder>('POST', `/orders/${id}/send`, {}),
    refresh: [ordersQuery.queryKey],
  })
  const short = note ? shortLines(note) : []
  return (
    <div className="order">
      <h4>
        Order O-{number}, {supplier.name}
      </h4>
      <Lines lines={order.lines} />
      {sending.trouble && <Warning>{sending.trouble}</Warning>}
      {note && (
        <Word isGood={short.length === 0}>
          Sent {sentAt && momentText(sentAt)}; delivery note {note.number}:{' '}
          {short.length === 0
            ? 'all of it comes.'
            : `${counted(short.length, 'line')} short: ${short.map(({ article, sent, ordered, unit, why }) => `${article} ${sent} of ${ordered} ${unit}, ${why}`).join('; ')}.`}
        </Word>
      )}
      <span className="actions no-print">
        {!note && isLead && takesOrders && (
          <Button variant="act" disabled={sending.busy} onClick={() => void sending.change()}>
            Send it
          </Button>
        )}
        {note && (
          <Link className="btn btn-act" to={`/receive/boxes?order=${id}`}>
            Receive it
          </Link>
        )}
        {(['csv', 'xml', 'json'] as const).map((kind) => (
          <a key={kind} className="btn btn-plain" href={`/api/v1/orders/${id}/order.${kind}`}>
            {{ csv: 'CSV', xml: 'UBL Order', json: 'JSON' }[kind]}
          </a>
        ))}
      </span>
    </div>
  )
}
