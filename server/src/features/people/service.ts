import type { Person, personChange, personCreate } from '@fleam/contract/people'
import type { z } from 'zod'
import type { Database, Queries } from '../../db/database.ts'
import { isDuplicateKey } from '../../db/database.ts'
import type { SignedIn } from '../../http/access.ts'
import { createOnce, found, recordChange, refuseStale } from '../../http/changes.ts'
import { refuseField } from '../../http/problems.ts'
import { hashSecret } from './secrets.ts'

interface PersonRow {
  id: string
  name: string
  role: Person['role']
  active: number
  version: number
}

const columns = 'id, name, role, active, version'

export async function listPeople(db: Queries, kitchenId: string, after: string, limit: number): Promise<Person[]> {
  const rows = await db.rows<PersonRow>(
    `SELECT ${columns} FROM people WHERE kitchen_id = :kitchenId AND name > :after ORDER BY name LIMIT :limit`,
    { kitchenId, after, limit },
  )
  return rows.map(toPerson)
}

export async function createPerson(db: Database, by: SignedIn, create: z.infer<typeof personCreate>): Promise<Person> {
  const secretHash = await hashSecret(create.secret)
  return createOnce(
    () =>
      db.transaction(async (tx) => {
        await tx.run(
          `INSERT INTO people (id, kitchen_id, name, sign_in_name, role, secret_hash)
           VALUES (:id, :kitchenId, :name, :name, :role, :secretHash)`,
          { id: create.id, kitchenId: by.kitchen.id, name: create.name, role: create.role, secretHash },
        )
        const after = { name: create.name, role: create.role }
        await recordChange(tx, by, { subject: 'person', subjectId: create.id, action: 'added', before: undefined, after })
      }),
    () => findPerson(db, by.kitchen.id, create.id),
    'name',
  )
}

export async function changePerson(db: Database, by: SignedIn, id: string, change: z.infer<typeof personChange>): Promise<Person> {
  const secretHash = change.secret === undefined ? undefined : await hashSecret(change.secret)
  await db.transaction(async (tx) => {
    const before = found(await findPerson(tx, by.kitchen.id, id, 'FOR UPDATE'))
    refuseStale(change.version, before)
    if (before.role === 'manager' && before.active && (change.role !== 'manager' || !change.active)) {
      await refuseLastManager(tx, by.kitchen.id, id)
    }
    const { name, role, active } = change
    await updatePerson(tx, by.kitchen.id, id, { name, role, active, secretHash })
    const after = { name, role, active, secretChanged: secretHash !== undefined }
    await recordChange(tx, by, { subject: 'person', subjectId: id, action: 'changed', before, after })
    if (!active || secretHash !== undefined) await tx.run('DELETE FROM sessions WHERE person_id = :id', { id })
  })
  return found(await findPerson(db, by.kitchen.id, id))
}

async function updatePerson(
  tx: Queries,
  kitchenId: string,
  id: string,
  { secretHash, ...fields }: { name: string; role: string; active: boolean; secretHash: string | undefined },
): Promise<void> {
  try {
    await tx.run(
      `UPDATE people SET name = :name, role = :role, active = :active, version = version + 1
       ${secretHash === undefined ? ', sign_in_name = IF(sign_in_name IS NULL, NULL, :name)' : ', sign_in_name = :name, secret_hash = :secretHash, has_demo_secret = 0'}
       WHERE id = :id AND kitchen_id = :kitchenId`,
      { ...fields, secretHash, id, kitchenId },
    )
  } catch (error) {
    if (isDuplicateKey(error)) throw refuseField('name', 'That name is taken already: choose another.', 'name-in-use')
    throw error
  }
}

async function refuseLastManager(tx: Queries, kitchenId: string, id: string): Promise<void> {
  const other = await tx.row(
    "SELECT id FROM people WHERE kitchen_id = :kitchenId AND role = 'manager' AND active = 1 AND id <> :id LIMIT 1 FOR UPDATE",
    { kitchenId, id },
  )
  if (!other) throw refuseField('role', 'A kitchen needs one active manager: make someone else a manager first.')
}

async function findPerson(db: Queries, kitchenId: string, id: string, lock = ''): Promise<Person | undefined> {
  const row = await db.row<PersonRow>(`SELECT ${columns} FROM people WHERE id = :id AND kitchen_id = :kitchenId ${lock}`, {
    id,
    kitchenId,
  })
  return row && toPerson(row)
}

function toPerson(row: PersonRow): Person {
  return { id: row.id, name: row.name, role: row.role, active: row.active === 1, version: row.version }
}
