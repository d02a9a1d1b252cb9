import type { Person, personChange, personCreate } from '@fleam/contract/people'
import { Op } from 'sequelize'
import type { z } from 'zod'
import type { KitchenRecords } from '../../db/records.ts'
import type { SignedIn } from '../../http/access.ts'
import { changeAsRead, createOnce, recordChange } from '../../http/changes.ts'
import { refuseField } from '../../http/problems.ts'
import type { PersonRow } from './person.model.ts'
import { hashSecret } from './secrets.ts'

export async function listPeople(records: KitchenRecords, after: string, limit: number): Promise<Person[]> {
  const rows = await records.people.findAll({ where: { name: { [Op.gt]: after } }, order: ['name'], limit })
  return rows.map(toPerson)
}

export async function createPerson(by: SignedIn, create: z.infer<typeof personCreate>): Promise<Person> {
  const secretHash = await hashSecret(create.secret)
  const { id, name, role } = create
  return createOnce(
    by.records,
    () =>
      by.records.transaction(async (tx) => {
        await tx.people.create({ id, name, signInName: name, role, secretHash })
        await recordChange(tx, by, { subject: 'person', subjectId: id, action: 'added', before: undefined, after: { name, role } })
      }),
    () => findPerson(by.records, id),
  )
}

export async function changePerson(by: SignedIn, id: string, change: z.infer<typeof personChange>): Promise<Person> {
  const secretHash = change.secret === undefined ? undefined : await hashSecret(change.secret)
  const { name, role, active } = change
  return by.records.transaction(async (tx) => {
    const { before, row } = await changeAsRead(tx.people, { id }, change.version, toPerson, async (read) => {
      if (read.role === 'manager' && read.active && (role !== 'manager' || !active)) await refuseLastManager(tx, id)
      if (secretHash !== undefined) return { name, role, active, signInName: name, secretHash, hasDemoSecret: false }
      // someone who could not sign in before still cannot
      const canSignIn = (await tx.people.count({ id, signInName: { [Op.not]: null } })) === 1
      return { name, role, active, ...(canSignIn ? { signInName: name } : {}) }
    })
    const after = { name, role, active, secretChanged: secretHash !== undefined }
    await recordChange(tx, by, { subject: 'person', subjectId: id, action: 'changed', before, after })
    if (!active || secretHash !== undefined) await tx.sessions.destroy({ personId: id })
    return toPerson(row)
  })
}

async function refuseLastManager(tx: KitchenRecords, id: string): Promise<void> {
  const other = await tx.people.lock({ role: 'manager', active: true, id: { [Op.ne]: id } })
  if (!other) throw refuseField('role', 'A kitchen needs one active manager: make someone else a manager first.')
}

async function findPerson(records: KitchenRecords, id: string): Promise<Person | undefined> {
  const row = await records.people.findOne({ where: { id } })
  return row ? toPerson(row) : undefined
}

function toPerson({ id, name, role, active, version }: PersonRow): Person {
  return { id, name, role, active, version }
}
