import { createHash, randomInt } from 'node:crypto'
import type { Invitation, InvitationMade, invitationCreate, kitchenCreate, Place } from '@fleam/contract/kitchens'
import type { PersonRole } from '@fleam/contract/roles'
import { Op } from 'sequelize'
import { v7 as uuidv7 } from 'uuid'
import type { z } from 'zod'
import type { Database } from '../../db/database.ts'
import type { AllRecords } from '../../db/records.ts'
import { type SignedIn, tokenHash } from '../../http/access.ts'
import { createOnce, found, recordChange } from '../../http/changes.ts'
import { ProblemError, refuseField } from '../../http/problems.ts'
import type { KitchenRow } from '../kitchen/kitchen.model.ts'
import type { PersonRow } from '../people/person.model.ts'
import { noteSecurity } from '../security/security-events.ts'
import { createKitchen, startingSettings } from '../setup/service.ts'

const invitationHours = 48
/** Letters and figures that nobody mistakes for others. */
const codeSigns = 'ABCDEFGHJKMNPQRSTUVWXYZ23456789'
const codeLength = 12

/** With what the kitchen has set for itself. */
export type PlaceFound = Place & { settings: KitchenRow['settings'] }
export const toPlace = ({ settings: _, ...place }: PlaceFound): Place => place

/** The person with whose secret somebody signs in: themselves, or who they are at home. */
async function homeOf({ acrossKitchens }: Database, { person }: Pick<SignedIn, 'person'>): Promise<PersonRow> {
  const own = found(await acrossKitchens.people.findOne({ where: { id: person.id } }))
  return own.homeId ? found(await acrossKitchens.people.findOne({ where: { id: own.homeId } })) : own
}

/** Every kitchen that somebody works in, by name. */
export async function placesOf(db: Database, by: SignedIn): Promise<PlaceFound[]> {
  const home = await homeOf(db, by)
  const rows = await db.acrossKitchens.people.findAll({
    where: { active: true, [Op.or]: [{ id: home.id }, { homeId: home.id }] },
    include: [{ association: 'kitchen' }],
  })
  return rows
    .map(({ id, kitchenId, role, kitchen }) => {
      const { name, settings } = found(kitchen)
      return { kitchenId, name, role, isHere: kitchenId === by.kitchen.id, isHome: id === home.id, settings }
    })
    .sort((a, b) => a.name.localeCompare(b.name))
}

/** Who somebody is in another kitchen of theirs. @throws ProblemError where a passphrase of their own has not opened the session */
export async function personIn(db: Database, by: SignedIn, kitchenId: string): Promise<{ person: PersonRow; home: PersonRow }> {
  if (by.tabletId !== null)
    throw new ProblemError('role-too-low', { detail: 'A kitchen’s own tablet stays in its kitchen: go there on another device.' })
  const home = await homeOf(db, by)
  refusePin(home)
  const where = { kitchenId, active: true, [Op.or]: [{ id: home.id }, { homeId: home.id }] }
  return { person: found(await db.acrossKitchens.people.findOne({ where })), home }
}

/** What a session in another kitchen is held against: a passphrase that is changed at home ends it. */
export const markOfSecret = ({ secretHash }: PersonRow) =>
  createHash('sha256')
    .update(secretHash ?? '')
    .digest('hex')

function refusePin({ secretKind }: PersonRow): void {
  if (secretKind !== 'passphrase')
    throw new ProblemError('role-too-low', { detail: 'Who signs in with a PIN works in one kitchen: a manager gives a passphrase.' })
}

/** Opens a further kitchen, with whoever opens it as its manager. */
export async function openKitchen(
  db: Database,
  by: SignedIn,
  { id, name, ...place }: z.infer<typeof kitchenCreate>,
  address: string,
): Promise<Place> {
  const home = await homeOf(db, by)
  refusePin(home)
  const find = async () => (await placesOf(db, by)).find((one) => one.kitchenId === id)
  const make = () =>
    db.acrossKitchens.transaction(async (tx) => {
      if ((await tx.kitchens.count({ name, id: { [Op.ne]: id } })) > 0) throw refuseField('name', 'A kitchen has that name already.')
      const kitchen = { id, name, settings: startingSettings(place), isDemo: false }
      await createKitchen(tx, kitchen)
      const personId = await addPlace(tx, home, id, 'manager')
      await noteSecurity(tx.of(id), { kind: 'kitchen opened', personId, address })
    })
  return toPlace(await createOnce(by.records, make, find))
}

/** Makes somebody a person of a further kitchen. Where their name is taken, their own kitchen's stands beside it. */
async function addPlace(tx: AllRecords, home: PersonRow, kitchenId: string, role: PersonRole): Promise<string> {
  const { people, kitchens } = tx
  const isTaken = (await people.count({ kitchenId, name: home.name })) > 0
  const from = found(await kitchens.findOne({ attributes: ['name'], where: { id: home.kitchenId } })).name
  const name = isTaken ? `${home.name} (${from})`.slice(0, 60) : home.name
  const id = uuidv7()
  await people.create({ id, kitchenId, name, signInName: null, role, secretHash: null, homeId: home.id })
  return id
}

/** Asks somebody of another kitchen in. @returns the code, which is shown once */
export async function invite(by: SignedIn, { id, role }: z.infer<typeof invitationCreate>, address: string): Promise<InvitationMade> {
  const { records, person } = by
  const code = Array.from({ length: codeLength }, () => codeSigns[randomInt(codeSigns.length)]).join('')
  const expiresAt = new Date(Date.now() + invitationHours * 3_600_000)
  const make = async () => {
    await records.invitations.destroy({ expiresAt: { [Op.lt]: new Date() } })
    await records.invitations.create({ id, role, codeHash: tokenHash(code), personId: person.id, expiresAt })
    await noteSecurity(records, { kind: 'asked in', personId: person.id, address, about: role })
  }
  const made = await createOnce(records, make, async () => (await listInvitations(by)).find((one) => one.id === id))
  // whose answer was lost sends again, and has the code of the second answer
  await records.invitations.update({ codeHash: tokenHash(code) }, { id })
  return { ...made, code: `${code.slice(0, 4)}-${code.slice(4, 8)}-${code.slice(8)}` }
}

export async function listInvitations({ records }: SignedIn): Promise<Invitation[]> {
  const rows = await records.invitations.findAll({
    where: { expiresAt: { [Op.gt]: new Date() } },
    include: [{ association: 'person', attributes: ['name'] }],
    order: ['expiresAt', 'id'],
  })
  return rows.map(({ id, role, person, expiresAt }) => ({ id, role, by: person?.name ?? '', expiresAt: expiresAt.toISOString() }))
}

export async function takeBackInvitation({ records }: SignedIn, id: string): Promise<void> {
  if ((await records.invitations.destroy({ id })) === 0) found(undefined)
}

/** Comes into a kitchen by a code, which is used up by it. */
export async function joinKitchen(db: Database, by: SignedIn, code: string, address: string): Promise<Place> {
  const home = await homeOf(db, by)
  refusePin(home)
  const kitchenId = await db.acrossKitchens.transaction(async (tx) => {
    const asked = await tx.invitations.lock({ codeHash: tokenHash(code), expiresAt: { [Op.gt]: new Date() } })
    if (!asked) throw refuseField('code', 'No kitchen has given that code, or it is used up or older than two days.')
    await tx.invitations.destroy({ id: asked.id })
    const { kitchenId, role } = asked
    const before = await tx.people.findOne({ where: { kitchenId, [Op.or]: [{ id: home.id }, { homeId: home.id }] } })
    if (before?.active) throw refuseField('code', 'You work in that kitchen already.')
    if (before) await tx.people.update({ role, active: true }, { id: before.id })
    const id = before?.id ?? (await addPlace(tx, home, kitchenId, role))
    const records = tx.of(kitchenId)
    const inviter = { ...by, person: { ...by.person, id: asked.personId }, records }
    await recordChange(records, inviter, {
      subject: 'person',
      subjectId: id,
      action: 'added',
      before: undefined,
      after: { name: home.name, role },
    })
    await noteSecurity(records, { kind: 'came in by a code', personId: id, address, about: role })
    return kitchenId
  })
  return toPlace(found((await placesOf(db, by)).find((one) => one.kitchenId === kitchenId)))
}
