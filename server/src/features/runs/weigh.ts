import type { Move, moveCreate, reversalCreate, Weighing, weighingCreate } from '@fleam/contract/runs'
import type { z } from 'zod'
import type { Database, Queries } from '../../db/database.ts'
import { insertOrFind } from '../../db/insert-or-find.ts'
import type { SignedIn } from '../../http/access.ts'
import { ProblemError, refuseField } from '../../http/problems.ts'
import { findRun, findWeighing } from './read.ts'

/**
 * Stores a weighing of an open run in one statement, which locks the run's row: a run that is being finished takes no
 * more. A repeat of the same weighing returns the first answer.
 */
export async function weighIn(db: Database, by: SignedIn, runId: string, create: z.infer<typeof weighingCreate>): Promise<Weighing> {
  const weighedAt = new Date(create.weighedAt)
  const weigher = await findWeigher(db, by, create.personId)
  const insert = async (): Promise<Weighing | undefined> => {
    const { affectedRows, insertId } = await db.run(
      `INSERT INTO weighings (id, kitchen_id, run_id, tub_id, tenths, entered, item_number, person_id, sent_by_id, weighed_at)
       SELECT :id, r.kitchen_id, r.id, t.id, :tenths, :entered, :item, :weigherId, :personId, :weighedAt
       FROM runs r JOIN tubs t ON t.run_id = r.id AND t.id = :tubId
       WHERE r.id = :runId AND r.kitchen_id = :kitchenId AND r.status = 'open'`,
      {
        id: create.id,
        tenths: create.weight.tenths,
        entered: create.weight.entered,
        item: create.item,
        weigherId: weigher.id,
        personId: by.person.id,
        weighedAt,
        tubId: create.tubId,
        runId,
        kitchenId: by.kitchen.id,
      },
    )
    if (affectedRows === 0) return undefined
    return {
      id: create.id,
      sequence: insertId,
      tubId: create.tubId,
      tenths: create.weight.tenths,
      entered: create.weight.entered,
      reversesId: null,
      item: create.item,
      movedFromId: null,
      weighedAt: weighedAt.toISOString(),
      by: weigher,
    }
  }
  const first = await insertOrFind(insert, () => findWeighing(db, by.kitchen.id, runId, create.id))
  if (first) {
    if (first.tubId === create.tubId && first.tenths === create.weight.tenths && first.reversesId === null) return first
    throw new ProblemError('id-in-use', { current: first })
  }
  return refuseWeighing(db, by.kitchen.id, runId, create.tubId)
}

/** Takes a weighing back: a new line that names it. A second one for the same weighing is refused. */
export async function reverse(db: Database, by: SignedIn, runId: string, create: z.infer<typeof reversalCreate>): Promise<Weighing> {
  const { id, reversesId } = create
  const weigher = await findWeigher(db, by, create.personId)
  const find = () => findWeighing(db, by.kitchen.id, runId, id)
  const insert = async () => {
    const { affectedRows } = await db.run(
      `INSERT INTO weighings (id, kitchen_id, run_id, tub_id, tenths, entered, item_number, reverses_id, person_id, sent_by_id, weighed_at)
       SELECT :id, w.kitchen_id, w.run_id, w.tub_id, w.tenths, w.entered, w.item_number, w.id, :weigherId, :personId, :weighedAt
       FROM runs r JOIN weighings w ON w.run_id = r.id AND w.id = :reversesId AND w.reverses_id IS NULL
       WHERE r.id = :runId AND r.kitchen_id = :kitchenId AND r.status = 'open'`,
      {
        id,
        weigherId: weigher.id,
        personId: by.person.id,
        weighedAt: new Date(create.weighedAt),
        reversesId,
        runId,
        kitchenId: by.kitchen.id,
      },
    )
    return affectedRows === 1 ? find() : undefined
  }
  const first = await insertOrFind(insert, find)
  if (first) {
    if (first.reversesId === reversesId) return first
    throw new ProblemError('id-in-use', { current: first })
  }
  const target = await findWeighing(db, by.kitchen.id, runId, reversesId)
  if (!target || target.reversesId !== null) {
    await refuseClosedRun(db, by.kitchen.id, runId)
    throw refuseField('reversesId', 'There is no such weighing in this run.', 'not-found')
  }
  await refuseClosedRun(db, by.kitchen.id, runId)
  throw new ProblemError('already-reversed')
}

/**
 * Moves a piece to another tub: one reversal and one weighing that names it, both or neither. A repeat returns the first
 * answer.
 */
export async function movePiece(db: Database, by: SignedIn, runId: string, create: z.infer<typeof moveCreate>): Promise<Move> {
  const { id, reversalId, weighingId, tubId } = create
  const find = async (): Promise<Move | undefined> => {
    const [reversal, weighing] = await Promise.all([
      findWeighing(db, by.kitchen.id, runId, reversalId),
      findWeighing(db, by.kitchen.id, runId, id),
    ])
    return reversal?.reversesId === weighingId && weighing?.movedFromId === weighingId && weighing.tubId === tubId
      ? { reversal, weighing }
      : undefined
  }
  const first = await find()
  if (first) return first
  const { personId, weighedAt } = create
  const insert = async () => {
    await db.transaction(async (tx) => {
      const source = await tx.row<{ tenths: number; entered: string; item_number: number | null; tub_id: string }>(
        `SELECT w.tenths, w.entered, w.item_number, w.tub_id FROM runs r JOIN weighings w ON w.run_id = r.id
         WHERE r.id = :runId AND r.kitchen_id = :kitchenId AND r.status = 'open' AND w.id = :weighingId AND w.reverses_id IS NULL FOR UPDATE`,
        { runId, kitchenId: by.kitchen.id, weighingId },
      )
      const tub = source && (await tx.row('SELECT id FROM tubs WHERE id = :tubId AND run_id = :runId', { tubId, runId }))
      if (!source || !tub) throw new Unmovable()
      const weigher = await findWeigher(tx, by, personId)
      const line = {
        kitchen_id: by.kitchen.id,
        run_id: runId,
        tenths: source.tenths,
        entered: source.entered,
        item_number: source.item_number,
        person_id: weigher.id,
        sent_by_id: by.person.id,
        weighed_at: new Date(weighedAt),
      }
      await tx.insertMany('weighings', [
        { ...line, id: reversalId, tub_id: source.tub_id, reverses_id: weighingId, moved_from_id: null },
        { ...line, id, tub_id: tubId, reverses_id: null, moved_from_id: weighingId },
      ])
    })
    return find()
  }
  try {
    const moved = await insertOrFind(insert, find)
    if (moved) return moved
  } catch (error) {
    if (!(error instanceof Unmovable)) throw error
    await refuseWeighing(db, by.kitchen.id, runId, tubId, () =>
      refuseField('weighingId', 'There is no such weighing in this run.', 'not-found'),
    )
  }
  await refuseClosedRun(db, by.kitchen.id, runId)
  throw new ProblemError('already-reversed')
}

class Unmovable extends Error {}

/** The person whom a weighing is put down to: the one named, if of this kitchen; otherwise the one signed in. */
export async function findWeigher(db: Queries, by: SignedIn, personId: string | undefined): Promise<{ id: string; name: string }> {
  if (personId === undefined || personId === by.person.id) return { id: by.person.id, name: by.person.name }
  const values = { personId, kitchenId: by.kitchen.id }
  const person = await db.row<{ id: string; name: string }>(
    'SELECT id, name FROM people WHERE id = :personId AND kitchen_id = :kitchenId',
    values,
  )
  if (!person) throw refuseField('personId', 'Nobody of this kitchen has that id.', 'not-found')
  return person
}

async function refuseWeighing(
  db: Database,
  kitchenId: string,
  runId: string,
  tubId: string,
  otherwise: () => ProblemError = () => new ProblemError('id-in-use'),
): Promise<never> {
  const run = await refuseClosedRun(db, kitchenId, runId)
  if (!run.tubs.some((tub) => tub.id === tubId)) throw refuseField('tubId', 'There is no such tub on this run’s tray.', 'not-found')
  throw otherwise()
}

export async function refuseClosedRun(db: Database, kitchenId: string, runId: string) {
  const run = await findRun(db, kitchenId, runId)
  if (!run) throw new ProblemError('not-found')
  if (run.status !== 'open') throw closedRun(run)
  return run
}

/** Says who closed a run and shows how it stands. */
export function closedRun(run: NonNullable<Awaited<ReturnType<typeof findRun>>>): ProblemError {
  const who = run.finishedBy ? `${run.finishedBy.name} finished it` : 'It was turned away at the door'
  return new ProblemError('run-closed', { detail: `${who}. A lead can open it again.`, current: run })
}
