import type { DishNeed, dishNeedClose, dishNeedCreate } from '@fleam/contract/bench'
import type { z } from 'zod'
import type { Database, Queries } from '../../db/database.ts'
import type { SignedIn } from '../../http/access.ts'
import { createOnce, found, recordChange, refuseStale } from '../../http/changes.ts'
import { dayOf } from '../prices/quote-row.ts'

interface DishNeedRow {
  id: string
  dish: string
  animal: DishNeed['animal']
  product: string
  need_tenths: number
  need_entered: string
  collected: number
  due_on: Date
  version: number
}

/** The dishes that still need a second product, the soonest first, with what runs have brought since. */
export async function listDishNeeds(db: Queries, kitchenId: string, id?: string): Promise<DishNeed[]> {
  const rows = await db.rows<DishNeedRow>(
    `SELECT n.id, n.dish, n.animal, n.product, n.need_tenths, n.need_entered, n.due_on, n.version,
       (SELECT COALESCE(SUM(IF(w.reverses_id IS NULL, w.tenths, -w.tenths)), 0)
        FROM runs r FORCE INDEX (runs_of_status) JOIN items i ON i.id = r.item_id AND i.animal = n.animal
          JOIN tubs t ON t.run_id = r.id AND t.output_key = n.product
          JOIN weighings w ON w.run_id = r.id AND w.tub_id = t.id
        WHERE r.kitchen_id = n.kitchen_id AND r.status = 'finished' AND r.started_at >= n.since) AS collected
     FROM dish_needs n WHERE n.kitchen_id = :kitchenId ${id === undefined ? 'AND n.closed = 0' : 'AND n.id = :id'}
     ORDER BY n.due_on, n.id LIMIT 200`,
    { kitchenId, id },
  )
  return rows.map((row) => ({
    id: row.id,
    dish: row.dish,
    animal: row.animal,
    product: row.product,
    need: { tenths: row.need_tenths, entered: row.need_entered },
    collectedTenths: Number(row.collected),
    dueOn: dayOf(row.due_on),
    version: row.version,
  }))
}

export async function addDishNeed(db: Database, by: SignedIn, create: z.infer<typeof dishNeedCreate>): Promise<DishNeed> {
  const { need, ...fields } = create
  return createOnce(
    () =>
      db.run(
        `INSERT INTO dish_needs (id, kitchen_id, dish, animal, product, need_tenths, need_entered, due_on, since)
         VALUES (:id, :kitchenId, :dish, :animal, :product, :tenths, :entered, :dueOn, UTC_TIMESTAMP(3))`,
        { ...fields, ...need, kitchenId: by.kitchen.id },
      ),
    async () => (await listDishNeeds(db, by.kitchen.id, create.id))[0],
  )
}

/** Takes a dish off the list: it has what it needs, or is not cooked after all. */
export async function closeDishNeed(db: Database, by: SignedIn, id: string, { version }: z.infer<typeof dishNeedClose>): Promise<DishNeed> {
  return db.transaction(async (tx) => {
    const [before] = await listDishNeeds(tx, by.kitchen.id, id)
    refuseStale(version, found(before))
    await tx.run('UPDATE dish_needs SET closed = 1, version = version + 1 WHERE id = :id AND kitchen_id = :kitchenId', {
      id,
      kitchenId: by.kitchen.id,
    })
    await recordChange(tx, by, { subject: 'dish', subjectId: id, action: 'closed', before, after: undefined })
    return found((await listDishNeeds(tx, by.kitchen.id, id))[0])
  })
}
