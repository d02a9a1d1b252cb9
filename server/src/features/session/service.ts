import { randomBytes } from 'node:crypto'
import type { demoPerson, Session, signIn } from '@fleam/contract/people'
import { Op } from 'sequelize'
import { v7 as uuidv7 } from 'uuid'
import type { z } from 'zod'
import type { Database } from '../../db/database.ts'
import { demoPeople } from '../../demo/people.ts'
import { findSession, type SignedIn, tokenHash } from '../../http/access.ts'
import { found } from '../../http/changes.ts'
import type { Visitor } from '../../http/cookies.ts'
import { ProblemError, refuseField } from '../../http/problems.ts'
import { markOfSecret, personIn } from '../kitchens/places.ts'
import type { PersonRow } from '../people/person.model.ts'
import { hashSecret, isOldHash, secretFits } from '../people/secrets.ts'
import { noteSecurity } from '../security/security-events.ts'
import { tabletOf } from '../tablets/service.ts'
import type { TabletRow } from '../tablets/tablet.model.ts'
import type { Attempts } from './attempts.ts'
import { endOfSession } from './session-end.ts'
import { takeTimeCode } from './time-codes.ts'

/** For so long the session that somebody left for another kitchen's still stands. */
const lostAnswerMs = 45_000
const looksLikePin = /^\d{4,8}$/

/** Opens a session for a name and its secret; what this device had before ends. Tries are counted before a secret is looked at. */
export async function openSession(
  db: Database,
  attempts: Attempts,
  asked: z.infer<typeof signIn>,
  visitor: Visitor,
): Promise<{ token: string; session: Session }> {
  const { name, secret } = asked
  const { address } = visitor
  const tablet = await tabletOf(db, visitor.tabletToken)
  const kitchenId = tablet?.kitchenId ?? (await kitchenMeant(db, asked))
  const person = kitchenId ? await db.of(kitchenId).people.findOne({ where: { signInName: name, active: true } }) : null
  // the same for everybody, whether there is such a person or not
  if (!tablet && looksLikePin.test(secret) && !isOpenDemo(person)) throw new ProblemError('tablet-needed')
  const key = attemptKey(kitchenId, tablet, name)
  const note = { personId: person?.id ?? null, address }
  const keeper = kitchenId ? db.of(kitchenId) : ofNoKitchen(db)
  try {
    await attempts.begin(key, tablet ? undefined : address)
  } catch (error) {
    if (error instanceof ProblemError) await noteSecurity(keeper, { ...note, kind: 'sign-in made to wait' })
    throw error
  }
  const mayTry = tablet !== null || person?.secretKind !== 'pin' || isOpenDemo(person)
  if (!(await secretFits(secret, mayTry ? person?.secretHash : undefined, address)) || !person) {
    await noteSecurity(keeper, { ...note, kind: 'sign-in failed' })
    throw new ProblemError('wrong-secret')
  }
  if (person.timeCodeSecret) {
    if (!asked.code)
      throw new ProblemError('time-code-needed', { errors: [{ field: 'code', message: 'Type the code that your app shows now.' }] })
    if (!(await takeTimeCode(db.of(person.kitchenId), person, asked.code))) {
      await noteSecurity(keeper, { ...note, kind: 'sign-in failed', about: 'time code' })
      throw refuseField('code', 'That code is not the present one: wait for the next and type it.', 'wrong-secret')
    }
  }
  await attempts.forget(key, tablet ? undefined : address)
  if (person.secretHash && isOldHash(person.secretHash)) {
    await db.of(person.kitchenId).people.update({ secretHash: await hashSecret(secret, address) }, { id: person.id })
  }
  const token = randomBytes(32).toString('base64url')
  await startSession(db, token, person, { tablet, visitor })
  await noteSecurity(keeper, { ...note, kind: 'signed in', about: tablet?.name ?? '' })
  const opened = await findSession(db, token)
  if (!opened) throw new ProblemError('not-signed-in')
  return { token, session: asSession(opened) }
}

/** Goes on in another of somebody's kitchens: as who they are there, in a new session. */
export async function moveSession(
  db: Database,
  by: SignedIn,
  kitchenId: string,
  visitor: Visitor,
): Promise<{ token: string; session: Session }> {
  const { person, home } = await personIn(db, by, kitchenId)
  const token = randomBytes(32).toString('base64url')
  const homeSecret = person.homeId ? markOfSecret(home) : null
  await startSession(db, token, person, { tablet: null, visitor: { ...visitor, sessionToken: undefined }, homeSecret })
  // whose answer was lost is still here for a moment, and goes again
  await by.records.sessions.update({ expiresAt: new Date(Date.now() + lostAnswerMs) }, { id: by.sessionId })
  const about = `from ${by.kitchen.name}`
  await noteSecurity(db.of(kitchenId), { kind: 'signed in', personId: person.id, address: visitor.address, about })
  const opened = await findSession(db, token)
  if (!opened) throw new ProblemError('not-signed-in')
  return { token, session: asSession(opened) }
}

export function asSession({ person, kitchen, tabletId, tabletName }: SignedIn): Session {
  return { person, kitchen, tablet: tabletId ? { id: tabletId, name: tabletName ?? '' } : null }
}

/** By what tries are counted: on a tablet of the kitchen nobody's but those made there; elsewhere every stranger's. */
export function attemptKey(kitchenId: string | undefined, tablet: { id: string } | null, name: string): string {
  return `${tablet ? tablet.id : 'elsewhere'} ${kitchenId ?? ''} ${name.toLowerCase()}`
}

const isOpenDemo = (person: PersonRow | null): boolean => person?.hasDemoSecret === true

/** What strangers try who name no kitchen is kept with none. */
function ofNoKitchen({ acrossKitchens }: Database): Parameters<typeof noteSecurity>[0] {
  return { securityEvents: { create: (row) => acrossKitchens.securityEvents.create({ ...row, kitchenId: null }) } }
}

/** Whether signing in must say which kitchen is meant. */
export async function asksKitchen({ acrossKitchens }: Database): Promise<boolean> {
  return (await acrossKitchens.kitchens.count()) > 1
}

/**
 * The kitchen that somebody means who is on no tablet of one: the one that is named, the only one there is, or the only one in which
 * somebody of that name signs in. Nobody is told which of these it is not.
 */
async function kitchenMeant({ acrossKitchens }: Database, { kitchen: named, name }: z.infer<typeof signIn>): Promise<string | undefined> {
  const { kitchens, people } = acrossKitchens
  const onlyOne = (ids: readonly string[]) => (ids.length === 1 ? ids[0] : undefined)
  if (named) {
    const rows = await kitchens.findAll({ attributes: ['id'], where: { [Op.or]: [{ id: named }, { name: named }] } })
    return onlyOne(rows.map(({ id }) => id))
  }
  const some = await kitchens.findAll({ attributes: ['id'], limit: 2 })
  if (some.length < 2) return some[0]?.id
  const sameName = await people.findAll({ attributes: ['kitchenId'], where: { signInName: name, active: true }, limit: 2 })
  return onlyOne(sameName.map(({ kitchenId }) => kitchenId))
}

async function startSession(
  { acrossKitchens }: Database,
  token: string,
  { id: personId, kitchenId }: PersonRow,
  { tablet, visitor, homeSecret = null }: { tablet: TabletRow | null; visitor: Visitor; homeSecret?: string | null },
): Promise<void> {
  const { address, device, sessionToken } = visitor
  const now = new Date()
  await acrossKitchens.sessions.destroy({ expiresAt: { [Op.lt]: now } })
  if (sessionToken) await acrossKitchens.sessions.destroy({ tokenHash: tokenHash(sessionToken) })
  if (tablet) await acrossKitchens.tablets.update({ usedAt: now }, { id: tablet.id })
  const kitchen = await acrossKitchens.kitchens.findOne({ attributes: ['settings'], where: { id: kitchenId } })
  const expiresAt = endOfSession(now, found(kitchen).settings, tablet !== null, now)
  const where = { address: address.slice(0, 64), device, tabletId: tablet?.id ?? null, homeSecret }
  const row = { tokenHash: tokenHash(token), id: uuidv7(), kitchenId, personId, startedAt: now, seenAt: now, expiresAt, ...where }
  await acrossKitchens.sessions.create(row)
}

export async function closeSession(db: Database, { sessionToken, address }: Visitor): Promise<void> {
  const signedIn = await findSession(db, sessionToken)
  if (!signedIn || !sessionToken) return
  await db.acrossKitchens.sessions.destroy({ tokenHash: tokenHash(sessionToken) })
  const { person, records } = signedIn
  await noteSecurity(records, { kind: 'signed out', personId: person.id, address })
}

/** The people of the demo kitchen whose secret is still the demo's; none where the data is not the demo's. */
export async function listDemoPeople({ acrossKitchens }: Database): Promise<z.infer<typeof demoPerson>[]> {
  const rows = await acrossKitchens.people.findAll({
    attributes: ['name'],
    where: { hasDemoSecret: true, active: true },
    include: [{ association: 'kitchen', attributes: [], required: true, where: { isDemo: true } }],
  })
  const names = new Set(rows.map((row) => row.name))
  return demoPeople.filter((person) => names.has(person.name)).map(({ name, role, secret }) => ({ name, role, secret }))
}
