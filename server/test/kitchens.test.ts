import { randomUUID } from 'node:crypto'
import type { InvitationMade, Place, SideBySide } from '@fleam/contract/kitchens'
import type { Session } from '@fleam/contract/people'
import { portionStatistics } from '@fleam/core/portions/portion-statistics'
import { type Answer, type Asker, addPerson, finishedRun, openTestApp, type Stocked, stockKitchen, type TestApp } from './kitchen.ts'

let test_: TestApp
let quay: Stocked
let point: Stocked
beforeAll(async () => {
  test_ = await openTestApp()
  quay = await stockKitchen(test_, 'Quay')
  point = await stockKitchen(test_, 'Point')
})
afterAll(() => test_.close())

const as = <Body>({ body }: Answer) => body as unknown as Body
const place = { currency: 'EUR', locale: 'en-GB', timeZone: 'Europe/Dublin' }
const placesOf = async (by: Asker) => as<{ entries: Place[] }>(await by.ask('GET', '/kitchens')).entries
const namesOf = async (by: Asker) => (await placesOf(by)).map(({ name, role }) => `${name}: ${role}`)

/** The same person, in the session that an answer opened. */
function moved(by: Asker, answer: Answer): Asker {
  const cookie = String(answer.headers['set-cookie']).split(';')[0] ?? ''
  return {
    ...by,
    ...{ cookie, kitchenId: as<Session>(answer).kitchen.id, personId: as<Session>(answer).person.id },
    async ask(method, path, body) {
      const payload = body === undefined ? {} : { payload: body as object }
      const response = await test_.app.inject({ method, url: `/api/v1${path}`, headers: { cookie }, ...payload })
      return { status: response.statusCode, body: response.body ? response.json() : {}, headers: response.headers } as Answer
    },
  }
}
async function goTo(by: Asker, kitchenId: string): Promise<Asker> {
  const answer = await by.ask('PUT', '/session/kitchen', { kitchenId })
  expect(answer.status).toBe(200)
  return moved(by, answer)
}
async function askedIn(by: Asker, role: string): Promise<InvitationMade> {
  const made = await by.ask('POST', '/invitations', { id: randomUUID(), role })
  expect(made.status).toBe(201)
  return as<InvitationMade>(made)
}
/** Somebody of the first kitchen, who works in the second too. */
async function ofBoth(role: 'lead' | 'manager', there: string): Promise<Asker> {
  const person = await addPerson(test_, quay.kitchenId, role)
  expect((await person.ask('POST', '/kitchens/join', { code: (await askedIn(point.manager, there)).code })).status).toBe(201)
  return person
}

describe('a further kitchen', () => {
  test('is opened once, with whoever opened it as its manager, and nobody else’s to see', async () => {
    const manager = await addPerson(test_, quay.kitchenId, 'manager')
    const body = { id: randomUUID(), name: 'Weir', ...place }
    const made = await manager.ask('POST', '/kitchens', body)
    expect([made.status, as<Place>(made)]).toMatchObject([201, { name: 'Weir', role: 'manager', isHere: false, isHome: false }])
    expect((await manager.ask('POST', '/kitchens', body)).status).toBe(201)
    expect(await namesOf(manager)).toEqual(['Quay: manager', 'Weir: manager'])
    expect((await manager.ask('POST', '/kitchens', { ...body, id: randomUUID() })).body.errors?.[0]?.field).toBe('name')
    expect((await point.manager.ask('POST', '/kitchens', { ...body, name: 'Other' })).status).toBe(409)
    expect(await namesOf(point.manager)).toEqual(['Point: manager'])

    const there = await goTo(manager, body.id)
    expect((await there.ask('GET', '/session')).body).toMatchObject({ kitchen: { name: 'Weir' }, person: { role: 'manager' } })
    // whose answer was lost goes again; the session that was left does not outlast the minute
    expect((await manager.ask('PUT', '/session/kitchen', { kitchenId: body.id })).status).toBe(200)
    const left = await test_.db.of(quay.kitchenId).sessions.findOne({ where: { personId: manager.personId } })
    expect(left?.expiresAt.getTime()).toBeLessThan(Date.now() + 60_000)
    await test_.db.of(quay.kitchenId).sessions.update({ expiresAt: new Date() }, { personId: manager.personId })
    expect((await manager.ask('GET', '/session')).status).toBe(401)
    expect(as<{ entries: unknown[] }>(await there.ask('GET', '/cut-sheets')).entries.length).toBeGreaterThan(30)
    expect(as<{ entries: unknown[] }>(await there.ask('GET', '/items')).entries).toEqual([])
    expect((await there.ask('GET', '/account')).body).toMatchObject({ isAway: true })
    const secret = { current: 'a-long-secret', secret: 'four wet oars here' }
    expect((await there.ask('PUT', '/account/secret', secret)).status).toBe(403)
    const back = await goTo(there, quay.kitchenId)
    expect((await back.ask('GET', '/account')).body).toMatchObject({ isAway: false })
  })

  test('is come into by a code, once, with a role of its own', async () => {
    const person = await addPerson(test_, quay.kitchenId, 'lead', 'Marram Teal')
    await addPerson(test_, point.kitchenId, 'cook', 'Marram Teal')
    const { code, id } = await askedIn(point.manager, 'cook')
    expect(as<{ entries: { id: string }[] }>(await point.manager.ask('GET', '/invitations')).entries.map((one) => one.id)).toContain(id)
    const joined = await person.ask('POST', '/kitchens/join', { code: code.toLowerCase() })
    expect([joined.status, as<Place>(joined)]).toMatchObject([201, { name: 'Point', role: 'cook' }])
    expect((await quay.lead.ask('POST', '/kitchens/join', { code })).status).toBe(400)
    expect(
      (await person.ask('POST', '/kitchens/join', { code: (await askedIn(point.manager, 'lead')).code })).body.errors?.[0]?.message,
    ).toBe('You work in that kitchen already.')
    const there = await goTo(person, point.kitchenId)
    expect((await there.ask('GET', '/session')).body).toMatchObject({ person: { name: 'Marram Teal (Quay)', role: 'cook' } })
    expect((await there.ask('GET', '/invitations')).status).toBe(403)
    expect((await there.ask('GET', '/runs')).status).toBe(200)
    expect(await namesOf(there)).toEqual(['Point: cook', 'Quay: lead'])
  })

  test('codes that were taken back, are too old or never were open nothing, and are not tried for long', async () => {
    const person = await addPerson(test_, quay.kitchenId, 'lead')
    const [back, old] = [await askedIn(point.manager, 'lead'), await askedIn(point.manager, 'lead')]
    expect((await point.manager.ask('DELETE', `/invitations/${back.id}`)).status).toBe(204)
    expect((await quay.manager.ask('DELETE', `/invitations/${old.id}`)).status).toBe(404)
    await test_.db.of(point.kitchenId).invitations.update({ expiresAt: new Date(Date.now() - 1000) }, { id: old.id })
    const answers: number[] = []
    for (const code of [back.code, old.code, 'ABCD-2345-EFGH', 'ABCD-2345-EFGJ', 'ABCD-2345-EFGK', 'ABCD-2345-EFGM', 'ABCD-2345-EFGN'])
      answers.push((await person.ask('POST', '/kitchens/join', { code })).status)
    expect(answers).toEqual([400, 400, 400, 400, 400, 400, 429])
    expect(await namesOf(person)).toEqual(['Quay: lead'])
  })

  test('is not gone to by who is not of it, by a PIN, or on another’s tablet', async () => {
    expect((await quay.manager.ask('PUT', '/session/kitchen', { kitchenId: point.kitchenId })).status).toBe(404)
    const person = await ofBoth('lead', 'lead')
    const { people } = test_.db.acrossKitchens
    await people.update({ secretKind: 'pin' }, { id: person.personId })
    expect((await person.ask('PUT', '/session/kitchen', { kitchenId: point.kitchenId })).status).toBe(403)
    await people.update({ secretKind: 'passphrase' }, { id: person.personId })
    const manager = await ofBoth('manager', 'lead')
    expect((await manager.ask('POST', '/tablets', { id: randomUUID(), name: 'Bench' })).status).toBe(201)
    expect((await manager.ask('PUT', '/session/kitchen', { kitchenId: point.kitchenId })).status).toBe(403)
  })

  test('is left by who may no longer work there, may no longer work at home, or has another passphrase', async () => {
    const change = async (by: Asker, person: string, changes: object) => {
      const { entries } = as<{ entries: { id: string; name: string; role: string; version: number }[] }>(
        await by.ask('GET', '/people?limit=200'),
      )
      const { id, name, role, version } = entries.find((one) => one.id === person) ?? { id: '', name: '', role: '', version: 0 }
      return (await by.ask('PUT', `/people/${id}`, { version, name, role, active: true, ...changes })).status
    }
    const stands = async (by: Asker) => (await by.ask('GET', '/session')).status
    const out = await goTo(await ofBoth('lead', 'cook'), point.kitchenId)
    expect(await change(point.manager, out.personId, { secret: 'a passphrase of its own' })).toBe(400)
    expect(await stands(out)).toBe(200)
    expect(await change(point.manager, out.personId, { active: false })).toBe(200)
    expect(await stands(out)).toBe(401)

    const person = await ofBoth('lead', 'lead')
    const there = await goTo(person, point.kitchenId)
    expect(await change(quay.manager, person.personId, { active: false })).toBe(200)
    expect(await stands(there)).toBe(401)

    const another = await ofBoth('lead', 'lead')
    const thereToo = await goTo(another, point.kitchenId)
    expect(await stands(thereToo)).toBe(200)
    expect(await change(quay.manager, another.personId, { secret: 'nine dry lanterns' })).toBe(200)
    expect(await stands(thereToo)).toBe(401)
  })
})

describe('figures side by side', () => {
  const today = new Date().toISOString().slice(0, 10)
  const days = `from=${today}&to=${today}`

  test('are each kitchen’s own, by hand, and of no kitchen where one is a cook', async () => {
    const manager = await addPerson(test_, quay.kitchenId, 'manager')
    expect((await manager.ask('GET', `/kitchens/figures?${days}`)).body).toMatchObject({
      kitchens: [{ name: 'Quay', runs: 0, mainPct: null }],
    })
    await manager.ask('POST', '/kitchens/join', { code: (await askedIn(point.manager, 'lead')).code })
    const runs = [
      await finishedRun(quay, { steaks: ['184 g', '176 g', '191 g'], received: '2936 g', minutes: 9 }),
      await finishedRun(quay, { steaks: ['180 g', '187 g', '400 g'], received: '1800 g', minutes: 9, takeBackLast: true }),
    ].map(
      (run) =>
        run as unknown as { figures: { mainPct: number; costPerPortion: number; portions: number; costPerKg: number; netCost: number } },
    )
    await finishedRun(point, { steaks: ['200 g'], received: '2000 g', minutes: 5 })
    const { kitchens, sheets } = as<SideBySide>(await manager.ask('GET', `/kitchens/figures?${days}`))
    expect(kitchens.map(({ name, runs: count }) => [name, count])).toEqual([
      ['Point', 1],
      ['Quay', 2],
    ])
    const own = kitchens[1]
    const [first, second] = runs.map(({ figures }) => figures)
    if (!own || !first || !second) throw new Error('Something was not there.')
    const over = [
      portionStatistics({ weights: [184, 176, 191], target: 180, tolerance: 6 }).giveawayGrams,
      portionStatistics({ weights: [180, 187], target: 180, tolerance: 6 }).giveawayGrams,
    ] as const
    expect(own.giveaway.grams).toBe(over[0] + over[1])
    expect(own.giveaway.cost).toBeCloseTo((over[0] * first.costPerKg + over[1] * second.costPerKg) / 1000, 9)
    expect(own.receivedGrams).toBe(4736)
    expect(own.mainPct).toBeCloseTo((first.mainPct * 2936 + second.mainPct * 1800) / 4736, 9)
    expect(own.portions).toBe(first.portions + second.portions)
    expect(own.costPerPortion).toBeCloseTo(
      (first.costPerPortion * first.portions + second.costPerPortion * second.portions) / own.portions,
      9,
    )
    expect(own.netCost).toBeCloseTo(first.netCost + second.netCost, 9)
    expect(sheets).toEqual([{ slug: 'beef-tenderloin-traditional', name: 'Beef tenderloin, traditional', runs: 3, kitchens: 2 }])

    const none = as<SideBySide>(await manager.ask('GET', `/kitchens/figures?${days}&slug=dove-breasts`))
    expect(none.kitchens.map(({ runs: count, netCost, costPerPortion }) => [count, netCost, costPerPortion])).toEqual([
      [0, 0, null],
      [0, 0, null],
    ])
    const before = as<SideBySide>(await manager.ask('GET', '/kitchens/figures?from=2026-01-01&to=2026-01-31'))
    expect(before.kitchens.map(({ runs: count }) => count)).toEqual([0, 0])

    const asCook = await addPerson(test_, quay.kitchenId, 'lead')
    await asCook.ask('POST', '/kitchens/join', { code: (await askedIn(point.manager, 'cook')).code })
    expect(as<SideBySide>(await asCook.ask('GET', `/kitchens/figures?${days}`)).kitchens.map(({ name }) => name)).toEqual(['Quay'])
    expect((await quay.cook.ask('GET', `/kitchens/figures?${days}`)).status).toBe(403)
  })

  test.each([
    ['from=2026-02-02&to=2026-02-01', 'comes before'],
    ['from=2024-01-01&to=2026-01-01', 'a year'],
    ['from=yesterday&to=2026-01-01', 'Write a day'],
  ])('%s is refused', async (query, words) => {
    const answer = await quay.manager.ask('GET', `/kitchens/figures?${query}`)
    expect([answer.status, JSON.stringify(answer.body)]).toEqual([400, expect.stringContaining(words)])
  })
})
