import type { PartWorth, WayOfCutting, wayOfCuttingChange } from '@fleam/contract/yield-book'
import type { z } from 'zod'
import type { KitchenRecords } from '../../db/records.ts'
import type { Actor } from '../../http/access.ts'
import { found, recordChange, refuseStale } from '../../http/changes.ts'
import { refuseField } from '../../http/problems.ts'
import { findCutSheet } from '../cut-sheets/service.ts'
import { findItem } from '../prices/items.ts'
import type { WayOfCuttingRow } from './way-of-cutting.model.ts'

export async function listWays(records: KitchenRecords): Promise<WayOfCutting[]> {
  return (await records.waysOfCutting.findAll()).map(toWay)
}

/** Says whether a way of cutting an item is looked at, and what its parts are worth. */
export async function changeWay(
  by: Actor,
  itemId: string,
  cutSheetId: string,
  change: z.infer<typeof wayOfCuttingChange>,
): Promise<WayOfCutting> {
  const item = found(await findItem(by.records, itemId))
  const sheet = found(await findCutSheet(by.records, cutSheetId))
  if (item.kind !== 'whole' || sheet.body.animal !== item.animal) {
    throw refuseField('cutSheetId', `That sheet is for ${sheet.body.animal} bought whole.`)
  }
  await refuseUnfitParts(by.records, change.parts)
  return by.records.transaction(async (tx) => {
    // a way that nobody has changed yet has no row: the item's is locked in its place
    await tx.items.lock({ id: itemId })
    const row = await tx.waysOfCutting.lock({ itemId, cutSheetId })
    const before: WayOfCutting = row ? toWay(row) : { itemId, cutSheetId, shown: true, parts: {}, version: 0 }
    refuseStale(change.version, before)
    const { shown, parts } = change
    const after = toWay(
      row ? await tx.waysOfCutting.save(row, { shown, parts }) : await tx.waysOfCutting.create({ itemId, cutSheetId, shown, parts }),
    )
    await recordChange(tx, by, { subject: 'way-of-cutting', subjectId: itemId, action: 'changed', before: row ? before : undefined, after })
    return after
  })
}

async function refuseUnfitParts(records: KitchenRecords, parts: Record<string, PartWorth>): Promise<void> {
  for (const [key, { readyCutId }] of Object.entries(parts)) {
    if (readyCutId === null) continue
    const item = await findItem(records, readyCutId)
    if (item?.kind !== 'ready-cut') throw refuseField(`parts.${key}.readyCutId`, 'Choose a ready-cut item of this kitchen.')
  }
}

function toWay({ itemId, cutSheetId, shown, parts, version }: WayOfCuttingRow): WayOfCutting {
  return { itemId, cutSheetId, shown, parts, version }
}
