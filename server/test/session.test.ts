import { addPerson, openTestApp, stockKitchen, type TestApp } from './kitchen.ts'

let test_: TestApp
beforeAll(async () => {
  test_ = await openTestApp()
})
afterAll(() => test_.close())

const signIn = (name: string, secret: string, headers = {}) =>
  test_.app.inject({ method: 'POST', url: '/api/v1/session', payload: { name, secret }, headers })

test('a first manager is made once, and is signed in', async () => {
  expect((await test_.app.inject('/api/v1/setup')).json()).toEqual({ needed: true })
  const payload = { kitchenName: 'New kitchen', currency: 'GBP', name: 'Wren Ashby', secret: 'a-good-password' }
  const made = await test_.app.inject({ method: 'POST', url: '/api/v1/setup', payload })
  expect(made.statusCode).toBe(201)
  expect(made.json()).toMatchObject({ person: { name: 'Wren Ashby', role: 'manager' }, kitchen: { settings: { currency: 'GBP' } } })
  expect((await test_.app.inject('/api/v1/setup')).json()).toEqual({ needed: false })
  expect((await test_.app.inject({ method: 'POST', url: '/api/v1/setup', payload })).statusCode).toBe(409)
})

test('a kitchen of one’s own offers no demo people', async () => {
  expect((await test_.app.inject('/api/v1/demo')).statusCode).toBe(404)
})

test('a session’s cookie is out of reach of scripts and other sites, and ends with the session', async () => {
  const opened = await signIn('Wren Ashby', 'a-good-password')
  const cookie = String(opened.headers['set-cookie'])
  expect(cookie).toContain('HttpOnly')
  expect(cookie).toContain('SameSite=Strict')
  const headers = { cookie: cookie.split(';')[0] ?? '' }
  expect((await test_.app.inject({ url: '/api/v1/session', headers })).json().person.name).toBe('Wren Ashby')
  await test_.app.inject({ method: 'DELETE', url: '/api/v1/session', headers })
  expect((await test_.app.inject({ url: '/api/v1/session', headers })).statusCode).toBe(401)
})

test('answers carry the headers of a careful site', async () => {
  const { headers } = await test_.app.inject('/api/v1/health')
  expect(headers['content-security-policy']).toContain("default-src 'self'")
  expect(headers['x-content-type-options']).toBe('nosniff')
})

test('a write from another site is refused', async () => {
  const foreign = await signIn('Wren Ashby', 'a-good-password', { origin: 'http://elsewhere.example' })
  expect([foreign.statusCode, foreign.json().type]).toEqual([403, 'urn:fleam:problem:foreign-origin'])
  const embedded = await signIn('Wren Ashby', 'a-good-password', { 'sec-fetch-site': 'cross-site' })
  expect(embedded.statusCode).toBe(403)
  expect((await signIn('Wren Ashby', 'a-good-password', { origin: 'http://localhost:4180', host: 'localhost:4180' })).statusCode).toBe(201)
})

test('a wrong secret and an unknown name get the same answer, and the sixth try must wait', async () => {
  const { kitchenId } = await stockKitchen(test_)
  await addPerson(test_, kitchenId, 'cook', 'Robin')
  const wrong = await signIn('Robin', '0000')
  const unknown = await signIn('Nobody', '0000')
  expect([wrong.statusCode, unknown.statusCode]).toEqual([401, 401])
  expect(wrong.json()).toEqual(unknown.json())
  for (let attempt = 0; attempt < 4; attempt += 1) await signIn('Robin', '0000')
  const limited = await signIn('robin', 'a-long-secret')
  expect([limited.statusCode, limited.json().type]).toEqual([429, 'urn:fleam:problem:too-many-attempts'])
  expect(Number(limited.headers['retry-after'])).toBeGreaterThan(0)
})

test('someone who may no longer sign in is out at once', async () => {
  const stocked = await stockKitchen(test_)
  const change = { version: 1, name: 'Gone away', role: 'cook', active: false }
  expect((await stocked.manager.ask('PUT', `/people/${stocked.cook.personId}`, change)).status).toBe(200)
  expect((await stocked.cook.ask('GET', '/session')).status).toBe(401)
})

test('a kitchen keeps its last manager', async () => {
  const { manager } = await stockKitchen(test_)
  const answer = await manager.ask('PUT', `/people/${manager.personId}`, { version: 1, name: 'Still here', role: 'cook', active: true })
  expect([answer.status, answer.body.errors?.[0]?.field]).toEqual([400, 'role'])
})

test('of six who set up at once one makes the kitchen, the others are told', async () => {
  const empty = await openTestApp()
  const setUp = (name: string) =>
    empty.app.inject({
      method: 'POST',
      url: '/api/v1/setup',
      payload: { kitchenName: `Kitchen of ${name}`, currency: 'EUR', name, secret: 'a-good-password' },
    })
  const answers = await Promise.all(['Ada', 'Bo', 'Cy', 'Di', 'Ed', 'Flo'].map(setUp))
  expect(answers.map(({ statusCode }) => statusCode).sort()).toEqual([201, 409, 409, 409, 409, 409])
  expect([await empty.db.acrossKitchens.kitchens.count(), await empty.db.acrossKitchens.people.count()]).toEqual([1, 1])
  await empty.close()
})
