import { kitchenOrder, orderCreate } from '@fleam/contract/ordering'
import { writeUblOrder } from '@fleam/core/ordering/ubl'
import * as z from 'zod'
import { signedIn } from '../../http/access.ts'
import { found } from '../../http/changes.ts'
import { idParams, type Routes } from '../routes.ts'
import { noteExchange } from '../security/security-events.ts'
import { createOrder, findOrder, listOrders, orderCsv, orderOf, sendOrder } from './service.ts'

/** Orders to suppliers: as files, and sent where a supplier takes them. */
export const orderRoutes: Routes = (app, { simulatedSupplier }) => {
  app.get(
    '/api/v1/orders',
    { config: { access: 'cook' }, schema: { response: { 200: z.object({ entries: z.array(kitchenOrder) }) } } },
    async (request) => ({ entries: await listOrders(signedIn(request).records) }),
  )
  app.get(
    '/api/v1/orders/:id',
    { config: { access: 'cook' }, schema: { params: idParams, response: { 200: kitchenOrder } } },
    async (request) => found(await findOrder(signedIn(request).records, request.params.id)),
  )
  app.post(
    '/api/v1/orders',
    { config: { access: 'lead' }, schema: { body: orderCreate, response: { 201: kitchenOrder } } },
    async (request, reply) => reply.code(201).send(await createOrder(signedIn(request), request.body)),
  )
  app.post(
    '/api/v1/orders/:id/send',
    { config: { access: 'lead' }, schema: { params: idParams, response: { 200: kitchenOrder } } },
    async (request) => sendOrder(signedIn(request), request.params.id, simulatedSupplier),
  )
  for (const { kind, type, write } of [
    { kind: 'csv', type: 'text/csv; charset=utf-8', write: orderCsv },
    { kind: 'xml', type: 'application/xml; charset=utf-8', write: writeUblOrder },
    { kind: 'json', type: 'application/json', write: (order: ReturnType<typeof orderOf>) => JSON.stringify(order, null, 2) },
  ]) {
    app.get(`/api/v1/orders/:id/order.${kind}`, { config: { access: 'cook' }, schema: { params: idParams } }, async (request, reply) => {
      const { records, kitchen } = signedIn(request)
      const order = orderOf(found(await findOrder(records, request.params.id)), kitchen)
      await noteExchange(request, 'exported', `order ${order.number} as ${kind.toUpperCase()}`)
      return reply.type(type).header('content-disposition', `attachment; filename="order-${order.number}.${kind}"`).send(write(order))
    })
  }
}
