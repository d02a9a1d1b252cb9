import { safetyDay, safetyLine, safetyNoteCreate, safetyRecord } from '@fleam/contract/safety'
import * as z from 'zod'
import { signedIn } from '../../http/access.ts'
import type { Routes } from '../routes.ts'
import { noteExchange } from '../security/security-events.ts'
import { noteSafety, readSafetyRecord, writeSafetyCsv } from './record.ts'

const ofDay = z.object({ day: safetyDay })

/** The food-safety record of a day. */
export const safetyRoutes: Routes = (app) => {
  app.get(
    '/api/v1/safety-record',
    { config: { access: 'cook' }, schema: { querystring: ofDay, response: { 200: safetyRecord } } },
    async (request) => readSafetyRecord(signedIn(request), request.query.day),
  )
  app.get('/api/v1/safety-record.csv', { config: { access: 'cook' }, schema: { querystring: ofDay } }, async (request, reply) => {
    const { day } = request.query
    await noteExchange(request, 'exported', `the food-safety record of ${day} as CSV`)
    return reply
      .type('text/csv; charset=utf-8')
      .header('content-disposition', `attachment; filename="food-safety-${day}.csv"`)
      .send([...writeSafetyCsv(await readSafetyRecord(signedIn(request), day))].join(''))
  })
  app.post(
    '/api/v1/safety-notes',
    { config: { access: 'cook' }, schema: { body: safetyNoteCreate, response: { 201: safetyLine } } },
    async (request, reply) => reply.code(201).send(await noteSafety(signedIn(request), request.body)),
  )
}
