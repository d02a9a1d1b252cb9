import { createHash } from 'node:crypto'
import { catalogSheet } from '@fleam/contract/cut-sheets'
import { Op } from 'sequelize'
import { v7 as uuidv7 } from 'uuid'
import { catalog } from '../../../../catalog/sheets.ts'
import type { Database } from '../../db/database.ts'
import { withLease } from '../../db/lease.ts'
import type { KitchenRecords } from '../../db/records.ts'
import { listCutSheets } from './service.ts'

/** Tells one state of the catalog from another. */
export function fingerprintOfCatalog(): string {
  return createHash('sha256').update(JSON.stringify(catalog)).digest('hex')
}

/**
 * Gives every kitchen the cut sheets of the catalog as they are now: new ones, and a new version of changed ones. A sheet
 * that the kitchen has written a version of itself is its own from then on. Runs stay with the version they used.
 * Kitchens that have this catalog already are left alone. Of several servers that start at once, one does it.
 */
export async function syncCatalog(db: Database, fingerprint = fingerprintOfCatalog()): Promise<void> {
  const { kitchens } = db.acrossKitchens
  const isBehind = { [Op.or]: [{ catalogFingerprint: null }, { catalogFingerprint: { [Op.ne]: fingerprint } }] }
  if ((await kitchens.count(isBehind)) === 0) return
  await withLease(db, 'catalog', async () => {
    for (const { id } of await kitchens.findAll({ attributes: ['id'], where: isBehind })) {
      await db.of(id).transaction(async (tx) => {
        await addCatalogSheets(tx)
        await tx.kitchens.update({ catalogFingerprint: fingerprint }, {})
      })
    }
  })
}

/** Adds the sheets that a kitchen lacks, and a version of those that say something else by now. */
export async function addCatalogSheets(tx: KitchenRecords): Promise<void> {
  const known = new Map((await listCutSheets(tx, '', 1000)).map((sheet) => [sheet.slug, sheet]))
  const changed = catalog.flatMap((entry) => {
    const { slug, body } = catalogSheet.parse(entry)
    const there = known.get(slug)
    if (there && (there.source === 'kitchen' || JSON.stringify(there.body) === JSON.stringify(body))) return []
    return [{ slug, body, there, id: there?.id ?? uuidv7(), versionId: uuidv7() }]
  })
  const added = changed.filter(({ there }) => !there)
  await tx.cutSheets.bulkCreate(added.map(({ id, slug, versionId }) => ({ id, slug, newestVersionId: versionId })))
  await tx.cutSheetVersions.bulkCreate(
    changed.map(({ id, there, versionId, body }) => ({
      id: versionId,
      cutSheetId: id,
      number: (there?.number ?? 0) + 1,
      name: body.name,
      body,
      at: new Date(),
    })),
  )
  for (const { id, there, versionId } of changed) if (there) await tx.cutSheets.update({ newestVersionId: versionId }, { id })
}
