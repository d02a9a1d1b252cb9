import type { CutSheet, CutSheetVersion, cutSheetChange, cutSheetCreate } from '@fleam/contract/cut-sheets'
import { Op } from 'sequelize'
import { v7 as uuidv7 } from 'uuid'
import type { z } from 'zod'
import type { KitchenRecords } from '../../db/records.ts'
import type { Actor } from '../../http/access.ts'
import { createOnce, found, recordChange } from '../../http/changes.ts'
import { ProblemError } from '../../http/problems.ts'
import type { CutSheetRow } from './cut-sheet.model.ts'

const newestVersion = { association: 'newestVersion', required: true }

export async function listCutSheets(records: KitchenRecords, after: string, limit: number): Promise<CutSheet[]> {
  const rows = await records.cutSheets.findAll({ where: { slug: { [Op.gt]: after } }, include: [newestVersion], order: ['slug'], limit })
  return rows.map(toCutSheet)
}

export async function findCutSheet(records: KitchenRecords, id: string): Promise<CutSheet | undefined> {
  const row = await records.cutSheets.findOne({ where: { id }, include: [newestVersion] })
  return row ? toCutSheet(row) : undefined
}

/** Every version of one sheet, the newest first. */
export async function listVersions(records: KitchenRecords, cutSheetId: string): Promise<CutSheetVersion[]> {
  const rows = await records.cutSheetVersions.findAll({
    where: { cutSheetId },
    include: [{ association: 'person', attributes: ['name'] }],
    order: [['number', 'DESC']],
  })
  if (rows.length === 0) throw new ProblemError('not-found')
  return rows.map(({ number, source, person, at, body }) => ({ number, source, by: person?.name ?? null, at: at.toISOString(), body }))
}

/** A sheet of the kitchen's own, from nothing or as a variant of another. */
export async function createCutSheet(by: Actor, create: z.infer<typeof cutSheetCreate>): Promise<CutSheet> {
  const { records } = by
  const { id, basedOnId, body } = create
  if (basedOnId !== null) found(await findCutSheet(records, basedOnId))
  return createOnce(
    records,
    () =>
      records.transaction(async (tx) => {
        await tx.cutSheets.create({ id, slug: `own-${id}`, basedOnId, newestVersionId: uuidv7() })
        await addVersion(tx, by, id, 1, body)
        await recordChange(tx, by, { subject: 'cut-sheet', subjectId: id, action: 'added', before: undefined, after: body })
      }),
    () => findCutSheet(records, id),
  )
}

/** Writes a new version of a sheet. One that was read in an older version is refused, with how it stands now. */
export async function changeCutSheet(by: Actor, id: string, { number, body }: z.infer<typeof cutSheetChange>): Promise<CutSheet> {
  return by.records.transaction(async (tx) => {
    found(await tx.cutSheets.lock({ id }))
    const before = found(await findCutSheet(tx, id))
    if (before.number !== number) {
      throw new ProblemError('stale-version', { detail: 'Nothing was changed. Look at how it stands now and try again.', current: before })
    }
    if (JSON.stringify(before.body) === JSON.stringify(body)) return before
    await addVersion(tx, by, id, number + 1, body)
    await recordChange(tx, by, { subject: 'cut-sheet', subjectId: id, action: 'changed', before: before.body, after: body })
    return found(await findCutSheet(tx, id))
  })
}

/** Takes a sheet off the list for new runs, or puts it back. */
export async function retireCutSheet(by: Actor, id: string, retired: boolean): Promise<CutSheet> {
  return by.records.transaction(async (tx) => {
    found(await tx.cutSheets.lock({ id }))
    const before = found(await findCutSheet(tx, id))
    if (before.retired === retired) return before
    await tx.cutSheets.update({ retired }, { id })
    const action = retired ? 'put away' : 'put back'
    await recordChange(tx, by, { subject: 'cut-sheet', subjectId: id, action, before: undefined, after: { name: before.body.name } })
    return { ...before, retired }
  })
}

async function addVersion(tx: KitchenRecords, by: Actor, cutSheetId: string, number: number, body: CutSheet['body']): Promise<void> {
  const id = uuidv7()
  const personId = by.person.id
  await tx.cutSheetVersions.create({ id, cutSheetId, number, name: body.name, body, at: new Date(), source: 'kitchen', personId })
  await tx.cutSheets.update({ newestVersionId: id }, { id: cutSheetId })
}

function toCutSheet({ id, slug, basedOnId, retired, newestVersion }: CutSheetRow): CutSheet {
  const { id: versionId, number, source, body } = found(newestVersion)
  return { id, slug, versionId, number, source, basedOnId, retired, body }
}
