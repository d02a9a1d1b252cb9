import { movedCost, recall, recalled, type Trace, trace } from '@fleam/contract/follow-ons'
import { line } from '@fleam/contract/primitives'
import { boxItem, wholeLotCreate } from '@fleam/contract/receiving'
import { lot, lotMoveCreate, lotUndo, lotWithMoves, portionsEaten, putAway, thrownAway } from '@fleam/contract/walk-in'
import type { FastifyReply, FastifyRequest } from 'fastify'
import * as z from 'zod'
import { signedIn } from '../../http/access.ts'
import { found } from '../../http/changes.ts'
import { idParams, type Routes } from '../routes.ts'
import { findRun } from '../runs/find-run.ts'
import { noteExchange } from '../security/security-events.ts'
import { findLot, findLots, listLots } from './find-lots.ts'
import { moveLot, undoMove } from './move-lot.ts'
import { listMovedCosts, listPortionsEaten, listThrownAway, putAway as putAwayLots } from './put-away.ts'
import { recallLot } from './recall.ts'
import { traceLots, traceSupplierLot, writeTraceCsv } from './trace.ts'
import { listBoxItems, putWholeAway, rememberBoxItem } from './whole-lots.ts'

const lots = z.object({ entries: z.array(lot) })
const ofSupplierLot = z.object({ supplierLot: line(40) })

/** What lies in the cold, its books, and where it came from and went. */
export const walkInRoutes: Routes = (app) => {
  app.get('/api/v1/lots', { config: { access: 'cook' }, schema: { response: { 200: lots } } }, async (request) => ({
    entries: await listLots(signedIn(request).records),
  }))
  app.post(
    '/api/v1/lots',
    { config: { access: 'cook' }, schema: { body: wholeLotCreate, response: { 201: lot } } },
    async (request, reply) => reply.code(201).send(await putWholeAway(signedIn(request), request.body)),
  )
  app.get(
    '/api/v1/box-items',
    { config: { access: 'cook' }, schema: { response: { 200: z.object({ entries: z.array(boxItem) }) } } },
    async (request) => ({ entries: await listBoxItems(signedIn(request).records) }),
  )
  app.put('/api/v1/box-items', { config: { access: 'cook' }, schema: { body: boxItem, response: { 200: boxItem } } }, async (request) =>
    rememberBoxItem(signedIn(request), request.body),
  )
  app.get(
    '/api/v1/lots/:id',
    { config: { access: 'cook' }, schema: { params: idParams, response: { 200: lotWithMoves } } },
    async (request) => found(await findLot(signedIn(request).records, request.params.id)),
  )
  app.post(
    '/api/v1/lots/:id/moves',
    { config: { access: 'cook' }, schema: { params: idParams, body: lotMoveCreate, response: { 201: lotWithMoves } } },
    async (request, reply) => reply.code(201).send(await moveLot(signedIn(request), request.params.id, request.body)),
  )
  app.post(
    '/api/v1/lots/:id/undos',
    { config: { access: 'cook' }, schema: { params: idParams, body: lotUndo, response: { 201: lotWithMoves } } },
    async (request, reply) => reply.code(201).send(await undoMove(signedIn(request), request.params.id, request.body)),
  )
  app.get(
    '/api/v1/lots/:id/trace',
    { config: { access: 'cook' }, schema: { params: idParams, response: { 200: trace } } },
    async (request) => {
      const { records } = signedIn(request)
      const one = found(await findLot(records, request.params.id))
      return traceLots(records, `${one.name}, lot ${one.number}`, [one.id])
    },
  )
  app.get(
    '/api/v1/traces',
    { config: { access: 'cook' }, schema: { querystring: ofSupplierLot, response: { 200: trace } } },
    async (request) => {
      return traceSupplierLot(signedIn(request).records, request.query.supplierLot)
    },
  )
  const asCsv = async (request: FastifyRequest, reply: FastifyReply, found_: Trace) => {
    await noteExchange(request, 'exported', `${found_.start} as CSV`)
    const lines = writeTraceCsv(found_, signedIn(request).kitchen.settings.currency)
    return reply
      .type('text/csv; charset=utf-8')
      .header('content-disposition', 'attachment; filename="trace.csv"')
      .send([...lines].join(''))
  }
  app.get('/api/v1/lots/:id/trace.csv', { config: { access: 'cook' }, schema: { params: idParams } }, async (request, reply) => {
    const { records } = signedIn(request)
    const one = found(await findLot(records, request.params.id))
    return asCsv(request, reply, await traceLots(records, `${one.name}, lot ${one.number}`, [one.id]))
  })
  app.get('/api/v1/traces.csv', { config: { access: 'cook' }, schema: { querystring: ofSupplierLot } }, async (request, reply) =>
    asCsv(request, reply, await traceSupplierLot(signedIn(request).records, request.query.supplierLot)),
  )
  app.post(
    '/api/v1/recalls',
    { config: { access: 'lead' }, schema: { body: recall, response: { 201: recalled } } },
    async (request, reply) => reply.code(201).send({ blocked: await recallLot(signedIn(request), request.body) }),
  )
  app.get(
    '/api/v1/runs/:id/lots',
    { config: { access: 'cook' }, schema: { params: idParams, response: { 200: lots } } },
    async (request) => {
      const { records } = signedIn(request)
      const run = found(await findRun(records, request.params.id))
      return { entries: await findLots(records, { runId: run.id }) }
    },
  )
  app.post(
    '/api/v1/runs/:id/lots',
    { config: { access: 'cook' }, schema: { params: idParams, body: putAway, response: { 201: lots } } },
    async (request, reply) => {
      const by = signedIn(request)
      const run = found(await findRun(by.records, request.params.id))
      return reply.code(201).send({ entries: await putAwayLots(by, run, request.body) })
    },
  )
  app.get(
    '/api/v1/runs/:id/moved-costs',
    { config: { access: 'cook' }, schema: { params: idParams, response: { 200: z.object({ entries: z.array(movedCost) }) } } },
    async (request) => {
      const by = signedIn(request)
      found(await by.records.runs.findOne({ attributes: ['id'], where: { id: request.params.id }, raw: true }))
      return { entries: await listMovedCosts(by, request.params.id) }
    },
  )
  const ofWeeks = z.object({ weeks: z.coerce.number().int().min(1).max(104).default(12) })
  app.get(
    '/api/v1/portions-eaten',
    { config: { access: 'cook' }, schema: { querystring: ofWeeks, response: { 200: z.object({ entries: z.array(portionsEaten) }) } } },
    async (request) => ({ entries: await listPortionsEaten(signedIn(request), request.query.weeks) }),
  )
  app.get(
    '/api/v1/thrown-away',
    { config: { access: 'cook' }, schema: { querystring: ofWeeks, response: { 200: z.object({ entries: z.array(thrownAway) }) } } },
    async (request) => ({ entries: await listThrownAway(signedIn(request), request.query.weeks) }),
  )
}
