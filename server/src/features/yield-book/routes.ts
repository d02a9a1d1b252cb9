import { id } from '@fleam/contract/primitives'
import { mostTests, wayOfCutting, wayOfCuttingChange, yieldBookEntry, yieldTestRecord, yieldTestsQuery } from '@fleam/contract/yield-book'
import * as z from 'zod'
import { signedIn } from '../../http/access.ts'
import type { Routes } from '../routes.ts'
import { listTests, readYieldBook } from './service.ts'
import { changeWay, listWays } from './ways.ts'

const wayParams = z.object({ id, cutSheetId: id })

/** What the kitchen's finished runs lead one to expect, the tests that it rests on, and what the parts are worth. */
export const yieldBookRoutes: Routes = (app) => {
  app.get(
    '/api/v1/yield-book',
    { config: { access: 'student' }, schema: { response: { 200: z.object({ entries: z.array(yieldBookEntry) }) } } },
    async (request) => ({ entries: await readYieldBook(signedIn(request).records) }),
  )
  app.get(
    '/api/v1/yield-book/tests',
    {
      config: { access: 'cook' },
      schema: { querystring: yieldTestsQuery, response: { 200: z.object({ entries: z.array(yieldTestRecord) }) } },
    },
    async (request) => ({ entries: await listTests(signedIn(request).records, request.query, mostTests) }),
  )
  app.get(
    '/api/v1/ways-of-cutting',
    { config: { access: 'cook' }, schema: { response: { 200: z.object({ entries: z.array(wayOfCutting) }) } } },
    async (request) => ({ entries: await listWays(signedIn(request).records) }),
  )
  app.put(
    '/api/v1/items/:id/ways-of-cutting/:cutSheetId',
    { config: { access: 'lead' }, schema: { params: wayParams, body: wayOfCuttingChange, response: { 200: wayOfCutting } } },
    async (request) => changeWay(signedIn(request), request.params.id, request.params.cutSheetId, request.body),
  )
}
