import { comparison, comparisonChange, comparisonCreate, comparisonDrop } from '@fleam/contract/compare'
import * as z from 'zod'
import { signedIn } from '../../http/access.ts'
import { idParams, type Routes } from '../routes.ts'
import { changeComparison, dropComparison, getComparison, keepComparison, listComparisons } from './service.ts'

/** Comparisons of cutting here with buying ready-cut that the kitchen keeps by name. */
export const compareRoutes: Routes = (app) => {
  app.get(
    '/api/v1/comparisons',
    { config: { access: 'cook' }, schema: { response: { 200: z.object({ entries: z.array(comparison) }) } } },
    async (request) => ({ entries: await listComparisons(signedIn(request).records) }),
  )
  app.get(
    '/api/v1/comparisons/:id',
    { config: { access: 'cook' }, schema: { params: idParams, response: { 200: comparison } } },
    async (request) => getComparison(signedIn(request).records, request.params.id),
  )
  app.post(
    '/api/v1/comparisons',
    { config: { access: 'cook' }, schema: { body: comparisonCreate, response: { 201: comparison } } },
    async (request, reply) => reply.code(201).send(await keepComparison(signedIn(request), request.body)),
  )
  app.put(
    '/api/v1/comparisons/:id',
    { config: { access: 'cook' }, schema: { params: idParams, body: comparisonChange, response: { 200: comparison } } },
    async (request) => changeComparison(signedIn(request), request.params.id, request.body),
  )
  app.post(
    '/api/v1/comparisons/:id/drop',
    { config: { access: 'cook' }, schema: { params: idParams, body: comparisonDrop, response: { 200: comparison } } },
    async (request) => dropComparison(signedIn(request), request.params.id, request.body),
  )
}
