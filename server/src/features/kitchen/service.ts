import { type AuditEntry, type Kitchen, type kitchenChange, readSettings } from '@fleam/contract/kitchen'
import type { z } from 'zod'
import type { Database, Queries } from '../../db/database.ts'
import type { SignedIn } from '../../http/access.ts'
import { found, recordChange, refuseStale } from '../../http/changes.ts'
import { refuseField } from '../../http/problems.ts'

export async function changeKitchen(db: Database, by: SignedIn, change: z.infer<typeof kitchenChange>): Promise<Kitchen> {
  return db.transaction(async (tx) => {
    const before = found(await findKitchen(tx, by.kitchen.id))
    refuseStale(change.version, before)
    if (change.settings.currency !== before.settings.currency) await refuseCurrencyWithPrices(tx, before)
    await tx.run('UPDATE kitchens SET name = :name, settings = :settings, version = version + 1 WHERE id = :id', {
      id: before.id,
      name: change.name,
      settings: JSON.stringify(change.settings),
    })
    const after: Kitchen = { id: before.id, name: change.name, settings: change.settings, version: before.version + 1 }
    await recordChange(tx, by, { subject: 'kitchen', subjectId: before.id, action: 'changed', before, after })
    return after
  })
}

/** Quotes are kept as quoted, so a kitchen that has some keeps its currency. */
async function refuseCurrencyWithPrices(tx: Queries, kitchen: Kitchen): Promise<void> {
  const quote = await tx.row('SELECT id FROM quotes WHERE kitchen_id = :id LIMIT 1', { id: kitchen.id })
  if (!quote) return
  const message = `Prices are kept in ${kitchen.settings.currency}: the currency can only change while there are none.`
  throw refuseField('settings.currency', message)
}

export async function listAudit(db: Queries, kitchenId: string, before: number, limit: number): Promise<AuditEntry[]> {
  const rows = await db.rows<Record<string, string> & { at: Date }>(
    `SELECT a.id, a.at, COALESCE(p.name, 'Fleam') AS by_name, a.subject, a.subject_id, a.action, a.before_json, a.after_json
     FROM audit_trail a LEFT JOIN people p ON p.id = a.person_id
     WHERE a.kitchen_id = :kitchenId AND a.id < :before ORDER BY a.id DESC LIMIT :limit`,
    { kitchenId, before, limit },
  )
  return rows.map((row) => ({
    id: String(row.id),
    at: row.at.toISOString(),
    by: String(row.by_name),
    subject: String(row.subject),
    subjectId: String(row.subject_id),
    action: String(row.action),
    before: row.before_json ? JSON.parse(row.before_json) : null,
    after: row.after_json ? JSON.parse(row.after_json) : null,
  }))
}

async function findKitchen(tx: Queries, id: string): Promise<Kitchen | undefined> {
  const row = await tx.row<{ id: string; name: string; settings: string; version: number }>(
    'SELECT id, name, settings, version FROM kitchens WHERE id = :id FOR UPDATE',
    { id },
  )
  return row && { ...row, settings: readSettings(row.settings) }
}
