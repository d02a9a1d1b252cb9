import { createHash } from 'node:crypto'
import { type CutSheet, catalogSheet } from '@fleam/contract/cut-sheets'
import { v7 as uuidv7 } from 'uuid'
import { catalog } from '../../../../catalog/sheets.ts'
import type { Database, Queries } from '../../db/database.ts'

interface CutSheetRow {
  id: string
  slug: string
  version_id: string
  number: number
  body: string
}

const newest = `
  SELECT s.id, s.slug, v.id AS version_id, v.number, v.body
  FROM cut_sheets s JOIN cut_sheet_versions v ON v.cut_sheet_id = s.id
  WHERE s.kitchen_id = :kitchenId
    AND v.number = (SELECT MAX(number) FROM cut_sheet_versions WHERE cut_sheet_id = s.id)`

export async function listCutSheets(db: Queries, kitchenId: string, after: string, limit: number): Promise<CutSheet[]> {
  const rows = await db.rows<CutSheetRow>(`${newest} AND s.slug > :after ORDER BY s.slug LIMIT :limit`, { kitchenId, after, limit })
  return rows.map(toCutSheet)
}

export async function findCutSheet(db: Queries, kitchenId: string, id: string): Promise<CutSheet | undefined> {
  const row = await db.row<CutSheetRow>(`${newest} AND s.id = :id`, { kitchenId, id })
  return row && toCutSheet(row)
}

/** Tells one state of the catalog from another. */
export function fingerprintOfCatalog(): string {
  return createHash('sha256').update(JSON.stringify(catalog)).digest('hex')
}

/**
 * Gives every kitchen the cut sheets of the catalog as they are now: new ones, and a new version of changed ones. Runs
 * stay with the version they used. Kitchens that have this catalog already are left alone.
 */
export async function syncCatalog(db: Database, fingerprint = fingerprintOfCatalog()): Promise<void> {
  const kitchens = await db.rows<{ id: string }>('SELECT id FROM kitchens WHERE NOT catalog_fingerprint <=> :fingerprint', { fingerprint })
  for (const { id } of kitchens) {
    await db.transaction(async (tx) => {
      await addCatalogSheets(tx, id)
      await tx.run('UPDATE kitchens SET catalog_fingerprint = :fingerprint WHERE id = :id', { fingerprint, id })
    })
  }
}

/** Adds the sheets that a kitchen lacks, and a version of those that say something else by now. */
export async function addCatalogSheets(db: Queries, kitchenId: string): Promise<void> {
  const known = new Map((await listCutSheets(db, kitchenId, '', 1000)).map((sheet) => [sheet.slug, sheet]))
  for (const entry of catalog) {
    const { slug, body } = catalogSheet.parse(entry)
    const there = known.get(slug)
    if (there && JSON.stringify(there.body) === JSON.stringify(body)) continue
    const id = there?.id ?? uuidv7()
    if (!there) await db.run('INSERT INTO cut_sheets (id, kitchen_id, slug) VALUES (:id, :kitchenId, :slug)', { id, kitchenId, slug })
    await db.run(
      `INSERT INTO cut_sheet_versions (id, kitchen_id, cut_sheet_id, number, name, body, at)
       VALUES (:versionId, :kitchenId, :id, :number, :name, :body, UTC_TIMESTAMP(3))`,
      { versionId: uuidv7(), kitchenId, id, number: (there?.number ?? 0) + 1, name: body.name, body: JSON.stringify(body) },
    )
  }
}

function toCutSheet(row: CutSheetRow): CutSheet {
  return { id: row.id, slug: row.slug, versionId: row.version_id, number: row.number, body: JSON.parse(row.body) }
}
