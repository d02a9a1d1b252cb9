import type { DishNeed, dishNeedClose, dishNeedCreate } from '@fleam/contract/dishes'
import type { z } from 'zod'
import type { KitchenRecords } from '../../db/records.ts'
import type { Actor } from '../../http/access.ts'
import { changeAsRead, createOnce, found, recordChange } from '../../http/changes.ts'
import { collectedForDishes } from './collected.sql.ts'
import type { DishNeedRow } from './dish-need.model.ts'

/** The dishes that still need a second product, the soonest first, with what runs have brought since. */
export async function listDishNeeds(records: KitchenRecords): Promise<DishNeed[]> {
  return withCollected(records, await records.dishNeeds.findAll({ where: { closed: false }, order: ['dueOn', 'id'], limit: 200 }))
}

export async function addDishNeed(by: Actor, create: z.infer<typeof dishNeedCreate>): Promise<DishNeed> {
  const { need, ...fields } = create
  return createOnce(
    by.records,
    () => by.records.dishNeeds.create({ ...fields, needTenths: need.tenths, needEntered: need.entered, since: new Date() }),
    () => findDishNeed(by.records, create.id),
  )
}

/** Takes a dish off the list, as it has what it needs or is not cooked after all; or puts it back. */
export async function closeDishNeed(by: Actor, id: string, { version, closed }: z.infer<typeof dishNeedClose>): Promise<DishNeed> {
  return by.records.transaction(async (tx) => {
    const show = async () => found(await findDishNeed(tx, id))
    const { before } = await changeAsRead(tx.dishNeeds, { id }, version, show, { closed })
    await recordChange(tx, by, { subject: 'dish', subjectId: id, action: closed ? 'closed' : 'put back', before, after: undefined })
    return show()
  })
}

async function findDishNeed(records: KitchenRecords, id: string): Promise<DishNeed | undefined> {
  return (await withCollected(records, await records.dishNeeds.findAll({ where: { id } })))[0]
}

async function withCollected(records: KitchenRecords, rows: readonly DishNeedRow[]): Promise<DishNeed[]> {
  if (rows.length === 0) return []
  const sums = await records.select<{ id: string; tenths: number }>(collectedForDishes, { needIds: rows.map(({ id }) => id) })
  const collected = new Map(sums.map(({ id, tenths }) => [id, tenths]))
  return rows.map(({ id, dish, animal, product, needTenths, needEntered, dueOn, version }) => ({
    id,
    dish,
    animal,
    product,
    need: { tenths: needTenths, entered: needEntered },
    collectedTenths: collected.get(id) ?? 0,
    dueOn,
    version,
  }))
}
