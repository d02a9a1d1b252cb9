import { account, ownSecretChange, timeCodeConfirm, timeCodeOffer, timeCodeStart } from '@fleam/contract/people'
import * as z from 'zod'
import { signedIn } from '../../http/access.ts'
import { idParams, type Routes } from '../routes.ts'
import { askForTimeCode, changeOwnSecret, dropTimeCode, endOwnSession, findAccount, refuseWrongSecret } from './account.ts'
import { attemptKey } from './service.ts'
import { offerTimeCode } from './time-codes.ts'

const done = { response: { 204: z.null() } }

/** What a person sees and changes of their own way in. */
export const accountRoutes: Routes = (app, { attempts }) => {
  /** A found session is no way to try secrets either. */
  const counted = (request: Parameters<typeof signedIn>[0]) => {
    const { person, kitchen, sessionId } = signedIn(request)
    return attempts.begin(attemptKey(kitchen.id, { id: sessionId }, person.name), undefined)
  }
  app.get('/api/v1/account', { config: { access: 'student' }, schema: { response: { 200: account } } }, async (request) =>
    findAccount(signedIn(request)),
  )
  app.put(
    '/api/v1/account/secret',
    { config: { access: 'student' }, schema: { body: ownSecretChange, ...done } },
    async (request, reply) => {
      await counted(request)
      await changeOwnSecret(signedIn(request), request.body, request.ip)
      return reply.code(204).send(null)
    },
  )
  app.post(
    '/api/v1/account/time-code',
    { config: { access: 'student' }, schema: { body: timeCodeStart, response: { 200: timeCodeOffer } } },
    async (request) => {
      await counted(request)
      const { person, kitchen } = signedIn(request)
      await refuseWrongSecret(signedIn(request), request.body.current, request.ip)
      return offerTimeCode(person.name, kitchen.name)
    },
  )
  app.put(
    '/api/v1/account/time-code',
    { config: { access: 'student' }, schema: { body: timeCodeConfirm, ...done } },
    async (request, reply) => {
      await askForTimeCode(signedIn(request), request.body, request.ip)
      return reply.code(204).send(null)
    },
  )
  app.delete(
    '/api/v1/account/time-code',
    { config: { access: 'student' }, schema: { body: timeCodeStart, ...done } },
    async (request, reply) => {
      await counted(request)
      await dropTimeCode(signedIn(request), request.body.current, request.ip)
      return reply.code(204).send(null)
    },
  )
  app.delete(
    '/api/v1/account/sessions/:id',
    { config: { access: 'student' }, schema: { params: idParams, ...done } },
    async (request, reply) => {
      await endOwnSession(signedIn(request), request.params.id)
      return reply.code(204).send(null)
    },
  )
}
