import { randomBytes } from 'node:crypto'
import type { demoPerson, Session } from '@fleam/contract/people'
import { Op } from 'sequelize'
import type { z } from 'zod'
import type { Database } from '../../db/database.ts'
import { demoPeople } from '../../demo/people.ts'
import { findSession, tokenHash } from '../../http/access.ts'
import { ProblemError } from '../../http/problems.ts'
import { secretFits } from '../people/secrets.ts'

export const sessionDays = 14
const windowMinutes = 15
const mostFailures = { name: 5, address: 30 }
const minute = 60_000

/** Opens a session for a name and its secret. Failures are counted by name and by address. */
export async function openSession(
  db: Database,
  { name, secret }: { name: string; secret: string },
  address: string,
): Promise<{ token: string; session: Session }> {
  const { people, signInFailures } = db.acrossKitchens
  const subjects = { name: `name:${name.toLowerCase()}`, address: `address:${address}` }
  await refuseTooManyAttempts(db, subjects)
  const person = await people.findOne({ where: { signInName: name, active: true } })
  if (!(await secretFits(secret, person?.secretHash)) || !person) {
    await signInFailures.bulkCreate(Object.values(subjects).map((subject) => ({ subject, at: new Date() })))
    throw new ProblemError('wrong-secret')
  }
  await signInFailures.destroy({ subject: subjects.name })
  const token = randomBytes(32).toString('base64url')
  await startSession(db, token, person.kitchenId, person.id)
  const opened = await findSession(db, token)
  if (!opened) throw new ProblemError('not-signed-in')
  return { token, session: { person: opened.person, kitchen: opened.kitchen } }
}

async function startSession({ acrossKitchens }: Database, token: string, kitchenId: string, personId: string): Promise<void> {
  const now = Date.now()
  await acrossKitchens.sessions.destroy({ expiresAt: { [Op.lt]: new Date(now) } })
  const expiresAt = new Date(now + sessionDays * 24 * 60 * minute)
  await acrossKitchens.sessions.create({ tokenHash: tokenHash(token), kitchenId, personId, expiresAt })
}

export async function closeSession({ acrossKitchens }: Database, token: string | undefined): Promise<void> {
  if (token) await acrossKitchens.sessions.destroy({ tokenHash: tokenHash(token) })
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

async function refuseTooManyAttempts({ acrossKitchens }: Database, subjects: Record<keyof typeof mostFailures, string>): Promise<void> {
  const { signInFailures } = acrossKitchens
  await signInFailures.destroy({ at: { [Op.lt]: new Date(Date.now() - windowMinutes * minute) } })
  for (const [kind, most] of Object.entries(mostFailures) as [keyof typeof mostFailures, number][]) {
    if ((await signInFailures.count({ subject: subjects[kind] })) >= most) {
      throw new ProblemError(
        'too-many-attempts',
        { detail: `Wait ${windowMinutes} minutes, or ask a manager for a new PIN.` },
        windowMinutes * 60,
      )
    }
  }
}
