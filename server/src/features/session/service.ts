import { randomBytes } from 'node:crypto'
import type { demoPerson, Session } from '@fleam/contract/people'
import type { z } from 'zod'
import type { Database } from '../../db/database.ts'
import { demoPeople } from '../../demo/people.ts'
import { findSession, tokenHash } from '../../http/access.ts'
import { ProblemError } from '../../http/problems.ts'
import { secretFits } from '../people/secrets.ts'

export const sessionDays = 14
const windowMinutes = 15
const mostFailures = { name: 5, address: 30 }

/** Opens a session for a name and its secret. Failures are counted by name and by address. */
export async function openSession(
  db: Database,
  { name, secret }: { name: string; secret: string },
  address: string,
): Promise<{ token: string; session: Session }> {
  const subjects = { name: `name:${name.toLowerCase()}`, address: `address:${address}` }
  await refuseTooManyAttempts(db, subjects)
  const person = await db.row<{ id: string; kitchen_id: string; secret_hash: string | null }>(
    'SELECT id, kitchen_id, secret_hash FROM people WHERE sign_in_name = :name AND active = 1',
    { name },
  )
  if (!(await secretFits(secret, person?.secret_hash)) || !person) {
    for (const subject of Object.values(subjects)) {
      await db.run('INSERT INTO sign_in_failures (subject, at) VALUES (:subject, UTC_TIMESTAMP(3))', { subject })
    }
    throw new ProblemError('wrong-secret')
  }
  await db.run('DELETE FROM sign_in_failures WHERE subject = :subject', { subject: subjects.name })
  const token = randomBytes(32).toString('base64url')
  await startSession(db, token, person.kitchen_id, person.id)
  const session = await findSession(db, token)
  if (!session) throw new ProblemError('not-signed-in')
  return { token, session }
}

export async function startSession(db: Database, token: string, kitchenId: string, personId: string): Promise<void> {
  await db.run('DELETE FROM sessions WHERE expires_at < UTC_TIMESTAMP(3)')
  await db.run(
    `INSERT INTO sessions (token_hash, kitchen_id, person_id, expires_at)
     VALUES (:hash, :kitchenId, :personId, UTC_TIMESTAMP(3) + INTERVAL ${sessionDays} DAY)`,
    { hash: tokenHash(token), kitchenId, personId },
  )
}

export async function closeSession(db: Database, token: string | undefined): Promise<void> {
  if (token) await db.run('DELETE FROM sessions WHERE token_hash = :hash', { hash: tokenHash(token) })
}

/** The people of the demo kitchen whose secret is still the demo's; none where the data is not the demo's. */
export async function listDemoPeople(db: Database): Promise<z.infer<typeof demoPerson>[]> {
  const rows = await db.rows<{ name: string }>(
    `SELECT p.name FROM people p JOIN kitchens k ON k.id = p.kitchen_id
     WHERE k.is_demo = 1 AND p.has_demo_secret = 1 AND p.active = 1`,
  )
  const names = new Set(rows.map((row) => row.name))
  return demoPeople.filter((person) => names.has(person.name)).map(({ name, role, secret }) => ({ name, role, secret }))
}

async function refuseTooManyAttempts(db: Database, subjects: Record<keyof typeof mostFailures, string>): Promise<void> {
  await db.run(`DELETE FROM sign_in_failures WHERE at < UTC_TIMESTAMP(3) - INTERVAL ${windowMinutes} MINUTE`)
  for (const [kind, most] of Object.entries(mostFailures) as [keyof typeof mostFailures, number][]) {
    const failures = await db.row<{ count: number }>('SELECT COUNT(*) AS count FROM sign_in_failures WHERE subject = :subject', {
      subject: subjects[kind],
    })
    if ((failures?.count ?? 0) >= most) {
      throw new ProblemError(
        'too-many-attempts',
        { detail: `Wait ${windowMinutes} minutes, or ask a manager for a new PIN.` },
        windowMinutes * 60,
      )
    }
  }
}
