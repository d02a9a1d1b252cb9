import {
  chosenKitchen,
  invitation,
  invitationCreate,
  invitationMade,
  join,
  kitchenCreate,
  place,
  sideBySide,
  sideBySideQuery,
} from '@fleam/contract/kitchens'
import { session } from '@fleam/contract/people'
import * as z from 'zod'
import { signedIn } from '../../http/access.ts'
import { keepToken, visitorOf } from '../../http/cookies.ts'
import { idParams, type Routes } from '../routes.ts'
import { attemptKey, moveSession } from '../session/service.ts'
import { sessionDays } from '../session/session-end.ts'
import { figuresSideBySide } from './figures.ts'
import { invite, joinKitchen, listInvitations, openKitchen, placesOf, takeBackInvitation, toPlace } from './places.ts'

/** Several kitchens by one sign-in. */
export const kitchensRoutes: Routes = (app, { db, attempts }) => {
  app.get(
    '/api/v1/kitchens',
    { config: { access: 'student' }, schema: { response: { 200: z.object({ entries: z.array(place) }) } } },
    async (request) => ({ entries: (await placesOf(db, signedIn(request))).map(toPlace) }),
  )
  app.get(
    '/api/v1/kitchens/figures',
    { config: { access: 'student' }, schema: { querystring: sideBySideQuery, response: { 200: sideBySide } } },
    async (request) => figuresSideBySide(db, signedIn(request), request.query),
  )
  app.post(
    '/api/v1/kitchens',
    { config: { access: 'manager' }, schema: { body: kitchenCreate, response: { 201: place } } },
    async (request, reply) => reply.code(201).send(await openKitchen(db, signedIn(request), request.body, request.ip)),
  )
  app.post(
    '/api/v1/kitchens/join',
    { config: { access: 'student' }, schema: { body: join, response: { 201: place } } },
    async (request, reply) => {
      const { person, kitchen, sessionId } = signedIn(request)
      // a found session is no way to try codes
      const key = attemptKey(kitchen.id, { id: sessionId }, person.name)
      await attempts.begin(key, undefined)
      const joined = await joinKitchen(db, signedIn(request), request.body.code, request.ip)
      await attempts.forget(key)
      return reply.code(201).send(joined)
    },
  )
  app.put(
    '/api/v1/session/kitchen',
    { config: { access: 'student' }, schema: { body: chosenKitchen, response: { 200: session } } },
    async (request, reply) => {
      const moved = await moveSession(db, signedIn(request), request.body.kitchenId, visitorOf(request))
      keepToken('session', request, reply, moved.token, sessionDays)
      return moved.session
    },
  )
  app.get(
    '/api/v1/invitations',
    { config: { access: 'manager' }, schema: { response: { 200: z.object({ entries: z.array(invitation) }) } } },
    async (request) => ({ entries: await listInvitations(signedIn(request)) }),
  )
  app.post(
    '/api/v1/invitations',
    { config: { access: 'manager' }, schema: { body: invitationCreate, response: { 201: invitationMade } } },
    async (request, reply) => reply.code(201).send(await invite(signedIn(request), request.body, request.ip)),
  )
  app.delete(
    '/api/v1/invitations/:id',
    { config: { access: 'manager' }, schema: { params: idParams, response: { 204: z.null() } } },
    async (request, reply) => {
      await takeBackInvitation(signedIn(request), request.params.id)
      return reply.code(204).send(null)
    },
  )
}
