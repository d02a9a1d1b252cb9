import { demo, door, session, signIn } from '@fleam/contract/people'
import * as z from 'zod'
import { signedIn } from '../../http/access.ts'
import { forgetToken, keepToken, tokenOf, visitorOf } from '../../http/cookies.ts'
import { ProblemError } from '../../http/problems.ts'
import type { Routes } from '../routes.ts'
import { needsSetup } from '../setup/service.ts'
import { peopleOnTablet, tabletOf } from '../tablets/service.ts'
import { asksKitchen, asSession, closeSession, listDemoPeople, openSession } from './service.ts'
import { sessionDays } from './session-end.ts'

export const sessionRoutes: Routes = (app, { db, attempts }) => {
  app.get('/api/v1/door', { config: { access: 'public' }, schema: { response: { 200: door } } }, async (request) => {
    const tablet = await tabletOf(db, tokenOf('tablet', request))
    return {
      needsSetup: await needsSetup(db),
      asksKitchen: !tablet && (await asksKitchen(db)),
      tablet: tablet && (await peopleOnTablet(db, tablet)),
    }
  })
  app.post(
    '/api/v1/session',
    { config: { access: 'public' }, schema: { body: signIn, response: { 201: session } } },
    async (request, reply) => {
      const opened = await openSession(db, attempts, request.body, visitorOf(request))
      keepToken('session', request, reply, opened.token, sessionDays)
      return reply.code(201).send(opened.session)
    },
  )
  app.get('/api/v1/session', { config: { access: 'student' }, schema: { response: { 200: session } } }, async (request) =>
    asSession(signedIn(request)),
  )
  app.delete('/api/v1/session', { config: { access: 'public' }, schema: { response: { 204: z.null() } } }, async (request, reply) => {
    await closeSession(db, visitorOf(request))
    forgetToken('session', request, reply)
    return reply.code(204).send(null)
  })
  app.get('/api/v1/demo', { config: { access: 'public' }, schema: { response: { 200: demo } } }, async () => {
    const people = await listDemoPeople(db)
    if (people.length === 0) throw new ProblemError('not-found', { detail: 'This kitchen does not hold demo data.' })
    return { people }
  })
}
