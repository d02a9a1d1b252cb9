import { benchEvent, benchEventCreate } from '@fleam/contract/bench'
import { pageOf } from '@fleam/contract/primitives'
import {
  defect,
  defectCreate,
  move,
  moveCreate,
  reversalCreate,
  run,
  runCorrect,
  runCreate,
  runDiscard,
  runFinish,
  runFromPaper,
  runLeaveOut,
  runPutRight,
  runQuery,
  runReopen,
  runSummary,
  tub,
  tubChange,
  tubCreate,
  weighing,
  weighingCreate,
} from '@fleam/contract/runs'
import { hasRole, signedIn } from '../../http/access.ts'
import { found } from '../../http/changes.ts'
import { pageFrom, readCursor } from '../../http/paging.ts'
import { idParams, type Routes } from '../routes.ts'
import { noteBenchEvent } from './bench-events.ts'
import { correctRun, discardRun, leaveOutRun, reopenRun } from './corrections.ts'
import { findRun } from './find-run.ts'
import { enterFromPaper } from './from-paper.ts'
import { cursorFor, cursorOf, listRuns } from './log.ts'
import { putRunRight } from './put-right.ts'
import { addTub, changeTub, finishRun, noteDefect, startRun } from './service.ts'
import { movePiece, reverse, weighIn } from './weigh.ts'

/** Two thousand weighings with their ids. */
const largestPaper = 512 * 1024
const tubParams = idParams.extend({ tubId: idParams.shape.id })

/** What somebody does at a bench; a student at their own. */
const ofBench = { access: 'student', isOfRun: true } as const

export const runRoutes: Routes = (app, { live, scales }) => {
  /** Tells the other benches at once. */
  const told = <Answer>(answer: Answer): Answer => {
    live.wake()
    return answer
  }
  app.get(
    '/api/v1/runs',
    { config: { access: 'student' }, schema: { querystring: runQuery, response: { 200: pageOf(runSummary) } } },
    async (request) => {
      const { cursor, limit, ...query } = request.query
      const { records, kitchen, person } = signedIn(request)
      const { timeZone } = kitchen.settings
      const own = hasRole(person, 'cook') ? {} : { cookId: person.id }
      const runs = await listRuns(records, { ...query, ...own, timeZone }, readCursor(cursor, cursorFor(query.sort)), limit + 1)
      return pageFrom(
        runs,
        limit,
        (entry) => entry,
        (entry) => cursorOf(entry, query.sort),
      )
    },
  )
  app.post('/api/v1/runs', { config: { access: 'cook' }, schema: { body: runCreate, response: { 201: run } } }, async (request, reply) =>
    reply.code(201).send(await startRun(signedIn(request), request.body)),
  )
  app.post(
    '/api/v1/runs/from-paper',
    { config: { access: 'cook' }, bodyLimit: largestPaper, schema: { body: runFromPaper, response: { 201: run } } },
    async (request, reply) => reply.code(201).send(await enterFromPaper(signedIn(request), request.body)),
  )
  app.get('/api/v1/runs/:id', { config: ofBench, schema: { params: idParams, response: { 200: run } } }, async (request) =>
    found(await findRun(signedIn(request).records, request.params.id)),
  )
  app.post(
    '/api/v1/runs/:id/weighings',
    { config: ofBench, schema: { params: idParams, body: weighingCreate, response: { 201: weighing } } },
    async (request, reply) => {
      const weighed = told(await weighIn(signedIn(request), request.params.id, request.body))
      if (request.body.load) scales.taken(request.body.load)
      return reply.code(201).send(weighed)
    },
  )
  app.post(
    '/api/v1/runs/:id/reversals',
    { config: ofBench, schema: { params: idParams, body: reversalCreate, response: { 201: weighing } } },
    async (request, reply) => reply.code(201).send(told(await reverse(signedIn(request), request.params.id, request.body))),
  )
  app.post(
    '/api/v1/runs/:id/moves',
    { config: ofBench, schema: { params: idParams, body: moveCreate, response: { 201: move } } },
    async (request, reply) => reply.code(201).send(told(await movePiece(signedIn(request), request.params.id, request.body))),
  )
  app.post(
    '/api/v1/runs/:id/bench-events',
    { config: ofBench, schema: { params: idParams, body: benchEventCreate, response: { 201: benchEvent } } },
    async (request, reply) => reply.code(201).send(told(await noteBenchEvent(signedIn(request), request.params.id, request.body))),
  )
  app.post(
    '/api/v1/runs/:id/tubs',
    { config: ofBench, schema: { params: idParams, body: tubCreate, response: { 201: tub } } },
    async (request, reply) => reply.code(201).send(await addTub(signedIn(request), request.params.id, request.body)),
  )
  app.put(
    '/api/v1/runs/:id/tubs/:tubId',
    { config: { access: 'cook' }, schema: { params: tubParams, body: tubChange, response: { 200: run } } },
    async (request) => changeTub(signedIn(request), request.params.id, request.params.tubId, request.body),
  )
  app.post(
    '/api/v1/runs/:id/defects',
    { config: ofBench, schema: { params: idParams, body: defectCreate, response: { 201: defect } } },
    async (request, reply) => reply.code(201).send(await noteDefect(signedIn(request), request.params.id, request.body)),
  )
  app.post(
    '/api/v1/runs/:id/finish',
    { config: ofBench, schema: { params: idParams, body: runFinish, response: { 200: run } } },
    async (request) => finishRun(signedIn(request), request.params.id, request.body),
  )
  app.put(
    '/api/v1/runs/:id/received',
    { config: { access: 'lead' }, schema: { params: idParams, body: runCorrect, response: { 200: run } } },
    async (request) => told(await correctRun(signedIn(request), request.params.id, request.body)),
  )
  app.post(
    '/api/v1/runs/:id/put-right',
    { config: { access: 'lead' }, schema: { params: idParams, body: runPutRight, response: { 200: run } } },
    async (request) => told(await putRunRight(signedIn(request), request.params.id, request.body)),
  )
  app.post(
    '/api/v1/runs/:id/discard',
    { config: { access: 'lead' }, schema: { params: idParams, body: runDiscard, response: { 200: run } } },
    async (request) => told(await discardRun(signedIn(request), request.params.id, request.body)),
  )
  app.post(
    '/api/v1/runs/:id/reopen',
    { config: { access: 'lead' }, schema: { params: idParams, body: runReopen, response: { 200: run } } },
    async (request) => reopenRun(signedIn(request), request.params.id, request.body),
  )
  app.post(
    '/api/v1/runs/:id/leave-out',
    { config: { access: 'lead' }, schema: { params: idParams, body: runLeaveOut, response: { 200: run } } },
    async (request) => leaveOutRun(signedIn(request), request.params.id, request.body),
  )
}
