import { eyeQuery, guessCreate, trainedEye } from '@fleam/contract/practice'
import { signedIn } from '../../http/access.ts'
import type { Routes } from '../routes.ts'
import { findEye, keepGuess } from './service.ts'

/** What people practise. */
export const practiceRoutes: Routes = (app) => {
  app.get(
    '/api/v1/practice/eye',
    { config: { access: 'cook' }, schema: { querystring: eyeQuery, response: { 200: trainedEye } } },
    async (request) => findEye(signedIn(request), request.query.person),
  )
  app.post(
    '/api/v1/practice/eye',
    { config: { access: 'cook' }, schema: { body: guessCreate, response: { 201: trainedEye } } },
    async (request, reply) => reply.code(201).send(await keepGuess(signedIn(request), request.body)),
  )
}
