import { randomUUID } from 'node:crypto'
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { Run } from '@fleam/contract/runs'
import { addPerson, openTestApp, runRequest, stockKitchen, type TestApp, weighingRequest } from './kitchen.ts'
import { type RunningServer, root, startServer, until } from './processes.ts'

jest.setTimeout(180_000)

/** Posts a weighing until the server has answered for it, through whatever happens to it meanwhile. */
async function postUntilAnswered(server: () => string, cookie: string, runId: string, body: object): Promise<number> {
  for (;;) {
    try {
      const response = await fetch(`${server()}/api/v1/runs/${runId}/weighings`, {
        method: 'POST',
        headers: { cookie, 'content-type': 'application/json' },
        body: JSON.stringify(body),
        signal: AbortSignal.timeout(5000),
      })
      if (response.status < 500) return response.status
    } catch {
      // no answer: it may be stored or not, so the same weighing is sent again
    }
    await new Promise((resolve) => setTimeout(resolve, 15))
  }
}

describe('the server killed in the middle', () => {
  let test_: TestApp
  beforeAll(async () => {
    test_ = await openTestApp()
  })
  afterAll(() => test_.close())

  test.each([1, 2, 3])('200 weigh-ins from two clients, killed at random moments: every one acknowledged is there once (%#)', async () => {
    const kitchen = await stockKitchen(test_, `Kitchen ${randomUUID()}`)
    const other = await addPerson(test_, kitchen.kitchenId, 'cook')
    const run = (await kitchen.cook.ask('POST', '/runs', runRequest(kitchen, { received: '90 kg', billed: '90 kg', weightsChecked: true })))
      .body as unknown as Run
    const tubId = run.tubs[0]?.id ?? ''
    let server: RunningServer = await startServer(test_.url)
    const port = Number(new URL(server.url).port)
    const acknowledged: string[] = []
    const client = async (cookie: string) => {
      for (let count = 0; count < 100; count += 1) {
        const request = weighingRequest(tubId, `${170 + (count % 20)} g`)
        expect(await postUntilAnswered(() => server.url, cookie, run.id, request)).toBe(201)
        acknowledged.push(request.id)
      }
    }
    let working = true
    const killer = async () => {
      let kills = 0
      while (working) {
        await new Promise((resolve) => setTimeout(resolve, 30 + Math.random() * 150))
        if (!working) break
        await server.kill()
        kills += 1
        server = await startServer(test_.url, { port })
      }
      return kills
    }
    const killing = killer()
    await Promise.all([client(kitchen.cook.cookie), client(other.cookie)])
    working = false
    expect(await killing).toBeGreaterThan(0)
    await server.kill()
    const { weighings } = (await kitchen.cook.ask('GET', `/runs/${run.id}`)).body as unknown as Run
    expect(weighings.map((line) => line.id).sort()).toEqual(acknowledged.sort())
    expect(acknowledged).toHaveLength(200)
  })
})

describe('the database killed in the middle', () => {
  test('one that hangs is left within two seconds, everything is answered, and all is well again when it goes on', async () => {
    const { startMariadb } = await import(join(root, 'scripts/mariadb.mjs'))
    const dataDirectory = mkdtempSync(join(tmpdir(), 'fleam-test-'))
    const database = await startMariadb({ dataDirectory })
    await database.ready()
    const server = await startServer(database.url, { demo: true })
    try {
      const ask = async () => {
        const from = Date.now()
        const answer = await fetch(`${server.url}/api/v1/health`)
        return { status: answer.status, ms: Date.now() - from }
      }
      expect((await Promise.all(Array.from({ length: 20 }, ask))).every(({ status }) => status === 200)).toBe(true)
      database.child.kill('SIGSTOP')
      const caught = await Promise.all(Array.from({ length: 40 }, ask))
      expect(new Set(caught.map(({ status }) => status))).toEqual(new Set([503]))
      expect(Math.max(...caught.map(({ ms }) => ms))).toBeLessThan(2500)
      const after = await Promise.all(Array.from({ length: 40 }, ask))
      expect(new Set(after.map(({ status }) => status))).toEqual(new Set([503]))
      expect(Math.max(...after.map(({ ms }) => ms))).toBeLessThan(500)
      database.child.kill('SIGCONT')
      await until(async () => (await ask()).status === 200, 5000)
      expect((await Promise.all(Array.from({ length: 40 }, ask))).every(({ status }) => status === 200)).toBe(true)
    } finally {
      database.child.kill('SIGCONT')
      await server.kill()
      await database.stop()
      rmSync(dataDirectory, { recursive: true, force: true })
    }
  })

  test('answers say so plainly, and all is well again by itself when it is back', async () => {
    const { startMariadb } = await import(join(root, 'scripts/mariadb.mjs'))
    const dataDirectory = mkdtempSync(join(tmpdir(), 'fleam-test-'))
    const database = await startMariadb({ dataDirectory })
    await database.ready()
    const server = await startServer(database.url, { demo: true })
    try {
      const health = async () => (await fetch(`${server.url}/api/v1/health`)).status
      expect(await health()).toBe(200)
      database.child.kill('SIGKILL')
      await until(async () => (await health()) === 503, 15_000)
      const answer = await fetch(`${server.url}/api/v1/session`, {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify({ name: 'Ines Calloway', secret: '4182' }),
      })
      expect([answer.status, answer.headers.get('retry-after')]).toEqual([503, '2'])
      expect(await answer.json()).toMatchObject({ type: 'urn:fleam:problem:database-away', detail: expect.stringContaining('lost') })
      await database.restart()
      await until(async () => (await health()) === 200, 20_000)
    } finally {
      await server.kill()
      await database.stop()
      rmSync(dataDirectory, { recursive: true, force: true })
    }
  })
})
