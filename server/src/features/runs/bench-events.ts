import type { BenchEvent, benchEventCreate, changed } from '@fleam/contract/bench'
import { v7 as uuidv7 } from 'uuid'
import type { z } from 'zod'
import type { KitchenRecords } from '../../db/records.ts'
import type { Actor } from '../../http/access.ts'
import { storeOnce } from '../../http/changes.ts'
import { ProblemError, refuseField } from '../../http/problems.ts'
import { findBenchEvent } from './ledger-lines.ts'
import { insertBenchEvent } from './weigh.sql.ts'
import { findWeigher, refuseClosedRun } from './weigh.ts'

/** Writes down what happens at the bench of an open run. A repeat returns the first answer. */
export async function noteBenchEvent(by: Actor, runId: string, create: z.infer<typeof benchEventCreate>): Promise<BenchEvent> {
  const { records } = by
  const { id } = create
  const body = JSON.stringify(withLimit(by, create.what))
  const { id: personId } = await findWeigher(by, create.personId)
  const make = async () => {
    const values = { id, runId, body, personId, sentById: by.person.id, at: new Date(create.at) }
    return (await records.insert(insertBenchEvent, values)).rows === 1
  }
  const stored = await storeOnce(records, make, () => findBenchEvent(records, runId, id))
  if (stored) return stored
  await refuseClosedRun(records, runId)
  throw new ProblemError('id-in-use')
}

/** A product over the kitchen's limit is put down with that limit, and with what was done about it. */
function withLimit(by: Actor, what: z.infer<typeof benchEventCreate>['what']) {
  if (what.kind !== 'temperature') return what
  const { receiveMaxC } = by.kitchen.settings.limits
  const limitC = what.of === 'room' ? null : receiveMaxC
  if (limitC !== null && what.celsius > limitC && what.action === '') {
    throw refuseField('what.action', `${what.celsius} °C is over the limit of ${limitC} °C: say what was done.`, 'decision-needed')
  }
  return { ...what, limitC }
}

/** Tells everyone at the run's benches that something beside its ledger has changed. */
export async function noteChanged(tx: KitchenRecords, by: Actor, runId: string, what: z.infer<typeof changed>['what']): Promise<void> {
  const { id } = by.person
  const body = { kind: 'changed', what } as const
  await tx.benchEvents.create({ id: uuidv7(), runId, body, personId: id, sentById: id, happenedAt: new Date() })
}
