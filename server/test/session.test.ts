import { randomUUID } from 'node:crypto'
import { setTimeout as pause } from 'node:timers/promises'
import type { Account, Door, SecurityEvent, TimeCodeOffer } from '@fleam/contract/people'
import { generateSync } from 'otplib'
import { DatabaseError } from 'sequelize'
import type { Database } from '../src/db/database.ts'
import { hashSecret } from '../src/features/people/secrets.ts'
import { findSession } from '../src/http/access.ts'
import { type Asker, addPerson, openTestApp, type Stocked, settings, stockKitchen, type TestApp } from './kitchen.ts'

let test_: TestApp
beforeAll(async () => {
  test_ = await openTestApp()
})
afterAll(() => test_.close())

const good = 'four wet oars'
let addresses = 0
const signIn = (payload: object, headers = {}, app = test_.app, remoteAddress = `10.0.${addresses++ % 256}.7`) =>
  app.inject({ method: 'POST', url: '/api/v1/session', payload, headers, remoteAddress })
const cookieOf = (answer: { headers: Record<string, unknown> }) => String(answer.headers['set-cookie']).split(';')[0] ?? ''
const kindOf = (answer: { json(): { type: string } }) => answer.json().type.split(':').at(-1)
const door = async (headers = {}) => (await test_.app.inject({ url: '/api/v1/door', headers })).json() as Door

test('a first manager is made once, and is signed in; nobody could sign in before', async () => {
  expect(await door()).toEqual({ needsSetup: true, asksKitchen: false, tablet: null })
  const payload = { kitchenName: 'New kitchen', currency: 'GBP', name: 'Wren Ashby', secret: good }
  const made = await test_.app.inject({ method: 'POST', url: '/api/v1/setup', payload })
  expect(made.statusCode).toBe(201)
  expect(made.json()).toMatchObject({ person: { name: 'Wren Ashby', role: 'manager' }, kitchen: { settings: { currency: 'GBP' } } })
  expect((await door()).needsSetup).toBe(false)
  expect((await test_.app.inject({ method: 'POST', url: '/api/v1/setup', payload })).statusCode).toBe(409)
})

test('a kitchen of one’s own offers no demo people', async () => {
  expect((await test_.app.inject('/api/v1/demo')).statusCode).toBe(404)
})

test('a session’s cookie is out of reach of scripts and other sites, and ends with the session', async () => {
  const opened = await signIn({ name: 'Wren Ashby', secret: good })
  const cookie = String(opened.headers['set-cookie'])
  expect(cookie).toContain('HttpOnly')
  expect(cookie).toContain('SameSite=Strict')
  const headers = { cookie: cookieOf(opened) }
  expect((await test_.app.inject({ url: '/api/v1/session', headers })).json().person.name).toBe('Wren Ashby')
  const again = await signIn({ name: 'Wren Ashby', secret: good }, headers)
  expect((await test_.app.inject({ url: '/api/v1/session', headers })).statusCode).toBe(401)
  const later = { cookie: cookieOf(again) }
  await test_.app.inject({ method: 'DELETE', url: '/api/v1/session', headers: later })
  expect((await test_.app.inject({ url: '/api/v1/session', headers: later })).statusCode).toBe(401)
})

test('answers carry the headers of a careful site, and nothing of the API is kept', async () => {
  const { headers } = await test_.app.inject('/api/v1/health')
  expect(headers['content-security-policy']).toContain("default-src 'self'")
  expect(headers['x-content-type-options']).toBe('nosniff')
  expect(headers['cache-control']).toBe('no-store')
  const refused = await test_.app.inject('/api/v1/session')
  expect([refused.headers['x-content-type-options'], refused.headers['cache-control']]).toEqual(['nosniff', 'no-store'])
  expect(refused.json().requestId).toMatch(/^[0-9a-f-]{36}$/)
})

test('a write from another site is refused', async () => {
  const asked = { name: 'Wren Ashby', secret: good }
  const foreign = await signIn(asked, { origin: 'http://elsewhere.example' })
  expect([foreign.statusCode, kindOf(foreign)]).toEqual([403, 'foreign-origin'])
  expect((await signIn(asked, { 'sec-fetch-site': 'cross-site' })).statusCode).toBe(403)
  expect((await signIn(asked, { origin: 'http://localhost:4180', host: 'localhost:4180' })).statusCode).toBe(201)
})

describe('behind a proxy that speaks TLS', () => {
  test('cookies are bound to the host, the browser is told to stay with TLS, and other names are refused', async () => {
    const { buildApp } = await import('../src/app.ts')
    const heavyWork = { run: async () => ({}) as never, close: async () => undefined }
    const app = await buildApp({ db: test_.db, heavyWork, guards: { trustProxy: true, hosts: ['kitchen.example'] } })
    const headers = { 'x-forwarded-proto': 'https', 'x-forwarded-host': 'kitchen.example', 'x-forwarded-for': '203.0.113.9' }
    const opened = await signIn({ name: 'Wren Ashby', secret: good }, headers, app)
    expect(String(opened.headers['set-cookie'])).toMatch(/^__Host-fleam_session=.*; Secure/)
    expect(opened.headers['strict-transport-security']).toContain('max-age=31536000')
    const account = await app.inject({ url: '/api/v1/account', headers: { ...headers, cookie: cookieOf(opened) } })
    expect(account.json().sessions[0].address).toBe('203.0.113.9')
    const strange = await app.inject({ url: '/api/v1/health', headers: { host: 'elsewhere.example' } })
    expect([strange.statusCode, kindOf(strange)]).toEqual([421, 'unknown-host'])
    await app.close()
  })
})

describe('in a kitchen among several', () => {
  let stocked: Stocked
  let kitchen: string
  beforeAll(async () => {
    stocked = await stockKitchen(test_, 'Second kitchen')
    kitchen = stocked.kitchenId
  })
  const enrol = async (by: Asker, name = 'Bench tablet') => {
    const body = { id: randomUUID(), name }
    const answer = await by.ask('POST', '/tablets', body)
    expect(answer.status).toBe(201)
    return { id: body.id, cookie: cookieOf(answer) }
  }
  const addCook = async (name: string, pin: string) => {
    const body = { id: randomUUID(), name, role: 'cook', secret: pin }
    const answer = await stocked.manager.ask('POST', '/people', body)
    expect(answer.status).toBe(201)
    return body.id
  }

  test('signing in says which one; names are one kitchen’s own', async () => {
    expect((await door()).asksKitchen).toBe(true)
    // where only one of them has somebody of that name it need not be said
    expect((await signIn({ name: 'Wren Ashby', secret: good })).json().kitchen.name).toBe('New kitchen')
    await addPerson(test_, kitchen, 'lead', 'Wren Ashby')
    const unsaid = await signIn({ name: 'Wren Ashby', secret: good })
    expect([unsaid.statusCode, kindOf(unsaid)]).toEqual([401, 'wrong-secret'])
    const named = await signIn({ name: 'Wren Ashby', secret: 'a-long-secret', kitchen: 'Second kitchen' })
    expect([named.statusCode, named.json().person.role]).toEqual([201, 'lead'])
    expect((await signIn({ name: 'Wren Ashby', secret: good, kitchen: 'New kitchen' })).json().person.role).toBe('manager')
  })

  test('a wrong secret, an unknown name and an unknown kitchen get the same answer', async () => {
    await addPerson(test_, kitchen, 'lead', 'Robin')
    const answers = await Promise.all(
      [
        { name: 'Robin', secret: 'wrong', kitchen },
        { name: 'Nobody', secret: 'wrong', kitchen },
        { name: 'Nobody', secret: 'wrong' },
        { name: 'Robin', secret: 'wrong', kitchen: 'Nowhere' },
      ].map((asked) => signIn(asked)),
    )
    const shown = answers.map((answer) => ({ ...answer.json(), requestId: '' }))
    expect(answers.map(({ statusCode }) => statusCode)).toEqual([401, 401, 401, 401])
    for (const one of shown) expect(one).toEqual(shown[0])
  })

  test('of two hundred tries at once no more are looked at than of as many one by one, and the wait grows', async () => {
    await addPerson(test_, kitchen, 'lead', 'Merle')
    const tries = await Promise.all(Array.from({ length: 200 }, (_, index) => signIn({ name: 'Merle', secret: `wrong ${index}`, kitchen })))
    const looked = tries.filter(({ statusCode }) => statusCode === 401)
    // five are free, and one more in each wait that ended meanwhile
    expect(looked.length).toBeLessThanOrEqual(10)
    expect(looked.length).toBeGreaterThanOrEqual(5)
    const refused = tries.filter(({ statusCode }) => statusCode === 429)
    expect(refused.length).toBe(200 - looked.length)
    // a refusal by the pool of hashes is one too; those by the count say when to come back
    expect(new Set(refused.map((answer) => kindOf(answer)))).toEqual(new Set(['too-many-attempts']))
    expect(Number(refused[0]?.headers['retry-after'])).toBeGreaterThan(0)
  })

  test('one address that tries many names waits as well', async () => {
    const tries = await Promise.all(
      Array.from({ length: 60 }, (_, index) => signIn({ name: `Name ${index}`, secret: 'wrong', kitchen }, {}, test_.app, '10.1.1.1')),
    )
    const looked = tries.filter(({ statusCode }) => statusCode === 401).length
    expect(looked).toBeGreaterThanOrEqual(30)
    expect(looked).toBeLessThanOrEqual(36)
  })

  test('a PIN opens on an enrolled tablet alone, which shows whom to tap, and strangers’ tries do not shut its people out', async () => {
    const id = await addCook('Teal', '4719')
    const stranger = await signIn({ name: 'Teal', secret: '4719', kitchen })
    const nobody = await signIn({ name: 'Nobody', secret: '4719', kitchen })
    expect([stranger.statusCode, kindOf(stranger)]).toEqual([403, 'tablet-needed'])
    expect({ ...nobody.json(), requestId: '' }).toEqual({ ...stranger.json(), requestId: '' })
    const tablet = await enrol(stocked.manager)
    const shown = (await door({ cookie: tablet.cookie })).tablet
    expect(shown).toMatchObject({ name: 'Bench tablet', kitchen: 'Second kitchen' })
    expect(shown?.people).toContainEqual({ name: 'Teal', role: 'cook', asks: 'pin' })
    const onTablet = (secret: string) => signIn({ name: 'Teal', secret }, { cookie: tablet.cookie })
    const opened = await onTablet('4719')
    expect([opened.statusCode, opened.json().tablet.name]).toEqual([201, 'Bench tablet'])
    for (let tries = 0; tries < 8; tries += 1) await signIn({ name: 'Teal', secret: 'not a figure', kitchen })
    expect((await onTablet('4719')).statusCode).toBe(201)
    // tries on the tablet itself do count, and a manager's new PIN lifts them
    for (let tries = 0; tries < 7; tries += 1) await onTablet('9999')
    expect((await onTablet('4719')).statusCode).toBe(429)
    const change = { version: 1, name: 'Teal', role: 'cook', active: true, secret: '8206' }
    expect((await stocked.manager.ask('PUT', `/people/${id}`, change)).status).toBe(200)
    const cookie = cookieOf(await onTablet('8206'))
    expect((await stocked.manager.ask('DELETE', `/tablets/${tablet.id}`)).status).toBe(204)
    expect((await test_.app.inject({ url: '/api/v1/session', headers: { cookie } })).statusCode).toBe(401)
    expect((await onTablet('8206')).statusCode).not.toBe(201)
  })

  test('secrets that anyone would try first are refused, and a change of role asks for the secret that it needs', async () => {
    const add = async (role: string, secret: string, name = 'Garnet Pike') => {
      const answer = await stocked.manager.ask('POST', '/people', { id: randomUUID(), name, role, secret })
      return [answer.status, answer.body.errors?.[0]?.field]
    }
    for (const easy of ['0000', '1234', '9876', '77777777', '123', '123456789', 'abcd'])
      expect(await add('cook', easy)).toEqual([400, 'secret'])
    for (const weak of ['short', '4719', 'password1234', 'garnet pike 1', 'aaaaaaaaaaaaaa'])
      expect(await add('lead', weak)).toEqual([400, 'secret'])
    const id = await addCook('Sorrel', '5093')
    const promote = (more: object) =>
      stocked.manager.ask('PUT', `/people/${id}`, { version: 1, name: 'Sorrel', role: 'lead', active: true, ...more })
    expect((await promote({})).body.errors?.[0]?.field).toBe('secret')
    expect((await promote({ secret: '5093' })).body.errors?.[0]?.field).toBe('secret')
    expect((await promote({ secret: 'three grey herons' })).status).toBe(200)
    expect((await signIn({ name: 'Sorrel', secret: 'three grey herons', kitchen })).statusCode).toBe(201)
  })

  test('people change their own secret, see where they are signed in, and end what is elsewhere', async () => {
    const lead = await addPerson(test_, kitchen, 'lead', 'Linnet')
    const elsewhere = {
      cookie: cookieOf(await signIn({ name: 'Linnet', secret: 'a-long-secret', kitchen }, { 'user-agent': 'An old tablet' })),
    }
    const account = (await lead.ask('GET', '/account')).body as unknown as Account
    expect(account.secretKind).toBe('passphrase')
    expect(account.sessions.map(({ isThis }) => isThis).sort()).toEqual([false, true])
    const other = account.sessions.find(({ device }) => device === 'An old tablet')
    expect((await lead.ask('DELETE', `/account/sessions/${other?.id}`)).status).toBe(204)
    expect((await test_.app.inject({ url: '/api/v1/session', headers: elsewhere })).statusCode).toBe(401)
    const change = (current: string, secret: string) => lead.ask('PUT', '/account/secret', { current, secret })
    expect((await change('a-wrong-secret', 'ten slack hawsers')).body.errors?.[0]?.field).toBe('current')
    expect((await change('a-long-secret', 'short')).body.errors?.[0]?.field).toBe('secret')
    expect((await change('a-long-secret', 'ten slack hawsers')).status).toBe(204)
    expect((await signIn({ name: 'Linnet', secret: 'a-long-secret', kitchen })).statusCode).toBe(401)
    expect((await signIn({ name: 'Linnet', secret: 'ten slack hawsers', kitchen })).statusCode).toBe(201)
  })

  test('who has asked for a time code is not in without it', async () => {
    const lead = await addPerson(test_, kitchen, 'manager', 'Heron')
    const { key, picture } = (await lead.ask('POST', '/account/time-code', { current: 'a-long-secret' })).body as unknown as TimeCodeOffer
    expect(picture).toContain('<svg')
    expect((await lead.ask('PUT', '/account/time-code', { key, code: '000000' })).status).toBe(400)
    expect((await lead.ask('PUT', '/account/time-code', { key, code: generateSync({ secret: key }) })).status).toBe(204)
    const asked = { name: 'Heron', secret: 'a-long-secret', kitchen }
    const without = await signIn(asked)
    expect([without.statusCode, kindOf(without), without.json().errors[0].field]).toEqual([401, 'time-code-needed', 'code'])
    expect((await signIn({ ...asked, code: '000000' })).statusCode).toBe(401)
    const code = generateSync({ secret: key })
    expect((await signIn({ ...asked, code })).statusCode).toBe(201)
    // whoever saw it typed cannot use it again
    expect((await signIn({ ...asked, code })).statusCode).toBe(401)
  })

  test('a session that nobody is at ends after the kitchen’s hours, on a tablet after others', async () => {
    const lead = await addPerson(test_, kitchen, 'lead', 'Plover')
    const { sessions } = test_.db.acrossKitchens
    const endOf = async () => {
      const row = await sessions.findOne({ where: { personId: lead.personId } })
      return (Number(row?.expiresAt) - Number(row?.seenAt)) / 3_600_000
    }
    expect(await endOf()).toBeCloseTo(2, 3)
    const { version } = (await stocked.manager.ask('GET', '/kitchen')).body
    const changed = { ...settings, signedOutAfter: { tabletHours: 9, otherHours: 1 } }
    expect((await stocked.manager.ask('PUT', '/kitchen', { version, name: 'Second kitchen', settings: changed })).status).toBe(200)
    await sessions.update({ seenAt: new Date(Date.now() - 90_000) }, { personId: lead.personId })
    await lead.ask('GET', '/session')
    expect(await endOf()).toBeCloseTo(1, 3)
    await sessions.update({ expiresAt: new Date(Date.now() - 1) }, { personId: lead.personId })
    expect((await lead.ask('GET', '/session')).status).toBe(401)
  })

  test('who came in, who failed to and what was taken out is kept, with the address', async () => {
    await stocked.manager.ask('GET', '/runs.csv')
    const { entries } = (await stocked.manager.ask('GET', '/security-events?limit=200')).body as unknown as { entries: SecurityEvent[] }
    const kinds = new Set(entries.map(({ kind }) => kind))
    for (const kind of [
      'signed in',
      'sign-in failed',
      'sign-in made to wait',
      'tablet enrolled',
      'tablet let go',
      'role changed',
      'exported',
    ])
      expect(kinds).toContain(kind)
    for (const { address } of entries) expect(address).toMatch(/^(127\.0\.0\.1|10\.\d+\.\d+\.\d+)$/)
    expect(entries.some(({ about }) => /wrong|4719|a-long-secret/.test(about))).toBe(false)
    expect((await stocked.lead.ask('GET', '/security-events')).status).toBe(403)
  })

  test('a hash of an earlier kind is taken once more, and made anew', async () => {
    const { scryptSync } = await import('node:crypto')
    const salt = Buffer.alloc(16, 7)
    const digest = scryptSync('an old secret', salt, 32, { N: 16_384 }).toString('base64')
    const { people } = test_.db.of(kitchen)
    const secretHash = ['scrypt', 16_384, salt.toString('base64'), digest].join('$')
    await people.create({ id: randomUUID(), name: 'Old', signInName: 'Old', role: 'lead', secretHash, secretKind: 'passphrase' })
    expect((await signIn({ name: 'Old', secret: 'an old secreT', kitchen })).statusCode).toBe(401)
    expect((await signIn({ name: 'Old', secret: 'an old secret', kitchen })).statusCode).toBe(201)
    expect((await people.findOne({ where: { name: 'Old' } }))?.secretHash).toMatch(/^\$argon2id\$/)
    expect((await signIn({ name: 'Old', secret: 'an old secret', kitchen })).statusCode).toBe(201)
  })

  test('someone who may no longer sign in is out at once', async () => {
    const change = { version: 1, name: 'Gone away', role: 'cook', active: false, secret: '4719' }
    expect((await stocked.manager.ask('PUT', `/people/${stocked.cook.personId}`, change)).status).toBe(200)
    expect((await stocked.cook.ask('GET', '/session')).status).toBe(401)
  })

  test('a kitchen keeps its last manager', async () => {
    const { manager } = await stockKitchen(test_, 'Third kitchen')
    const answer = await manager.ask('PUT', `/people/${manager.personId}`, { version: 1, name: 'Still here', role: 'cook', active: true })
    expect([answer.status, answer.body.errors?.[0]?.field]).toEqual([400, 'role'])
  })
})

test('a stream ends within a second or so of its session, and a session has so many and no more', async () => {
  const kitchen = await stockKitchen(test_, 'Kitchen of streams')
  const url = new URL(await test_.app.listen({ port: 0, host: '127.0.0.1' }))
  const open = () => fetch(new URL('/api/v1/live', url), { headers: { cookie: kitchen.cook.cookie } })
  const streams = await Promise.all(Array.from({ length: 12 }, open))
  expect(streams.map(({ status }) => status)).toEqual(Array(12).fill(200))
  expect((await open()).status).toBe(429)
  const ended = Promise.all(streams.map((stream) => stream.text()))
  await kitchen.cook.ask('DELETE', '/session')
  const from = Date.now()
  await Promise.race([ended, pause(20_000)])
  expect(Date.now() - from).toBeLessThan(9000)
})

test('whoever was not seen for a while reads all the same where nothing can be written', async () => {
  const kitchen = await stockKitchen(test_, 'Kitchen of a full disk')
  const { acrossKitchens } = test_.db
  const token = decodeURIComponent(kitchen.cook.cookie.split('=')[1] ?? '')
  await acrossKitchens.sessions.update({ seenAt: new Date(Date.now() - 120_000) }, { personId: kitchen.cook.personId })
  const failing = (errno: number): Database => {
    const update = jest.fn().mockRejectedValue(new DatabaseError(Object.assign(new Error('refused'), { errno, sql: '' })))
    return { ...test_.db, acrossKitchens: { ...acrossKitchens, sessions: { ...acrossKitchens.sessions, update } } }
  }
  expect((await findSession(failing(1021), token))?.person.id).toBe(kitchen.cook.personId)
  await expect(findSession(failing(1064), token)).rejects.toThrow('refused')
})

test('of six who set up at once one makes the kitchen, the others are told', async () => {
  const empty = await openTestApp()
  const setUp = (name: string) =>
    empty.app.inject({
      method: 'POST',
      url: '/api/v1/setup',
      payload: { kitchenName: `Kitchen of ${name}`, currency: 'EUR', name, secret: good },
    })
  const answers = await Promise.all(['Ada', 'Bo', 'Cy', 'Di', 'Ed', 'Flo'].map(setUp))
  expect(answers.map(({ statusCode }) => statusCode).sort()).toEqual([201, 409, 409, 409, 409, 409])
  expect([await empty.db.acrossKitchens.kitchens.count(), await empty.db.acrossKitchens.people.count()]).toEqual([1, 1])
  await empty.close()
})

test('hashes of one secret differ, and fit it alone', async () => {
  const { secretFits } = await import('../src/features/people/secrets.ts')
  const [one, other] = await Promise.all([hashSecret(good), hashSecret(good)])
  expect(one).not.toBe(other)
  expect([await secretFits(good, one), await secretFits(`${good} `, one), await secretFits(good, null)]).toEqual([true, false, false])
})
