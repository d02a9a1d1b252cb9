import { randomUUID } from 'node:crypto'
import type { KitchenDay, PlannedDay } from '@fleam/contract/day'
import type { KitchenOrder } from '@fleam/contract/ordering'
import { readUblOrder } from '@fleam/core/ordering/ubl'
import { type Answer, finishedRun, stockedKitchen } from './kitchen.ts'

const { kitchen } = stockedKitchen()
const as = <Body>(answer: Answer) => answer.body as unknown as Body

/** A dinner with steaks for its guests. */
function dinner(changes: object = {}, of: object = {}) {
  const service = { id: randomUUID(), name: 'Dinner', at: '19:00', guests: 40, sdPct: 5 }
  const dish = {
    ...{ id: randomUUID(), serviceId: service.id, name: 'Steak', portions: { kind: 'of-guests', pct: 50 }, itemId: kitchen.itemId },
    ...{ outputKey: 'centre-steak', outputName: 'Centre steaks', gramsPerPortion: 180, lossPct: 0, ...of },
  }
  const body = { services: [service], dishes: [dish], servicePct: 90, minutesAvailable: 480, overtimeMinutes: 0, held: {}, ...changes }
  return { id: randomUUID(), name: 'Saturday', date: '2026-12-05', body }
}
const plan = async (request: { id: string }) => {
  expect((await kitchen.lead.ask('POST', '/days', request)).status).toBe(201)
  return kitchen.cook.ask('POST', `/days/${request.id}/plan`, {})
}

beforeAll(async () => {
  // what the kitchen has learnt of its loins
  for (const grams of ['1.55 kg', '1.6 kg', '1.58 kg']) await finishedRun(kitchen, { steaks: [grams], received: '2.9 kg', minutes: 25 })
})

test('a day is kept by a lead, changed as it was read, and taken off and put back', async () => {
  const request = dinner()
  expect((await kitchen.cook.ask('POST', '/days', request)).status).toBe(403)
  const [first, again] = await Promise.all([kitchen.lead.ask('POST', '/days', request), kitchen.lead.ask('POST', '/days', request)])
  expect([first?.status, again?.status]).toEqual([201, 201])
  const day = as<KitchenDay>(first as Answer)
  const change = { version: day.version, name: 'Sunday', date: '2026-12-06', body: day.body }
  expect(as<KitchenDay>(await kitchen.lead.ask('PUT', `/days/${day.id}`, change))).toMatchObject({
    name: 'Sunday',
    date: '2026-12-06',
    version: 2,
  })
  expect((await kitchen.lead.ask('PUT', `/days/${day.id}`, change)).status).toBe(409)
  await kitchen.lead.ask('POST', `/days/${day.id}/drop`, { dropped: true })
  expect((await kitchen.cook.ask('GET', `/days/${day.id}`)).status).toBe(404)
  await kitchen.lead.ask('POST', `/days/${day.id}/drop`, { dropped: false })
  expect((await kitchen.cook.ask('GET', `/days/${day.id}`)).status).toBe(200)
})

test('it is planned from the kitchen’s own prices and yields, enough nine times in ten, and no dearer than ready-cut', async () => {
  const planned = as<PlannedDay>(await plan(dinner()))
  expect(planned.plan.status).toBe('optimal')
  const [steaks] = planned.flow.filter(({ needed }) => needed > 0)
  expect(steaks).toMatchObject({ product: `${kitchen.itemId}:centre-steak:Centre steaks`, needed: 3600 })
  expect(steaks?.from.reduce((sum, { grams }) => sum + grams, 0)).toBeGreaterThanOrEqual(3600 + (steaks?.margin ?? 0) - 1)
  expect(planned.plan.met[0]?.probability).toBeGreaterThan(0.88)
  expect(planned.plan.cost).toBeLessThanOrEqual(planned.plan.allReadyCutCost ?? 0)
  expect(planned.safetyCosts).toBeGreaterThanOrEqual(0)
})

test('a number that is held stays, and the rest is planned around it', async () => {
  const free = as<PlannedDay>(await plan(dinner()))
  const [way = ''] = Object.keys(free.names.way)
  const held = as<PlannedDay>(await plan(dinner({ held: { way: { [way]: 4 } } })))
  expect(held.plan.cut).toEqual([{ way, items: 4 }])
  expect(held.plan.cost).toBeGreaterThanOrEqual(free.plan.cost - 0.01)
})

test('what cannot be met, what nothing gives and nonsense are each said in a sentence', async () => {
  const many = as<PlannedDay>(
    await plan(dinner({ minutesAvailable: 1 }, { outputKey: 'head', outputName: 'Head roast', portions: { kind: 'counted', count: 400 } })),
  )
  expect(many.plan.status).toBe('infeasible')
  expect(many.plan.short[0]?.grams).toBeGreaterThan(10_000)
  const unknown = await plan(dinner({}, { outputKey: 'fin', outputName: 'Fins' }))
  expect(unknown.body.errors?.[0]?.message).toContain('Nobody is to be fed')
  const none = await kitchen.lead.ask('POST', '/days', dinner({}, { gramsPerPortion: 0 }))
  expect(none.body.errors?.[0]).toEqual({ field: 'body.dishes.0.gramsPerPortion', message: 'A portion weighs more than nothing.' })
})

test('an order is written once, goes out in three formats, and is refused by wire where nobody takes it', async () => {
  const planned = as<PlannedDay>(await plan(dinner()))
  const [ordered] = planned.orders
  expect(ordered?.supplierId).toBe(kitchen.supplierId)
  const request = { id: randomUUID(), supplierId: ordered?.supplierId, wantedOn: '2026-12-05', lines: ordered?.lines }
  const answers = await Promise.all([1, 2].map(() => kitchen.lead.ask('POST', '/orders', request)))
  const order = as<KitchenOrder>(answers[0] as Answer)
  expect(as<KitchenOrder>(answers[1] as Answer).number).toBe(order.number)
  const xml = String((await kitchen.cook.ask('GET', `/orders/${order.id}/order.xml`)).body)
  expect(readUblOrder(xml)).toMatchObject({ number: `O-${order.number}`, supplier: 'Harrow & Fenn', lines: ordered?.lines })
  const csv = String((await kitchen.cook.ask('GET', `/orders/${order.id}/order.csv`)).body)
  expect(csv.split('\r\n')).toHaveLength((ordered?.lines.length ?? 0) + 2)
  expect((await kitchen.cook.ask('GET', `/orders/${order.id}/order.json`)).body).toMatchObject({ number: `O-${order.number}` })
  const refused = await kitchen.lead.ask('POST', `/orders/${order.id}/send`, {})
  expect([refused.status, refused.body.type]).toEqual([422, 'urn:fleam:problem:order-not-taken'])
  expect((await kitchen.cook.ask('POST', `/orders/${order.id}/send`, {})).status).toBe(403)
})

test('the same by /calc, and a schedule', async () => {
  const input = {
    items: [
      {
        ...{ id: 'bird', meanGrams: 1800, offers: [{ id: 'farm', price: { amount: 5, per: 'kg' }, pack: 2 }] },
        ways: [{ id: 'parts', minutes: 6, outputs: [{ product: 'breast', pct: 30 }] }],
      },
    ],
    products: [{ id: 'breast', leftValuePerKg: 0 }],
    demands: [{ product: 'breast', grams: 1000 }],
    labour: { ratePerHour: 10, onCostPct: 0 },
  }
  const bought = await kitchen.cook.ask('POST', '/calc/buying-plan', input)
  expect(bought.body).toMatchObject({ status: 'optimal', cost: 20, buy: [{ offer: 'farm', items: 2, cost: 18 }] })
  const jobs = [
    { id: 'cut', handsMinutes: 30 },
    { id: 'roast', handsMinutes: 10, waitMinutes: 60, after: ['cut'], due: 90 },
  ]
  const timed = await kitchen.cook.ask('POST', '/calc/schedule', { people: [{ id: 'a', from: 0, to: 480 }], places: [], jobs })
  expect(timed.body).toMatchObject({ late: [{ id: 'roast', minutes: 10 }], endsAt: 40 })
  const circle = await kitchen.cook.ask('POST', '/calc/schedule', {
    ...{ people: [{ id: 'a', from: 0, to: 480 }], places: [] },
    jobs: [{ id: 'cut', handsMinutes: 30, after: ['cut'] }],
  })
  expect(circle.body.errors?.[0]?.message).toContain('waits for itself')
})
