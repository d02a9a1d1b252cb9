import { createServer, type IncomingMessage, type ServerResponse } from 'node:http'
import { order as orderSchema } from '@fleam/contract/ordering'
import { InputError } from '@fleam/core/input-error'
import type { DeliveryNote, Order } from '@fleam/core/ordering/order'
import { readUblOrder, writeUblDespatchAdvice } from '@fleam/core/ordering/ubl'
import { toSVG } from 'bwip-js/node'
import * as z from 'zod'
import { answerJson, isForeign, listen, readJson } from '../simulated-page.ts'
import { deliver } from './deliver.ts'
import { goods, gtinOf, priceListOn, priceOn } from './goods.ts'
import { supplierPage } from './page.ts'

const behave = z.object({
  shortShare: z.number().min(0).max(1).optional(),
  daysOn: z.int().min(-1000).max(1000).optional(),
  isOnline: z.boolean().optional(),
})
const mostOrderBytes = 1024 * 1024
const ordersKept = 100
const dayMs = 86_400_000

interface Options {
  host: string
  /** Where it serves its price list and takes orders. */
  port: number
  /** Where its page is. */
  pagePort: number
}

/** A supplier of our own making: a price list that moves with the season, orders taken, delivery notes that can be short. */
export async function serveSimulatedSupplier({ host, port, pagePort }: Options): Promise<{ close(): Promise<void> }> {
  let notes: DeliveryNote[] = []
  let last = 0
  let shortShare = 0.25
  let daysOn = 0
  let isOnline = true
  const today = () => new Date(Date.now() + daysOn * dayMs)

  /** An order that was sent twice is one: its number is the kitchen's own. */
  function take(order: Order): DeliveryNote {
    const before = notes.find((note) => note.order === order.number && note.kitchen === order.kitchen)
    if (before) return before
    last += 1
    const note = deliver(order, last, { shortShare, day: today() })
    notes = [...notes, note].slice(-ordersKept)
    return note
  }

  async function takeOrder(request: IncomingMessage, response: ServerResponse): Promise<void> {
    const answer = answerJson(response)
    const text = await textOf(request)
    if (text === undefined) return void answer(413, { title: 'That order is over 1 MB.' })
    const isXml = (request.headers['content-type'] ?? '').includes('xml')
    try {
      const order = isXml ? orderSchema.parse(readUblOrder(text)) : readJson(orderSchema, text)
      if (!order) return void answer(400, { title: 'That is no order: see the formats in docs/ordering.md.' })
      const note = take(order)
      if (!isXml) return void answer(201, note)
      response.writeHead(201, { 'content-type': 'application/xml; charset=utf-8' }).end(writeUblDespatchAdvice(note))
    } catch (error) {
      if (!(error instanceof InputError || error instanceof z.ZodError)) throw error
      answer(400, { title: error instanceof InputError ? error.message : 'That order lacks something.' })
    }
  }

  const state = () => ({
    shortShare,
    daysOn,
    isOnline,
    day: today().toISOString().slice(0, 10),
    goods: goods.map((one) => ({ article: one.article, unit: one.unit, gtin: gtinOf(one), price: priceOn(one, today()) })),
    notes: [...notes].reverse(),
  })

  const trade = createServer((request, response) => {
    if (!isOnline) return void request.socket.destroy()
    const { method, url = '/' } = request
    if (method === 'GET' && url === '/prices.csv')
      return void response.writeHead(200, { 'content-type': 'text/csv; charset=utf-8' }).end(priceListOn(today()))
    if (method === 'POST' && url === '/orders') return void takeOrder(request, response).catch(() => response.destroy())
    return void answerJson(response)(404, { title: 'This supplier has /prices.csv, and takes orders at /orders.' })
  })
  const page = createServer(async (request, response) => {
    const answer = answerJson(response)
    const { method, url = '/' } = request
    if (method === 'GET' && url === '/') return response.writeHead(200, { 'content-type': 'text/html; charset=utf-8' }).end(supplierPage)
    if (method === 'GET' && url === '/state') return answer(200, state())
    const [, noteNumber, line, box] = /^\/boxes\/(DN-\d{1,9})\/(\d{1,3})\/(\d{1,3})\.svg$/.exec(url) ?? []
    const code = notes.find(({ number }) => number === noteNumber)?.lines[Number(line)]?.boxes[Number(box)]?.code
    if (method === 'GET' && code !== undefined) {
      const drawn = toSVG({ bcid: 'gs1datamatrix', text: code, scale: 3 })
      return response.writeHead(200, { 'content-type': 'image/svg+xml' }).end(drawn)
    }
    if (isForeign(request)) return answer(403, { title: 'This request came from another site.' })
    if (method === 'POST' && url === '/behave') {
      const change = readJson(behave, (await textOf(request)) ?? '')
      if (!change) return answer(400, { title: 'Behave takes shortShare, daysOn and isOnline.' })
      shortShare = change.shortShare ?? shortShare
      daysOn = change.daysOn ?? daysOn
      isOnline = change.isOnline ?? isOnline
      return answer(200, state())
    }
    return answer(404, { title: 'There is no such thing at this supplier.' })
  })
  await listen(trade, port, host)
  await listen(page, pagePort, host)
  return {
    async close() {
      for (const server of [trade, page]) server.closeAllConnections()
      await Promise.all([trade, page].map((server) => new Promise((done) => server.close(done))))
    },
  }
}

/** A body as text; `undefined` where it is too long. */
async function textOf(request: IncomingMessage): Promise<string | undefined> {
  const chunks: Buffer[] = []
  let size = 0
  for await (const chunk of request) {
    size += chunk.length
    if (size > mostOrderBytes) return undefined
    chunks.push(chunk)
  }
  return Buffer.concat(chunks).toString('utf8')
}
