import { Readable } from 'node:stream'
import { importProgress, importReport } from '@fleam/contract/run-export'
import { runQuery } from '@fleam/contract/runs'
import type { FastifyRequest } from 'fastify'
import * as z from 'zod'
import { signedIn } from '../../http/access.ts'
import { found } from '../../http/changes.ts'
import { workFor } from '../../http/work-for.ts'
import { picturesForPdf } from '../pictures/service.ts'
import { idParams, type Routes } from '../routes.ts'
import { noteExchange } from '../security/security-events.ts'
import { writeRunsCsv, writeRunsJson } from './export.ts'
import { findRun } from './find-run.ts'

const exportQuery = runQuery.omit({ cursor: true, limit: true }).extend({ names: z.enum(['yes', 'no']).default('yes') })
const jsonQuery = exportQuery.extend({ pictures: z.enum(['true', 'false']).default('false') })
/** By its `id` an import that is under way can be asked how far it is. */
const importQuery = z.object({ preview: z.enum(['true', 'false']).default('true'), id: idParams.shape.id.optional() })
const mostImportMs = 10 * 60_000
const largestImport = 32 * 1024 * 1024

/** Runs out of Fleam and into it: CSV and JSON of the log, the yield test sheet as PDF, import of a JSON file. */
export const exchangeRoutes: Routes = (app, { heavyWork }) => {
  const took = (request: FastifyRequest, about: string) => noteExchange(request, 'exported', about)

  app.get('/api/v1/runs.csv', { config: { access: 'cook' }, schema: { querystring: exportQuery } }, async (request, reply) => {
    await took(request, 'runs as CSV')
    const { names, ...query } = request.query
    const chunks = writeRunsCsv(signedIn(request), query, names === 'yes')
    return reply
      .type('text/csv; charset=utf-8')
      .header('content-disposition', 'attachment; filename="yield-log.csv"')
      .send(Readable.from(chunks))
  })
  app.get('/api/v1/runs.json', { config: { access: 'cook' }, schema: { querystring: jsonQuery } }, async (request, reply) => {
    const { pictures, names, ...query } = request.query
    const withPictures = pictures === 'true'
    await took(request, withPictures ? 'runs as JSON, with pictures' : 'runs as JSON')
    const chunks = writeRunsJson(signedIn(request), query, withPictures, names === 'yes')
    return reply.type('application/json').header('content-disposition', 'attachment; filename="yield-log.json"').send(Readable.from(chunks))
  })
  app.get(
    '/api/v1/runs/:id/yield-test.pdf',
    { config: { access: 'student', isOfRun: true }, schema: { params: idParams } },
    async (request, reply) => {
      const { kitchen, records } = signedIn(request)
      const run = found(await findRun(records, request.params.id))
      const pictures = await picturesForPdf(records, run.id)
      const pdf = await heavyWork.run('writeYieldTestSheet', { run, kitchen, pictures }, workFor(request, reply))
      return reply
        .type('application/pdf')
        .header('content-disposition', `inline; filename="yield-test-${run.number}.pdf"`)
        .send(Buffer.from(pdf))
    },
  )
  /** How far imports are, 0 to 1, by kitchen and id. */
  const underWay = new Map<string, number>()
  app.get(
    '/api/v1/run-imports/:id',
    { config: { access: 'manager' }, schema: { params: idParams, response: { 200: importProgress } } },
    async (request) => ({ done: found(underWay.get(`${signedIn(request).kitchen.id} ${request.params.id}`)) }),
  )
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
        async (request, reply) => {
          const { person, kitchen } = signedIn(request)
          const { id, preview } = request.query
          const file = { by: { person, kitchen }, text: String(request.body ?? ''), preview: preview === 'true' }
          const key = `${kitchen.id} ${id}`
          try {
            const report = await heavyWork.run('importRunsFile', file, {
              ...workFor(request, reply),
              limitMs: mostImportMs,
              onProgress: (done) => underWay.set(key, done),
            })
            if (report.written) await noteExchange(request, 'imported', `${report.newRuns.length} runs`)
            return report
          } finally {
            underWay.delete(key)
          }
        },
      )
  })
}
