import { createHash } from 'node:crypto'
import { type CutSheet, type CutSheetVersion, catalogSheet, type cutSheetChange, type cutSheetCreate } from '@fleam/contract/cut-sheets'
import { v7 as uuidv7 } from 'uuid'
import type { z } from 'zod'
import { catalog } from '../../../../catalog/sheets.ts'
import type { Database, Queries } from '../../db/database.ts'
import type { SignedIn } from '../../http/access.ts'
import { createOnce, found, recordChange } from '../../http/changes.ts'
import { ProblemError } from '../../http/problems.ts'

interface CutSheetRow {
  id: string
  slug: string
  version_id: string
  number: number
  source: CutSheet['source']
  based_on_id: string | null
  retired: number
  body: string
}

const newest = `
  SELECT s.id, s.slug, s.based_on_id, s.retired, v.id AS version_id, v.number, v.source, v.body
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

/** Every version of one sheet, the newest first. */
export async function listVersions(db: Queries, kitchenId: string, cutSheetId: string): Promise<CutSheetVersion[]> {
  const rows = await db.rows<{ number: number; source: CutSheet['source']; name: string | null; at: Date; body: string }>(
    `SELECT v.number, v.source, p.name, v.at, v.body FROM cut_sheet_versions v LEFT JOIN people p ON p.id = v.person_id
     WHERE v.cut_sheet_id = :cutSheetId AND v.kitchen_id = :kitchenId ORDER BY v.number DESC`,
    { cutSheetId, kitchenId },
  )
  if (rows.length === 0) throw new ProblemError('not-found')
  return rows.map((row) => ({
    number: row.number,
    source: row.source,
    by: row.name,
    at: row.at.toISOString(),
    body: JSON.parse(row.body),
  }))
}

/** A sheet of the kitchen's own, from nothing or as a variant of another. */
export async function createCutSheet(db: Database, by: SignedIn, create: z.infer<typeof cutSheetCreate>): Promise<CutSheet> {
  if (create.basedOnId !== null) found(await findCutSheet(db, by.kitchen.id, create.basedOnId))
  return createOnce(
    () =>
      db.transaction(async (tx) => {
        await tx.run('INSERT INTO cut_sheets (id, kitchen_id, slug, based_on_id) VALUES (:id, :kitchenId, :slug, :basedOnId)', {
          id: create.id,
          kitchenId: by.kitchen.id,
          slug: `own-${create.id}`,
          basedOnId: create.basedOnId,
        })
        await insertVersion(tx, by, create.id, 1, create.body)
        await recordChange(tx, by, { subject: 'cut-sheet', subjectId: create.id, action: 'added', before: undefined, after: create.body })
      }),
    () => findCutSheet(db, by.kitchen.id, create.id),
  )
}

/** Writes a new version of a sheet. One that was read in an older version is refused, with how it stands now. */
export async function changeCutSheet(
  db: Database,
  by: SignedIn,
  id: string,
  { number, body }: z.infer<typeof cutSheetChange>,
): Promise<CutSheet> {
  return db.transaction(async (tx) => {
    found(await tx.row('SELECT id FROM cut_sheets WHERE id = :id AND kitchen_id = :kitchenId FOR UPDATE', { id, kitchenId: by.kitchen.id }))
    const before = found(await findCutSheet(tx, by.kitchen.id, id))
    if (before.number !== number) {
      throw new ProblemError('stale-version', { detail: 'Nothing was changed. Look at how it stands now and try again.', current: before })
    }
    if (JSON.stringify(before.body) === JSON.stringify(body)) return before
    await insertVersion(tx, by, id, number + 1, body)
    await recordChange(tx, by, { subject: 'cut-sheet', subjectId: id, action: 'changed', before: before.body, after: body })
    return found(await findCutSheet(tx, by.kitchen.id, id))
  })
}

/** Takes a sheet off the list for new runs, or puts it back. */
export async function retireCutSheet(db: Database, by: SignedIn, id: string, retired: boolean): Promise<CutSheet> {
  return db.transaction(async (tx) => {
    const before = found(await findCutSheet(tx, by.kitchen.id, id))
    if (before.retired === retired) return before
    await tx.run('UPDATE cut_sheets SET retired = :retired WHERE id = :id', { id, retired: retired ? 1 : 0 })
    const action = retired ? 'put away' : 'put back'
    await recordChange(tx, by, { subject: 'cut-sheet', subjectId: id, action, before: undefined, after: { name: before.body.name } })
    return found(await findCutSheet(tx, by.kitchen.id, id))
  })
}

async function insertVersion(tx: Queries, by: SignedIn, cutSheetId: string, number: number, body: CutSheet['body']): Promise<void> {
  await tx.run(
    `INSERT INTO cut_sheet_versions (id, kitchen_id, cut_sheet_id, number, name, body, at, source, person_id)
     VALUES (:versionId, :kitchenId, :cutSheetId, :number, :name, :body, UTC_TIMESTAMP(3), 'kitchen', :personId)`,
    {
      versionId: uuidv7(),
      kitchenId: by.kitchen.id,
      cutSheetId,
      number,
      name: body.name,
      body: JSON.stringify(body),
      personId: by.person.id,
    },
  )
}

/** Tells one state of the catalog from another. */
export function fingerprintOfCatalog(): string {
  return createHash('sha256').update(JSON.stringify(catalog)).digest('hex')
}

/**
 * Gives every kitchen the cut sheets of the catalog as they are now: new ones, and a new version of changed ones. A sheet
 * that the kitchen has written a version of itself is its own from then on. Runs stay with the version they used.
 * Kitchens that have this catalog already are left alone.
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
    if (there && (there.source === 'kitchen' || JSON.stringify(there.body) === JSON.stringify(body))) continue
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
  return {
    id: row.id,
    slug: row.slug,
    versionId: row.version_id,
    number: row.number,
    source: row.source,
    basedOnId: row.based_on_id,
    retired: row.retired === 1,
    body: JSON.parse(row.body),
  }
}
