import { randomUUID } from 'node:crypto'
import { connect } from 'node:net'
import { join } from 'node:path'
import { buildApp } from '../src/app.ts'
import { openHeavyWork } from '../src/heavy-work.ts'
import { takeTurns } from '../src/turns.ts'
import { stockedKitchen } from './kitchen.ts'

const { test_, kitchen } = stockedKitchen()
const round = Array.from({ length: 40 }, (_, index) => ({ cm: index * 5, girthCm: 30 }))
/** A plan of two metres in the finest steps that are taken for it, with as many kinds as are taken. */
const endless = {
  stations: round,
  grams: 20_000,
  types: Array.from({ length: 12 }, (_, index) => ({
    id: `kind ${index}`,
    value: 5 + index / 10,
    targetGrams: 180 + index,
    minGrams: 20,
    maxGrams: 900,
    minCm: 0.1,
    maxCm: 100,
    minDiameterCm: 0,
  })),
  stepCm: 0.04,
}

test('a calculation that takes too long is stopped, with a word about what to ask for; others go on', async () => {
  const heavyWork = openHeavyWork(join(__dirname, '../dist/heavy-work-thread.js'), test_.url)
  const small = { pieces: [100, 110, 120, 130], perPortion: 2 }
  await expect(heavyWork.run('bestMix', endless as never, { limitMs: 50 })).rejects.toMatchObject({ kind: 'too-much-work' })
  await expect(heavyWork.run('pairPieces', small)).resolves.toMatchObject({ spreadGrams: 0 })
  const gone = new AbortController()
  const given = heavyWork.run('bestMix', endless as never, { signal: gone.signal })
  gone.abort()
  await expect(given).rejects.toThrow()
  await expect(heavyWork.run('pairPieces', small)).resolves.toMatchObject({ spreadGrams: 0 })
  await heavyWork.close()
})

test('people take turns: one who asks for much does not keep another waiting behind all of it', async () => {
  const turns = takeTurns({ atOnce: 1, mostWaiting: 5, refuse: () => new Error('too much') })
  const order: string[] = []
  const work = async (owner: string, name: string) => {
    const leave = await turns.take(owner)
    order.push(name)
    await new Promise((resolve) => setTimeout(resolve, 5))
    leave()
  }
  const first = [1, 2, 3, 4].map((count) => work('greedy', `greedy ${count}`))
  await Promise.all([...first, work('other', 'other 1'), work('third', 'third 1'), work('other', 'other 2')])
  expect(order).toEqual(['greedy 1', 'greedy 2', 'other 1', 'third 1', 'greedy 3', 'other 2', 'greedy 4'])
  const held = await turns.take('x')
  const waiting = Array.from({ length: 5 }, () => turns.take('x'))
  await expect(turns.take('x')).rejects.toThrow('too much')
  held()
  for (const one of waiting) (await one)()
})

test('what is too long for its route is refused by its size, whoever sends it', async () => {
  const what = { kind: 'cold', out: true, padding: 'x'.repeat(250_000) }
  const answer = await kitchen.cook.ask('POST', `/runs/${randomUUID()}/bench-events`, {
    id: randomUUID(),
    what,
    at: new Date().toISOString(),
  })
  expect([answer.status, answer.body.type]).toEqual([413, 'urn:fleam:problem:too-large'])
})

test('more writes than anyone makes are refused for a while; reading goes on', async () => {
  const heavyWork = { run: async () => ({}) as never, close: async () => undefined }
  const app = await buildApp({ db: test_.db, heavyWork, guards: { writesPerMinute: 5 } })
  const send = (cookie: string) => app.inject({ method: 'POST', url: '/api/v1/profiles', headers: { cookie }, payload: {} })
  const statuses = []
  for (let writes = 0; writes < 7; writes += 1) statuses.push((await send(kitchen.cook.cookie)).statusCode)
  expect(statuses).toEqual([400, 400, 400, 400, 400, 429, 429])
  expect(Number((await send(kitchen.cook.cookie)).headers['retry-after'])).toBeGreaterThan(0)
  expect((await send(kitchen.lead.cookie)).statusCode).toBe(400)
  expect((await app.inject({ url: '/api/v1/runs', headers: { cookie: kitchen.cook.cookie } })).statusCode).toBe(200)
  await app.close()
})

test('a list of one line with 50,000 spaces, or of 60,000 columns, is refused at once', async () => {
  const open = (text: string) => kitchen.manager.ask('POST', '/price-lists/open', { supplierId: kitchen.supplierId, text, separator: '' })
  for (const text of [`article,price\nLoin,1${' '.repeat(50_000)}x\n`, `${'c,'.repeat(60_000)}d\n${'1,'.repeat(60_000)}2\n`]) {
    const from = Date.now()
    const answer = await open(text)
    expect([answer.status, answer.body.errors?.[0]?.field]).toEqual([400, 'text'])
    expect(Date.now() - from).toBeLessThan(20_000)
  }
})

test('a stream carries the headers of every answer', async () => {
  const url = new URL(await test_.app.listen({ port: 0, host: '127.0.0.1' }))
  const socket = connect(Number(url.port), '127.0.0.1')
  socket.write(`GET /api/v1/live HTTP/1.1\r\nhost: ${url.host}\r\ncookie: ${kitchen.cook.cookie}\r\n\r\n`)
  const head = await new Promise<string>((resolve) => socket.once('data', (chunk) => resolve(String(chunk))))
  expect(head).toContain('x-content-type-options: nosniff')
  expect(head).toContain('content-type: text/event-stream')
  socket.destroy()
})
