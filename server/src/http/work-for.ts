import type { FastifyReply, FastifyRequest } from 'fastify'
import type { WorkOptions } from '../heavy-work.ts'
import { signedIn } from './access.ts'

/** Work for one person's request, which ends when the client hangs up. */
export function workFor(request: FastifyRequest, reply: FastifyReply): WorkOptions {
  const gone = new AbortController()
  reply.raw.once('close', () => {
    if (!reply.raw.writableFinished) gone.abort()
  })
  return { owner: signedIn(request).person.id, signal: gone.signal }
}
