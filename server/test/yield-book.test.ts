import { randomUUID } from 'node:crypto'
import type { CutSheet, SheetStep } from '@fleam/contract/cut-sheets'
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
    mains: { n: 2, y: 90 },
    runs: { tests: 2, n: 2, w: 5800 },
  })
  expect(steak?.share).toMatchObject({ n: 2, y: 90, ny: 90, none: 0 })
  expect(steak?.share.yy).toBeCloseTo(1600 + 2500, 6)
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

test('a step is known by what it is, whatever its title and place in a newer version of the sheet', async () => {
  const path = `/cut-sheets/${kitchen.cutSheetId}`
  const { body, number } = (await kitchen.cook.ask('GET', path)).body as unknown as CutSheet
  const [first, muscle, ...rest] = body.steps as [SheetStep, SheetStep, ...SheetStep[]]
  const optional = { gramsFreed: 40, minutes: 2 }
  const put = (from: number, steps: SheetStep[]) => kitchen.lead.ask('PUT', path, { number: from, body: { ...body, steps } })
  expect((await put(number, [first, { ...muscle, optional }, ...rest])).status).toBe(200)
  const leftOut = await finishedRun(kitchen, { steaks: ['900 g'], minutes: 25, received: '2900 g', leaveOutStep: 2 })
  const done = await finishedRun(kitchen, { steaks: ['900 g'], minutes: 25, received: '2900 g' })
  const renamed = { ...muscle, key: muscle.title, title: 'The side muscle comes off', optional }
  expect((await put(number + 1, [first, { title: 'Wipe the board', text: 'Dry.' }, renamed, ...rest])).status).toBe(200)
  const later = await finishedRun(kitchen, { steaks: ['900 g'], minutes: 25, received: '2900 g', leaveOutStep: 3 })
  const seen = await tests()
  const stepsOf = ({ id }: { id: string }) => {
    const test = seen.find((one) => one.runId === id)
    return [test?.stepsDone, test?.stepsLeftOut]
  }
  expect([leftOut, done, later].map(stepsOf)).toEqual([
    [[], [muscle.title]],
    [[muscle.title], []],
    [[], [muscle.title]],
  ])
})

test('a run is left out with a reason, by a lead: it stays in the log, counts nowhere, and comes in again', async () => {
  const run = await finishedRun(kitchen, { steaks: ['300 g'], minutes: 60, received: '2900 g' })
  const before = (await book())[0]
  const path = `/runs/${run.id}/leave-out`
  expect((await kitchen.cook.ask('POST', path, { version: run.version, reason: 'A beginner’s first' })).status).toBe(403)
  const leftOut = (await kitchen.lead.ask('POST', path, { version: run.version, reason: 'A beginner’s first' })).body
  expect(leftOut).toMatchObject({ status: 'finished', leftOut: { reason: 'A beginner’s first' } })
  expect((await kitchen.lead.ask('POST', path, { version: run.version, reason: 'Twice' })).status).toBe(409)
  expect((await book())[0]?.tests).toBe((before?.tests ?? 0) - 1)
  expect((await tests()).find((one) => one.runId === run.id)).toMatchObject({ leftOut: 'A beginner’s first', shares: {} })
  const listed = (await kitchen.cook.ask('GET', '/runs')).body.entries as unknown as { id: string; leftOut: object | null }[]
  expect(listed.find((one) => one.id === run.id)?.leftOut).toMatchObject({ reason: 'A beginner’s first' })
  await kitchen.lead.ask('POST', path, { version: leftOut.version, reason: null })
  expect((await book())[0]).toEqual(before)
})

test('when what comes off has changed, the book goes by the tests since; taking those out brings the others back', async () => {
  const other = await stockKitchen(test_, 'A kitchen whose supplier changed')
  const at = (day: number) => new Date(Date.UTC(2026, 8, 1 + day)).toISOString()
  const finish = (grams: number, day: number) =>
    finishedRun(other, { steaks: [`${grams} g`], minutes: 20, received: '3000 g', startedAt: at(day) })
  for (let day = 0; day < 6; day += 1) await finish(1500 + (day % 3) * 6, day)
  expect((await book(other))[0]).toMatchObject({ tests: 6, since: null })
  const later = []
  for (let day = 6; day < 12; day += 1) later.push(await finish(1200 + (day % 3) * 6, day))
  const [changed] = await book(other)
  expect(changed).toMatchObject({ tests: 6, since: at(6), runs: { tests: 6, n: 6 }, lastTestAt: at(11) })
  expect(changed?.outputs.find(({ key }) => key === 'centre-steak')?.share).toMatchObject({ n: 6 })
  // one of the days before is opened and finished again: it is none of those since
  const [early] = (await other.cook.ask('GET', '/runs?sort=oldest')).body.entries as unknown as { id: string; version: number }[]
  await other.lead.ask('POST', `/runs/${early?.id}/reopen`, { version: early?.version, reason: 'A look' })
  expect((await book(other))[0]).toEqual(changed)
  for (const run of later)
    await other.lead.ask('POST', `/runs/${run.id}/leave-out`, { version: run.version, reason: 'Not what we ordered' })
  expect((await book(other))[0]).toMatchObject({ tests: 5, since: null, lastTestAt: at(5) })
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
