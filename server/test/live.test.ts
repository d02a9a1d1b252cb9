import { randomUUID } from 'node:crypto'
import type { Run } from '@fleam/contract/runs'
import { openDatabase } from '../src/db/database.ts'
import { type LiveChange, openLiveFeed } from '../src/live-feed.ts'
import { type EventReader, readEvents } from './event-reader.ts'
import { type Asker, openTestApp, rowsOf, runRequest, type Stocked, stockKitchen, type TestApp, weighingRequest } from './kitchen.ts'
import { until } from './processes.ts'

let test_: TestApp
let kitchen: Stocked
let other: Stocked
let url: string

beforeAll(async () => {
  test_ = await openTestApp()
  ;[kitchen, other] = await Promise.all([stockKitchen(test_), stockKitchen(test_, 'Another kitchen')])
  url = await test_.app.listen({ port: 0, host: '127.0.0.1' })
})
afterAll(() => test_.close())

async function startRun(stocked: Stocked): Promise<Run> {
  return (await stocked.cook.ask('POST', '/runs', runRequest(stocked))).body as unknown as Run
}
const weigh = (stocked: Stocked, run: Run, weight: string) =>
  stocked.cook.ask('POST', `/runs/${run.id}/weighings`, weighingRequest(run.tubs[0]?.id ?? '', weight))

async function listen(who: Asker, runId?: string, lastEventId?: string): Promise<EventReader> {
  const reader = await readEvents(`${url}/api/v1/live${runId ? `?runId=${runId}` : ''}`, who.cookie, lastEventId)
  await reader.next('ready')
  return reader
}
const weightIn = (data: unknown) => (data as { weighing: { tenths: number } }).weighing.tenths

test('every listener of the kitchen hears a weighing once; other kitchens hear nothing', async () => {
  const run = await startRun(kitchen)
  const theirs = await startRun(other)
  const [lead, manager, stranger] = await Promise.all([listen(kitchen.lead, run.id), listen(kitchen.manager), listen(other.cook)])
  await weigh(kitchen, run, '184 g')
  await weigh(kitchen, run, '176 g')
  await weigh(other, theirs, '99 g')
  for (const reader of [lead, manager]) {
    expect(weightIn((await reader.next('weighing')).data)).toBe(1840)
    expect(weightIn((await reader.next('weighing')).data)).toBe(1760)
  }
  expect(weightIn((await stranger.next('weighing')).data)).toBe(990)
  expect([lead, manager, stranger].map((reader) => reader.waiting('weighing'))).toEqual([0, 0, 0])
  for (const reader of [lead, manager, stranger]) reader.close()
})

test('one that comes back hears what it missed, and nothing twice', async () => {
  const run = await startRun(kitchen)
  const first = await listen(kitchen.lead, run.id)
  await weigh(kitchen, run, '100 g')
  const heard = await first.next('weighing')
  first.close()
  await weigh(kitchen, run, '200 g')
  await weigh(kitchen, run, '300 g')
  const again = await listen(kitchen.lead, run.id, heard.id)
  await weigh(kitchen, run, '400 g')
  const weights = []
  for (let count = 0; count < 3; count += 1) weights.push(weightIn((await again.next('weighing')).data))
  expect(weights).toEqual([2000, 3000, 4000])
  again.close()
})

test('what was stored by another copy of the server is heard too, late numbers included', async () => {
  const run = await startRun(kitchen)
  const reader = await listen(kitchen.lead, run.id)
  const { personId, kitchenId } = kitchen.cook
  const said = { entered: '', reversesId: null, pieceNumber: null, movedFromId: null, sentById: null, weighedAt: new Date() }
  const values = { runId: run.id, tubId: run.tubs[0]?.id ?? '', personId, ...said }
  const records = test_.db.of(kitchenId)
  let letGo: () => void = () => undefined
  const held = new Promise<void>((resolve) => {
    letGo = resolve
  })
  let isInserted: () => void = () => undefined
  const inserted = new Promise<void>((resolve) => {
    isInserted = resolve
  })
  const slow = records.transaction(async (tx) => {
    await tx.weighings.create({ ...values, id: randomUUID(), tenths: 111 })
    isInserted()
    await held
  })
  await inserted
  await records.weighings.create({ ...values, id: randomUUID(), tenths: 222 })
  expect(weightIn((await reader.next('weighing')).data)).toBe(222)
  letGo()
  await slow
  expect(weightIn((await reader.next('weighing')).data)).toBe(111)
  reader.close()
})

test('a tub that was added and a run that was finished are told', async () => {
  const run = await startRun(kitchen)
  const reader = await listen(kitchen.cook, run.id)
  await kitchen.cook.ask('POST', `/runs/${run.id}/tubs`, { id: randomUUID(), name: 'Marrow', role: 'byproduct' })
  expect((await reader.next('bench')).data).toMatchObject({ event: { what: { kind: 'changed', what: 'tubs' } } })
  await kitchen.cook.ask('POST', `/runs/${run.id}/bench-events`, {
    id: randomUUID(),
    what: { kind: 'step', step: 3 },
    at: new Date().toISOString(),
  })
  expect((await reader.next('bench')).data).toMatchObject({ runId: run.id, event: { what: { kind: 'step', step: 3 } } })
  reader.close()
})

test('nobody listens without a session', async () => {
  expect((await fetch(`${url}/api/v1/live`)).status).toBe(401)
})

test('a first read that fails leaves nobody deaf: the next who listens hears, and nothing of before is told again', async () => {
  const run = await startRun(kitchen)
  await weigh(kitchen, run, '100 g')
  const { acrossKitchens } = test_.db
  let isAway = true
  const findAll: typeof acrossKitchens.weighings.findAll = async (options) => {
    if (isAway) throw new Error('The database is away.')
    return acrossKitchens.weighings.findAll(options)
  }
  const flaky = { ...test_.db, acrossKitchens: { ...acrossKitchens, weighings: { ...acrossKitchens.weighings, findAll } } }
  const feed = openLiveFeed(flaky)
  const heard: number[] = []
  const listener = (change: LiveChange) => 'weighing' in change && heard.push(change.weighing.tenths)
  await expect(feed.listen(kitchen.kitchenId, listener)).rejects.toThrow('away')
  isAway = false
  await feed.listen(kitchen.kitchenId, listener)
  await weigh(kitchen, run, '200 g')
  feed.wake()
  await until(async () => heard.length > 0, 30_000)
  expect(heard).toEqual([2000])
  feed.close()
})

test('gaps that a cluster leaves in the numbers are asked for ever more rarely, and what shows late in one is still heard', async () => {
  const run = await startRun(kitchen)
  const asked: number[] = []
  const db = openDatabase(test_.url, {
    connections: 2,
    hear: (statement) => {
      const places = /`sequence` IN \(([^)]*)\)/.exec(statement)?.[1]
      if (statement.includes('FROM `weighings`')) asked.push(places ? places.split(',').length : 0)
    },
  })
  const feed = openLiveFeed(db)
  const heard: string[] = []
  const stop = await feed.listen(kitchen.kitchenId, (change) => {
    if ('weighing' in change) heard.push(change.weighing.id)
  })
  const [newest] = await rowsOf<{ last: number }>(test_.db, 'SELECT MAX(sequence) AS last FROM weighings')
  const place = (sequence: number) => {
    const line = weighingRequest(run.tubs[0]?.id ?? '', '184 g')
    return test_.db.acrossKitchens.weighings
      .create({
        id: line.id,
        kitchenId: kitchen.kitchenId,
        runId: run.id,
        tubId: line.tubId,
        tenths: 1840,
        entered: '184 g',
        personId: run.cook.id,
        weighedAt: new Date(),
        sequence,
      } as never)
      .then(() => line.id)
  }
  const last = Number(newest?.last ?? 0)
  const stored: string[] = []
  for (let count = 1; count <= 40; count += 1) stored.push(await place(last + count * 3))
  await until(async () => stored.every((id) => heard.includes(id)), 30_000)
  const late = await place(last + 4)
  await until(async () => heard.includes(late), 30_000)
  await new Promise((resolve) => setTimeout(resolve, 4000))
  const quiet = asked.slice(-8)
  expect(Math.max(...asked)).toBeGreaterThan(0)
  // seventy-nine places a beat before; each is now due once in the last two of four seconds
  expect(quiet.reduce((sum, places) => sum + places, 0)).toBeLessThan(79 * 3)
  expect(heard).toHaveLength(41)
  stop()
  feed.close()
  await db.close()
})
