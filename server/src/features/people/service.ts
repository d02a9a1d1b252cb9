import { type Person, type personChange, type personCreate, secretKindOf } from '@fleam/contract/people'
import { Op } from 'sequelize'
import type { z } from 'zod'
import type { KitchenRecords } from '../../db/records.ts'
import type { SignedIn } from '../../http/access.ts'
import { changeAsRead, createOnce, recordChange } from '../../http/changes.ts'
import { refuseField } from '../../http/problems.ts'
import { noteSecurity } from '../security/security-events.ts'
import type { Attempts } from '../session/attempts.ts'
import { attemptKey } from '../session/service.ts'
import type { PersonRow } from './person.model.ts'
import { hashSecret, refuseUnfit } from './secrets.ts'

export async function listPeople(records: KitchenRecords, after: string, limit: number): Promise<Person[]> {
  const rows = await records.people.findAll({ where: { name: { [Op.gt]: after } }, order: ['name'], limit })
  return rows.map(toPerson)
}

export async function createPerson(by: SignedIn, create: z.infer<typeof personCreate>): Promise<Person> {
  const { id, name, role, secret } = create
  const secretKind = secretKindOf(role)
  await refuseUnfit(secret, secretKind, name)
  const secretHash = await hashSecret(secret, by.person.id)
  return createOnce(
    by.records,
    () =>
      by.records.transaction(async (tx) => {
        await tx.people.create({ id, name, signInName: name, role, secretHash, secretKind })
        await recordChange(tx, by, { subject: 'person', subjectId: id, action: 'added', before: undefined, after: { name, role } })
      }),
    () => findPerson(by.records, id),
  )
}

export async function changePerson(
  attempts: Attempts,
  by: SignedIn,
  id: string,
  change: z.infer<typeof personChange>,
  address: string,
): Promise<Person> {
  const { name, role, active, secret } = change
  const secretKind = secretKindOf(role)
  if (secret !== undefined) await refuseUnfit(secret, secretKind, name)
  if (secret !== undefined && (await by.records.people.count({ id, homeId: { [Op.not]: null } })) > 0)
    throw refuseField('secret', 'This person signs in by the passphrase of their own kitchen.')
  const secretHash = secret === undefined ? undefined : await hashSecret(secret, by.person.id)
  const { before, after } = await by.records.transaction(async (tx) => {
    const changed = await changeAsRead(tx.people, { id }, change.version, toPerson, async (read) => {
      if (read.role === 'manager' && read.active && (role !== 'manager' || !active)) await refuseLastManager(tx, id)
      if (secretHash !== undefined)
        return { name, role, active, signInName: name, secretHash, secretKind, timeCodeSecret: null, hasDemoSecret: false }
      const stored = await tx.people.findOne({ attributes: ['signInName', 'secretKind'], where: { id } })
      // someone who could not sign in before still cannot
      if (!stored?.signInName) return { name, role, active }
      if (stored.secretKind !== secretKind)
        throw refuseField('secret', `A ${role} signs in with a ${secretKind === 'pin' ? 'PIN' : 'passphrase'}: set one.`)
      return { name, role, active, signInName: name }
    })
    const person = toPerson(changed.row)
    const after = { name, role, active, secretChanged: secretHash !== undefined }
    await recordChange(tx, by, { subject: 'person', subjectId: id, action: 'changed', before: changed.before, after })
    const isOut = !active || secretHash !== undefined || changed.before.role !== role
    if (isOut) await tx.sessions.destroy({ personId: id, ...(active && id === by.person.id ? { id: { [Op.ne]: by.sessionId } } : {}) })
    return { before: changed.before, after: person }
  })
  const note = { personId: by.person.id, address, about: name }
  if (before.role !== role) await noteSecurity(by.records, { ...note, kind: 'role changed', about: `${name}: ${before.role} → ${role}` })
  if (secretHash !== undefined) {
    await noteSecurity(by.records, { ...note, kind: 'secret changed' })
    const tablets = await by.records.tablets.findAll({ attributes: ['id'] })
    for (const where of [null, ...tablets]) await attempts.forget(attemptKey(by.kitchen.id, where, name))
  }
  return after
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
