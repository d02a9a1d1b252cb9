import { securityEvent } from '@fleam/contract/people'
import { pageOf, pageQuery } from '@fleam/contract/primitives'
import * as z from 'zod'
import { signedIn } from '../../http/access.ts'
import { pageFrom, readCursor } from '../../http/paging.ts'
import type { Routes } from '../routes.ts'
import { listSecurityEvents } from './security-events.ts'

/** Who came in or tried to, and what left the kitchen. */
export const securityRoutes: Routes = (app) => {
  app.get(
    '/api/v1/security-events',
    { config: { access: 'manager' }, schema: { querystring: pageQuery, response: { 200: pageOf(securityEvent) } } },
    async (request) => {
      const { cursor, limit } = request.query
      const before = readCursor(cursor, z.int().positive())?.after ?? Number.MAX_SAFE_INTEGER
      const entries = await listSecurityEvents(signedIn(request).records, before, limit + 1)
      return pageFrom(
        entries,
        limit,
        (entry) => entry,
        (entry) => ({ after: Number(entry.id), id: entry.id }),
      )
    },
  )
}
