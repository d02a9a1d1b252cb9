import type { reversalCreate, Weighing, weighingCreate } from '@fleam/contract/runs'
import type { z } from 'zod'
import type { Database } from '../../db/database.ts'
import { isDuplicateKey } from '../../db/database.ts'
import type { SignedIn } from '../../http/access.ts'
import { ProblemError, refuseField } from '../../http/problems.ts'
import { findRun, findWeighing } from './read.ts'

/**
 * Stores a weighing of an open run in one statement, which locks the run's row: a run that is being finished takes no
 * more. A repeat of the same weighing returns the first answer.
 */
export async function weighIn(db: Database, by: SignedIn, runId: string, create: z.infer<typeof weighingCreate>): Promise<Weighing> {
  const weighedAt = new Date(create.weighedAt)
  try {
    const { affectedRows, insertId } = await db.run(
      `INSERT INTO weighings (id, kitchen_id, run_id, tub_id, tenths, entered, person_id, weighed_at)
       SELECT :id, r.kitchen_id, r.id, t.id, :tenths, :entered, :personId, :weighedAt
       FROM runs r JOIN tubs t ON t.run_id = r.id AND t.id = :tubId
       WHERE r.id = :runId AND r.kitchen_id = :kitchenId AND r.status = 'open'`,
      {
        id: create.id,
        tenths: create.weight.tenths,
        entered: create.weight.entered,
        personId: by.person.id,
        weighedAt,
        tubId: create.tubId,
        runId,
        kitchenId: by.kitchen.id,
      },
    )
    if (affectedRows === 1) {
      return {
        id: create.id,
        sequence: insertId,
        tubId: create.tubId,
        tenths: create.weight.tenths,
        entered: create.weight.entered,
        reversesId: null,
        weighedAt: weighedAt.toISOString(),
        by: { id: by.person.id, name: by.person.name },
      }
    }
  } catch (error) {
    if (!isDuplicateKey(error)) throw error
  }
  const first = await findWeighing(db, by.kitchen.id, runId, create.id)
  if (first) {
    if (first.tubId === create.tubId && first.tenths === create.weight.tenths && first.reversesId === null) return first
    throw new ProblemError('id-in-use', { current: first })
  }
  return refuseWeighing(db, by.kitchen.id, runId, create.tubId)
}

/** Takes a weighing back: a new line that names it. A second one for the same weighing is refused. */
export async function reverse(db: Database, by: SignedIn, runId: string, create: z.infer<typeof reversalCreate>): Promise<Weighing> {
  const { id, reversesId } = create
  try {
    const { affectedRows } = await db.run(
      `INSERT INTO weighings (id, kitchen_id, run_id, tub_id, tenths, entered, reverses_id, person_id, weighed_at)
       SELECT :id, w.kitchen_id, w.run_id, w.tub_id, w.tenths, w.entered, w.id, :personId, :weighedAt
       FROM runs r JOIN weighings w ON w.run_id = r.id AND w.id = :reversesId AND w.reverses_id IS NULL
       WHERE r.id = :runId AND r.kitchen_id = :kitchenId AND r.status = 'open'`,
      { id, personId: by.person.id, weighedAt: new Date(create.weighedAt), reversesId, runId, kitchenId: by.kitchen.id },
    )
    const stored = affectedRows === 1 ? await findWeighing(db, by.kitchen.id, runId, id) : undefined
    if (stored) return stored
  } catch (error) {
    if (!isDuplicateKey(error)) throw error
  }
  const first = await findWeighing(db, by.kitchen.id, runId, id)
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

async function refuseWeighing(db: Database, kitchenId: string, runId: string, tubId: string): Promise<never> {
  const run = await refuseClosedRun(db, kitchenId, runId)
  if (!run.tubs.some((tub) => tub.id === tubId)) throw refuseField('tubId', 'There is no such tub on this run’s tray.', 'not-found')
  throw new ProblemError('id-in-use')
}

async function refuseClosedRun(db: Database, kitchenId: string, runId: string) {
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
