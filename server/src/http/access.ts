import { createHash } from 'node:crypto'
import { type Kitchen, readSettings } from '@fleam/contract/kitchen'
import type { Person } from '@fleam/contract/people'
import { mayAs, type PersonRole } from '@fleam/contract/roles'
import type { FastifyInstance, FastifyRequest } from 'fastify'
import { ailmentOf } from '../db/ailments.ts'
import type { Database } from '../db/database.ts'
import type { KitchenRecords } from '../db/records.ts'
import { sessionByToken } from '../features/session/session.sql.ts'
import { endOfSession } from '../features/session/session-end.ts'
import { tokenOf } from './cookies.ts'
import { ProblemError } from './problems.ts'

/** Who a route is for: anyone, or people of at least this role. */
export type Access = 'public' | PersonRole

declare module 'fastify' {
  interface FastifyContextConfig {
    access?: Access
    /** A student has this of a run of their own alone; the run is the route's `id`. */
    isOfRun?: boolean
  }
  interface FastifyRequest {
    signedIn: SignedIn | null
  }
  interface FastifyInstance {
    /** Every route of the API with who it is for. */
    routeAccess: RouteAccess[]
  }
}

export interface RouteAccess {
  method: string
  url: string
  access: Access
}

/** Somebody of a kitchen who does something, with the records of that kitchen, and no other's. */
export interface Actor {
  person: Person
  kitchen: Kitchen
  records: KitchenRecords
}

export interface SignedIn extends Actor {
  sessionId: string
  /** The enrolled tablet that the session is on. */
  tabletId: string | null
  tabletName: string | null
}

export function hasRole(person: Person, role: PersonRole): boolean {
  return mayAs(person.role, role)
}

/** The signed-in person of a route that is not public. */
export function signedIn(request: FastifyRequest): SignedIn {
  if (!request.signedIn) throw new ProblemError('not-signed-in')
  return request.signedIn
}

export function tokenHash(token: string): string {
  return createHash('sha256').update(token).digest('hex')
}

/** Refuses requests from other sites, from people whose role a route is not for, and more writes than anyone makes. */
export function registerAccess(app: FastifyInstance, db: Database, countWrite: (personId: string) => Promise<void>): void {
  app.decorateRequest('signedIn', null)
  app.decorate('routeAccess', [])
  app.addHook('onRoute', ({ url, method, config }) => {
    if (!url.startsWith('/api/v1/')) return
    if (config?.access === undefined) throw new Error(`${url} does not say who it is for.`)
    for (const one of [method].flat()) app.routeAccess.push({ method: one, url, access: config.access })
  })
  app.addHook('onRequest', async (request) => {
    const access = request.routeOptions.config.access
    if (access === undefined) return
    refuseForeignOrigin(request)
    if (access === 'public') return
    request.signedIn = await findSession(db, tokenOf('session', request), request.ip)
    const { person } = signedIn(request)
    if (!hasRole(person, access)) {
      throw new ProblemError('role-too-low', { detail: `This is for a ${access}; you are signed in as a ${person.role}.` })
    }
    if (request.routeOptions.config.isOfRun && !hasRole(person, 'cook')) await refuseOthersRun(request)
    if (request.method !== 'GET' && request.method !== 'HEAD') await countWrite(person.id)
  })
}

/** Students see and cut their own runs, and nobody else's. */
async function refuseOthersRun(request: FastifyRequest): Promise<void> {
  const { records, person } = signedIn(request)
  const { id } = request.params as { id: string }
  if ((await records.runs.count({ id, cookId: person.id })) === 0)
    throw new ProblemError('role-too-low', { detail: 'Students see their own runs alone.' })
}

function refuseForeignOrigin(request: FastifyRequest): void {
  if (request.method === 'GET' || request.method === 'HEAD') return
  const { origin } = request.headers
  if (origin !== undefined && hostOf(origin) !== request.headers.host) throw new ProblemError('foreign-origin')
  const site = request.headers['sec-fetch-site']
  if (site !== undefined && site !== 'same-origin' && site !== 'none') throw new ProblemError('foreign-origin')
}

function hostOf(origin: string): string | undefined {
  try {
    return new URL(origin).host
  } catch {
    return undefined
  }
}

interface SessionFound {
  sessionId: string
  tabletId: string | null
  tabletName: string | null
  startedAt: Date
  /** Nobody has been seen at it for a minute. */
  isQuiet: number
  personId: string
  name: string
  role: PersonRole
  version: number
  kitchenId: string
  kitchenName: string
  settings: Kitchen['settings']
  kitchenVersion: number
}

/** Who a token stands for. Being asked for puts the session's end off. */
export async function findSession(db: Database, token: string | undefined, address?: string): Promise<SignedIn | null> {
  if (!token) return null
  const [found] = await db.acrossKitchens.select<SessionFound>(sessionByToken, { tokenHash: tokenHash(token) })
  if (!found) return null
  const { personId, name, role, version, kitchenId, kitchenName, settings, kitchenVersion, sessionId, tabletId, tabletName } = found
  if (found.isQuiet) {
    const now = new Date()
    const expiresAt = endOfSession(new Date(found.startedAt), settings, tabletId !== null, now)
    const seen = { seenAt: now, expiresAt, ...(address ? { address: address.slice(0, 64) } : {}) }
    await db.acrossKitchens.sessions.update(seen, { id: sessionId }).catch((error: unknown) => {
      // a full disk is no reason to refuse what is only read
      if (ailmentOf(error) === undefined) throw error
    })
  }
  return {
    person: { id: personId, name, role, active: true, version },
    kitchen: { id: kitchenId, name: kitchenName, settings: readSettings(settings), version: kitchenVersion },
    sessionId,
    tabletId,
    tabletName,
    records: db.of(kitchenId),
  }
}
