import { randomUUID } from 'node:crypto'
import type { IncomingMessage } from 'node:http'
import type { FastifyInstance } from 'fastify'
import { ProblemError } from './problems.ts'

/** How a server is guarded where it stands; each has a safe usual. */
export interface Guards {
  /** What a person may write in a minute. */
  writesPerMinute?: number | undefined
  /** Streams of events that one session may have open. */
  streamsPerSession?: number | undefined
  /** Whether a proxy in front is believed about addresses and TLS: none, any, or those at these addresses. */
  trustProxy?: boolean | string | undefined
  /** Names that the server answers to; any unless given. */
  hosts?: readonly string[] | undefined
}

/** A request that has not arrived by then is answered without it. */
export const requestTimeoutMs = 30_000

const fitName = /^[\w-]{8,64}$/

/** By what a request is named in the log and in answers: what a trusted proxy calls it already, or a name of its own. */
export function nameRequest({ trustProxy = false }: Guards): (request: IncomingMessage) => string {
  return ({ headers }) => {
    const given = headers['x-request-id']
    return trustProxy && typeof given === 'string' && fitName.test(given) ? given : randomUUID()
  }
}

/** Refuses names that the server is not known by, keeps answers of the API out of every store, and says so when TLS stands before it. */
export function registerGuards(app: FastifyInstance, { hosts = [] }: Guards): void {
  const known = new Set(hosts.map((host) => host.toLowerCase()))
  app.addHook('onRequest', async (request, reply) => {
    reply.header('x-request-id', request.id)
    if (request.url.startsWith('/api/')) reply.header('cache-control', 'no-store')
    if (request.protocol === 'https') reply.header('strict-transport-security', 'max-age=31536000; includeSubDomains')
    if (known.size > 0 && !known.has(request.hostname.toLowerCase())) throw new ProblemError('unknown-host')
  })
}
