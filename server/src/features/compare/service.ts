import type { Comparison, comparisonChange, comparisonCreate } from '@fleam/contract/comparisons'
import type { z } from 'zod'
import type { Database, Queries } from '../../db/database.ts'
import type { SignedIn } from '../../http/access.ts'
import { createOnce, found, recordChange, refuseStale } from '../../http/changes.ts'

interface ComparisonRow {
  id: string
  name: string
  body: string
  by_name: string
  at: Date
  version: number
}

const columns = `
  SELECT c.id, c.name, c.body, p.name AS by_name, c.at, c.version FROM comparisons c JOIN people p ON p.id = c.person_id
  WHERE c.kitchen_id = :kitchenId AND c.dropped = 0`

/** The comparisons that the kitchen keeps, the newest first. */
export async function listComparisons(db: Queries, kitchenId: string): Promise<Comparison[]> {
  return (await db.rows<ComparisonRow>(`${columns} ORDER BY c.at DESC, c.id DESC LIMIT 200`, { kitchenId })).map(toComparison)
}

export async function getComparison(db: Queries, kitchenId: string, id: string): Promise<Comparison> {
  return found(await findComparison(db, kitchenId, id))
}

export async function keepComparison(db: Database, by: SignedIn, create: z.infer<typeof comparisonCreate>): Promise<Comparison> {
  return createOnce(
    () =>
      db.run(
        `INSERT INTO comparisons (id, kitchen_id, name, body, person_id, at)
         VALUES (:id, :kitchenId, :name, :body, :personId, UTC_TIMESTAMP(3))`,
        { ...create, body: JSON.stringify(create.body), kitchenId: by.kitchen.id, personId: by.person.id },
      ),
    () => findComparison(db, by.kitchen.id, create.id),
  )
}

export async function changeComparison(
  db: Database,
  by: SignedIn,
  id: string,
  change: z.infer<typeof comparisonChange>,
): Promise<Comparison> {
  return db.transaction(async (tx) => {
    refuseStale(change.version, found(await findComparison(tx, by.kitchen.id, id, 'FOR UPDATE')))
    await tx.run(
      `UPDATE comparisons SET name = :name, body = :body, person_id = :personId, at = UTC_TIMESTAMP(3), version = version + 1
       WHERE id = :id AND kitchen_id = :kitchenId`,
      { id, kitchenId: by.kitchen.id, personId: by.person.id, name: change.name, body: JSON.stringify(change.body) },
    )
    return found(await findComparison(tx, by.kitchen.id, id))
  })
}

/** Takes a comparison off the list; what it said stays in the audit trail. */
export async function dropComparison(db: Database, by: SignedIn, id: string, version: number): Promise<void> {
  await db.transaction(async (tx) => {
    const before = found(await findComparison(tx, by.kitchen.id, id, 'FOR UPDATE'))
    refuseStale(version, before)
    await tx.run('UPDATE comparisons SET dropped = 1, version = version + 1 WHERE id = :id AND kitchen_id = :kitchenId', {
      id,
      kitchenId: by.kitchen.id,
    })
    await recordChange(tx, by, { subject: 'comparison', subjectId: id, action: 'dropped', before, after: undefined })
  })
}

async function findComparison(db: Queries, kitchenId: string, id: string, lock = ''): Promise<Comparison | undefined> {
  const row = await db.row<ComparisonRow>(`${columns} AND c.id = :id ${lock}`, { kitchenId, id })
  return row && toComparison(row)
}

function toComparison(row: ComparisonRow): Comparison {
  return { id: row.id, name: row.name, body: JSON.parse(row.body), by: row.by_name, at: row.at.toISOString(), version: row.version }
}
