import { item, itemChange, itemCreate, quote, quoteCreate, supplier, supplierChange, supplierCreate } from '@fleam/contract/prices'
import { pageOf, pageQuery } from '@fleam/contract/primitives'
import { signedIn } from '../../http/access.ts'
import { pageFrom, readCursor } from '../../http/paging.ts'
import { idParams, type Routes } from '../routes.ts'
import { addQuote, changeItem, changeSupplier, createItem, createSupplier, listItems, listQuotes, listSuppliers } from './service.ts'

export const priceRoutes: Routes = (app, { db }) => {
  app.get(
    '/api/v1/suppliers',
    { config: { access: 'cook' }, schema: { querystring: pageQuery, response: { 200: pageOf(supplier) } } },
    async (request) => {
      const { cursor, limit } = request.query
      const after = String(readCursor(cursor)?.after ?? '')
      const suppliers = await listSuppliers(db, signedIn(request).kitchen.id, after, limit + 1)
      return pageFrom(
        suppliers,
        limit,
        (entry) => entry,
        (entry) => ({ after: entry.name, id: entry.id }),
      )
    },
  )
  app.post(
    '/api/v1/suppliers',
    { config: { access: 'manager' }, schema: { body: supplierCreate, response: { 201: supplier } } },
    async (request, reply) => reply.code(201).send(await createSupplier(db, signedIn(request), request.body)),
  )
  app.put(
    '/api/v1/suppliers/:id',
    { config: { access: 'manager' }, schema: { params: idParams, body: supplierChange, response: { 200: supplier } } },
    async (request) => changeSupplier(db, signedIn(request), request.params.id, request.body),
  )
  app.get(
    '/api/v1/items',
    { config: { access: 'cook' }, schema: { querystring: pageQuery, response: { 200: pageOf(item) } } },
    async (request) => {
      const { cursor, limit } = request.query
      const after = String(readCursor(cursor)?.after ?? '')
      const items = await listItems(db, signedIn(request).kitchen.id, after, limit + 1)
      return pageFrom(
        items,
        limit,
        (entry) => entry,
        (entry) => ({ after: entry.name, id: entry.id }),
      )
    },
  )
  app.post(
    '/api/v1/items',
    { config: { access: 'manager' }, schema: { body: itemCreate, response: { 201: item } } },
    async (request, reply) => reply.code(201).send(await createItem(db, signedIn(request), request.body)),
  )
  app.put(
    '/api/v1/items/:id',
    { config: { access: 'manager' }, schema: { params: idParams, body: itemChange, response: { 200: item } } },
    async (request) => changeItem(db, signedIn(request), request.params.id, request.body),
  )
  app.get(
    '/api/v1/items/:id/quotes',
    { config: { access: 'cook' }, schema: { params: idParams, querystring: pageQuery, response: { 200: pageOf(quote) } } },
    async (request) => {
      const { cursor, limit } = request.query
      const offset = Number(readCursor(cursor)?.after ?? 0)
      const quotes = await listQuotes(db, signedIn(request).kitchen.id, request.params.id, offset + limit + 1)
      return pageFrom(
        quotes.slice(offset),
        limit,
        (entry) => entry,
        (entry) => ({ after: offset + limit, id: entry.id }),
      )
    },
  )
  app.post(
    '/api/v1/items/:id/quotes',
    { config: { access: 'manager' }, schema: { params: idParams, body: quoteCreate, response: { 201: quote } } },
    async (request, reply) => reply.code(201).send(await addQuote(db, signedIn(request), request.params.id, request.body)),
  )
}
