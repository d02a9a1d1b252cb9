import {
  fetchedList,
  fetchedListWithText,
  item,
  itemChange,
  itemCreate,
  priceListImport,
  priceListOpen,
  priceListOpened,
  priceListReport,
  priceMove,
  quote,
  quoteCreate,
  supplier,
  supplierChange,
  supplierCreate,
} from '@fleam/contract/prices'
import { pageOf, pageQuery } from '@fleam/contract/primitives'
import * as z from 'zod'
import { signedIn } from '../../http/access.ts'
import { nameCursor, pageFrom, readCursor } from '../../http/paging.ts'
import { workFor } from '../../http/work-for.ts'
import { idParams, type Routes } from '../routes.ts'
import { noteExchange } from '../security/security-events.ts'
import { changeItem, createItem, listItems } from './items.ts'
import { importPriceList, openPriceList } from './price-list.ts'
import { listPriceMoves } from './price-moves.ts'
import { findFetched, letGoOfFetched, listFetched } from './price-watch.ts'
import { addQuote, cursorOfQuote, listQuotes, quoteCursor } from './quotes.ts'
import { writeQuotesCsv } from './quotes-csv.ts'
import { changeSupplier, createSupplier, listSuppliers } from './suppliers.ts'

const largestList = 3 * 1024 * 1024

export const priceRoutes: Routes = (app, { heavyWork, priceWatch, simulatedSupplier }) => {
  app.get(
    '/api/v1/suppliers',
    { config: { access: 'cook' }, schema: { querystring: pageQuery, response: { 200: pageOf(supplier) } } },
    async (request) => {
      const { cursor, limit } = request.query
      const after = readCursor(cursor, nameCursor)?.after ?? ''
      const suppliers = await listSuppliers(signedIn(request).records, after, limit + 1)
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
    async (request, reply) => reply.code(201).send(await createSupplier(signedIn(request), request.body)),
  )
  app.put(
    '/api/v1/suppliers/:id',
    { config: { access: 'manager' }, schema: { params: idParams, body: supplierChange, response: { 200: supplier } } },
    async (request) => changeSupplier(signedIn(request), request.params.id, request.body),
  )
  app.get(
    '/api/v1/items',
    { config: { access: 'cook' }, schema: { querystring: pageQuery, response: { 200: pageOf(item) } } },
    async (request) => {
      const { cursor, limit } = request.query
      const after = readCursor(cursor, nameCursor)?.after ?? ''
      const items = await listItems(signedIn(request).records, after, limit + 1)
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
    async (request, reply) => reply.code(201).send(await createItem(signedIn(request), request.body)),
  )
  app.put(
    '/api/v1/items/:id',
    { config: { access: 'manager' }, schema: { params: idParams, body: itemChange, response: { 200: item } } },
    async (request) => changeItem(signedIn(request), request.params.id, request.body),
  )
  app.get(
    '/api/v1/items/:id/quotes',
    { config: { access: 'cook' }, schema: { params: idParams, querystring: pageQuery, response: { 200: pageOf(quote) } } },
    async (request) => {
      const { cursor, limit } = request.query
      const quotes = await listQuotes(signedIn(request).records, request.params.id, readCursor(cursor, quoteCursor), limit + 1)
      return pageFrom(quotes, limit, (entry) => entry, cursorOfQuote)
    },
  )
  app.post(
    '/api/v1/items/:id/quotes',
    { config: { access: 'manager' }, schema: { params: idParams, body: quoteCreate, response: { 201: quote } } },
    async (request, reply) => reply.code(201).send(await addQuote(signedIn(request), request.params.id, request.body)),
  )
  app.get(
    '/api/v1/price-moves',
    { config: { access: 'cook' }, schema: { response: { 200: z.object({ entries: z.array(priceMove) }) } } },
    async (request) => {
      const { kitchen, records } = signedIn(request)
      return { entries: await listPriceMoves(records, kitchen.settings.limits.priceMovePct) }
    },
  )
  app.get(
    '/api/v1/fetched-lists',
    {
      config: { access: 'manager' },
      schema: { response: { 200: z.object({ entries: z.array(fetchedList), hasSimulated: z.boolean() }) } },
    },
    async (request) => ({ entries: await listFetched(signedIn(request).records), hasSimulated: simulatedSupplier !== undefined }),
  )
  app.get(
    '/api/v1/fetched-lists/:id',
    { config: { access: 'manager' }, schema: { params: idParams, response: { 200: fetchedListWithText } } },
    async (request) => findFetched(signedIn(request).records, request.params.id),
  )
  app.post('/api/v1/fetched-lists/:id/let-go', { config: { access: 'manager' }, schema: { params: idParams } }, async (request, reply) => {
    await letGoOfFetched(signedIn(request).records, request.params.id)
    return reply.code(204).send()
  })
  app.post(
    '/api/v1/suppliers/:id/fetch',
    { config: { access: 'manager' }, schema: { params: idParams, response: { 200: fetchedList } } },
    async (request) => priceWatch.fetchNow(signedIn(request).records, request.params.id),
  )
  app.post(
    '/api/v1/price-lists/open',
    { config: { access: 'manager' }, bodyLimit: largestList, schema: { body: priceListOpen, response: { 200: priceListOpened } } },
    async (request, reply) =>
      openPriceList(signedIn(request).records, (list) => heavyWork.run('readCsv', list, workFor(request, reply)), request.body),
  )
  app.post(
    '/api/v1/price-lists',
    { config: { access: 'manager' }, bodyLimit: largestList, schema: { body: priceListImport, response: { 200: priceListReport } } },
    async (request, reply) =>
      importPriceList(signedIn(request), (list) => heavyWork.run('readCsv', list, workFor(request, reply)), request.body),
  )
  app.get('/api/v1/quotes.csv', { config: { access: 'cook' } }, async (request, reply) => {
    const { kitchen, records } = signedIn(request)
    await noteExchange(request, 'exported', 'prices as CSV')
    return reply
      .type('text/csv; charset=utf-8')
      .header('content-disposition', 'attachment; filename="prices.csv"')
      .send(await writeQuotesCsv(records, kitchen.settings.currency))
  })
}
