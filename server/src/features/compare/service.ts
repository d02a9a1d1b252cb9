import type { Comparison, comparisonChange, comparisonCreate, comparisonDrop } from '@fleam/contract/compare'
import type { z } from 'zod'
import type { KitchenRecords } from '../../db/records.ts'
import type { Actor } from '../../http/access.ts'
import { changeAsRead, createOnce, found, recordChange } from '../../http/changes.ts'
import type { ComparisonRow } from './comparison.model.ts'

const withPerson = { association: 'person', attributes: ['name'] }

/** The comparisons that the kitchen keeps, the newest first. */
export async function listComparisons(records: KitchenRecords): Promise<Comparison[]> {
  const rows = await records.comparisons.findAll({
    where: { dropped: false },
    include: [withPerson],
    order: [
      ['at', 'DESC'],
      ['id', 'DESC'],
    ],
    limit: 200,
  })
  return rows.map(toComparison)
}

export async function getComparison(records: KitchenRecords, id: string): Promise<Comparison> {
  return found(await findComparison(records, id))
}

export async function keepComparison(by: Actor, create: z.infer<typeof comparisonCreate>): Promise<Comparison> {
  return createOnce(
    by.records,
    () => by.records.comparisons.create({ ...create, personId: by.person.id, at: new Date() }),
    () => findComparison(by.records, create.id),
  )
}

export async function changeComparison(by: Actor, id: string, change: z.infer<typeof comparisonChange>): Promise<Comparison> {
  return by.records.transaction(async (tx) => {
    const { name, body, version } = change
    const values = { name, body, personId: by.person.id, at: new Date() }
    await changeAsRead(tx.comparisons, { id, dropped: false }, version, () => getComparison(tx, id), values)
    return getComparison(tx, id)
  })
}

/** Takes a comparison off the list, or puts it back; what it said stays in the audit trail. */
export async function dropComparison(by: Actor, id: string, { version, dropped }: z.infer<typeof comparisonDrop>): Promise<Comparison> {
  return by.records.transaction(async (tx) => {
    const show = async () => found(await findComparison(tx, id, [true, false]))
    const { before } = await changeAsRead(tx.comparisons, { id }, version, show, { dropped })
    const action = dropped ? 'dropped' : 'put back'
    await recordChange(tx, by, { subject: 'comparison', subjectId: id, action, before, after: undefined })
    return show()
  })
}

async function findComparison(records: KitchenRecords, id: string, dropped: boolean[] = [false]): Promise<Comparison | undefined> {
  const row = await records.comparisons.findOne({ where: { id, dropped }, include: [withPerson] })
  return row ? toComparison(row) : undefined
}

function toComparison({ id, name, body, person, at, version }: ComparisonRow): Comparison {
  return { id, name, body, by: found(person).name, at: at.toISOString(), version }
}
