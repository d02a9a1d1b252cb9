import type { BenchEvent, benchEventCreate, changed } from '@fleam/contract/bench'
import { v7 as uuidv7 } from 'uuid'
import type { z } from 'zod'
import type { Database, Queries } from '../../db/database.ts'
import { insertOrFind } from '../../db/insert-or-find.ts'
import type { SignedIn } from '../../http/access.ts'
import { ProblemError, refuseField } from '../../http/problems.ts'
import { findBenchEvent } from './read-bench-events.ts'
import { findWeigher, refuseClosedRun } from './weigh.ts'

/** Writes down what happens at the bench of an open run. A repeat returns the first answer. */
export async function noteBenchEvent(
  db: Database,
  by: SignedIn,
  runId: string,
  create: z.infer<typeof benchEventCreate>,
): Promise<BenchEvent> {
  const what = withLimit(by, create.what)
  const person = await findWeigher(db, by, create.personId)
  const find = () => findBenchEvent(db, by.kitchen.id, runId, create.id)
  const insert = async () => {
    const { affectedRows } = await db.run(
      `INSERT INTO bench_events (id, kitchen_id, run_id, body, person_id, sent_by_id, happened_at)
       SELECT :id, r.kitchen_id, r.id, :body, :personId, :sentById, :at FROM runs r
       WHERE r.id = :runId AND r.kitchen_id = :kitchenId AND r.status = 'open'`,
      {
        id: create.id,
        body: JSON.stringify(what),
        personId: person.id,
        sentById: by.person.id,
        at: new Date(create.at),
        runId,
        kitchenId: by.kitchen.id,
      },
    )
    return affectedRows === 1 ? find() : undefined
  }
  const stored = await insertOrFind(insert, find)
  if (stored) return stored
  await refuseClosedRun(db, by.kitchen.id, runId)
  throw new ProblemError('id-in-use')
}

/** A product over the kitchen's limit is put down with that limit, and with what was done about it. */
function withLimit(by: SignedIn, what: z.infer<typeof benchEventCreate>['what']) {
  if (what.kind !== 'temperature') return what
  const { receiveMaxC } = by.kitchen.settings.limits
  const limitC = what.of === 'room' ? null : receiveMaxC
  if (limitC !== null && what.celsius > limitC && what.action === '') {
    throw refuseField('what.action', `${what.celsius} °C is over the limit of ${limitC} °C: say what was done.`, 'decision-needed')
  }
  return { ...what, limitC }
}

/** Tells everyone at the run's benches that something beside its ledger has changed. */
export async function noteChanged(tx: Queries, by: SignedIn, runId: string, what: z.infer<typeof changed>['what']): Promise<void> {
  await tx.run(
    `INSERT INTO bench_events (id, kitchen_id, run_id, body, person_id, sent_by_id, happened_at)
     VALUES (:id, :kitchenId, :runId, :body, :personId, :personId, UTC_TIMESTAMP(3))`,
    { id: uuidv7(), kitchenId: by.kitchen.id, runId, body: JSON.stringify({ kind: 'changed', what }), personId: by.person.id },
  )
}
