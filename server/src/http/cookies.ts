import type { FastifyReply, FastifyRequest } from 'fastify'

const names = { session: 'fleam_session', tablet: 'fleam_tablet' }
type Kept = keyof typeof names

/** Browsers take a cookie of this prefix only over TLS, from this very host, for all of it. */
const nameOf = (kept: Kept, request: FastifyRequest) => (request.protocol === 'https' ? `__Host-${names[kept]}` : names[kept])

/** The token of this device's session, or of the tablet that it is. */
export function tokenOf(kept: Kept, request: FastifyRequest): string | undefined {
  return request.cookies[nameOf(kept, request)]
}

export function keepToken(kept: Kept, request: FastifyRequest, reply: FastifyReply, token: string, days: number): void {
  const secure = request.protocol === 'https'
  reply.setCookie(nameOf(kept, request), token, { path: '/', httpOnly: true, sameSite: 'strict', secure, maxAge: days * 86_400 })
}

export function forgetToken(kept: Kept, request: FastifyRequest, reply: FastifyReply): void {
  reply.clearCookie(nameOf(kept, request), { path: '/', secure: request.protocol === 'https' })
}

/** Who is at the other end of a request, before anybody is signed in. */
export interface Visitor {
  address: string
  device: string
  tabletToken: string | undefined
  sessionToken: string | undefined
}

export function visitorOf(request: FastifyRequest): Visitor {
  return {
    address: request.ip,
    device: String(request.headers['user-agent'] ?? '').slice(0, 200),
    tabletToken: tokenOf('tablet', request),
    sessionToken: tokenOf('session', request),
  }
}
