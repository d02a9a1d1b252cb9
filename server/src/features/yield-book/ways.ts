import type { PartWorth, WayOfCutting, wayOfCuttingChange } from '@fleam/contract/yield-book'
import type { z } from 'zod'
import type { Database, Queries } from '../../db/database.ts'
import type { SignedIn } from '../../http/access.ts'
import { found, recordChange, refuseStale } from '../../http/changes.ts'
import { refuseField } from '../../http/problems.ts'
import { findCutSheet } from '../cut-sheets/service.ts'
import { findItem } from '../prices/service.ts'

interface WayRow {
  item_id: string
  cut_sheet_id: string
  shown: number
  parts: string
  version: number
}

const columns = 'SELECT item_id, cut_sheet_id, shown, parts, version FROM ways_of_cutting WHERE kitchen_id = :kitchenId'

export async function listWays(db: Queries, kitchenId: string): Promise<WayOfCutting[]> {
  return (await db.rows<WayRow>(columns, { kitchenId })).map(toWay)
}

/** Says whether a way of cutting an item is looked at, and what its parts are worth. */
export async function changeWay(
  db: Database,
  by: SignedIn,
  itemId: string,
  cutSheetId: string,
  change: z.infer<typeof wayOfCuttingChange>,
): Promise<WayOfCutting> {
  const kitchenId = by.kitchen.id
  const item = found(await findItem(db, kitchenId, itemId))
  const sheet = found(await findCutSheet(db, kitchenId, cutSheetId))
  if (item.kind !== 'whole' || sheet.body.animal !== item.animal) {
    throw refuseField('cutSheetId', `That sheet is for ${sheet.body.animal} bought whole.`)
  }
  await refuseUnfitParts(db, kitchenId, change.parts)
  return db.transaction(async (tx) => {
    await tx.row('SELECT id FROM items WHERE id = :itemId FOR UPDATE', { itemId })
    const before = await tx.row<WayRow>(`${columns} AND item_id = :itemId AND cut_sheet_id = :cutSheetId`, {
      kitchenId,
      itemId,
      cutSheetId,
    })
    const current: WayOfCutting = before ? toWay(before) : { itemId, cutSheetId, shown: true, parts: {}, version: 0 }
    refuseStale(change.version, current)
    const after: WayOfCutting = { itemId, cutSheetId, ...change, version: current.version + 1 }
    await tx.run(
      `INSERT INTO ways_of_cutting (item_id, cut_sheet_id, kitchen_id, shown, parts, version)
       VALUES (:itemId, :cutSheetId, :kitchenId, :shown, :parts, :version)
       ON DUPLICATE KEY UPDATE shown = VALUES(shown), parts = VALUES(parts), version = VALUES(version)`,
      { ...after, kitchenId, shown: after.shown ? 1 : 0, parts: JSON.stringify(after.parts) },
    )
    await recordChange(tx, by, { subject: 'worth', subjectId: itemId, action: 'changed', before: before && current, after })
    return after
  })
}

async function refuseUnfitParts(db: Queries, kitchenId: string, parts: Record<string, PartWorth>): Promise<void> {
  for (const [key, { readyCutId }] of Object.entries(parts)) {
    if (readyCutId === null) continue
    const item = await findItem(db, kitchenId, readyCutId)
    if (item?.kind !== 'ready-cut') throw refuseField(`parts.${key}.readyCutId`, 'Choose a ready-cut item of this kitchen.')
  }
}

function toWay(row: WayRow): WayOfCutting {
  return {
    itemId: row.item_id,
    cutSheetId: row.cut_sheet_id,
    shown: row.shown === 1,
    parts: JSON.parse(row.parts),
    version: row.version,
  }
}
