import type { Kitchen } from '@fleam/contract/kitchen'
import { deliveryNote, type KitchenOrder, type orderCreate } from '@fleam/contract/ordering'
import type { Order } from '@fleam/core/ordering/order'
import { dayOf } from '@fleam/core/quantities/house-day'
import type { z } from 'zod'
import type { KitchenRecords } from '../../db/records.ts'
import type { Actor } from '../../http/access.ts'
import { createOnce, found, recordChange } from '../../http/changes.ts'
import { csvLine } from '../../http/csv.ts'
import { ProblemError } from '../../http/problems.ts'
import { refuseUnknownSupplier } from '../prices/suppliers.ts'
import { takeOrderNumber } from '../runs/run-number.ts'
import type { OrderRow } from './order.model.ts'

const withNames = [
  { association: 'person', attributes: ['name'] },
  { association: 'supplier', attributes: ['id', 'name', 'feed'] },
]
const shown = 200
const patienceMs = 8000
const largestAnswer = 1_000_000

export async function listOrders(records: KitchenRecords): Promise<KitchenOrder[]> {
  return (await records.orders.findAll({ include: withNames, order: [['number', 'DESC']], limit: shown })).map(toOrder)
}

export async function findOrder(records: KitchenRecords, id: string): Promise<KitchenOrder | undefined> {
  const row = await records.orders.findOne({ where: { id }, include: withNames })
  return row ? toOrder(row) : undefined
}

export async function createOrder(by: Actor, create: z.infer<typeof orderCreate>): Promise<KitchenOrder> {
  await refuseUnknownSupplier(by.records, create.supplierId)
  const lines = create.lines.map((line) => ({ ...line, gtin: null }))
  return createOnce(
    by.records,
    () =>
      by.records.transaction(async (tx) => {
        const number = await takeOrderNumber(tx)
        await tx.orders.create({ ...create, lines, number, personId: by.person.id, at: new Date() })
        await recordChange(tx, by, { subject: 'order', subjectId: create.id, action: 'wrote', before: undefined, after: { number, lines } })
      }),
    () => findOrder(by.records, create.id),
  )
}

/**
 * Sends an order to the supplier, where one takes orders, and keeps what it answers. Sent twice it is one order there: its number is
 * the kitchen's own.
 * @param simulated where the simulated supplier takes them
 */
export async function sendOrder(by: Actor, id: string, simulated: { host: string; port: number } | undefined): Promise<KitchenOrder> {
  const { records, kitchen } = by
  const row = found(await records.orders.findOne({ where: { id }, include: withNames }))
  if (row.note) return toOrder(row)
  const isSimulated = row.supplier?.feed?.address === 'simulated' && simulated !== undefined
  if (!isSimulated) throw new ProblemError('order-not-taken', { detail: `Print it, or send its CSV or UBL file to ${row.supplier?.name}.` })
  const note = await ask(`http://${simulated.host}:${simulated.port}/orders`, orderOf(toOrder(row), kitchen))
  await records.transaction(async (tx) => {
    await tx.orders.update({ note, sentAt: new Date() }, { id })
    await recordChange(tx, by, {
      subject: 'order',
      subjectId: id,
      action: 'sent',
      before: undefined,
      after: { number: row.number, note: note.number },
    })
  })
  return found(await findOrder(records, id))
}

async function ask(address: string, order: Order) {
  const answer = await fetch(address, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify(order),
    redirect: 'error',
    signal: AbortSignal.timeout(patienceMs),
  }).catch(() => {
    throw new ProblemError('supplier-away', { detail: 'The order is kept: send it again in a moment.' })
  })
  const text = await answer.text().catch(() => '')
  const read = text.length <= largestAnswer ? deliveryNote.safeParse(jsonOf(text)) : undefined
  if (!answer.ok || !read?.success)
    throw new ProblemError('supplier-away', { detail: 'What it answered is no delivery note. The order is kept.' })
  return read.data
}

function jsonOf(text: string): unknown {
  try {
    return JSON.parse(text)
  } catch {
    return undefined
  }
}

/** An order as the formats have it. */
export function orderOf({ number, supplier, wantedOn, at, lines }: KitchenOrder, { name, settings }: Kitchen): Order {
  return {
    ...{ number: `O-${number}`, kitchen: name, supplier: supplier.name, orderedOn: dayOf(at, settings.timeZone), wantedOn },
    ...{ currency: settings.currency, note: '', lines },
  }
}

export function orderCsv(order: Order): string {
  const head = csvLine(['order', 'supplier', 'wanted_on', 'article', 'quantity', 'unit', 'price', 'currency'])
  const lines = order.lines.map(({ article, quantity, unit, price }) =>
    csvLine([order.number, order.supplier, order.wantedOn, article, quantity, unit, price, order.currency]),
  )
  return head + lines.join('')
}

function toOrder(row: OrderRow): KitchenOrder {
  const { id, number, supplier, dayId, wantedOn, lines, person, at, sentAt, note } = row
  return {
    ...{ id, number, dayId, wantedOn, lines, note: note ?? null },
    supplier: { id: found(supplier).id, name: found(supplier).name },
    by: found(person).name,
    at: at.toISOString(),
    sentAt: sentAt?.toISOString() ?? null,
  }
}
