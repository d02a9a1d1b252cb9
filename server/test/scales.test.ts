import { connect, createServer, type Server } from 'node:net'
import { createInterface } from 'node:readline'
import { setTimeout as pause } from 'node:timers/promises'
import type { Run, Tub } from '@fleam/contract/runs'
import type { LiveReading } from '@fleam/contract/scales'
import { v7 as uuidv7 } from 'uuid'

import { serveSimulatedScale } from '../src/simulated-scale/main.ts'
import { readEvents } from './event-reader.ts'
import { openTestApp, runRequest, type Stocked, settings, stockKitchen, type TestApp } from './kitchen.ts'
import { freePort } from './processes.ts'

let test_: TestApp
let kitchen: Stocked
let url: string
let scale: { close(): Promise<void> }
let port: number
let page: string

beforeAll(async () => {
  test_ = await openTestApp()
  kitchen = await stockKitchen(test_)
  url = await test_.app.listen({ port: 0, host: '127.0.0.1' })
  port = await freePort()
  const pagePort = await freePort()
  page = `http://127.0.0.1:${pagePort}`
  scale = await serveSimulatedScale({ host: '127.0.0.1', port, pagePort })
  const change = { version: 1, name: 'Test kitchen', settings: { ...settings, scales: [{ name: 'Bench 1', host: '127.0.0.1', port }] } }
  expect((await kitchen.manager.ask('PUT', '/kitchen', change)).body.errors?.[0]?.field).toBe('scalesConfirmed')
  expect((await kitchen.manager.ask('PUT', '/kitchen', { ...change, scalesConfirmed: true })).status).toBe(200)
})
afterAll(async () => {
  await scale.close()
  await test_.close()
})

const post = (path: string, body?: object) => fetch(`${page}${path}`, { method: 'POST', body: JSON.stringify(body ?? {}) })

async function steadyAt(grams: number): Promise<LiveReading> {
  const reader = await readEvents(`${url}/api/v1/scales/1/live`, kitchen.cook.cookie)
  try {
    for (;;) {
      const reading = (await reader.next('reading')).data as LiveReading
      if (reading.state === 'steady' && Math.abs(reading.tenths / 10 - grams) < 1) return reading
    }
  } finally {
    reader.close()
  }
}

test('the bench reads the kitchen’s scale in tenths of a gram, whatever unit it shows', async () => {
  expect((await kitchen.cook.ask('GET', '/scales')).body).toEqual({ entries: [{ id: '1', name: 'Bench 1', isSimulated: false }] })
  await post('/things', { name: 'a steak', grams: 184.3 })
  const inGrams = await steadyAt(184.3)
  expect(Math.abs(inGrams.tenths - 1843)).toBeLessThanOrEqual(3)
  await post('/behave', { unit: 'oz' })
  expect(Math.abs((await steadyAt(184.3)).tenths - 1843)).toBeLessThanOrEqual(3)
  await post('/behave', { unit: 'g' })
  await fetch(`${page}/things`, { method: 'DELETE' })
})

test('tare is sent to the scale', async () => {
  await post('/things', { name: 'a tub', grams: 412 })
  await steadyAt(412)
  expect((await kitchen.cook.ask('POST', '/scales/1/commands', { do: 'tare' })).status).toBe(204)
  const empty = await steadyAt(0)
  expect(Math.abs(empty.tareTenths - 4120)).toBeLessThanOrEqual(3)
  await kitchen.cook.ask('POST', '/scales/1/commands', { do: 'clear-tare' })
  await fetch(`${page}/things`, { method: 'DELETE' })
})

test('two tablets on one scale take a piece once, and one that comes back knows that it was taken', async () => {
  const run = (await kitchen.lead.ask('POST', '/runs', runRequest(kitchen))).body as unknown as Run
  const [steaks, head] = run.tubs as [Tub, Tub]
  await post('/things', { name: 'a steak', grams: 184.3 })
  const [one, two] = [await steadyAt(184.3), await steadyAt(184.3)]
  expect(two.load).toEqual(one.load)
  const taking = (tubId: string) => ({
    id: uuidv7(),
    tubId,
    weight: '184.3 g',
    weighedAt: new Date().toISOString(),
    load: { id: one.load.id, tenths: one.tenths },
  })
  const mine = taking(steaks.id)
  const [first, again, second] = [
    await kitchen.cook.ask('POST', `/runs/${run.id}/weighings`, mine),
    await kitchen.cook.ask('POST', `/runs/${run.id}/weighings`, mine),
    await kitchen.lead.ask('POST', `/runs/${run.id}/weighings`, taking(head.id)),
  ]
  expect([first.status, again.status, second.status]).toEqual([201, 201, 409])
  expect(second.body).toMatchObject({ type: 'urn:fleam:problem:load-taken', detail: expect.stringContaining(steaks.name) })
  const back = await steadyAt(184.3)
  expect(back.load).toMatchObject({ takenTenths: one.tenths, wasThere: false })
  expect(((await kitchen.cook.ask('GET', `/runs/${run.id}`)).body as unknown as Run).weighings).toHaveLength(1)
  await fetch(`${page}/things`, { method: 'DELETE' })
})

test('of many who take one load at the same moment one has it', async () => {
  const run = (await kitchen.lead.ask('POST', '/runs', runRequest(kitchen))).body as unknown as Run
  const load = { id: uuidv7(), tenths: 1843 }
  const weighedAt = new Date().toISOString()
  const answers = await Promise.all(
    Array.from({ length: 12 }, () =>
      kitchen.cook.ask('POST', `/runs/${run.id}/weighings`, {
        id: uuidv7(),
        tubId: run.tubs[0]?.id ?? '',
        weight: '184.3 g',
        weighedAt,
        load,
      }),
    ),
  )
  expect(answers.map(({ status }) => status).sort()).toEqual([201, ...new Array(11).fill(409)])
})

test('a scale that is unplugged is said to be lost, and found again', async () => {
  const reader = await readEvents(`${url}/api/v1/scales/1/live`, kitchen.cook.cookie)
  await reader.next('reading')
  await post('/behave', { isConnected: false })
  expect((await reader.next('lost')).data).toEqual({ why: expect.stringMatching(/scale/) })
  reader.close()
  expect((await kitchen.cook.ask('POST', '/scales/1/commands', { do: 'tare' })).body.type).toBe('urn:fleam:problem:scale-away')
  await post('/behave', { isConnected: true })
  await steadyAt(0)
})

test('the scale takes nonsense without falling over', async () => {
  const socket = connect(port, '127.0.0.1')
  socket.write('{"do":"explode"}\nnot json\n\u0000\n')
  const lines = createInterface({ input: socket })[Symbol.asyncIterator]()
  expect(JSON.parse((await lines.next()).value ?? '')).toMatchObject({ kind: 'scale', protocol: 1 })
  expect(JSON.parse((await lines.next()).value ?? '')).toMatchObject({ kind: 'reading', unit: 'g' })
  socket.destroy()
  expect((await post('/things', { name: '', grams: -1 })).status).toBe(400)
  expect((await post('/behave', { noiseGrams: 'much' })).status).toBe(400)
})

test('a scale beyond the kitchen’s own network is refused', async () => {
  const scales = [{ name: 'Elsewhere', host: '203.0.113.9', port: 4000 }]
  const refused = await kitchen.manager.ask('PUT', '/kitchen', { version: 2, name: 'Test kitchen', settings: { ...settings, scales } })
  expect(refused.body.errors?.[0]?.field).toBe('settings.scales.0.host')
})

test('Fleam’s own port and the database’s are no scales; what is no scale is refused alike, whether it is open, shut or something else', async () => {
  const { version, settings: now } = (await kitchen.manager.ask('GET', '/kitchen')).body as unknown as {
    version: number
    settings: typeof settings
  }
  const set = (scales: object[]) =>
    kitchen.manager.ask('PUT', '/kitchen', { version, name: 'Test kitchen', settings: { ...now, scales }, scalesConfirmed: true })
  for (const own of [Number(new URL(url).port), Number(test_.db.sequelize.config.port)]) {
    const refused = await set([...now.scales, { name: 'Not one', host: '127.0.0.1', port: own }])
    expect([refused.status, refused.body.errors?.[0]?.field]).toEqual([400, 'settings.scales.1.port'])
  }
  const silent = createServer((socket) => socket.on('error', () => undefined)).listen(0, '127.0.0.1')
  const chatty = createServer((socket) => {
    socket.on('error', () => undefined)
    socket.write('220 mail at your service\r\n')
  }).listen(0, '127.0.0.1')
  const portOf = (server: Server) => (server.address() as { port: number }).port
  await pause(50)
  const addresses = [portOf(silent), portOf(chatty), await freePort()].map((one) => ({ name: `At ${one}`, host: '127.0.0.1', port: one }))
  expect((await set([...now.scales, ...addresses])).status).toBe(200)
  const answers = await Promise.all(
    ['2', '3', '4'].map(async (id) => {
      const from = Date.now()
      const { status, body } = await kitchen.cook.ask('POST', `/scales/${id}/commands`, { do: 'tare' })
      return [status, (body as unknown as { detail: string }).detail, Math.round((Date.now() - from) / 500)]
    }),
  )
  expect(answers[1]).toEqual(answers[0])
  expect(answers[2]).toEqual(answers[0])
  expect(answers[0]?.[0]).toBe(502)
  silent.close()
  chatty.close()
})
