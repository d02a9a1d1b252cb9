import { followOn, followOnCreate, followOnDiscard, followOnFinish, followOnWeighing } from '@fleam/contract/follow-ons'
import * as z from 'zod'
import { signedIn } from '../../http/access.ts'
import { found } from '../../http/changes.ts'
import { idParams, type Routes } from '../routes.ts'
import { discardFollowOn, findFollowOn, finishFollowOn, listFollowOns, startFollowOn, weighFollowOn } from './service.ts'

/** What is made of what came off. */
export const followOnRoutes: Routes = (app) => {
  const answer = { 200: followOn }
  app.get(
    '/api/v1/follow-ons',
    { config: { access: 'cook' }, schema: { response: { 200: z.object({ entries: z.array(followOn) }) } } },
    async (request) => ({ entries: await listFollowOns(signedIn(request).records) }),
  )
  app.get('/api/v1/follow-ons/:id', { config: { access: 'cook' }, schema: { params: idParams, response: answer } }, async (request) =>
    found(await findFollowOn(signedIn(request).records, request.params.id)),
  )
  app.post(
    '/api/v1/follow-ons',
    { config: { access: 'cook' }, schema: { body: followOnCreate, response: { 201: followOn } } },
    async (request, reply) => reply.code(201).send(await startFollowOn(signedIn(request), request.body)),
  )
  app.post(
    '/api/v1/follow-ons/:id/weighings',
    { config: { access: 'cook' }, schema: { params: idParams, body: followOnWeighing, response: { 201: followOn } } },
    async (request, reply) => reply.code(201).send(await weighFollowOn(signedIn(request), request.params.id, request.body)),
  )
  app.post(
    '/api/v1/follow-ons/:id/finish',
    { config: { access: 'cook' }, schema: { params: idParams, body: followOnFinish, response: answer } },
    async (request) => finishFollowOn(signedIn(request), request.params.id, request.body),
  )
  app.post(
    '/api/v1/follow-ons/:id/discard',
    { config: { access: 'cook' }, schema: { params: idParams, body: followOnDiscard, response: answer } },
    async (request) => discardFollowOn(signedIn(request), request.params.id, request.body),
  )
}
