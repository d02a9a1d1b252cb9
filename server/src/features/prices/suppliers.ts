import type { Supplier, supplierChange, supplierCreate } from '@fleam/contract/prices'
import { Op } from 'sequelize'
import type { z } from 'zod'
import type { KitchenRecords } from '../../db/records.ts'
import type { Actor } from '../../http/access.ts'
import { changeAsRead, createOnce, recordChange } from '../../http/changes.ts'
import { refuseField } from '../../http/problems.ts'
import type { SupplierRow } from './supplier.model.ts'

const attributes = ['id', 'name', 'version', 'feed']

type SupplierNew = z.infer<typeof supplierCreate>
type SupplierChange = z.infer<typeof supplierChange>

export async function listSuppliers(records: KitchenRecords, after: string, limit: number): Promise<Supplier[]> {
  const rows = await records.suppliers.findAll({ attributes, where: { name: { [Op.gt]: after } }, order: ['name'], limit })
  return rows.map(toSupplier)
}

export async function createSupplier(by: Actor, create: SupplierNew): Promise<Supplier> {
  return createOnce(
    by.records,
    () =>
      by.records.transaction(async (tx) => {
        await tx.suppliers.create({ ...create, priceList: null, nextFetchAt: dueOf(create.feed) })
        await recordChange(tx, by, { subject: 'supplier', subjectId: create.id, action: 'added', before: undefined, after: create })
      }),
    () => findSupplier(by.records, create.id),
  )
}

/** A name, and where the price list is fetched; what is not said of that stays as it is. */
export async function changeSupplier(by: Actor, id: string, { version, name, feed }: SupplierChange): Promise<Supplier> {
  return by.records.transaction(async (tx) => {
    const { before, row } = await changeAsRead(tx.suppliers, { id }, version, toSupplier, {
      name,
      ...(feed === undefined ? {} : { feed, nextFetchAt: dueOf(feed) }),
    })
    await recordChange(tx, by, { subject: 'supplier', subjectId: id, action: 'changed', before, after: toSupplier(row) })
    return toSupplier(row)
  })
}

export async function refuseUnknownSupplier(records: KitchenRecords, id: string): Promise<void> {
  if (!(await findSupplier(records, id))) throw refuseField('supplierId', 'That supplier is not in this kitchen’s list.')
}

async function findSupplier(records: KitchenRecords, id: string): Promise<Supplier | undefined> {
  const row = await records.suppliers.findOne({ attributes, where: { id } })
  return row ? toSupplier(row) : undefined
}

/** A list that is fetched by the hour is fetched at once for the first time. */
const dueOf = (feed: Supplier['feed']) => (feed && feed.everyHours > 0 ? new Date() : null)

function toSupplier({ id, name, version, feed }: SupplierRow): Supplier {
  return { id, name, version, feed: feed ?? null }
}
