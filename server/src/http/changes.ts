import type { Queries } from '../db/database.ts'
import { isDuplicateKey } from '../db/database.ts'
import type { SignedIn } from './access.ts'
import { ProblemError, type ProblemKind, refuseField } from './problems.ts'

/** A line of the audit trail: who changed what, from what to what. */
export interface Change {
  subject: 'kitchen' | 'person' | 'supplier' | 'item' | 'quote' | 'cut-sheet' | 'run' | 'tub' | 'dish' | 'worth' | 'comparison'
  subjectId: string
  action: string
  before: unknown
  after: unknown
}

export async function recordChange(tx: Queries, { person, kitchen }: SignedIn, change: Change): Promise<void> {
  await tx.run(
    `INSERT INTO audit_trail (kitchen_id, at, person_id, subject, subject_id, action, before_json, after_json)
     VALUES (:kitchenId, UTC_TIMESTAMP(3), :personId, :subject, :subjectId, :action, :before, :after)`,
    {
      kitchenId: kitchen.id,
      personId: person.id,
      subject: change.subject,
      subjectId: change.subjectId,
      action: change.action,
      before: change.before === undefined ? null : JSON.stringify(change.before),
      after: change.after === undefined ? null : JSON.stringify(change.after),
    },
  )
}

/**
 * Stores what a client made, once: a repeat with the same id returns the first answer; a clash of names is refused at
 * `nameField`; an id that belongs to something else is refused.
 */
export async function createOnce<Entity>(
  insert: () => Promise<unknown>,
  find: () => Promise<Entity | undefined>,
  nameField?: string,
): Promise<Entity> {
  try {
    await insert()
  } catch (error) {
    if (!isDuplicateKey(error)) throw error
    const first = await find()
    if (first !== undefined) return first
    const message = String((error as Error).message)
    if (nameField !== undefined && message.includes('_name')) {
      throw refuseField(nameField, 'That name is taken already: choose another.', 'name-in-use')
    }
    throw new ProblemError('id-in-use')
  }
  return found(await find())
}

export function found<Entity>(entity: Entity | undefined, kind: ProblemKind = 'not-found'): Entity {
  if (entity === undefined) throw new ProblemError(kind)
  return entity
}

/** Refuses a change of something that was read in an older version, and shows how it stands now. */
export function refuseStale(read: number, current: { version: number }): void {
  if (read !== current.version) {
    throw new ProblemError('stale-version', { detail: 'Nothing was changed. Look at how it stands now and try again.', current })
  }
}
