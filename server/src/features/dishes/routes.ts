import { dishNeed, dishNeedClose, dishNeedCreate } from '@fleam/contract/dishes'
import * as z from 'zod'
import { signedIn } from '../../http/access.ts'
import { idParams, type Routes } from '../routes.ts'
import { addDishNeed, closeDishNeed, listDishNeeds } from './service.ts'

/** Dishes that need a second product by a day. */
export const dishRoutes: Routes = (app) => {
  app.get(
    '/api/v1/dish-needs',
    { config: { access: 'cook' }, schema: { response: { 200: z.object({ entries: z.array(dishNeed) }) } } },
    async (request) => ({ entries: await listDishNeeds(signedIn(request)) }),
  )
  app.post(
    '/api/v1/dish-needs',
    { config: { access: 'lead' }, schema: { body: dishNeedCreate, response: { 201: dishNeed } } },
    async (request, reply) => reply.code(201).send(await addDishNeed(signedIn(request), request.body)),
  )
  app.post(
    '/api/v1/dish-needs/:id/close',
    { config: { access: 'lead' }, schema: { params: idParams, body: dishNeedClose, response: { 200: dishNeed } } },
    async (request) => closeDishNeed(signedIn(request), request.params.id, request.body),
  )
}
