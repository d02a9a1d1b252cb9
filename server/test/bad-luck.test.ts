import { spawnSync } from 'node:child_process'
import { randomUUID } from 'node:crypto'
import { mkdtempSync, readFileSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { Run } from '@fleam/contract/runs'
import { makeTestDatabase } from '../../scripts/test-database.mjs'
import { buildApp } from '../src/app.ts'
import { checkDatabase, type Fault } from '../src/consistency.ts'
import { openDatabase } from '../src/db/database.ts'
import { migrate } from '../src/db/migrate.ts'
import { openHeavyWork } from '../src/heavy-work.ts'
import { addPerson, finishedRun, openTestApp, runRequest, stockKitchen, type TestApp, weighingRequest } from './kitchen.ts'
import { mayMount, type RunningServer, root, startServer, until } from './processes.ts'

jest.setTimeout(300_000)

const notTheClock = [
  'hrtime',
  'nextTick',
  'performance',
  'queueMicrotask',
  'setImmediate',
  'clearImmediate',
  'setInterval',
  'clearInterval',
  'setTimeout',
  'clearTimeout',
] as const

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

  test('120 weigh-ins from two clients, killed at random moments: every one acknowledged is there once', async () => {
    const kitchen = await stockKitchen(test_, `Kitchen ${randomUUID()}`)
    const other = await addPerson(test_, kitchen.kitchenId, 'cook')
    const run = (await kitchen.cook.ask('POST', '/runs', runRequest(kitchen, { received: '90 kg', billed: '90 kg', weightsChecked: true })))
      .body as unknown as Run
    const tubId = run.tubs[0]?.id ?? ''
    let server: RunningServer = await startServer(test_.url)
    const port = Number(new URL(server.url).port)
    const acknowledged: string[] = []
    const client = async (cookie: string) => {
      for (let count = 0; count < 60; count += 1) {
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
    expect(acknowledged).toHaveLength(120)
  })
})

describe('the database killed in the middle', () => {
  test('one that hangs is left, everything is answered, and all is well again when it goes on', async () => {
    const { startMariadb } = await import(join(root, 'scripts/mariadb.mjs'))
    const dataDirectory = mkdtempSync(join(tmpdir(), 'fleam-test-'))
    const database = await startMariadb({ dataDirectory })
    await database.ready()
    const server = await startServer(database.url)
    try {
      const ask = async () => {
        const from = Date.now()
        const answer = await fetch(`${server.url}/api/v1/health`)
        return { status: answer.status, ms: Date.now() - from }
      }
      expect((await Promise.all(Array.from({ length: 20 }, ask))).every(({ status }) => status === 200)).toBe(true)
      database.child.kill('SIGSTOP')
      // on a busy machine its threads go on until the first of them is told
      await until(async () => readFileSync(`/proc/${database.child.pid}/stat`, 'utf8').includes(') T '), 60_000)
      const caught = await Promise.all(Array.from({ length: 40 }, ask))
      expect(new Set(caught.map(({ status }) => status))).toEqual(new Set([503]))
      expect(Math.max(...caught.map(({ ms }) => ms))).toBeLessThan(15_000)
      const after = await Promise.all(Array.from({ length: 40 }, ask))
      expect(new Set(after.map(({ status }) => status))).toEqual(new Set([503]))
      expect(Math.max(...after.map(({ ms }) => ms))).toBeLessThan(5000)
      database.child.kill('SIGCONT')
      await until(async () => (await ask()).status === 200, 60_000)
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
    const server = await startServer(database.url)
    try {
      const health = async () => (await fetch(`${server.url}/api/v1/health`)).status
      expect(await health()).toBe(200)
      database.child.kill('SIGKILL')
      await until(async () => (await health()) === 503, 60_000)
      const answer = await fetch(`${server.url}/api/v1/session`, {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify({ name: 'Ines Calloway', secret: '4182' }),
      })
      expect([answer.status, answer.headers.get('retry-after')]).toEqual([503, '2'])
      expect(await answer.json()).toMatchObject({ type: 'urn:fleam:problem:database-away', detail: expect.stringContaining('lost') })
      await database.restart()
      await until(async () => (await health()) === 200, 60_000)
    } finally {
      await server.kill()
      await database.stop()
      rmSync(dataDirectory, { recursive: true, force: true })
    }
  })
})

const onOwnDisk = mayMount ? test : test.skip
onOwnDisk(
  'a full disk: what is not taken is refused in a sentence, what was taken is there, and it goes on once there is room',
  async () => {
    const { startMariadb } = await import(join(root, 'scripts/mariadb.mjs'))
    const disk = mkdtempSync(join(tmpdir(), 'fleam-test-'))
    expect(spawnSync('mount', ['-t', 'tmpfs', '-o', 'size=400m', 'tmpfs', disk]).status).toBe(0)
    let stop = async () => undefined as unknown
    try {
      const database = await startMariadb({ dataDirectory: disk })
      await database.ready()
      stop = () => database.stop()
      // a small kitchen: MariaDB itself ends where its own undo log finds no room, as after a large transaction
      const db = openDatabase(database.url, { connections: 10 })
      await migrate(db)
      const heavyWork = openHeavyWork(join(__dirname, '../dist/heavy-work-thread.js'), database.url)
      const app = await buildApp({ db, heavyWork })
      stop = async () => {
        await app.close()
        await heavyWork.close()
        await db.close()
        await database.stop()
      }
      const kitchen = await stockKitchen({ app, db, url: database.url, close: stop as () => Promise<void> })
      const { ask } = kitchen.cook
      const run = (await ask('POST', '/runs', runRequest(kitchen, { received: '90 kg', billed: '90 kg', weightsChecked: true })))
        .body as unknown as Run
      const weigh = async () => {
        const line = weighingRequest(run.tubs[0]?.id ?? '', '10 g')
        return { id: line.id, ...(await ask('POST', `/runs/${run.id}/weighings`, line)) }
      }
      const taken = [await weigh()]
      expect(taken[0]?.status).toBe(201)
      const ballast = join(disk, 'ballast')
      spawnSync('dd', ['if=/dev/zero', `of=${ballast}`, 'bs=64k'])
      // notes are long: they fill what room the tables have left
      let refused: { status: number; body: object } | undefined
      for (let count = 0; count < 4000 && !refused; count += 1) {
        const answers = await Promise.all(
          Array.from({ length: 20 }, () =>
            ask('POST', `/runs/${run.id}/defects`, { id: randomUUID(), kind: 'other', note: 'n'.repeat(400) }),
          ),
        )
        // a busy machine may be late with an answer too: that is another refusal
        refused = answers.find(({ body }) => (body as { type?: string }).type === 'urn:fleam:problem:database-unwritable')
      }
      expect(refused?.status).toBe(503)
      expect((await ask('GET', `/runs/${run.id}`)).status).toBe(200)
      rmSync(ballast)
      await until(async () => {
        const line = await weigh()
        if (line.status === 201) taken.push(line)
        return line.status === 201
      }, 60_000)
      const { weighings } = (await ask('GET', `/runs/${run.id}`)).body as unknown as Run
      const ids = new Set(weighings.map(({ id }) => id))
      expect(taken.every(({ id }) => ids.has(id))).toBe(true)
    } finally {
      await stop()
      spawnSync('umount', [disk])
      rmSync(disk, { recursive: true, force: true })
    }
  },
)

describe('much at once, and cut off in the middle', () => {
  let test_: TestApp
  beforeAll(async () => {
    test_ = await openTestApp()
  })
  afterAll(() => test_.close())
  const faults = async () => {
    const found: Fault[] = []
    await checkDatabase(test_.db, (fault) => found.push(fault))
    return found
  }

  test('an import whose server is killed is there as a whole or not at all', async () => {
    const [source, target] = [await stockKitchen(test_, 'Source'), await stockKitchen(test_, 'Target')]
    await finishedRun(source, { steaks: ['180 g', '184 g', '176 g', '181 g'], received: '2900 g', minutes: 14 })
    const file = (await source.manager.ask('GET', '/runs.json')).body as unknown as { runs: object[] }
    const runs = 200
    /** The same run so many times, each under ids of its own. */
    const fileOf = () => {
      const text = JSON.stringify(file.runs[0])
      const copy = (mark: string) =>
        JSON.parse(text.replaceAll(/"[0-9a-f]{8}(-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}")/g, `"${mark}$1`))
      return JSON.stringify({ ...file, runs: Array.from({ length: runs }, () => copy(randomUUID().slice(0, 8))) })
    }
    const cuts = [60, 600, 2000]
    for (const afterMs of cuts) {
      const before = await test_.db.of(target.kitchenId).runs.count()
      const server = await startServer(test_.url)
      const sent = fetch(`${server.url}/api/v1/run-imports?preview=false`, {
        method: 'POST',
        headers: { cookie: target.manager.cookie, 'content-type': 'application/json' },
        body: fileOf(),
      }).then(
        (answer) => answer.status,
        () => 0,
      )
      await Promise.race([sent, new Promise((resolve) => setTimeout(resolve, afterMs))])
      await server.kill()
      const status = await sent
      // a transaction of a server that is gone ends a moment later
      await until(async () => ((await test_.db.of(target.kitchenId).runs.count()) - before) % runs === 0, 60_000)
      const added = (await test_.db.of(target.kitchenId).runs.count()) - before
      expect([0, runs]).toContain(added)
      if (status === 200) expect(added).toBe(runs)
    }
    expect(await faults()).toEqual([])
  })

  test('a price list whose server is killed is on the books as a whole or not at all', async () => {
    const kitchen = await stockKitchen(test_, 'Lists')
    const { items, quotes } = test_.db.of(kitchen.kitchenId)
    const [pattern] = await items.findAll({ where: { id: kitchen.itemId }, raw: true })
    const articles: Record<string, string> = {}
    for (let count = 0; count < 200; count += 1) {
      const id = randomUUID()
      articles[`Cut ${count}`] = id
      const { kitchenId: _own, ...row } = pattern as NonNullable<typeof pattern>
      await items.create({ ...row, id, name: `Cut ${count}` })
    }
    const text = ['Article;Price', ...Object.keys(articles).map((name, index) => `${name};${20 + index / 10}`)].join('\n')
    const reading = {
      columns: { article: 'Article', amount: 'Price', unit: null, caseCount: null, caseWeight: null },
      unit: 'kg',
      decimalSign: '.',
      separator: ';',
    }
    const asked = { supplierId: kitchen.supplierId, text, reading, articles, preview: false }
    const before = await quotes.count()
    for (const [index, afterMs] of [40, 120, 250, 600].entries()) {
      const server = await startServer(test_.url)
      const body = JSON.stringify({ ...asked, id: randomUUID(), quotedOn: `2026-03-0${index + 1}` })
      const sent = fetch(`${server.url}/api/v1/price-lists`, {
        method: 'POST',
        headers: { cookie: kitchen.manager.cookie, 'content-type': 'application/json' },
        body,
      }).catch(() => undefined)
      await Promise.race([sent, new Promise((resolve) => setTimeout(resolve, afterMs))])
      await server.kill()
      await until(async () => ((await quotes.count()) - before) % 200 === 0, 60_000)
    }
    expect(await faults()).toEqual([])
  })

  test('a set-up whose server is killed leaves a whole kitchen or none, and the next start goes on from there', async () => {
    for (const afterMs of [0, 100, 300, 800]) {
      const { url, drop } = makeTestDatabase()
      const setUp = { kitchenName: 'Cut off', currency: 'EUR', name: 'Wren', secret: 'four wet oars' }
      const post = (server: RunningServer, path: string, body: object) =>
        fetch(`${server.url}/api/v1${path}`, {
          method: 'POST',
          headers: { 'content-type': 'application/json' },
          body: JSON.stringify(body),
        })
      try {
        const first = await startServer(url)
        const sent = post(first, '/setup', setUp).catch(() => undefined)
        await Promise.race([sent, new Promise((resolve) => setTimeout(resolve, afterMs))])
        await first.kill()
        const second = await startServer(url)
        // another's lease on setting up runs out by itself
        await until(async () => [201, 409].includes((await post(second, '/setup', setUp)).status), 60_000)
        expect((await post(second, '/session', { name: setUp.name, secret: setUp.secret })).status).toBe(201)
        await second.kill()
        const db = openDatabase(url, { connections: 2 })
        const { kitchens, cutSheets } = db.acrossKitchens
        expect([await kitchens.count(), (await cutSheets.count()) > 20]).toEqual([1, true])
        await db.close()
      } finally {
        drop()
      }
    }
  })

  test('a clock of the server that jumps neither refuses nor misdates a line, nor signs anybody out', async () => {
    const kitchen = await stockKitchen(test_, 'Clock')
    const run = (await kitchen.cook.ask('POST', '/runs', runRequest(kitchen))).body as unknown as Run
    const weigh = (weighedAt: string) =>
      kitchen.cook.ask('POST', `/runs/${run.id}/weighings`, { ...weighingRequest(run.tubs[0]?.id ?? '', '184 g'), weighedAt })
    const real = Date.now()
    const [hour, day] = [3_600_000, 86_400_000]
    // sessions go by the database's clock
    const moments = [0, 1, 2, 3].map((minute) => new Date(real + minute * 60_000).toISOString())
    const jump = (by: number) => jest.useFakeTimers({ now: real + by, doNotFake: [...notTheClock] })
    try {
      for (const [index, by] of [hour, -2 * day, 3 * day, -400 * day].entries()) {
        jump(by)
        expect((await weigh(moments[index] ?? '')).status).toBe(201)
      }
    } finally {
      jest.useRealTimers()
    }
    const { weighings } = (await kitchen.lead.ask('GET', `/runs/${run.id}`)).body as unknown as Run
    expect(weighings.map(({ weighedAt }) => weighedAt)).toEqual(moments)
  })

  test('weighing, moving, taking back, finishing, receiving and saving items at once: no answer of 500, and everything fits', async () => {
    const kitchen = await stockKitchen(test_, 'Rush')
    const statuses: number[] = []
    const ask = async (...given: Parameters<typeof kitchen.cook.ask>) => {
      const answer = await kitchen.manager.ask(...given)
      statuses.push(answer.status)
      return answer.body as unknown as Run & { version: number; name: string }
    }
    const bench = async () => {
      for (let round = 0; round < 4; round += 1) {
        const run = await ask('POST', '/runs', runRequest(kitchen))
        const tubs = run.tubs.map(({ id }) => id)
        const at = () => ({ id: randomUUID(), weighedAt: new Date().toISOString() })
        const lines = await Promise.all(
          Array.from({ length: 5 }, () => ask('POST', `/runs/${run.id}/weighings`, weighingRequest(tubs[0] ?? '', '184 g'))),
        )
        await Promise.all(
          lines.flatMap(({ id }) => [
            ask('POST', `/runs/${run.id}/moves`, { ...at(), reversalId: randomUUID(), weighingId: id, tubId: tubs[1] }),
            ask('POST', `/runs/${run.id}/reversals`, { ...at(), reversesId: id }),
          ]),
        )
        const finish = { version: run.version, minutes: 9, unaccountedReason: 'the rest was not weighed' }
        await Promise.all([
          ask('POST', `/runs/${run.id}/finish`, finish),
          ask('POST', `/runs/${run.id}/finish`, finish),
          ask('POST', `/runs/${run.id}/weighings`, weighingRequest(tubs[0] ?? '', '10 g')),
        ])
      }
    }
    const office = async () => {
      for (let round = 0; round < 12; round += 1) {
        const { version } = await ask('PUT', `/suppliers/${kitchen.supplierId}`, { version: round + 1, name: `Harrow & Fenn ${round}` })
        expect(version).toBe(round + 2)
        await ask('POST', `/items/${kitchen.itemId}/quotes`, {
          id: randomUUID(),
          supplierId: kitchen.supplierId,
          price: { amount: 30 + round, per: 'kg' },
          quotedOn: '2026-02-03',
        })
      }
    }
    await Promise.all([bench(), bench(), bench(), bench(), office()])
    expect(statuses.filter((status) => status >= 500)).toEqual([])
    expect(statuses.filter((status) => status === 201).length).toBeGreaterThan(100)
    expect(await faults()).toEqual([])
  })
})
