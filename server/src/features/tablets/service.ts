import { randomBytes } from 'node:crypto'
import type { Door, Tablet, tabletCreate } from '@fleam/contract/people'
import { Op } from 'sequelize'
import type { z } from 'zod'
import type { Database } from '../../db/database.ts'
import { type SignedIn, tokenHash } from '../../http/access.ts'
import { createOnce, found } from '../../http/changes.ts'
import { noteSecurity } from '../security/security-events.ts'
import type { TabletRow } from './tablet.model.ts'

/** The tablet that a device is, if a kitchen has enrolled it. */
export async function tabletOf({ acrossKitchens }: Database, token: string | undefined): Promise<TabletRow | null> {
  if (!token) return null
  return acrossKitchens.tablets.findOne({ where: { tokenHash: tokenHash(token) }, include: [{ association: 'kitchen' }] })
}

/** What an enrolled tablet shows before anybody is signed in: the kitchen's people, to be tapped. */
export async function peopleOnTablet(db: Database, tablet: TabletRow): Promise<NonNullable<Door['tablet']>> {
  const where = { active: true, signInName: { [Op.not]: null } }
  const people = await db.of(tablet.kitchenId).people.findAll({ where, order: ['name'] })
  return {
    name: tablet.name,
    kitchen: found(tablet.kitchen).name,
    people: people.map(({ name, role, secretKind }) => ({ name, role, asks: secretKind ?? 'passphrase' })),
  }
}

export async function listTablets({ records, tabletId }: SignedIn): Promise<Tablet[]> {
  const rows = await records.tablets.findAll({ include: [{ association: 'person', attributes: ['name'] }], order: ['name'] })
  return rows.map((row) => toTablet(row, tabletId))
}

/** Makes the device that asks one of the kitchen's tablets. @returns its token, which only the device keeps */
export async function enrolTablet(
  by: SignedIn,
  { id, name }: z.infer<typeof tabletCreate>,
  address: string,
): Promise<{ tablet: Tablet; token: string }> {
  const { records, person } = by
  const token = randomBytes(32).toString('base64url')
  const now = new Date()
  const find = async () => {
    const row = await records.tablets.findOne({ where: { id }, include: [{ association: 'person', attributes: ['name'] }] })
    return row ? toTablet(row, id) : undefined
  }
  const make = () => records.tablets.create({ id, name, tokenHash: tokenHash(token), personId: person.id, enrolledAt: now, usedAt: now })
  const tablet = await createOnce(records, make, find)
  // whose answer was lost sends again, and has the token of the second answer
  await records.tablets.update({ tokenHash: tokenHash(token) }, { id })
  await records.sessions.update({ tabletId: id }, { id: by.sessionId })
  await noteSecurity(records, { kind: 'tablet enrolled', personId: person.id, address, about: name })
  return { tablet, token }
}

/** Lets a tablet go: PINs open nothing on it any more, and who is signed in on it is out, save who lets it go. */
export async function letTabletGo({ records, person, sessionId }: SignedIn, id: string, address: string): Promise<void> {
  const tablet = found(await records.tablets.findOne({ where: { id } }))
  await records.transaction(async (tx) => {
    await tx.sessions.destroy({ tabletId: id, id: { [Op.ne]: sessionId } })
    await tx.sessions.update({ tabletId: null }, { id: sessionId })
    await tx.tablets.destroy({ id })
  })
  await noteSecurity(records, { kind: 'tablet let go', personId: person.id, address, about: tablet.name })
}

function toTablet({ id, name, person, enrolledAt, usedAt }: TabletRow, ownId: string | null): Tablet {
  return {
    id,
    name,
    by: person?.name ?? '',
    enrolledAt: enrolledAt.toISOString(),
    usedAt: usedAt.toISOString(),
    isThis: id === ownId,
  }
}
