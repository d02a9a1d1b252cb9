import type { Move, moveCreate, Run, reversalCreate, Weighing, weighingCreate } from '@fleam/contract/runs'
import type { z } from 'zod'
import type { KitchenRecords } from '../../db/records.ts'
import type { Actor } from '../../http/access.ts'
import { storeOnce } from '../../http/changes.ts'
import { ProblemError, refuseField } from '../../http/problems.ts'
import { findRun } from './find-run.ts'
import { findWeighing } from './ledger-lines.ts'
import { insertReversal, insertWeighing } from './weigh.sql.ts'

/**
 * Stores a weighing of an open run in one statement, which locks the run's row: a run that is being finished takes no
 * more. A repeat of the same weighing returns the first answer.
 */
export async function weighIn(by: Actor, runId: string, create: z.infer<typeof weighingCreate>): Promise<Weighing> {
  const { records } = by
  const { id, tubId, piece, weight, load } = create
  const weigher = await findWeigher(by, create.personId)
  const weighedAt = new Date(create.weighedAt)
  let made: Weighing | undefined
  const make = async () => {
    const values = { id, runId, tubId, ...weight, piece, loadId: load?.id ?? null, personId: weigher.id, sentById: by.person.id, weighedAt }
    const { rows, sequence } = await records.insert(insertWeighing, values)
    if (rows === 0) return false
    const at = weighedAt.toISOString()
    made = { id, sequence, tubId, ...weight, reversesId: null, piece, movedFromId: null, weighedAt: at, by: weigher }
    return true
  }
  const stored = await storeOnce(records, make, async () => made ?? findWeighing(records, runId, id))
  if (!stored) {
    if (load) await refuseTakenLoad(records, load.id)
    return refuseWeighing(records, runId, tubId)
  }
  if (stored.tubId === tubId && stored.tenths === weight.tenths && stored.reversesId === null) return stored
  throw new ProblemError('id-in-use', { current: stored })
}

/** Takes a weighing back: a new line that names it. A second one for the same weighing is refused. */
export async function reverse(by: Actor, runId: string, create: z.infer<typeof reversalCreate>): Promise<Weighing> {
  const { records } = by
  const { id, reversesId } = create
  const weigher = await findWeigher(by, create.personId)
  const make = async () => {
    const values = { id, runId, reversesId, personId: weigher.id, sentById: by.person.id, weighedAt: new Date(create.weighedAt) }
    return (await records.insert(insertReversal, values)).rows === 1
  }
  const stored = await storeOnce(records, make, () => findWeighing(records, runId, id))
  if (stored) {
    if (stored.reversesId === reversesId) return stored
    throw new ProblemError('id-in-use', { current: stored })
  }
  const target = await findWeighing(records, runId, reversesId)
  await refuseClosedRun(records, runId)
  if (!target || target.reversesId !== null) throw noSuchWeighing('reversesId')
  throw new ProblemError('already-reversed')
}

/**
 * Moves a piece to another tub or piece: one reversal and one weighing that names it, both or neither. A repeat returns the first
 * answer.
 */
export async function movePiece(by: Actor, runId: string, create: z.infer<typeof moveCreate>): Promise<Move> {
  const { records } = by
  const { id, reversalId, weighingId, tubId, piece } = create
  const find = async (): Promise<Move | undefined> => {
    const [reversal, weighing] = await Promise.all([findWeighing(records, runId, reversalId), findWeighing(records, runId, id)])
    return reversal?.reversesId === weighingId && weighing?.movedFromId === weighingId && weighing.tubId === tubId
      ? { reversal, weighing }
      : undefined
  }
  const first = await storeOnce(records, async () => false, find)
  if (first) return first
  const make = () =>
    records.transaction(async (tx) => {
      const isOpen = (await tx.runs.lock({ id: runId, status: 'open' })) !== null
      const source = await tx.weighings.findOne({ where: { runId, id: weighingId, reversesId: null } })
      const isOnTray = (await tx.tubs.count({ runId, id: tubId })) === 1
      if (!isOpen || !source || !isOnTray) throw new Unmovable()
      const { tenths, entered, pieceNumber } = source
      const { id: personId } = await findWeigher(by, create.personId)
      const line = { runId, tenths, entered, pieceNumber, personId, sentById: by.person.id, weighedAt: new Date(create.weighedAt) }
      await tx.weighings.bulkCreate([
        { ...line, id: reversalId, tubId: source.tubId, reversesId: weighingId, movedFromId: null },
        { ...line, pieceNumber: piece ?? pieceNumber, id, tubId, reversesId: null, movedFromId: weighingId },
      ])
    })
  try {
    const moved = await storeOnce(records, make, find)
    if (moved) return moved
  } catch (error) {
    if (!(error instanceof Unmovable)) throw error
    await refuseWeighing(records, runId, tubId, () => noSuchWeighing('weighingId'))
  }
  await refuseClosedRun(records, runId)
  throw new ProblemError('already-reversed')
}

class Unmovable extends Error {}

/** The person whom a weighing is put down to: the one named, if of this kitchen; otherwise the one signed in. */
export async function findWeigher({ records, person }: Actor, personId: string | undefined): Promise<{ id: string; name: string }> {
  if (personId === undefined || personId === person.id) return { id: person.id, name: person.name }
  const other = await records.people.findOne({ attributes: ['id', 'name'], where: { id: personId } })
  if (!other) throw refuseField('personId', 'Nobody of this kitchen has that id.', 'not-found')
  return { id: other.id, name: other.name }
}

/** Says who has put a load of a scale into which tub, where somebody has. */
async function refuseTakenLoad(records: KitchenRecords, loadId: string): Promise<void> {
  const taken = await records.weighings.findOne({ where: { loadId } })
  if (!taken) return
  const [by, into] = await Promise.all([
    records.people.findOne({ attributes: ['name'], where: { id: taken.personId } }),
    records.tubs.findOne({ attributes: ['name'], where: { id: taken.tubId } }),
  ])
  throw new ProblemError('load-taken', { detail: `${by?.name} has put it into ${into?.name}.` })
}

async function refuseWeighing(
  records: KitchenRecords,
  runId: string,
  tubId: string,
  otherwise: () => ProblemError = () => new ProblemError('id-in-use'),
): Promise<never> {
  const run = await refuseClosedRun(records, runId)
  if (!run.tubs.some((tub) => tub.id === tubId)) throw refuseField('tubId', 'There is no such tub on this run’s tray.', 'not-found')
  throw otherwise()
}

function noSuchWeighing(field: string): ProblemError {
  return refuseField(field, 'There is no such weighing in this run.', 'not-found')
}

export async function refuseClosedRun(records: KitchenRecords, runId: string): Promise<Run> {
  const run = await findRun(records, runId)
  if (!run) throw new ProblemError('not-found')
  if (run.status !== 'open') throw closedRun(run)
  return run
}

/** Says who closed a run and shows how it stands. */
export function closedRun(run: Run): ProblemError {
  if (run.discarded)
    return new ProblemError('run-closed', { detail: `${run.discarded.by.name} discarded it: ${run.discarded.reason}`, current: run })
  const who = run.finishedBy ? `${run.finishedBy.name} finished it` : 'It was turned away at the door'
  return new ProblemError('run-closed', { detail: `${who}. A lead can open it again.`, current: run })
}
