import { randomUUID } from 'node:crypto'
import type { DayBody, KitchenDay, PlannedDay } from '@fleam/contract/day'
import type { DayJobEntry, DaySchedule } from '@fleam/contract/day-schedule'
import { dayOf } from '@fleam/core/quantities/house-day'
import { daysAfter } from '@fleam/core/walk-in/use-by'
import { type Answer, finishedRun, stockedKitchen } from './kitchen.ts'

const { test_, kitchen } = stockedKitchen()
const as = <Body>(answer: Answer) => answer.body as unknown as Body

/** Today where the kitchen stands. */
const today = () => dayOf(new Date(), 'UTC')

/** Days until the dinner: what was cut before is past its date by then. */
const ahead = 9
const dinnerDay = ahead * 24 * 60

/** A dinner of steaks, cut today, grilled on its day. */
function dinner(changes: Partial<DayBody> = {}, date = daysAfter(today(), ahead)) {
  const service = { id: randomUUID(), name: 'Dinner', at: '19:00', guests: 40, sdPct: 5 }
  const step = { handsMinutes: 15, waitMinutes: 12, perRoom: null, pullAtC: 52 }
  const dish = {
    ...{ id: randomUUID(), serviceId: service.id, name: 'Steak', portions: { kind: 'of-guests', pct: 50 }, itemId: kitchen.itemId },
    ...{ outputKey: 'centre-steak', outputName: 'Centre steaks', gramsPerPortion: 180, lossPct: 0, steps: [{ kind: 'roast', ...step }] },
  }
  const body = {
    ...{ services: [service], dishes: [dish], servicePct: 90, minutesAvailable: 480, overtimeMinutes: 0, held: {} },
    crew: [
      {
        id: randomUUID(),
        personId: kitchen.cook.personId,
        name: 'Cook',
        daysBefore: 1,
        from: '00:00',
        to: '23:59',
        skills: ['cut', 'cook'],
      },
      {
        id: randomUUID(),
        personId: kitchen.cook.personId,
        name: 'Cook',
        daysBefore: 0,
        from: '06:00',
        to: '22:00',
        skills: ['cut', 'cook'],
      },
      { id: randomUUID(), personId: null, name: 'A helper', daysBefore: 0, from: '14:00', to: '22:00', skills: ['cook', 'sort'] },
    ],
    places: [
      { id: randomUUID(), name: 'Bench', kind: 'bench', room: 1 },
      { id: randomUUID(), name: 'Oven', kind: 'oven', room: 4 },
    ],
    arrivals: [{ itemId: kitchen.itemId, daysBefore: ahead, at: '00:00', thawHours: 0, orderDays: 1 }],
    ...changes,
  }
  return { id: randomUUID(), name: 'Saturday', date, body }
}

async function kept(request: ReturnType<typeof dinner>): Promise<KitchenDay> {
  const answer = await kitchen.lead.ask('POST', '/days', request)
  expect(answer.status).toBe(201)
  return as<KitchenDay>(answer)
}
const planIt = (id: string, from = 'plan') => kitchen.lead.ask('POST', `/days/${id}/schedule`, { from })
const jobOf = ({ jobs }: DaySchedule, kind: string): DayJobEntry => {
  const job = jobs.find((one) => one.kind === kind)
  if (!job) throw new Error(`no ${kind}`)
  return job
}
const tick = (id: string, job: string, state: string) =>
  kitchen.cook.ask('POST', `/days/${id}/ticks`, { id: randomUUID(), job, state, at: new Date().toISOString() })

beforeAll(async () => {
  // so cheap that the loins are cut, not bought as steaks
  const quote = { id: randomUUID(), supplierId: kitchen.supplierId, price: { amount: 6, per: 'kg' }, quotedOn: today() }
  expect((await kitchen.manager.ask('POST', `/items/${kitchen.itemId}/quotes`, quote)).status).toBe(201)
  for (const grams of ['1.55 kg', '1.6 kg', '1.58 kg']) await finishedRun(kitchen, { steaks: [grams], received: '2.9 kg', minutes: 25 })
})

test('a day is scheduled by a lead: who, where and when, due at its service; there is none before', async () => {
  const day = await kept(dinner())
  expect((await kitchen.cook.ask('GET', `/days/${day.id}/schedule`)).status).toBe(404)
  expect((await kitchen.cook.ask('POST', `/days/${day.id}/schedule`, {})).status).toBe(403)
  const schedule = as<DaySchedule>(await planIt(day.id))
  expect(schedule).toMatchObject({
    startsOn: today(),
    late: [],
    troubles: ['Nobody of that day is noted as one who can sort: anybody does it.'].slice(1),
  })
  const roast = jobOf(schedule, 'roast')
  expect(roast).toMatchObject({ until: dinnerDay + 19 * 60 - 10, pullAtC: 52, due: dinnerDay + 19 * 60 - 10 })
  expect(schedule.places.find(({ id }) => id === roast.place)?.name).toBe('Oven')
  expect(new Set(schedule.orderBy.map(({ on }) => on))).toEqual(new Set([daysAfter(today(), -1)]))
  expect(schedule.tubs.length).toBeGreaterThan(0)
  expect(as<DaySchedule>(await kitchen.cook.ask('GET', `/days/${day.id}/schedule`))).toEqual(schedule)
})

test('ticks count, the last one said; told twice is told once; a job that is not there is refused', async () => {
  const day = await kept(dinner())
  const schedule = as<DaySchedule>(await planIt(day.id))
  const cut = jobOf(schedule, 'cut')
  const said = { id: randomUUID(), job: cut.id, state: 'started', at: new Date().toISOString() }
  const answers = await Promise.all([1, 2].map(() => kitchen.cook.ask('POST', `/days/${day.id}/ticks`, said)))
  expect(answers.map(({ status }) => status)).toEqual([200, 200])
  expect(jobOf(as<DaySchedule>(answers[0] as Answer), 'cut')).toMatchObject({ state: 'started', by: expect.any(String) })
  expect(jobOf(as<DaySchedule>(await tick(day.id, cut.id, 'done')), 'cut').state).toBe('done')
  expect(jobOf(as<DaySchedule>(await tick(day.id, cut.id, 'open')), 'cut').state).toBe('open')
  expect((await tick(day.id, 'cut:nothing', 'done')).body.errors?.[0]?.message).toContain('no such job')
})

test('the bench ticks what it has received and cut', async () => {
  const day = await kept(dinner())
  await planIt(day.id)
  await finishedRun(kitchen, { steaks: ['1.55 kg'], received: '2.9 kg', minutes: 25 })
  const schedule = as<DaySchedule>(await kitchen.cook.ask('GET', `/days/${day.id}/schedule`))
  expect(jobOf(schedule, 'receive')).toMatchObject({ state: 'done', by: null })
})

test('what waits is done when its time is over, and a rest begins when what it rests from is done', async () => {
  const request = dinner()
  const [dish] = request.body.dishes as unknown as { steps: object[] }[]
  const step = { kind: 'roast', handsMinutes: 5, waitMinutes: 10, perRoom: null, pullAtC: 52 }
  const steps = [step, { ...step, kind: 'rest', handsMinutes: 0, waitMinutes: 600, pullAtC: null }]
  const day = await kept({ ...request, body: { ...request.body, dishes: [{ ...dish, steps }] } } as typeof request)
  const schedule = as<DaySchedule>(await planIt(day.id))
  const said = (minutes: number) => ({
    ...{ id: randomUUID(), job: jobOf(schedule, 'roast').id, state: 'started', at: new Date(Date.now() - minutes * 60_000).toISOString() },
  })
  const soon = as<DaySchedule>(await kitchen.cook.ask('POST', `/days/${day.id}/ticks`, said(6)))
  expect([jobOf(soon, 'roast').state, jobOf(soon, 'rest').state]).toEqual(['started', 'open'])
  const over = as<DaySchedule>(await kitchen.cook.ask('POST', `/days/${day.id}/ticks`, said(17)))
  expect([jobOf(over, 'roast').state, jobOf(over, 'rest').state]).toEqual(['done', 'started'])
})

test('a held job stays, and from now on what is done stays as it was and nothing starts before this minute', async () => {
  const day = await kept(dinner())
  const first = as<DaySchedule>(await planIt(day.id))
  const roast = jobOf(first, 'roast')
  const at = dinnerDay + 15 * 60
  const body = { ...day.body, heldJobs: { [roast.id]: { at, who: 'A helper' } } }
  const changed = await kitchen.lead.ask('PUT', `/days/${day.id}`, { version: day.version, name: day.name, date: day.date, body })
  expect(changed.status).toBe(200)
  expect(as<DaySchedule>(await kitchen.cook.ask('GET', `/days/${day.id}/schedule`)).isStale).toBe(true)
  const held = as<DaySchedule>(await planIt(day.id, 'kept'))
  expect(jobOf(held, 'roast')).toMatchObject({ from: at, who: 'A helper', isHeld: true })
  await tick(day.id, jobOf(held, 'receive').id, 'done')
  const now = as<DaySchedule>(await planIt(day.id, 'now'))
  expect(now.fromMinute).toBeGreaterThanOrEqual(0)
  for (const job of now.jobs) if (job.state === 'open') expect(job.from).toBeGreaterThanOrEqual(now.fromMinute ?? 0)
  expect(jobOf(now, 'receive').state).toBe('done')
})

test('a late delivery is said with what waits for it', async () => {
  const arrivals = [{ itemId: kitchen.itemId, daysBefore: 0, at: '18:55', thawHours: 0, orderDays: 1 }]
  const bench = { kind: 'bench' as const, room: 1 }
  const places = [1, 2, 3].map((n) => ({ ...bench, id: randomUUID(), name: `Bench ${n}` }))
  const crew = [1, 2, 3].map((n) => ({
    ...{
      id: randomUUID(),
      personId: null,
      name: `Cook ${n}`,
      daysBefore: 0,
      from: '06:00',
      to: '23:00',
      skills: ['cut' as const, 'cook' as const],
    },
  }))
  const day = await kept(dinner({ arrivals, places, crew }))
  const { late } = as<DaySchedule>(await planIt(day.id))
  expect(late[0]?.minutes).toBeGreaterThan(10)
  expect(late[0]?.why).toMatchObject({ kind: 'comes', at: 18 * 60 + 55 })
})

test('nobody at work, a shift of no time and a day that cannot be met are a sentence each', async () => {
  const nobody = await kept(dinner({ crew: [] }))
  expect((await planIt(nobody.id)).body.errors?.[0]).toMatchObject({
    field: 'crew',
    message: 'Nobody works that day: say who does, and when.',
  })
  const crew = [{ id: randomUUID(), personId: null, name: 'Nobody', daysBefore: 0, from: '07:00', to: '07:00', skills: [] }]
  const none = await kitchen.lead.ask('POST', '/days', dinner({ crew }))
  expect(none.body.errors?.[0]).toEqual({ field: 'body.crew.0.to', message: 'That is no time at all: the shift ends as it begins.' })
  const request = dinner({ minutesAvailable: 1 })
  const [dish] = request.body.dishes
  const head = { ...dish, outputKey: 'head', outputName: 'Head roast', portions: { kind: 'counted', count: 400 } }
  const many = await kept({ ...request, body: { ...request.body, dishes: [head] } } as typeof request)
  expect((await planIt(many.id)).body.type).toBe('urn:fleam:problem:day-not-met')
  const planned = as<PlannedDay>(await kitchen.cook.ask('POST', `/days/${many.id}/plan`, {}))
  const hands = planned.moves.find(({ limit }) => limit === 'hands')
  expect(hands && 'minutes' in hands ? hands.minutes : 0).toBeGreaterThan(100)
})

test('an offer of which there are few binds, and the day says what a pack more would save', async () => {
  const free = await kept(dinner())
  const before = as<PlannedDay>(await kitchen.cook.ask('POST', `/days/${free.id}/plan`, {}))
  const [bought] = before.plan.buy
  expect(bought?.items).toBeGreaterThan(1)
  const limited = await kept(dinner({ limits: { [bought?.offer ?? '']: { most: 1 } } }))
  const planned = as<PlannedDay>(await kitchen.cook.ask('POST', `/days/${limited.id}/plan`, {}))
  expect(planned.plan.buy[0]?.items ?? 0).toBeLessThanOrEqual(1)
  expect(planned.plan.cost).toBeGreaterThan(before.plan.cost)
  expect(planned.binds).toEqual([{ offer: bought?.offer, limit: 'most', saves: expect.any(Number) }])
  expect(Object.keys(before.leftTo).length).toBeGreaterThan(0)
})

test('a calendar file, and a secret address that opens one’s own days until it is renewed or taken away', async () => {
  const day = await kept(dinner())
  await planIt(day.id)
  const file = await kitchen.cook.ask('GET', `/days/${day.id}/schedule.ics?who=${kitchen.cook.personId}`)
  const text = String(file.body)
  expect(text).toContain('BEGIN:VCALENDAR')
  expect(text).toContain('SUMMARY:Cut ')
  const ask = async (path: string) => test_.app.inject({ method: 'GET', url: path })
  const { path } = as<{ path: string }>(await kitchen.cook.ask('POST', '/account/calendar'))
  const own = await ask(path)
  expect([own.statusCode, own.headers['content-type']]).toEqual([200, 'text/calendar; charset=utf-8'])
  expect(own.body).toContain('SUMMARY:Cut ')
  const renewed = as<{ path: string }>(await kitchen.cook.ask('POST', '/account/calendar')).path
  expect([(await ask(path)).statusCode, (await ask(renewed)).statusCode]).toEqual([404, 200])
  await kitchen.cook.ask('DELETE', '/account/calendar')
  expect((await ask(renewed)).statusCode).toBe(404)
})

test('a day comes again every week, once for each week, and is put back after it was taken off', async () => {
  const day = await kept(dinner())
  const [first, again] = await Promise.all([1, 2].map(() => kitchen.lead.ask('POST', `/days/${day.id}/repeat`, { weeks: 3 })))
  const dates = as<{ entries: KitchenDay[] }>(first as Answer).entries.map(({ date }) => date)
  expect(dates).toEqual([7, 14, 21].map((days) => daysAfter(day.date, days)))
  const ids = as<{ entries: KitchenDay[] }>(again as Answer).entries.map(({ id }) => id)
  await kitchen.lead.ask('POST', `/days/${ids[0]}/drop`, { dropped: true })
  const back = as<{ entries: KitchenDay[] }>(await kitchen.lead.ask('POST', `/days/${day.id}/repeat`, { weeks: 3 }))
  expect(back.entries.map(({ id }) => id)).toEqual(ids)
})

test('counts come from a list, all of it or nothing', async () => {
  const day = await kept(dinner())
  const bad = await kitchen.lead.ask('POST', `/days/${day.id}/counts`, { version: 1, text: 'service;count\nDinner;36\nBrunch;12' })
  expect(bad.body.errors?.[0]).toEqual({ field: 'text', message: 'Line 3: the day has no service “Brunch”.' })
  const far = await kitchen.lead.ask('POST', `/days/${day.id}/counts`, { version: 1, text: 'service;count\nDinner;36000' })
  expect(far.body.errors?.[0]?.message).toBe('That is over 20,000 guests: check the number.')
  const taken = await kitchen.lead.ask('POST', `/days/${day.id}/counts`, {
    version: 1,
    text: 'service;dish;count\nDinner;;36\nDinner;Steak;21',
  })
  expect(as<KitchenDay>(taken).body).toMatchObject({ services: [{ guests: 36 }], dishes: [{ portions: { kind: 'counted', count: 21 } }] })
})

test('a dish that is made of what is cut: the follow-on is planned with it', async () => {
  const request = dinner()
  const [dish] = request.body.dishes
  const pie = { ...dish, name: 'Pie', madeBy: 'grind', gramsPerPortion: 200, portions: { kind: 'counted', count: 10 } }
  const day = await kept({ ...request, body: { ...request.body, dishes: [pie] } } as typeof request)
  const planned = as<PlannedDay>(await kitchen.cook.ask('POST', `/days/${day.id}/plan`, {}))
  expect(planned.troubles).toEqual([])
  const made = planned.flow.find(({ product }) => product.startsWith('grind>'))
  expect(made?.needed).toBe(2000)
  expect(made?.from[0]).toMatchObject({ kind: 'made' })
  expect(made?.from[0]?.grams).toBeGreaterThanOrEqual(2000)
  const raw = planned.flow.find(({ product }) => product === planned.plan.make[0]?.followOn.split('>')[1])
  expect(raw?.used).toBe((planned.plan.make[0]?.batches ?? 0) * 1000)
  expect((await planIt(day.id)).status).toBe(200)
})
