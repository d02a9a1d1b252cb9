import { session, setup } from '@fleam/contract/people'
import { keepToken, visitorOf } from '../../http/cookies.ts'
import type { Routes } from '../routes.ts'
import { openSession } from '../session/service.ts'
import { sessionDays } from '../session/session-end.ts'
import { setUp } from './service.ts'

export const setupRoutes: Routes = (app, { db, attempts }) => {
  app.post(
    '/api/v1/setup',
    { config: { access: 'public' }, schema: { body: setup, response: { 201: session } } },
    async (request, reply) => {
      await setUp(db, request.body)
      const opened = await openSession(db, attempts, request.body, visitorOf(request))
      keepToken('session', request, reply, opened.token, sessionDays)
      return reply.code(201).send(opened.session)
    },
  )
}
