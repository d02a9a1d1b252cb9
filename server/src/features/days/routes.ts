import { dayChange, dayCreate, kitchenDay, plannedDay } from '@fleam/contract/day'
import * as z from 'zod'
import { signedIn } from '../../http/access.ts'
import { found } from '../../http/changes.ts'
import { workFor } from '../../http/work-for.ts'
import { idParams, type Routes } from '../routes.ts'
import { planDay } from './plan-day.ts'
import { changeDay, createDay, dropDay, findDay, listDays } from './service.ts'

/** Each solve has ten seconds; one that takes them all is still answered. */
const mostPlanMs = 20_000

/** Days planned as a whole: who eats, what, what to buy for it and how to cut it. */
export const dayRoutes: Routes = (app, { heavyWork }) => {
  app.get(
    '/api/v1/days',
    { config: { access: 'cook' }, schema: { response: { 200: z.object({ entries: z.array(kitchenDay) }) } } },
    async (request) => ({ entries: await listDays(signedIn(request).records) }),
  )
  app.get(
    '/api/v1/days/:id',
    { config: { access: 'cook' }, schema: { params: idParams, response: { 200: kitchenDay } } },
    async (request) => found(await findDay(signedIn(request).records, request.params.id)),
  )
  app.post(
    '/api/v1/days',
    { config: { access: 'lead' }, schema: { body: dayCreate, response: { 201: kitchenDay } } },
    async (request, reply) => reply.code(201).send(await createDay(signedIn(request), request.body)),
  )
  app.put(
    '/api/v1/days/:id',
    { config: { access: 'lead' }, schema: { params: idParams, body: dayChange, response: { 200: kitchenDay } } },
    async (request) => changeDay(signedIn(request), request.params.id, request.body),
  )
  app.post(
    '/api/v1/days/:id/drop',
    { config: { access: 'lead' }, schema: { params: idParams, body: z.object({ dropped: z.boolean() }) } },
    async (request, reply) => {
      await dropDay(signedIn(request), request.params.id, request.body.dropped)
      return reply.code(204).send()
    },
  )
  app.post(
    '/api/v1/days/:id/plan',
    { config: { access: 'cook' }, schema: { params: idParams, response: { 200: plannedDay } } },
    async (request, reply) => {
      const by = signedIn(request)
      const day = found(await findDay(by.records, request.params.id))
      const work = { ...workFor(request, reply), limitMs: mostPlanMs }
      return planDay(by, day, (input) => heavyWork.run('planBuying', input, work))
    },
  )
}
