import type { Attributes, Model, WhereOptions } from 'sequelize'
import { duplicateKey } from '../db/database.ts'
import type { KitchenRecords } from '../db/records.ts'
import type { Table } from '../db/table.ts'
import type { Actor } from './access.ts'
import { ProblemError, type ProblemKind, refuseField } from './problems.ts'

/** A line of the audit trail: who changed what, from what to what. */
export interface Change {
  subject:
    | 'kitchen'
    | 'person'
    | 'supplier'
    | 'item'
    | 'quote'
    | 'cut-sheet'
    | 'run'
    | 'tub'
    | 'day'
    | 'order'
    | 'dish'
    | 'way-of-cutting'
    | 'claim'
    | 'comparison'
    | 'lot'
    | 'follow-on'
    | 'follow-on-sheet'
    | 'group'
    | 'exercise'
  subjectId: string
  action: string
  before: unknown
  after: unknown
}

export async function recordChange(tx: KitchenRecords, { person }: Actor, change: Change): Promise<void> {
  await tx.auditTrail.create({ ...change, before: change.before ?? null, after: change.after ?? null, at: new Date(), personId: person.id })
}

/** Keys under which names stand: a clash is the name's, whatever else the statement said. */
const nameKeys = new Set(['people_name', 'people_sign_in', 'suppliers_name', 'items_name', 'student_groups_name'])

/**
 * Stores what a client made, once, however often it is sent: makes it, or finds what an earlier send has made. A name that
 * is taken is refused by its field. A database that fell over may have lost what stood in the way and had not been answered
 * for; then it is made once more. What is found is flushed to disk before it is answered for.
 *
 * @param make `false` where the statement took no part, as for a run that is closed
 * @returns `undefined` where it could neither be made nor found
 */
export async function storeOnce<Entity>(
  records: KitchenRecords,
  make: () => Promise<unknown>,
  find: () => Promise<Entity | undefined>,
): Promise<Entity | undefined> {
  for (const mayHaveGone of [true, false]) {
    try {
      if ((await make()) !== false) return await find()
      return await findFlushed(records, find)
    } catch (error) {
      const key = duplicateKey(error)
      if (key === undefined) throw error
      const first = await findFlushed(records, find)
      if (first !== undefined) return first
      if (nameKeys.has(key)) throw nameInUse()
      if (!mayHaveGone) return undefined
    }
  }
  return undefined
}

/** The same for what can only fail to be stored because its id belongs to something else. */
export async function createOnce<Entity>(
  records: KitchenRecords,
  make: () => Promise<unknown>,
  find: () => Promise<Entity | undefined>,
): Promise<Entity> {
  return found(await storeOnce(records, make, find), 'id-in-use')
}

/**
 * What an earlier send stored can be seen a moment before it is on disk. Committing a change after it brings it there,
 * so that a power cut cannot take what has been answered for.
 */
async function findFlushed<Entity>(records: KitchenRecords, find: () => Promise<Entity | undefined>): Promise<Entity | undefined> {
  const first = await find()
  if (first === undefined) return undefined
  await records.repeats.add({ count: 1 }, {})
  return first
}

export function nameInUse(): ProblemError {
  return refuseField('name', 'That name is taken already: choose another.', 'name-in-use')
}

export function found<Entity>(entity: Entity | null | undefined, kind: ProblemKind = 'not-found'): Entity {
  if (entity === undefined || entity === null) throw new ProblemError(kind)
  return entity
}

/** Refuses a change of something that was read in an older version, and shows how it stands now. */
export function refuseStale(read: number, current: { version: number }): void {
  if (read !== current.version) {
    throw new ProblemError('stale-version', { detail: 'Nothing was changed. Look at how it stands now and try again.', current })
  }
}

/**
 * Changes a row that was read as `version`, and counts its version up. Where another change came first, this one is refused
 * with how the row stands now; where its new name is taken, by its field. The row is locked until the transaction ends.
 *
 * @param show the row as it is shown
 * @param values what to change, or what to make of the row as it stands
 * @returns the row before, as shown, and after
 */
export async function changeAsRead<Row extends Model & { version: number }, Shown extends { version: number }>(
  table: Pick<Table<Row>, 'lock' | 'save'>,
  where: WhereOptions<Attributes<Row>>,
  version: number,
  show: (row: Row) => Shown | Promise<Shown>,
  values: Partial<Attributes<Row>> | ((before: Shown) => Promise<Partial<Attributes<Row>>>),
): Promise<{ before: Shown; row: Row }> {
  const row = found(await table.lock(where))
  const before = await show(row)
  refuseStale(version, before)
  const changes = typeof values === 'function' ? await values(before) : values
  try {
    return { before, row: await table.save(row, changes) }
  } catch (error) {
    if (nameKeys.has(duplicateKey(error) ?? '')) throw nameInUse()
    throw error
  }
}
