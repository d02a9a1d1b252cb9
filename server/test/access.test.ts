import { randomUUID } from 'node:crypto'
import { catalogSheet } from '@fleam/contract/cut-sheets'
import { followOnSheetCreate } from '@fleam/contract/follow-ons'
import { allFollowOnSheets } from '@fleam/core/follow-ons/follow-on-sheets'
import Fastify from 'fastify'
import { catalog } from '../../catalog/sheets.ts'
import type { RouteAccess } from '../src/http/access.ts'
import { comparisonBody, openTestApp, runRequest, type Stocked, stockKitchen, type TestApp, weighingRequest } from './kitchen.ts'

let test_: TestApp
let own: Stocked
let other: Stocked
let routes: (RouteAccess & { method: 'GET' | 'POST' | 'PUT' | 'DELETE' })[]

beforeAll(async () => {
  test_ = await openTestApp()
  own = await stockKitchen(test_, 'Own kitchen')
  other = await stockKitchen(test_, 'Other kitchen')
  routes = test_.app.routeAccess.filter((route) => route.method !== 'HEAD') as typeof routes
})
afterAll(() => test_.close())

const isStream = (route: RouteAccess) => route.url.endsWith('/live')
const rank: Record<string, number> = { student: 0, cook: 1, instructor: 2, lead: 3, manager: 4 }
/** Routes of a run, of which a student has those of their own alone. */
const isOfOwnRun = ({ url, access }: RouteAccess) => access === 'student' && url.startsWith('/api/v1/runs/:id')

test('every route is known with its role', () => {
  expect(routes.length).toBeGreaterThan(30)
  expect(
    routes
      .filter((route) => route.access === 'public')
      .map((route) => `${route.method} ${route.url}`)
      .sort(),
  ).toEqual([
    'DELETE /api/v1/session',
    'GET /api/v1/calendars/:token/fleam.ics',
    'GET /api/v1/demo',
    'GET /api/v1/door',
    'GET /api/v1/health',
    'POST /api/v1/session',
    'POST /api/v1/setup',
  ])
})

test('every route refuses those who are not signed in and those whose role is too low, and no others', async () => {
  for (const route of routes.filter((candidate) => candidate.access !== 'public')) {
    const path = route.url.replace('/api/v1', '').replaceAll(/:\w+/g, randomUUID())
    const stranger = await test_.app.inject({ method: route.method, url: `/api/v1${path}` })
    expect([route.url, stranger.statusCode]).toEqual([route.url, 401])
    if (isStream(route)) continue
    for (const role of ['student', 'cook', 'instructor', 'lead', 'manager'] as const) {
      const { status } = await own[role].ask(route.method, path, route.method === 'GET' ? undefined : {})
      const mayNot = (rank[role] ?? 0) < (rank[route.access] ?? 0) || (role === 'student' && isOfOwnRun(route))
      expect([route.method, route.url, role, status === 403]).toEqual([route.method, route.url, role, mayNot])
      expect([route.url, status]).not.toEqual([route.url, 500])
    }
  }
})

test('nothing of one kitchen is found with a session of another, whatever the route', async () => {
  const run = (await own.cook.ask('POST', '/runs', runRequest(own))).body as unknown as {
    id: string
    version: number
    tubs: { id: string }[]
  }
  const dish = (
    await own.lead.ask('POST', '/dish-needs', {
      id: randomUUID(),
      dish: 'Skewers',
      animal: 'beef',
      product: 'tail',
      need: '1 kg',
      dueOn: '2026-12-01',
    })
  ).body as unknown as { id: string }
  const profile = (
    await own.cook.ask('POST', '/profiles', {
      id: randomUUID(),
      name: 'Loin',
      kind: 'muscle',
      stations: [
        { cm: 0, girthCm: 20 },
        { cm: 9, girthCm: 9 },
      ],
      grams: 500,
    })
  ).body as unknown as { id: string }
  const worths = { shown: true, parts: {}, version: 0 }
  const body = comparisonBody(own)
  const comparison = (await own.cook.ask('POST', '/comparisons', { id: randomUUID(), name: 'Own', body })).body as unknown as { id: string }
  const tablet = (await own.manager.ask('POST', '/tablets', { id: randomUUID(), name: 'Bench' })).body as unknown as { id: string }
  const invitation = (await own.manager.ask('POST', '/invitations', { id: randomUUID(), role: 'cook' })).body as unknown as { id: string }
  const [session] = (await own.cook.ask('GET', '/account')).body.sessions as unknown as [{ id: string }]
  const tub = run.tubs[0]?.id
  await own.cook.ask('POST', `/runs/${run.id}/weighings`, weighingRequest(tub ?? '', '184 g'))
  const pack = { id: randomUUID(), tubId: tub, tenths: 1000, kind: 'raw cuts', state: 'chilled', place: 'Shelf' }
  await own.cook.ask('POST', `/runs/${run.id}/lots`, { lots: [pack] })
  const inputs = [{ moveId: randomUUID(), lotId: pack.id, tenths: 100 }]
  const followOn = { id: randomUUID(), sheet: 'grind', name: 'Grind', inputs, startedAt: new Date().toISOString() }
  await own.cook.ask('POST', '/follow-ons', followOn)
  const claimId = randomUUID()
  const claim = { id: claimId, runId: run.id, kinds: ['other'], asked: 1, at: new Date().toISOString() }
  expect((await own.cook.ask('POST', '/claims', claim)).status).toBe(201)
  const sheetId = randomUUID()
  const dayId = randomUUID()
  const dayBody = { services: [], dishes: [], servicePct: 90, minutesAvailable: 60, held: {} }
  const day = { name: 'Own', date: '2026-12-05', body: dayBody }
  expect((await own.lead.ask('POST', '/days', { id: dayId, ...day })).status).toBe(201)
  const orderId = randomUUID()
  const order = {
    id: orderId,
    supplierId: own.supplierId,
    wantedOn: '2026-12-05',
    lines: [{ article: 'Loin', quantity: 2, unit: 'each', price: 3 }],
  }
  expect((await own.lead.ask('POST', '/orders', order)).status).toBe(201)
  const fed = { id: randomUUID(), name: 'Fed', feed: { address: 'http://127.0.0.1:1/list.csv', everyHours: 0 } }
  expect((await own.manager.ask('POST', '/suppliers', fed)).status).toBe(201)
  const sheet = followOnSheetCreate.parse({ id: sheetId, body: { ...allFollowOnSheets[0], name: 'Own' } })
  expect((await own.lead.ask('POST', '/follow-on-sheets', sheet)).status).toBe(201)
  const fetched = (await own.manager.ask('POST', `/suppliers/${fed.id}/fetch`)).body as unknown as { id: string }
  const groupId = randomUUID()
  const group = { id: groupId, name: 'Own group', memberIds: [own.student.personId] }
  expect((await own.instructor.ask('POST', '/groups', group)).status).toBe(201)
  const exerciseId = randomUUID()
  const rubric = [{ key: 'knife', name: 'Knife', weight: 1 }]
  const task = { kind: 'bench', cutSheetId: own.cutSheetId, itemId: own.itemId, supplierId: null, rubric }
  const given = { id: exerciseId, groupId, name: 'Own exercise', day: '2026-12-05', task }
  expect((await own.instructor.ask('POST', '/exercises', given)).status).toBe(201)
  const ids: Record<string, string> = {
    groups: groupId,
    exercises: exerciseId,
    runs: run.id,
    lots: pack.id,
    'follow-ons': followOn.id,
    'follow-on-sheets': sheetId,
    'label-prints': randomUUID(),
    claims: claimId,
    items: own.itemId,
    suppliers: own.supplierId,
    people: own.cook.personId,
    'cut-sheets': own.cutSheetId,
    'dish-needs': dish.id,
    scales: '1',
    profiles: profile.id,
    comparisons: comparison.id,
    tablets: tablet.id,
    invitations: invitation.id,
    account: session.id,
    'run-imports': randomUUID(),
    'fetched-lists': fetched.id,
    days: dayId,
    orders: orderId,
  }
  const now = new Date().toISOString()
  const bodies: Record<string, object> = {
    'PUT /api/v1/people/:id': { version: 1, name: 'Taken over', role: 'cook', active: true },
    'PUT /api/v1/suppliers/:id': { version: 1, name: 'Taken over' },
    'PUT /api/v1/items/:id': { version: 1, name: 'Taken over', kind: 'whole', animal: 'beef', readyCut: null, againstId: null },
    'POST /api/v1/items/:id/quotes': { id: randomUUID(), supplierId: null, price: { amount: 1, per: 'kg' }, quotedOn: '2026-01-01' },
    'POST /api/v1/runs/:id/weighings': { id: randomUUID(), tubId: run.tubs[0]?.id, weight: '184 g', weighedAt: now },
    'POST /api/v1/runs/:id/reversals': { id: randomUUID(), reversesId: randomUUID(), weighedAt: now },
    'POST /api/v1/runs/:id/moves': {
      id: randomUUID(),
      reversalId: randomUUID(),
      weighingId: randomUUID(),
      tubId: run.tubs[0]?.id,
      weighedAt: now,
    },
    'POST /api/v1/runs/:id/lots': {
      lots: [{ id: randomUUID(), tubId: run.tubs[0]?.id, tenths: 10, kind: 'raw cuts', state: 'chilled', place: 'Shelf' }],
    },
    'POST /api/v1/lots/:id/moves': { id: randomUUID(), what: { kind: 'take', takenFor: 'staff' }, at: now },
    'POST /api/v1/lots/:id/undos': { id: randomUUID(), moveId: randomUUID(), at: now },
    'POST /api/v1/follow-ons/:id/weighings': { id: randomUUID(), tenths: 10, at: now },
    'POST /api/v1/follow-ons/:id/checks': { id: randomUUID(), kind: 'look', words: 'Theirs', celsius: null, at: now },
    'PUT /api/v1/follow-on-sheets/:id': { version: 1, body: sheet.body },
    'DELETE /api/v1/label-prints/:id': {},
    'POST /api/v1/claims/:id/settle': { version: 1, state: 'refused' },
    'POST /api/v1/follow-ons/:id/finish': {
      version: 1,
      minutes: 1,
      method: 'weight',
      outputs: [{ id: randomUUID(), name: 'Theirs', role: 'main', unit: 'g', tenths: 10, kind: 'stock', place: 'Shelf' }],
    },
    'POST /api/v1/follow-ons/:id/discard': { version: 1, reason: 'Mine now' },
    'POST /api/v1/runs/:id/bench-events': { id: randomUUID(), what: { kind: 'cold', out: true }, at: now },
    'POST /api/v1/dish-needs/:id/close': { version: 1 },
    'POST /api/v1/cut-sheets/:id/retire': { retired: true },
    'PUT /api/v1/cut-sheets/:id': { number: 1, body: catalogSheet.parse(catalog[0]).body },
    'PUT /api/v1/items/:id/ways-of-cutting/:cutSheetId': worths,
    'PUT /api/v1/comparisons/:id': { version: 1, name: 'Theirs', body },
    'POST /api/v1/comparisons/:id/drop': { version: 1 },
    'DELETE /api/v1/profiles/:id': {},
    'DELETE /api/v1/tablets/:id': {},
    'DELETE /api/v1/invitations/:id': {},
    'DELETE /api/v1/account/sessions/:id': {},
    'POST /api/v1/scales/:id/commands': { do: 'tare' },
    'POST /api/v1/runs/:id/tubs': { id: randomUUID(), name: 'Theirs', role: 'main' },
    'PUT /api/v1/runs/:id/tubs/:tubId': { valuePerKg: 1, separableCost: 0 },
    'POST /api/v1/runs/:id/defects': { id: randomUUID(), kind: 'blunt knife' },
    'POST /api/v1/runs/:id/finish': { version: 1, minutes: 5 },
    'POST /api/v1/runs/:id/reopen': { version: 1, reason: 'Mine now' },
    'POST /api/v1/runs/:id/discard': { version: 1, reason: 'Mine now' },
    'POST /api/v1/runs/:id/leave-out': { version: 1, reason: 'Mine now' },
    'PUT /api/v1/runs/:id/pictures/:pictureId': {},
    'DELETE /api/v1/runs/:id/pictures/:pictureId': {},
    'PUT /api/v1/days/:id': { version: 1, ...day },
    'POST /api/v1/days/:id/drop': { dropped: true },
    'POST /api/v1/days/:id/plan': {},
    'POST /api/v1/days/:id/schedule': { from: 'plan' },
    'POST /api/v1/days/:id/ticks': { id: randomUUID(), job: 'cut', state: 'done', at: now },
    'POST /api/v1/days/:id/repeat': { weeks: 1 },
    'POST /api/v1/days/:id/counts': { version: 1, text: 'service,count\nDinner,20' },
    'POST /api/v1/orders/:id/send': {},
    'POST /api/v1/suppliers/:id/fetch': {},
    'POST /api/v1/fetched-lists/:id/let-go': {},
    'PUT /api/v1/groups/:id': { version: 1, name: 'Theirs', memberIds: [] },
    'PUT /api/v1/exercises/:id': { version: 1, name: 'Theirs', day: '2026-12-05' },
    'POST /api/v1/exercises/:id/hand-back': { version: 1, handedBack: true },
    'POST /api/v1/exercises/:id/run': { id: randomUUID(), received: '1 kg', coreTempC: 2, weightsChecked: true },
    'POST /api/v1/exercises/:id/marks': { id: randomUUID(), personId: own.student.personId, criterion: 'knife', mark: 4, at: now },
    'POST /api/v1/runs/:id/put-right': {
      ...{ version: 1, reason: 'Mine now', supplierId: null, billed: '1 kg', received: '1 kg', minutes: 1, consumables: 0 },
    },
    'PUT /api/v1/runs/:id/received': {
      version: 1,
      itemId: randomUUID(),
      cutSheetId: randomUUID(),
      supplierId: null,
      billed: '1 kg',
      received: '1 kg',
    },
  }
  const withIds = routes.filter((route) => route.url.includes(':id'))
  expect(withIds.length).toBeGreaterThan(10)
  for (const route of withIds) {
    const key = `${route.method} ${route.url}`
    const feature = route.url.split('/')[3] ?? ''
    expect(route.method === 'GET' || key in bodies ? key : `no body for ${key}`).toBe(key)
    const path = route.url
      .replace('/api/v1', '')
      .replace(':id', ids[feature] ?? '')
      .replace(':studentId', own.student.personId)
      .replace(':tubId', run.tubs[0]?.id ?? '')
      .replace(':cutSheetId', own.cutSheetId)
      .replace(':pictureId', route.method === 'PUT' ? `${randomUUID()}?about=tray&at=${now}` : randomUUID())
    const { status } = await other.manager.ask(route.method, path, bodies[key])
    expect([key, status]).toEqual([key, 404])
  }
  const lists = routes.filter(
    (route) =>
      route.method === 'GET' &&
      !route.url.includes(':') &&
      !route.url.endsWith('openapi.json') &&
      route.access !== 'public' &&
      !isStream(route),
  )
  for (const route of lists) {
    const { body } = await other.manager.ask('GET', route.url.replace('/api/v1', ''))
    for (const id of Object.values(ids)) expect(JSON.stringify(body)).not.toContain(`"${id}"`)
  }
})

test('things of another kitchen cannot be named in what one makes', async () => {
  const cases: [string, object][] = [
    ['itemId', { itemId: own.itemId }],
    ['cutSheetId', { cutSheetId: own.cutSheetId }],
    ['supplierId', { supplierId: own.supplierId }],
  ]
  for (const [field, change] of cases) {
    const answer = await other.cook.ask('POST', '/runs', runRequest(other, change as Record<string, unknown>))
    expect([field, answer.status, answer.body.errors?.[0]?.field]).toEqual([field, 400, field])
  }
})

test('a route that does not say who it is for keeps the server from starting', async () => {
  const { registerAccess } = await import('../src/http/access.ts')
  const bare = Fastify()
  registerAccess(bare, test_.db, async () => undefined)
  expect(() => bare.get('/api/v1/open', async () => 'anyone')).toThrow('does not say who it is for')
})
