import { Readable } from 'node:stream'
import { importReport } from '@fleam/contract/run-export'
import { runQuery } from '@fleam/contract/runs'
import * as z from 'zod'
import { signedIn } from '../../http/access.ts'
import { found } from '../../http/changes.ts'
import { workFor } from '../../http/work-for.ts'
import { idParams, type Routes } from '../routes.ts'
import { writeRunsCsv, writeRunsJson } from './export.ts'
import { findRun } from './find-run.ts'
import { importRuns } from './import.ts'

const exportQuery = runQuery.omit({ cursor: true, limit: true })
const importQuery = z.object({ preview: z.enum(['true', 'false']).default('true') })
const largestImport = 32 * 1024 * 1024

/** Runs out of Fleam and into it: CSV and JSON of the log, the yield test sheet as PDF, import of a JSON file. */
export const exchangeRoutes: Routes = (app, { heavyWork }) => {
  app.get('/api/v1/runs.csv', { config: { access: 'cook' }, schema: { querystring: exportQuery } }, async (request, reply) => {
    const chunks = writeRunsCsv(signedIn(request), request.query)
    return reply
      .type('text/csv; charset=utf-8')
      .header('content-disposition', 'attachment; filename="yield-log.csv"')
      .send(Readable.from(chunks))
  })
  app.get('/api/v1/runs.json', { config: { access: 'cook' }, schema: { querystring: exportQuery } }, async (request, reply) => {
    const chunks = writeRunsJson(signedIn(request), request.query)
    return reply.type('application/json').header('content-disposition', 'attachment; filename="yield-log.json"').send(Readable.from(chunks))
  })
  app.get('/api/v1/runs/:id/yield-test.pdf', { config: { access: 'cook' }, schema: { params: idParams } }, async (request, reply) => {
    const { kitchen, records } = signedIn(request)
    const run = found(await findRun(records, request.params.id))
    const pdf = await heavyWork.run('writeYieldTestSheet', { run, kitchen }, workFor(request, reply))
    return reply
      .type('application/pdf')
      .header('content-disposition', `inline; filename="yield-test-${run.number}.pdf"`)
      .send(Buffer.from(pdf))
  })
  app.register(async (scope) => {
    scope.removeContentTypeParser('application/json')
    scope.addContentTypeParser(
      ['application/json', 'text/plain'],
      { parseAs: 'string', bodyLimit: largestImport },
      (_request, body, done) => done(null, body),
    )
    scope
      .withTypeProvider<import('fastify-type-provider-zod').ZodTypeProvider>()
      .post(
        '/api/v1/run-imports',
        { config: { access: 'manager' }, bodyLimit: largestImport, schema: { querystring: importQuery, response: { 200: importReport } } },
        async (request) => importRuns(signedIn(request), String(request.body ?? ''), request.query.preview === 'true'),
      )
  })
}
