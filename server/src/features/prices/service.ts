import type { Item, itemChange, itemCreate, Quote, quoteCreate, Supplier } from '@fleam/contract/prices'
import type { z } from 'zod'
import type { Database, Queries } from '../../db/database.ts'
import { isDuplicateKey } from '../../db/database.ts'
import type { SignedIn } from '../../http/access.ts'
import { createOnce, found, recordChange, refuseStale } from '../../http/changes.ts'
import { refuseField } from '../../http/problems.ts'
import { type QuoteColumns, toQuote } from './quote-row.ts'

interface ItemRow extends QuoteColumns {
  item_id: string
  item_name: string
  kind: Item['kind']
  animal: Item['animal']
  ready_cut: string | null
  against_id: string | null
  version: number
}

const itemsWithLatestQuote = `
  SELECT i.id AS item_id, i.name AS item_name, i.kind, i.animal, i.ready_cut, i.against_id, i.version,
    q.id, q.supplier_id, s.name AS supplier_name, q.amount, q.per, q.case_count, q.case_grams, q.quoted_on, q.at
  FROM items i
  LEFT JOIN quotes q ON q.id = (
    SELECT id FROM quotes WHERE kitchen_id = :kitchenId AND item_id = i.id ORDER BY quoted_on DESC, at DESC, id DESC LIMIT 1)
  LEFT JOIN suppliers s ON s.id = q.supplier_id
  WHERE i.kitchen_id = :kitchenId`

export async function listItems(db: Queries, kitchenId: string, after: string, limit: number): Promise<Item[]> {
  const rows = await db.rows<ItemRow>(`${itemsWithLatestQuote} AND i.name > :after ORDER BY i.name LIMIT :limit`, {
    kitchenId,
    after,
    limit,
  })
  return rows.map(toItem)
}

export async function findItem(db: Queries, kitchenId: string, id: string): Promise<Item | undefined> {
  const row = await db.row<ItemRow>(`${itemsWithLatestQuote} AND i.id = :id`, { kitchenId, id })
  return row && toItem(row)
}

export async function createItem(db: Database, by: SignedIn, create: z.infer<typeof itemCreate>): Promise<Item> {
  await refuseUnfitPartner(db, by.kitchen.id, create.againstId)
  return createOnce(
    () =>
      db.transaction(async (tx) => {
        await tx.run(
          `INSERT INTO items (id, kitchen_id, name, kind, animal, ready_cut, against_id)
           VALUES (:id, :kitchenId, :name, :kind, :animal, :readyCut, :againstId)`,
          { id: create.id, kitchenId: by.kitchen.id, ...itemColumns(create) },
        )
        await recordChange(tx, by, { subject: 'item', subjectId: create.id, action: 'added', before: undefined, after: create })
      }),
    () => findItem(db, by.kitchen.id, create.id),
    'name',
  )
}

export async function changeItem(db: Database, by: SignedIn, id: string, change: z.infer<typeof itemChange>): Promise<Item> {
  await refuseUnfitPartner(db, by.kitchen.id, change.againstId)
  await db.transaction(async (tx) => {
    await tx.row('SELECT id FROM items WHERE id = :id AND kitchen_id = :kitchenId FOR UPDATE', { id, kitchenId: by.kitchen.id })
    const before = found(await findItem(tx, by.kitchen.id, id))
    refuseStale(change.version, before)
    if (change.kind !== before.kind) throw refuseField('kind', 'What is bought whole stays so: add a new item instead.')
    try {
      await tx.run(
        `UPDATE items SET name = :name, animal = :animal, ready_cut = :readyCut, against_id = :againstId, version = version + 1
         WHERE id = :id AND kitchen_id = :kitchenId`,
        { id, kitchenId: by.kitchen.id, ...itemColumns(change) },
      )
    } catch (error) {
      if (isDuplicateKey(error)) throw refuseField('name', 'That name is taken already: choose another.', 'name-in-use')
      throw error
    }
    await recordChange(tx, by, { subject: 'item', subjectId: id, action: 'changed', before, after: change })
  })
  return found(await findItem(db, by.kitchen.id, id))
}

export async function listQuotes(db: Queries, kitchenId: string, itemId: string, limit: number): Promise<Quote[]> {
  found(await findItem(db, kitchenId, itemId))
  const rows = await db.rows<QuoteColumns & { item_id: string }>(
    `SELECT q.id, q.item_id, q.supplier_id, s.name AS supplier_name, q.amount, q.per, q.case_count, q.case_grams, q.quoted_on, q.at
     FROM quotes q LEFT JOIN suppliers s ON s.id = q.supplier_id
     WHERE q.kitchen_id = :kitchenId AND q.item_id = :itemId ORDER BY q.quoted_on DESC, q.at DESC, q.id DESC LIMIT :limit`,
    { kitchenId, itemId, limit },
  )
  return rows.flatMap((row) => toQuote(row.item_id, row) ?? [])
}

/** The price in force: the supplier's latest quote, or the latest of all where that supplier gave none. */
export async function findQuoteOf(
  db: Queries,
  kitchenId: string,
  itemId: string,
  supplierId: string | null,
): Promise<{ id: string } | undefined> {
  return db.row<{ id: string }>(
    `SELECT id FROM quotes WHERE kitchen_id = :kitchenId AND item_id = :itemId
     ORDER BY supplier_id <=> :supplierId DESC, quoted_on DESC, at DESC, id DESC LIMIT 1`,
    { kitchenId, itemId, supplierId },
  )
}

export async function addQuote(db: Database, by: SignedIn, itemId: string, create: z.infer<typeof quoteCreate>): Promise<Quote> {
  const kitchenId = by.kitchen.id
  const before = found(await findItem(db, kitchenId, itemId)).latestQuote
  if (create.supplierId !== null) await refuseUnknownSupplier(db, kitchenId, create.supplierId)
  return createOnce(
    () =>
      db.transaction(async (tx) => {
        await tx.run(
          `INSERT INTO quotes (id, kitchen_id, item_id, supplier_id, amount, per, case_count, case_grams, quoted_on, at, person_id)
           VALUES (:id, :kitchenId, :itemId, :supplierId, :amount, :per, :count, :grams, :quotedOn, UTC_TIMESTAMP(3), :personId)`,
          {
            id: create.id,
            kitchenId,
            itemId,
            supplierId: create.supplierId,
            amount: create.price.amount,
            per: create.price.per,
            count: create.price.count ?? null,
            grams: create.price.grams ?? null,
            quotedOn: create.quotedOn,
            personId: by.person.id,
          },
        )
        await recordChange(tx, by, { subject: 'quote', subjectId: itemId, action: 'quoted', before, after: create })
      }),
    async () => (await listQuotes(db, kitchenId, itemId, 1000)).find((quote) => quote.id === create.id),
  )
}

export async function listSuppliers(db: Queries, kitchenId: string, after: string, limit: number): Promise<Supplier[]> {
  return db.rows<Supplier>(
    'SELECT id, name, version FROM suppliers WHERE kitchen_id = :kitchenId AND name > :after ORDER BY name LIMIT :limit',
    { kitchenId, after, limit },
  )
}

export async function createSupplier(db: Database, by: SignedIn, create: { id: string; name: string }): Promise<Supplier> {
  return createOnce(
    () =>
      db.transaction(async (tx) => {
        await tx.run('INSERT INTO suppliers (id, kitchen_id, name) VALUES (:id, :kitchenId, :name)', {
          ...create,
          kitchenId: by.kitchen.id,
        })
        await recordChange(tx, by, { subject: 'supplier', subjectId: create.id, action: 'added', before: undefined, after: create })
      }),
    () => findSupplier(db, by.kitchen.id, create.id),
    'name',
  )
}

export async function changeSupplier(db: Database, by: SignedIn, id: string, change: { version: number; name: string }): Promise<Supplier> {
  return db.transaction(async (tx) => {
    const before = found(await findSupplier(tx, by.kitchen.id, id, 'FOR UPDATE'))
    refuseStale(change.version, before)
    try {
      await tx.run('UPDATE suppliers SET name = :name, version = version + 1 WHERE id = :id', { id, name: change.name })
    } catch (error) {
      if (isDuplicateKey(error)) throw refuseField('name', 'That name is taken already: choose another.', 'name-in-use')
      throw error
    }
    await recordChange(tx, by, { subject: 'supplier', subjectId: id, action: 'changed', before, after: change })
    return { id, name: change.name, version: before.version + 1 }
  })
}

export async function refuseUnknownSupplier(db: Queries, kitchenId: string, id: string): Promise<void> {
  if (!(await findSupplier(db, kitchenId, id))) throw refuseField('supplierId', 'That supplier is not in this kitchen’s list.')
}

async function findSupplier(db: Queries, kitchenId: string, id: string, lock = ''): Promise<Supplier | undefined> {
  return db.row<Supplier>(`SELECT id, name, version FROM suppliers WHERE id = :id AND kitchen_id = :kitchenId ${lock}`, {
    id,
    kitchenId,
  })
}

async function refuseUnfitPartner(db: Queries, kitchenId: string, againstId: string | null): Promise<void> {
  if (againstId === null) return
  const partner = await findItem(db, kitchenId, againstId)
  if (partner?.kind !== 'ready-cut') throw refuseField('againstId', 'Choose a ready-cut item of this kitchen.')
}

function itemColumns(fields: Omit<z.infer<typeof itemCreate>, 'id'>) {
  const { readyCut } = fields
  return {
    name: fields.name,
    kind: fields.kind,
    animal: fields.animal,
    againstId: fields.againstId,
    readyCut: readyCut && JSON.stringify(toTerms(readyCut)),
  }
}

function toTerms({ portion, ...terms }: NonNullable<z.infer<typeof itemCreate>['readyCut']>): Item['readyCut'] {
  return { portionTenths: portion.tenths, portionEntered: portion.entered, ...terms }
}

function toItem(row: ItemRow): Item {
  return {
    id: row.item_id,
    name: row.item_name,
    kind: row.kind,
    animal: row.animal,
    readyCut: row.ready_cut ? JSON.parse(row.ready_cut) : null,
    againstId: row.against_id,
    latestQuote: toQuote(row.item_id, row),
    version: row.version,
  }
}
