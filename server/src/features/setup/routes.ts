import { session, setup, setupState } from '@fleam/contract/people'
import type { Routes } from '../routes.ts'
import { setSessionCookie } from '../session/routes.ts'
import { openSession } from '../session/service.ts'
import { needsSetup, setUp } from './service.ts'

export const setupRoutes: Routes = (app, { db }) => {
  app.get('/api/v1/setup', { config: { access: 'public' }, schema: { response: { 200: setupState } } }, async () => ({
    needed: await needsSetup(db),
  }))
  app.post(
    '/api/v1/setup',
    { config: { access: 'public' }, schema: { body: setup, response: { 201: session } } },
    async (request, reply) => {
      await setUp(db, request.body)
      const opened = await openSession(db, request.body, request.ip)
      setSessionCookie(request, reply, opened.token)
      return reply.code(201).send(opened.session)
    },
  )
}
