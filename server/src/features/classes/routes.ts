import {
  exercise,
  exerciseChange,
  exerciseCreate,
  exerciseHandBack,
  exerciseResults,
  exerciseStart,
  groupChange,
  groupCreate,
  markCreate,
  ownResult,
  studentGroup,
  studentResult,
} from '@fleam/contract/classes'
import { run } from '@fleam/contract/runs'
import * as z from 'zod'
import { signedIn } from '../../http/access.ts'
import { workFor } from '../../http/work-for.ts'
import { picturesForPdf } from '../pictures/service.ts'
import { idParams, type Routes } from '../routes.ts'
import { changeExercise, findExercise, giveExercise, handBack, listExercises, startExercise } from './exercises.ts'
import { writeGradebook } from './gradebook.ts'
import { changeGroup, createGroup, listGroups } from './groups.ts'
import { findOwnResult, findResults, findStudentResult, giveMark } from './results.ts'

const ofStudent = { access: 'student' } as const
const ofInstructor = { access: 'instructor' } as const
const studentParams = idParams.extend({ studentId: idParams.shape.id })

/** Groups of students, what they are given to do, and how it is marked. */
export const classRoutes: Routes = (app, { live, heavyWork }) => {
  app.get(
    '/api/v1/groups',
    { config: ofInstructor, schema: { response: { 200: z.object({ entries: z.array(studentGroup) }) } } },
    async (request) => ({ entries: await listGroups(signedIn(request)) }),
  )
  app.post(
    '/api/v1/groups',
    { config: ofInstructor, schema: { body: groupCreate, response: { 201: studentGroup } } },
    async (request, reply) => reply.code(201).send(await createGroup(signedIn(request), request.body)),
  )
  app.put(
    '/api/v1/groups/:id',
    { config: ofInstructor, schema: { params: idParams, body: groupChange, response: { 200: studentGroup } } },
    async (request) => changeGroup(signedIn(request), request.params.id, request.body),
  )
  app.get(
    '/api/v1/groups/:id/gradebook.csv',
    { config: ofInstructor, schema: { params: idParams, querystring: z.object({ names: z.enum(['yes', 'no']).default('yes') }) } },
    async (request, reply) =>
      reply
        .type('text/csv; charset=utf-8')
        .header('content-disposition', 'attachment; filename="gradebook.csv"')
        .send(await writeGradebook(signedIn(request), request.params.id, request.query.names === 'yes')),
  )
  app.get(
    '/api/v1/exercises',
    { config: ofStudent, schema: { response: { 200: z.object({ entries: z.array(exercise) }) } } },
    async (request) => ({ entries: await listExercises(signedIn(request)) }),
  )
  app.post(
    '/api/v1/exercises',
    { config: ofInstructor, schema: { body: exerciseCreate, response: { 201: exercise } } },
    async (request, reply) => reply.code(201).send(await giveExercise(signedIn(request), request.body)),
  )
  app.get('/api/v1/exercises/:id', { config: ofStudent, schema: { params: idParams, response: { 200: exercise } } }, async (request) =>
    findExercise(signedIn(request), request.params.id),
  )
  app.put(
    '/api/v1/exercises/:id',
    { config: ofInstructor, schema: { params: idParams, body: exerciseChange, response: { 200: exercise } } },
    async (request) => changeExercise(signedIn(request), request.params.id, request.body),
  )
  app.post(
    '/api/v1/exercises/:id/hand-back',
    { config: ofInstructor, schema: { params: idParams, body: exerciseHandBack, response: { 200: exercise } } },
    async (request) => handBack(signedIn(request), request.params.id, request.body),
  )
  app.post(
    '/api/v1/exercises/:id/run',
    { config: ofStudent, schema: { params: idParams, body: exerciseStart, response: { 201: run } } },
    async (request, reply) => {
      const begun = await startExercise(signedIn(request), request.params.id, request.body)
      live.wake()
      return reply.code(201).send(begun)
    },
  )
  app.get(
    '/api/v1/exercises/:id/results',
    { config: ofInstructor, schema: { params: idParams, response: { 200: exerciseResults } } },
    async (request) => findResults(signedIn(request), request.params.id),
  )
  app.get(
    '/api/v1/exercises/:id/own-result',
    { config: ofStudent, schema: { params: idParams, response: { 200: ownResult } } },
    async (request) => findOwnResult(signedIn(request), request.params.id),
  )
  app.post(
    '/api/v1/exercises/:id/marks',
    { config: ofInstructor, schema: { params: idParams, body: markCreate, response: { 201: studentResult } } },
    async (request, reply) => reply.code(201).send(await giveMark(signedIn(request), request.params.id, request.body)),
  )
  app.get(
    '/api/v1/exercises/:id/students/:studentId/page.pdf',
    { config: ofStudent, schema: { params: studentParams } },
    async (request, reply) => {
      const by = signedIn(request)
      const { id, studentId } = request.params
      const found = await findStudentResult(by, id, studentId)
      const { runId } = found.result
      const pictures = runId === null ? [] : await picturesForPdf(by.records, runId)
      const pdf = await heavyWork.run('writeResultPage', { ...found, kitchen: by.kitchen, pictures }, workFor(request, reply))
      return reply.type('application/pdf').header('content-disposition', 'inline; filename="marks.pdf"').send(Buffer.from(pdf))
    },
  )
}
