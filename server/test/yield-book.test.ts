import { randomUUID } from 'node:crypto'
import type { YieldBookEntry, YieldTestRecord } from '@fleam/contract/yield-book'
import { comparisonBody, finishedRun, runRequest, stockedKitchen, stockKitchen } from './kitchen.ts'

const { test_, kitchen } = stockedKitchen()

const book = async (who = kitchen) => (await who.cook.ask('GET', '/yield-book')).body.entries as unknown as YieldBookEntry[]
const tests = async () =>
  (await kitchen.cook.ask('GET', `/yield-book/tests?itemId=${kitchen.itemId}&cutSheetId=${kitchen.cutSheetId}`)).body
    .entries as unknown as YieldTestRecord[]

test('an empty log is an empty book', async () => {
  expect(await book()).toEqual([])
  expect(await tests()).toEqual([])
})

test('finished runs are tests; an open one is not, and one opened again is none until it is finished anew', async () => {
  await finishedRun(kitchen, { steaks: ['1200 g'], minutes: 20, received: '3000 g' })
  const second = await finishedRun(kitchen, { steaks: ['1000 g', '400 g'], minutes: 30, received: '2800 g' })
  const [entry] = await book()
  const steak = entry?.outputs.find((output) => output.key === 'centre-steak')
  expect(entry).toMatchObject({
    itemId: kitchen.itemId,
    cutSheetId: kitchen.cutSheetId,
    tests: 2,
    itemGrams: { n: 2, mean: 2900 },
    mains: { n: 2, mean: 45 },
  })
  expect(steak?.share).toMatchObject({ n: 2, mean: 45 })
  expect(steak?.share.variance).toBeCloseTo(50, 6)
  expect(entry?.minutes.y).toBeCloseTo(Math.log(20) + Math.log(30), 9)
  expect((await tests()).map((one) => [one.shares['centre-steak'], one.minutes])).toEqual([
    [40, 20],
    [50, 30],
  ])
  await kitchen.lead.ask('POST', `/runs/${second.id}/reopen`, { version: second.version, reason: 'A tub was forgotten' })
  expect((await book())[0]).toMatchObject({ tests: 1 })
  expect((await tests()).length).toBe(1)
})

test('the next run’s tubs expect what the book says, between the sheet and the tests', async () => {
  const { body } = await kitchen.cook.ask('POST', '/runs', runRequest(kitchen))
  const tubs = body.tubs as unknown as { key: string; typicalPct: number }[]
  // the sheet says 40 and is worth three tests; the one test said 40 too
  expect(tubs.find((tub) => tub.key === 'centre-steak')?.typicalPct).toBeCloseTo(40, 6)
  expect(tubs.reduce((sum, tub) => sum + tub.typicalPct, 0)).toBeLessThanOrEqual(100 + 1e-9)
})

test('a step that was left out is told from one that was done', async () => {
  const run = await finishedRun(kitchen, { steaks: ['900 g'], minutes: 25, received: '2900 g', leaveOutStep: 2 })
  const seen = (await tests()).find((one) => one.runId === run.id)
  expect(seen?.stepsLeftOut).toEqual([1])
})

describe('what parts are worth', () => {
  const path = () => `/items/${kitchen.itemId}/ways-of-cutting/${kitchen.cutSheetId}`
  const change = { shown: true, parts: { tail: { readyCutId: null, ownPerKg: 14 } }, version: 0 }

  test('is kept with its versions, by a lead', async () => {
    expect((await kitchen.cook.ask('PUT', path(), change)).status).toBe(403)
    expect((await kitchen.lead.ask('PUT', path(), change)).body).toMatchObject({ version: 1, parts: change.parts })
    const stale = await kitchen.lead.ask('PUT', path(), change)
    expect([stale.status, (stale.body.current as unknown as { version: number }).version]).toEqual([409, 1])
    const listed = (await kitchen.cook.ask('GET', '/ways-of-cutting')).body.entries as unknown as object[]
    expect(listed).toEqual([expect.objectContaining({ itemId: kitchen.itemId, version: 1 })])
  })

  test('names a ready-cut item of the kitchen', async () => {
    const parts = { tail: { readyCutId: kitchen.itemId, ownPerKg: null } }
    const answer = await kitchen.lead.ask('PUT', path(), { ...change, parts, version: 1 })
    expect([answer.status, answer.body.errors?.[0]?.field]).toEqual([400, 'parts.tail.readyCutId'])
  })
})

describe('comparisons', () => {
  const body = () => comparisonBody(kitchen, { changed: { yieldPct: 52.5 } })

  test('are kept by name, changed by version, and taken off the list', async () => {
    const id = randomUUID()
    const kept = await kitchen.cook.ask('POST', '/comparisons', { id, name: 'Christmas menu', body: body() })
    expect([kept.status, kept.body.version]).toEqual([201, 1])
    const again = await kitchen.cook.ask('POST', '/comparisons', { id, name: 'Christmas menu', body: body() })
    expect(again.body).toEqual(kept.body)
    const changed = await kitchen.lead.ask('PUT', `/comparisons/${id}`, { version: 1, name: 'Feast menu', body: body() })
    expect(changed.body).toMatchObject({ name: 'Feast menu', version: 2 })
    expect((await kitchen.cook.ask('PUT', `/comparisons/${id}`, { version: 1, name: 'x', body: body() })).status).toBe(409)
    expect((await kitchen.cook.ask('POST', `/comparisons/${id}/drop`, { version: 2 })).body).toMatchObject({ version: 3 })
    expect((await kitchen.cook.ask('GET', '/comparisons')).body.entries).toEqual([])
    expect((await kitchen.cook.ask('GET', `/comparisons/${id}`)).status).toBe(404)
    await kitchen.cook.ask('POST', `/comparisons/${id}/drop`, { version: 3, dropped: false })
    expect((await kitchen.cook.ask('GET', `/comparisons/${id}`)).body).toMatchObject({ name: 'Feast menu', version: 4 })
  })
})

test('nothing of it is seen from another kitchen', async () => {
  const other = await stockKitchen(test_, 'Other kitchen')
  expect(await book(other)).toEqual([])
  expect((await other.cook.ask('GET', '/ways-of-cutting')).body.entries).toEqual([])
  const stolen = await other.lead.ask('PUT', `/items/${kitchen.itemId}/ways-of-cutting/${kitchen.cutSheetId}`, {
    shown: false,
    parts: {},
    version: 0,
  })
  expect(stolen.status).toBe(404)
})
