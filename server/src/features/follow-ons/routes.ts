import {
  cookingTest,
  followOn,
  followOnCheck,
  followOnCreate,
  followOnDiscard,
  followOnFinish,
  followOnSheetChange,
  followOnSheetCreate,
  followOnSheetEntry,
  followOnWeighing,
  savedValue,
} from '@fleam/contract/follow-ons'
import * as z from 'zod'
import { signedIn } from '../../http/access.ts'
import { found } from '../../http/changes.ts'
import { idParams, type Routes } from '../routes.ts'
import { checkFollowOn, discardFollowOn, findFollowOn, finishFollowOn, listFollowOns, startFollowOn, weighFollowOn } from './service.ts'
import { changeSheet, createSheet, listCookingTests, listSavedValues, listSheets } from './sheets.ts'

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
    '/api/v1/follow-ons/:id/checks',
    { config: { access: 'cook' }, schema: { params: idParams, body: followOnCheck, response: { 201: followOn } } },
    async (request, reply) => reply.code(201).send(await checkFollowOn(signedIn(request), request.params.id, request.body)),
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
  const sheet = { 200: followOnSheetEntry }
  app.get(
    '/api/v1/follow-on-sheets',
    { config: { access: 'cook' }, schema: { response: { 200: z.object({ entries: z.array(followOnSheetEntry) }) } } },
    async (request) => ({ entries: await listSheets(signedIn(request)) }),
  )
  app.post(
    '/api/v1/follow-on-sheets',
    { config: { access: 'lead' }, schema: { body: followOnSheetCreate, response: { 201: followOnSheetEntry } } },
    async (request, reply) => reply.code(201).send(await createSheet(signedIn(request), request.body)),
  )
  app.put(
    '/api/v1/follow-on-sheets/:id',
    { config: { access: 'lead' }, schema: { params: idParams, body: followOnSheetChange, response: sheet } },
    async (request) => changeSheet(signedIn(request), request.params.id, request.body),
  )
  app.get(
    '/api/v1/cooking-tests',
    { config: { access: 'cook' }, schema: { response: { 200: z.object({ entries: z.array(cookingTest) }) } } },
    async (request) => ({ entries: await listCookingTests(signedIn(request).records) }),
  )
  app.get(
    '/api/v1/saved-values',
    { config: { access: 'cook' }, schema: { response: { 200: z.object({ entries: z.array(savedValue) }) } } },
    async (request) => ({ entries: await listSavedValues(signedIn(request).records) }),
  )
}
