import type { SecurityEvent } from '@fleam/contract/people'
import type { FastifyRequest } from 'fastify'
import { Op } from 'sequelize'
import type { KitchenRecords } from '../../db/records.ts'
import { signedIn } from '../../http/access.ts'

/** What is kept of who came in, failed to, or took data out or in. */
export type SecurityKind =
  | 'signed in'
  | 'sign-in failed'
  | 'sign-in made to wait'
  | 'signed out'
  | 'secret changed'
  | 'role changed'
  | 'time code asked for'
  | 'time code no longer asked for'
  | 'kitchen opened'
  | 'asked in'
  | 'came in by a code'
  | 'tablet enrolled'
  | 'tablet let go'
  | 'exported'
  | 'imported'
  | 'backed up'

interface SecurityNote {
  kind: SecurityKind
  personId: string | null
  address: string
  about?: string
}

/** Where what happened is kept: with a kitchen's records, or, where nobody can say which was meant, with nobody's. */
type Keeper = { securityEvents: Pick<KitchenRecords['securityEvents'], 'create'> }

export async function noteSecurity({ securityEvents }: Keeper, note: SecurityNote): Promise<void> {
  await securityEvents.create({ ...note, address: note.address.slice(0, 64), about: (note.about ?? '').slice(0, 200), at: new Date() })
}

/** Keeps that somebody took data out, or brought some in. */
export async function noteExchange(request: FastifyRequest, kind: 'exported' | 'imported', about: string): Promise<void> {
  const { person, records } = signedIn(request)
  await noteSecurity(records, { kind, personId: person.id, address: request.ip, about })
}

/** What is kept of one kitchen, the newest first. */
export async function listSecurityEvents({ securityEvents }: KitchenRecords, before: number, limit: number): Promise<SecurityEvent[]> {
  const rows = await securityEvents.findAll({
    where: { id: { [Op.lt]: before } },
    include: [{ association: 'person', attributes: ['name'] }],
    order: [['id', 'DESC']],
    limit,
  })
  return rows.map(({ id, at, kind, person, address, about }) => ({
    id: String(id),
    at: at.toISOString(),
    kind,
    by: person?.name ?? null,
    address,
    about,
  }))
}
