import type { Item, itemChange, itemCreate } from '@fleam/contract/prices'
import { Op } from 'sequelize'
import type { z } from 'zod'
import type { KitchenRecords } from '../../db/records.ts'
import type { Actor } from '../../http/access.ts'
import { changeAsRead, createOnce, recordChange } from '../../http/changes.ts'
import { refuseField } from '../../http/problems.ts'
import type { ItemRow } from './item.model.ts'
import { findLatestQuote, findLatestQuotes } from './quotes.ts'

export async function listItems(records: KitchenRecords, after: string, limit: number): Promise<Item[]> {
  const rows = await records.items.findAll({ where: { name: { [Op.gt]: after } }, order: ['name'], limit })
  const latest = await findLatestQuotes(
    records,
    rows.map((row) => row.id),
  )
  return rows.map((row) => toItem(row, latest.get(row.id) ?? null))
}

export async function findItem(records: KitchenRecords, id: string): Promise<Item | undefined> {
  const row = await records.items.findOne({ where: { id } })
  return row ? toItem(row, await findLatestQuote(records, id)) : undefined
}

/** An item alone, without its price. */
export async function findItemAlone(records: KitchenRecords, id: string): Promise<Omit<Item, 'latestQuote'> | undefined> {
  const row = await records.items.findOne({ where: { id } })
  return row ? toItem(row, null) : undefined
}

export async function createItem(by: Actor, create: z.infer<typeof itemCreate>): Promise<Item> {
  const { records } = by
  await refuseUnfitPartner(records, create.againstId)
  const { id, kind } = create
  return createOnce(
    records,
    () =>
      records.transaction(async (tx) => {
        await tx.items.create({ id, kind, ...itemColumns(create) })
        await recordChange(tx, by, { subject: 'item', subjectId: id, action: 'added', before: undefined, after: create })
      }),
    () => findItem(records, id),
  )
}

export async function changeItem(by: Actor, id: string, change: z.infer<typeof itemChange>): Promise<Item> {
  await refuseUnfitPartner(by.records, change.againstId)
  return by.records.transaction(async (tx) => {
    const show = async (row: ItemRow) => toItem(row, await findLatestQuote(tx, id))
    const { before, row } = await changeAsRead(tx.items, { id }, change.version, show, async (read) => {
      if (change.kind !== read.kind) throw refuseField('kind', 'What is bought whole stays so: add a new item instead.')
      return itemColumns(change)
    })
    await recordChange(tx, by, { subject: 'item', subjectId: id, action: 'changed', before, after: change })
    return show(row)
  })
}

async function refuseUnfitPartner(records: KitchenRecords, againstId: string | null): Promise<void> {
  if (againstId === null) return
  const partner = await records.items.findOne({ where: { id: againstId } })
  if (partner?.kind !== 'ready-cut') throw refuseField('againstId', 'Choose a ready-cut item of this kitchen.')
}

function itemColumns({ name, animal, againstId, readyCut }: Omit<z.infer<typeof itemCreate>, 'id'>) {
  return { name, animal, againstId, readyCut: readyCut && toTerms(readyCut) }
}

function toTerms({ portion, ...terms }: NonNullable<z.infer<typeof itemCreate>['readyCut']>): Item['readyCut'] {
  return { portionTenths: portion.tenths, portionEntered: portion.entered, ...terms }
}

function toItem({ id, name, kind, animal, readyCut, againstId, version }: ItemRow, latestQuote: Item['latestQuote']): Item {
  return { id, name, kind, animal, readyCut: readyCut ?? null, againstId, latestQuote, version }
}
