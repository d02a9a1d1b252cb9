import { auditEntry, kitchen, kitchenChange } from '@fleam/contract/kitchen'
import { pageOf, pageQuery } from '@fleam/contract/primitives'
import * as z from 'zod'
import { signedIn } from '../../http/access.ts'
import { pageFrom, readCursor } from '../../http/paging.ts'
import type { Routes } from '../routes.ts'
import { changeKitchen, listAudit } from './service.ts'

export const kitchenRoutes: Routes = (app, { db }) => {
  /** Ports of this machine that Fleam and its database use. */
  const ownPorts = () => [
    ...app.addresses().flatMap((one) => (typeof one === 'string' ? [] : [one.port])),
    Number(db.sequelize.config.port),
  ]

  app.get(
    '/api/v1/kitchen',
    { config: { access: 'student' }, schema: { response: { 200: kitchen } } },
    async (request) => signedIn(request).kitchen,
  )
  app.put(
    '/api/v1/kitchen',
    { config: { access: 'manager' }, schema: { body: kitchenChange, response: { 200: kitchen } } },
    async (request) => changeKitchen(signedIn(request), request.body, ownPorts()),
  )
  app.get(
    '/api/v1/audit-trail',
    { config: { access: 'manager' }, schema: { querystring: pageQuery, response: { 200: pageOf(auditEntry) } } },
    async (request) => {
      const { cursor, limit } = request.query
      const before = readCursor(cursor, z.int().positive())?.after ?? Number.MAX_SAFE_INTEGER
      const entries = await listAudit(signedIn(request).records, before, limit + 1)
      return pageFrom(
        entries,
        limit,
        (entry) => entry,
        (entry) => ({ after: Number(entry.id), id: entry.id }),
      )
    },
  )
}
