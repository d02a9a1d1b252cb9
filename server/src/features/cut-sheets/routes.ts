import {
  cutSheet,
  cutSheetChange,
  cutSheetCreate,
  cutSheetImport,
  cutSheetImportReport,
  cutSheetRetire,
  cutSheetVersion,
} from '@fleam/contract/cut-sheets'
import { pageOf, pageQuery } from '@fleam/contract/primitives'
import * as z from 'zod'
import { signedIn } from '../../http/access.ts'
import { found } from '../../http/changes.ts'
import { nameCursor, pageFrom, readCursor } from '../../http/paging.ts'
import { workFor } from '../../http/work-for.ts'
import { idParams, type Routes } from '../routes.ts'
import { noteExchange } from '../security/security-events.ts'
import { exportCutSheets, importCutSheets } from './exchange.ts'
import { changeCutSheet, createCutSheet, findCutSheet, listCutSheets, listVersions, retireCutSheet } from './service.ts'

const largestSheet = 256 * 1024

export const cutSheetRoutes: Routes = (app, { heavyWork }) => {
  app.get(
    '/api/v1/cut-sheets',
    { config: { access: 'student' }, schema: { querystring: pageQuery, response: { 200: pageOf(cutSheet) } } },
    async (request) => {
      const { cursor, limit } = request.query
      const after = readCursor(cursor, nameCursor)?.after ?? ''
      const sheets = await listCutSheets(signedIn(request).records, after, limit + 1)
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
    { config: { access: 'student' }, schema: { params: idParams, response: { 200: cutSheet } } },
    async (request) => found(await findCutSheet(signedIn(request).records, request.params.id)),
  )
  app.get(
    '/api/v1/cut-sheets/:id/versions',
    { config: { access: 'student' }, schema: { params: idParams, response: { 200: z.object({ entries: z.array(cutSheetVersion) }) } } },
    async (request) => ({ entries: await listVersions(signedIn(request).records, request.params.id) }),
  )
  app.post(
    '/api/v1/cut-sheets',
    { config: { access: 'lead' }, bodyLimit: largestSheet, schema: { body: cutSheetCreate, response: { 201: cutSheet } } },
    async (request, reply) => reply.code(201).send(await createCutSheet(signedIn(request), request.body)),
  )
  app.put(
    '/api/v1/cut-sheets/:id',
    {
      config: { access: 'lead' },
      bodyLimit: largestSheet,
      schema: { params: idParams, body: cutSheetChange, response: { 200: cutSheet } },
    },
    async (request) => changeCutSheet(signedIn(request), request.params.id, request.body),
  )
  app.post(
    '/api/v1/cut-sheets/:id/retire',
    { config: { access: 'lead' }, schema: { params: idParams, body: cutSheetRetire, response: { 200: cutSheet } } },
    async (request) => retireCutSheet(signedIn(request), request.params.id, request.body.retired),
  )
  app.get(
    '/api/v1/cut-sheets.json',
    { config: { access: 'student' }, schema: { querystring: z.object({ id: idParams.shape.id.optional() }) } },
    async (request, reply) => {
      await noteExchange(request, 'exported', 'cut sheets')
      return reply
        .type('application/json')
        .header('content-disposition', 'attachment; filename="cut-sheets.json"')
        .send(JSON.stringify(await exportCutSheets(signedIn(request).records, request.query.id), null, 2))
    },
  )
  app.post(
    '/api/v1/cut-sheet-imports',
    {
      config: { access: 'lead' },
      bodyLimit: 4 * 1024 * 1024,
      schema: { body: cutSheetImport, response: { 200: cutSheetImportReport } },
    },
    async (request, reply) => {
      const file = await heavyWork.run('readCutSheetFile', request.body.text, workFor(request, reply))
      return importCutSheets(signedIn(request), file, request.body.preview)
    },
  )
}
