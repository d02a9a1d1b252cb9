import { demo, session, signIn } from '@fleam/contract/people'
import type { FastifyReply, FastifyRequest } from 'fastify'
import * as z from 'zod'
import { sessionCookie, signedIn } from '../../http/access.ts'
import { ProblemError } from '../../http/problems.ts'
import type { Routes } from '../routes.ts'
import { closeSession, listDemoPeople, openSession, sessionDays } from './service.ts'

export function setSessionCookie(request: FastifyRequest, reply: FastifyReply, token: string): void {
  reply.setCookie(sessionCookie, token, {
    path: '/',
    httpOnly: true,
    sameSite: 'strict',
    secure: request.protocol === 'https',
    maxAge: sessionDays * 86_400,
  })
}

export const sessionRoutes: Routes = (app, { db }) => {
  app.post(
    '/api/v1/session',
    { config: { access: 'public' }, schema: { body: signIn, response: { 201: session } } },
    async (request, reply) => {
      const opened = await openSession(db, request.body, request.ip)
      setSessionCookie(request, reply, opened.token)
      return reply.code(201).send(opened.session)
    },
  )
  app.get('/api/v1/session', { config: { access: 'cook' }, schema: { response: { 200: session } } }, async (request) => {
    const { person, kitchen } = signedIn(request)
    return { person, kitchen }
  })
  app.delete('/api/v1/session', { config: { access: 'public' }, schema: { response: { 204: z.null() } } }, async (request, reply) => {
    await closeSession(db, request.cookies[sessionCookie])
    return reply.clearCookie(sessionCookie, { path: '/' }).code(204).send(null)
  })
  app.get('/api/v1/demo', { config: { access: 'public' }, schema: { response: { 200: demo } } }, async () => {
    const people = await listDemoPeople(db)
    if (people.length === 0) throw new ProblemError('not-found', { detail: 'This kitchen does not hold demo data.' })
    return { people }
  })
}
