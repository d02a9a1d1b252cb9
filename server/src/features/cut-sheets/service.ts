import { type CutSheet, catalogSheet } from '@fleam/contract/cut-sheets'
import { v7 as uuidv7 } from 'uuid'
import { catalog } from '../../../../catalog/sheets.ts'
import type { Queries } from '../../db/database.ts'

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

/** Gives a kitchen the cut sheets of the catalog that it does not have yet. */
export async function addCatalogSheets(db: Queries, kitchenId: string): Promise<void> {
  const rows = await db.rows<{ slug: string }>('SELECT slug FROM cut_sheets WHERE kitchen_id = :kitchenId', { kitchenId })
  const known = new Set(rows.map((row) => row.slug))
  for (const entry of catalog) {
    const { slug, body } = catalogSheet.parse(entry)
    if (known.has(slug)) continue
    const id = uuidv7()
    await db.run('INSERT INTO cut_sheets (id, kitchen_id, slug) VALUES (:id, :kitchenId, :slug)', { id, kitchenId, slug })
    await db.run(
      `INSERT INTO cut_sheet_versions (id, kitchen_id, cut_sheet_id, number, name, body, at)
       VALUES (:versionId, :kitchenId, :id, 1, :name, :body, UTC_TIMESTAMP(3))`,
      { versionId: uuidv7(), kitchenId, id, name: body.name, body: JSON.stringify(body) },
    )
  }
}

function toCutSheet(row: CutSheetRow): CutSheet {
  return { id: row.id, slug: row.slug, versionId: row.version_id, number: row.number, body: JSON.parse(row.body) }
}
