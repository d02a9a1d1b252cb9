import {
  answerCreate,
  attempt,
  attemptCreate,
  attempts,
  guessCreate,
  pace,
  paceQuery,
  practised,
  practisedAnswer,
  progress,
  trainedEye,
  whoseQuery,
} from '@fleam/contract/practice'
import { signedIn } from '../../http/access.ts'
import type { Routes } from '../routes.ts'
import { findPace } from './pace.ts'
import { findProgress } from './progress.ts'
import { findAttempts, findEye, findPractised, keepAnswer, keepAttempt, keepGuess } from './service.ts'

const config = { access: 'student' } as const

/** What people practise. */
export const practiceRoutes: Routes = (app) => {
  app.get('/api/v1/practice/eye', { config, schema: { querystring: whoseQuery, response: { 200: trainedEye } } }, async (request) =>
    findEye(signedIn(request), request.query.person),
  )
  app.post('/api/v1/practice/eye', { config, schema: { body: guessCreate, response: { 201: trainedEye } } }, async (request, reply) =>
    reply.code(201).send(await keepGuess(signedIn(request), request.body)),
  )
  app.get('/api/v1/practice/answers', { config, schema: { querystring: whoseQuery, response: { 200: practised } } }, async (request) =>
    findPractised(signedIn(request), request.query.person),
  )
  app.post(
    '/api/v1/practice/answers',
    { config, schema: { body: answerCreate, response: { 201: practisedAnswer } } },
    async (request, reply) => reply.code(201).send(await keepAnswer(signedIn(request), request.body)),
  )
  app.get('/api/v1/practice/attempts', { config, schema: { querystring: whoseQuery, response: { 200: attempts } } }, async (request) =>
    findAttempts(signedIn(request), request.query.person),
  )
  app.get('/api/v1/practice/pace', { config, schema: { querystring: paceQuery, response: { 200: pace } } }, async (request) =>
    findPace(signedIn(request), request.query.person, request.query.sheet),
  )
  app.get('/api/v1/practice/progress', { config, schema: { querystring: whoseQuery, response: { 200: progress } } }, async (request) =>
    findProgress(signedIn(request), request.query.person),
  )
  app.post('/api/v1/practice/attempts', { config, schema: { body: attemptCreate, response: { 201: attempt } } }, async (request, reply) =>
    reply.code(201).send(await keepAttempt(signedIn(request), request.body)),
  )
}
