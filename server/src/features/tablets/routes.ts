import { tablet, tabletCreate } from '@fleam/contract/people'
import * as z from 'zod'
import { signedIn } from '../../http/access.ts'
import { keepToken } from '../../http/cookies.ts'
import { idParams, type Routes } from '../routes.ts'
import { enrolTablet, letTabletGo, listTablets } from './service.ts'

/** A tablet that nobody lets go stays enrolled for as long as browsers keep a cookie. */
const tabletDays = 400

/** Devices that a manager has made the kitchen's own. */
export const tabletRoutes: Routes = (app) => {
  app.get(
    '/api/v1/tablets',
    { config: { access: 'manager' }, schema: { response: { 200: z.object({ entries: z.array(tablet) }) } } },
    async (request) => ({ entries: await listTablets(signedIn(request)) }),
  )
  app.post(
    '/api/v1/tablets',
    { config: { access: 'manager' }, schema: { body: tabletCreate, response: { 201: tablet } } },
    async (request, reply) => {
      const enrolled = await enrolTablet(signedIn(request), request.body, request.ip)
      keepToken('tablet', request, reply, enrolled.token, tabletDays)
      return reply.code(201).send(enrolled.tablet)
    },
  )
  app.delete(
    '/api/v1/tablets/:id',
    { config: { access: 'manager' }, schema: { params: idParams, response: { 204: z.null() } } },
    async (request, reply) => {
      await letTabletGo(signedIn(request), request.params.id, request.ip)
      return reply.code(204).send(null)
    },
  )
}
