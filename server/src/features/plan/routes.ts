import { measuredProfile, measuredProfileCreate, rest, usualShapes } from '@fleam/contract/plan'
import * as z from 'zod'
import { signedIn } from '../../http/access.ts'
import { idParams, type Routes } from '../routes.ts'
import { dropProfile, keepProfile, learnShapes, listProfiles, listRests } from './service.ts'

/** Measured pieces to use again, the usual shape of what this kitchen cuts, and what rests until it can be cut. */
export const planRoutes: Routes = (app, { heavyWork }) => {
  app.get(
    '/api/v1/profiles',
    { config: { access: 'cook' }, schema: { response: { 200: z.object({ entries: z.array(measuredProfile) }) } } },
    async (request) => ({ entries: await listProfiles(signedIn(request).records) }),
  )
  app.post(
    '/api/v1/profiles',
    { config: { access: 'cook' }, schema: { body: measuredProfileCreate, response: { 201: measuredProfile } } },
    async (request, reply) => reply.code(201).send(await keepProfile(signedIn(request), request.body)),
  )
  app.delete('/api/v1/profiles/:id', { config: { access: 'cook' }, schema: { params: idParams } }, async (request, reply) => {
    await dropProfile(signedIn(request), request.params.id)
    return reply.code(204).send(null)
  })
  app.get('/api/v1/usual-shapes', { config: { access: 'student' }, schema: { response: { 200: usualShapes } } }, async (request) =>
    learnShapes(signedIn(request).records, heavyWork),
  )
  app.get(
    '/api/v1/rests',
    { config: { access: 'cook' }, schema: { response: { 200: z.object({ entries: z.array(rest) }) } } },
    async (request) => ({ entries: await listRests(signedIn(request).records) }),
  )
}
