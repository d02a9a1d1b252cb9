import { cutSheet } from '@fleam/contract/cut-sheets'
import { pageOf, pageQuery } from '@fleam/contract/primitives'
import { signedIn } from '../../http/access.ts'
import { found } from '../../http/changes.ts'
import { pageFrom, readCursor } from '../../http/paging.ts'
import { idParams, type Routes } from '../routes.ts'
import { findCutSheet, listCutSheets } from './service.ts'

export const cutSheetRoutes: Routes = (app, { db }) => {
  app.get(
    '/api/v1/cut-sheets',
    { config: { access: 'cook' }, schema: { querystring: pageQuery, response: { 200: pageOf(cutSheet) } } },
    async (request) => {
      const { cursor, limit } = request.query
      const after = String(readCursor(cursor)?.after ?? '')
      const sheets = await listCutSheets(db, signedIn(request).kitchen.id, after, limit + 1)
      return pageFrom(
        sheets,
        limit,
        (entry) => entry,
        (entry) => ({ after: entry.slug, id: entry.id }),
      )
    },
  )
  app.get(
    '/api/v1/cut-sheets/:id',
    { config: { access: 'cook' }, schema: { params: idParams, response: { 200: cutSheet } } },
    async (request) => found(await findCutSheet(db, signedIn(request).kitchen.id, request.params.id)),
  )
}
