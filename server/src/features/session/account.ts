import { type Account, type ownSecretChange, secretKindOf, type timeCodeConfirm } from '@fleam/contract/people'
import { Op } from 'sequelize'
import type { z } from 'zod'
import type { SignedIn } from '../../http/access.ts'
import { found } from '../../http/changes.ts'
import { ProblemError, refuseField } from '../../http/problems.ts'
import { hashSecret, refuseUnfit, secretFits } from '../people/secrets.ts'
import { noteSecurity, type SecurityKind } from '../security/security-events.ts'
import { stepOfCode } from './time-codes.ts'

/** What a person has to sign in with, and where they are signed in. */
export async function findAccount({ records, person, sessionId }: SignedIn): Promise<Account> {
  const row = found(await records.people.findOne({ where: { id: person.id } }))
  const sessions = await records.sessions.findAll({
    where: { personId: person.id, expiresAt: { [Op.gt]: new Date() } },
    include: [{ association: 'tablet', attributes: ['name'] }],
    order: [['seenAt', 'DESC']],
  })
  return {
    secretKind: row.secretKind ?? secretKindOf(person.role),
    isAway: row.homeId !== null,
    hasTimeCode: row.timeCodeSecret !== null,
    hasCalendar: row.calendarHash !== null,
    sessions: sessions.map(({ id, device, address, tablet, startedAt, seenAt }) => ({
      id,
      device,
      address,
      tablet: tablet?.name ?? null,
      startedAt: startedAt.toISOString(),
      seenAt: seenAt.toISOString(),
      isThis: id === sessionId,
    })),
  }
}

/** Ends one of one's own sessions, such as on a device that was left somewhere. */
export async function endOwnSession({ records, person }: SignedIn, id: string): Promise<void> {
  if ((await records.sessions.destroy({ id, personId: person.id })) === 0) found(undefined)
}

/** Changes one's own secret; every other session of it ends. */
export async function changeOwnSecret(by: SignedIn, change: z.infer<typeof ownSecretChange>, address: string): Promise<void> {
  const { records, person, sessionId } = by
  await refuseWrongSecret(by, change.current, address)
  const secretKind = secretKindOf(person.role)
  await refuseUnfit(change.secret, secretKind, person.name)
  const secretHash = await hashSecret(change.secret, address)
  await records.transaction(async (tx) => {
    await tx.people.update({ secretHash, secretKind, hasDemoSecret: false }, { id: person.id })
    await tx.sessions.destroy({ personId: person.id, id: { [Op.ne]: sessionId } })
  })
  await note(by, 'secret changed', address)
}

/** Asks for a time code at every sign-in from now on, once one has been typed. */
export async function askForTimeCode(by: SignedIn, { key, code }: z.infer<typeof timeCodeConfirm>, address: string): Promise<void> {
  await refuseAway(by)
  if (stepOfCode(key, code) === undefined) throw refuseField('code', 'That code is not the present one: wait for the next and type it.')
  await by.records.people.update({ timeCodeSecret: key }, { id: by.person.id })
  await note(by, 'time code asked for', address)
}

export async function dropTimeCode(by: SignedIn, current: string, address: string): Promise<void> {
  await refuseWrongSecret(by, current, address)
  await by.records.people.update({ timeCodeSecret: null }, { id: by.person.id })
  await note(by, 'time code no longer asked for', address)
}

/** In other kitchens than their own somebody has no secret to be changed. */
async function refuseAway({ records, person }: SignedIn): Promise<void> {
  if ((await records.people.count({ id: person.id, homeId: { [Op.not]: null } })) > 0)
    throw new ProblemError('role-too-low', { detail: 'Your passphrase is kept in your own kitchen: go there to change it.' })
}

/** Whoever finds a session open does not have its person's secret. */
export async function refuseWrongSecret(by: SignedIn, current: string, address: string): Promise<void> {
  await refuseAway(by)
  const { records, person } = by
  const row = found(await records.people.findOne({ attributes: ['secretHash'], where: { id: person.id } }))
  if (!(await secretFits(current, row.secretHash, address))) throw refuseField('current', 'That is not the present one.')
}

function note({ records, person }: SignedIn, kind: SecurityKind, address: string): Promise<void> {
  return noteSecurity(records, { kind, personId: person.id, address })
}
