import type { ExportedPicture, Picture, pictureCreate } from '@fleam/contract/pictures'
import type { z } from 'zod'
import type { KitchenRecords } from '../../db/records.ts'
import { type Actor, hasRole } from '../../http/access.ts'
import { createOnce, found, recordChange } from '../../http/changes.ts'
import { ProblemError, refuseField } from '../../http/problems.ts'
import type { PdfPicture } from '../../pdf-pictures.ts'
import { noteChanged } from '../runs/bench-events.ts'
import { findWeigher } from '../runs/weigh.ts'
import type { PictureRow } from './picture.model.ts'
import { readPicture } from './read-picture.ts'

/** Pictures of one run: a page shows them all. */
const mostPictures = 60
const mostOnPaper = 12
const withoutBytes = { exclude: ['jpeg', 'thumbnail'] }
const withPerson = [{ association: 'person', attributes: ['name'] }]

/** @throws ProblemError `not-found` where this kitchen has no such run */
export async function listPictures(records: KitchenRecords, runId: string): Promise<Picture[]> {
  await refuseUnknownRun(records, runId)
  return picturesOf(records, runId)
}

async function refuseUnknownRun(records: KitchenRecords, id: string): Promise<void> {
  found(await records.runs.findOne({ attributes: ['id'], where: { id }, raw: true }))
}

async function picturesOf(records: KitchenRecords, runId: string): Promise<Picture[]> {
  const rows = await records.pictures.findAll({ attributes: withoutBytes, where: { runId }, include: withPerson, order: ['at', 'id'] })
  return rows.map(toPicture)
}

/** The bytes of a picture as JPEG: whole, or small. */
export async function findJpeg(records: KitchenRecords, runId: string, id: string, size: 'whole' | 'small'): Promise<Buffer> {
  const column = size === 'small' ? 'thumbnail' : 'jpeg'
  return found(await records.pictures.findOne({ attributes: [column], where: { id, runId } }))[column]
}

/** Keeps a picture of a run, whatever state the run is in. A repeat returns the first answer. */
export async function keepPicture(
  by: Actor,
  runId: string,
  id: string,
  create: z.infer<typeof pictureCreate>,
  /** JPEG, PNG or WebP. */
  bytes: unknown,
): Promise<Picture> {
  const { records } = by
  const { about, defectId = null, at } = create
  const find = async () => (await picturesOf(records, runId)).find((picture) => picture.id === id)
  const first = await find()
  if (first) return first
  await refuseUnknownRun(records, runId)
  if (defectId !== null) found(await records.defects.findOne({ attributes: ['id'], where: { id: defectId, runId }, raw: true }))
  if ((await records.pictures.count({ runId })) >= mostPictures)
    throw refuseField('id', `A run holds at most ${mostPictures} pictures: take some off first.`)
  if (!Buffer.isBuffer(bytes)) throw new ProblemError('not-a-picture', { detail: 'Send the bytes of a photo, as image/jpeg.' })
  const [read, person] = await Promise.all([readPicture(bytes), findWeigher(by, create.personId)])
  return createOnce(
    records,
    () =>
      records.transaction(async (tx) => {
        await tx.pictures.create({ id, runId, about, defectId, ...read, personId: person.id, at: new Date(at) })
        await noteChanged(tx, by, runId, 'pictures')
      }),
    find,
  )
}

/** Takes a picture off a run: by who took it, or a lead. Who did it stays in the audit trail. */
export async function takeOffPicture(by: Actor, runId: string, id: string): Promise<void> {
  await by.records.transaction(async (tx) => {
    const row = found(await tx.pictures.findOne({ attributes: withoutBytes, where: { id, runId }, include: withPerson }))
    if (row.personId !== by.person.id && !hasRole(by.person, 'lead'))
      throw new ProblemError('role-too-low', {
        detail: `${found(row.person).name} took it: ${found(row.person).name} or a lead takes it off.`,
      })
    await tx.pictures.destroy({ id, runId })
    await recordChange(tx, by, {
      subject: 'run',
      subjectId: runId,
      action: 'took a picture off',
      before: { about: row.about, by: found(row.person).name, at: row.at.toISOString() },
      after: undefined,
    })
    await noteChanged(tx, by, runId, 'pictures')
  })
}

/** The pictures of some runs with their bytes, to go into a file. */
export async function exportPictures(records: KitchenRecords, runIds: readonly string[]): Promise<Map<string, ExportedPicture[]>> {
  const rows = await records.pictures.findAll({ where: { runId: [...runIds] }, include: withPerson, order: ['at', 'id'] })
  const byRun = new Map<string, ExportedPicture[]>()
  for (const row of rows) {
    const { runId, ...picture } = toPicture(row)
    byRun.set(runId, [...(byRun.get(runId) ?? []), { ...picture, jpeg: row.jpeg.toString('base64') }])
  }
  return byRun
}

const subjectWords = { delivery: 'as it came', defect: 'what went wrong', tray: 'the tray' }

/** The pictures of a run with their bytes, to be drawn on paper. */
export async function picturesForPdf(
  records: KitchenRecords,
  runId: string,
  abouts = ['delivery', 'defect', 'tray'],
): Promise<PdfPicture[]> {
  const where = { runId, about: abouts as Picture['about'][] }
  const rows = await records.pictures.findAll({ attributes: ['about', 'jpeg', 'at'], where, order: ['at', 'id'], limit: mostOnPaper })
  return rows.map(({ about, jpeg }) => ({ jpeg, words: subjectWords[about] }))
}

function toPicture(row: PictureRow): Picture {
  const { id, runId, about, defectId, width, height, at, personId } = row
  return { id, runId, about, defectId, width, height, at: at.toISOString(), by: { id: personId, name: found(row.person).name } }
}
