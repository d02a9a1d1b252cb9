import type { Quote, quoteCreate } from '@fleam/contract/prices'
import { Op, type OrderItem } from 'sequelize'
import * as z from 'zod'
import type { KitchenRecords } from '../../db/records.ts'
import type { Actor } from '../../http/access.ts'
import { createOnce, found, recordChange } from '../../http/changes.ts'
import type { Cursor } from '../../http/paging.ts'
import type { QuoteRow } from './quote.model.ts'
import { latestQuotes } from './quotes.sql.ts'
import { refuseUnknownSupplier } from './suppliers.ts'

const newestFirst: OrderItem[] = [
  ['quotedOn', 'DESC'],
  ['at', 'DESC'],
  ['id', 'DESC'],
]
const withSupplier = { association: 'supplier', attributes: ['id', 'name'] }

/** The quotes of an item, the newest day first. */
export async function listQuotes(records: KitchenRecords, itemId: string, cursor: Cursor | undefined, limit: number): Promise<Quote[]> {
  await refuseUnknownItem(records, itemId)
  const rows = await records.quotes.findAll({
    where: { itemId, ...(cursor ? olderThan(cursor) : {}) },
    include: [withSupplier],
    order: newestFirst,
    limit,
  })
  return rows.map(toQuote)
}

/** Where the next page of quotes starts: day and moment of the last, and its id. */
export function cursorOfQuote({ quotedOn, at, id }: Quote): Cursor {
  return { after: `${quotedOn} ${at}`, id }
}

export const quoteCursor = z.string().refine((text) => z.tuple([z.iso.date(), z.iso.datetime()]).safeParse(text.split(' ')).success)

function olderThan({ after, id }: Cursor) {
  const [quotedOn = '', moment = ''] = String(after).split(' ')
  const at = new Date(moment)
  return { [Op.or]: [{ quotedOn: { [Op.lt]: quotedOn } }, { quotedOn, at: { [Op.lt]: at } }, { quotedOn, at, id: { [Op.lt]: id } }] }
}

/** The quote in force of each of these items, by item; those that have none are left out. */
export async function findLatestQuotes(records: KitchenRecords, itemIds: readonly string[]): Promise<Map<string, Quote>> {
  if (itemIds.length === 0) return new Map()
  const latest = await records.select<{ id: string }>(latestQuotes, { itemIds })
  return new Map(
    (
      await findQuotes(
        records,
        latest.map(({ id }) => id),
      )
    ).map((row) => [row.itemId, toQuote(row)]),
  )
}

/** Quotes by their ids, with item and supplier. */
export async function findQuotes(records: KitchenRecords, ids: readonly string[]): Promise<QuoteRow[]> {
  if (ids.length === 0) return []
  return records.quotes.findAll({ where: { id: [...ids] }, include: [withSupplier, { association: 'item', attributes: ['id', 'name'] }] })
}

export async function findLatestQuote(records: KitchenRecords, itemId: string): Promise<Quote | null> {
  const row = await records.quotes.findOne({ where: { itemId }, include: [withSupplier], order: newestFirst })
  return row && toQuote(row)
}

/** The price in force: the supplier's latest quote, or the latest of all where that supplier gave none. */
export async function findQuoteOf(records: KitchenRecords, itemId: string, supplierId: string | null): Promise<{ id: string } | null> {
  const latest = (where: object) => records.quotes.findOne({ attributes: ['id'], where: { itemId, ...where }, order: newestFirst })
  return (await latest({ supplierId })) ?? (await latest({}))
}

export async function addQuote(by: Actor, itemId: string, create: z.infer<typeof quoteCreate>): Promise<Quote> {
  const { records } = by
  const { id, supplierId, quotedOn } = create
  await refuseUnknownItem(records, itemId)
  const before = await findLatestQuote(records, itemId)
  if (supplierId !== null) await refuseUnknownSupplier(records, supplierId)
  return createOnce(
    records,
    () =>
      records.transaction(async (tx) => {
        const personId = by.person.id
        await tx.quotes.create({ id, itemId, supplierId, ...priceColumns(create.price), quotedOn, at: new Date(), personId })
        await recordChange(tx, by, { subject: 'quote', subjectId: itemId, action: 'quoted', before, after: create })
      }),
    async () => {
      const row = await records.quotes.findOne({ where: { id, itemId }, include: [withSupplier] })
      return row ? toQuote(row) : undefined
    },
  )
}

async function refuseUnknownItem(records: KitchenRecords, id: string): Promise<void> {
  found(await records.items.findOne({ where: { id }, attributes: ['id'] }))
}

export function toQuote(row: QuoteRow): Quote {
  return {
    id: row.id,
    itemId: row.itemId,
    supplier: row.supplier ? { id: row.supplier.id, name: row.supplier.name } : null,
    price: toPrice(row),
    quotedOn: row.quotedOn,
    at: row.at.toISOString(),
  }
}

export function toPrice({ amount, per, caseCount, caseGrams }: PriceColumns): Quote['price'] {
  return { amount, per, ...(caseCount === null ? {} : { count: caseCount }), ...(caseGrams === null ? {} : { grams: caseGrams }) }
}

export function priceColumns({ amount, per, count, grams }: Quote['price']): PriceColumns {
  return { amount, per, caseCount: count ?? null, caseGrams: grams ?? null }
}

type PriceColumns = Pick<QuoteRow, 'amount' | 'per' | 'caseCount' | 'caseGrams'>
