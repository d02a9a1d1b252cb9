import { randomUUID } from 'node:crypto'
import { openTestApp, type Stocked, settings, stockKitchen, type TestApp } from './kitchen.ts'

let test_: TestApp
let kitchen: Stocked

beforeAll(async () => {
  test_ = await openTestApp()
  kitchen = await stockKitchen(test_)
})
afterAll(() => test_.close())

type Quoted = { entries: { price: { amount: number }; quotedOn: string }[] }

test('a new quote keeps the old ones with their dates, and the latest day is in force', async () => {
  const add = (amount: number, quotedOn: string) =>
    kitchen.manager.ask('POST', `/items/${kitchen.itemId}/quotes`, {
      id: randomUUID(),
      supplierId: kitchen.supplierId,
      price: { amount, per: 'lb' },
      quotedOn,
    })
  await add(15.1, '2026-03-01')
  await add(13.9, '2025-11-20')
  const { entries } = (await kitchen.cook.ask('GET', `/items/${kitchen.itemId}/quotes`)).body as unknown as Quoted
  expect(entries.map((quote) => [quote.quotedOn, quote.price.amount])).toEqual([
    ['2026-03-01', 15.1],
    ['2026-01-05', 31.4],
    ['2025-11-20', 13.9],
  ])
  const items = (await kitchen.cook.ask('GET', '/items')).body.entries as unknown as { id: string; latestQuote: { price: object } }[]
  expect(items.find((item) => item.id === kitchen.itemId)?.latestQuote.price).toEqual({ amount: 15.1, per: 'lb' })
})

test.each([
  ['price.count', { price: { amount: 10, per: 'case' } }],
  ['price.amount', { price: { amount: -1, per: 'kg' } }],
  ['price.per', { price: { amount: 1, per: 'stone' } }],
  ['quotedOn', { quotedOn: '1890-01-01' }],
  ['supplierId', { supplierId: randomUUID() }],
])('a quote with a bad %s is refused by name', async (field, change) => {
  const request = { id: randomUUID(), supplierId: null, price: { amount: 1, per: 'kg' }, quotedOn: '2026-01-01', ...change }
  const answer = await kitchen.manager.ask('POST', `/items/${kitchen.itemId}/quotes`, request)
  expect([answer.status, answer.body.errors?.[0]?.field]).toEqual([400, field])
})

test('two things of one name are refused, and so is a stale change', async () => {
  const supplier = await kitchen.manager.ask('POST', '/suppliers', { id: randomUUID(), name: 'harrow & fenn' })
  expect([supplier.status, supplier.body.errors?.[0]?.field]).toEqual([409, 'name'])
  expect((await kitchen.manager.ask('PUT', `/suppliers/${kitchen.supplierId}`, { version: 1, name: 'Harrow' })).status).toBe(200)
  const stale = await kitchen.manager.ask('PUT', `/suppliers/${kitchen.supplierId}`, { version: 1, name: 'Fenn' })
  expect([stale.status, (stale.body.current as unknown as { name: string }).name]).toEqual([409, 'Harrow'])
})

test('a whole item is set against a ready-cut one only', async () => {
  const request = { id: randomUUID(), name: 'Ribeye', kind: 'whole', animal: 'beef', readyCut: null, againstId: kitchen.itemId }
  const answer = await kitchen.manager.ask('POST', '/items', request)
  expect([answer.status, answer.body.errors?.[0]?.field]).toEqual([400, 'againstId'])
})

test('the kitchen’s figures change with a version and leave a trail; its currency stays once there are prices', async () => {
  const changed = { ...settings, labour: { ratePerHour: 21, onCostPct: 12 } }
  const answer = await kitchen.manager.ask('PUT', '/kitchen', { version: 1, name: 'Test kitchen', settings: changed })
  expect([answer.status, answer.body.version]).toEqual([200, 2])
  expect((await kitchen.manager.ask('PUT', '/kitchen', { version: 1, name: 'Test kitchen', settings: changed })).status).toBe(409)
  const dollars = await kitchen.manager.ask('PUT', '/kitchen', {
    version: 2,
    name: 'Test kitchen',
    settings: { ...changed, currency: 'USD' },
  })
  expect([dollars.status, dollars.body.errors?.[0]?.field]).toEqual([400, 'settings.currency'])
  const trail = (await kitchen.manager.ask('GET', '/audit-trail?limit=1')).body.entries as unknown as {
    subject: string
    before: { settings: object }
    after: { settings: object }
  }[]
  expect(trail[0]).toMatchObject({
    subject: 'kitchen',
    before: { settings: { labour: { ratePerHour: 19.5 } } },
    after: { settings: { labour: { ratePerHour: 21 } } },
  })
})
