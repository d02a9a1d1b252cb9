import type { DishNeed, dishNeedClose, dishNeedCreate } from '@fleam/contract/dishes'
import { dayOf } from '@fleam/core/quantities/house-day'
import { Op } from 'sequelize'
import type { z } from 'zod'
import type { KitchenRecords } from '../../db/records.ts'
import type { Actor } from '../../http/access.ts'
import { changeAsRead, createOnce, found, recordChange } from '../../http/changes.ts'
import type { DishNeedRow } from './dish-need.model.ts'

/** The dishes that still need a second product, the soonest first, with what lies there for each. */
export async function listDishNeeds({ records, kitchen }: Pick<Actor, 'records' | 'kitchen'>): Promise<DishNeed[]> {
  const open = await records.dishNeeds.findAll({ where: { closed: false }, order: ['dueOn', 'id'], limit: 200 })
  return withCollected(records, open, kitchen.settings.timeZone)
}

export async function addDishNeed(by: Actor, create: z.infer<typeof dishNeedCreate>): Promise<DishNeed> {
  const { need, ...fields } = create
  return createOnce(
    by.records,
    () => by.records.dishNeeds.create({ ...fields, needTenths: need.tenths, needEntered: need.entered, since: new Date() }),
    () => findDishNeed(by, create.id),
  )
}

/** Takes a dish off the list, as it has what it needs or is not cooked after all; or puts it back. */
export async function closeDishNeed(by: Actor, id: string, { version, closed }: z.infer<typeof dishNeedClose>): Promise<DishNeed> {
  return by.records.transaction(async (tx) => {
    const show = async () => found(await findDishNeed({ records: tx, kitchen: by.kitchen }, id))
    const { before } = await changeAsRead(tx.dishNeeds, { id }, version, show, { closed })
    await recordChange(tx, by, { subject: 'dish', subjectId: id, action: closed ? 'closed' : 'put back', before, after: undefined })
    return show()
  })
}

async function findDishNeed(by: Pick<Actor, 'records' | 'kitchen'>, id: string): Promise<DishNeed | undefined> {
  // others that are due before it have what lies there first
  const known = (await listDishNeeds(by)).find((need) => need.id === id)
  return known ?? (await withCollected(by.records, await by.records.dishNeeds.findAll({ where: { id } }), by.kitchen.settings.timeZone))[0]
}

/**
 * Adds what each dish has: what was taken for it since it was written down, and what of its product lies in the walk-in and is
 * still good, oldest first, to the dish that is due first.
 */
async function withCollected(records: KitchenRecords, rows: readonly DishNeedRow[], timeZone: string): Promise<DishNeed[]> {
  if (rows.length === 0) return []
  const today = dayOf(Date.now(), timeZone)
  const products = [...new Set(rows.map(({ product }) => product))]
  const [lots, taken] = await Promise.all([
    records.lots.findAll({
      where: { outputKey: products, leftTenths: { [Op.gt]: 0 }, isBlocked: false, useBy: { [Op.gte]: today } },
      order: ['useBy', 'number'],
    }),
    records.lotMoves.findAll({
      where: { takenFor: 'dish', note: [...new Set(rows.map(({ dish }) => dish))], at: { [Op.gte]: earliest(rows) } },
      include: [{ association: 'lot', attributes: ['outputKey', 'animal'] }],
    }),
  ])
  const left = new Map(lots.map((lot) => [lot.id, lot.leftTenths]))
  return rows
    .toSorted((a, b) => a.dueOn.localeCompare(b.dueOn) || a.id.localeCompare(b.id))
    .map((row) => {
      const { id, dish, animal, product, needTenths, needEntered, dueOn, version } = row
      const takenTenths = taken
        .filter(({ note, lot, at }) => note === dish && lot?.outputKey === product && lot.animal === animal && at >= row.since)
        .reduce((sum, { tenths }) => sum - tenths, 0)
      let reserved = 0
      let worth = 0
      for (const lot of lots) {
        const there = left.get(lot.id) ?? 0
        const some = Math.min(there, Math.max(0, needTenths - takenTenths - reserved))
        if (lot.outputKey !== product || lot.animal !== animal || some === 0) continue
        reserved += some
        worth += ((lot.cost ?? 0) * some) / lot.packedTenths
        left.set(lot.id, there - some)
      }
      return {
        id,
        dish,
        animal,
        product,
        need: { tenths: needTenths, entered: needEntered },
        collectedTenths: takenTenths + reserved,
        reservedTenths: reserved,
        shortCost: reserved > 0 ? (worth / reserved) * Math.max(0, needTenths - takenTenths - reserved) : null,
        dueOn,
        version,
      }
    })
}

const earliest = (rows: readonly DishNeedRow[]) => new Date(Math.min(...rows.map(({ since }) => since.getTime())))
