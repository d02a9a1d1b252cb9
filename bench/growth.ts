import { randomUUID } from 'node:crypto'
import { readFileSync } from 'node:fs'
import { Agent, request } from 'node:http'
import { setTimeout as pause } from 'node:timers/promises'
import type { PoolConnection } from 'mariadb'
import { type Measured, ms, percentile, timeEach } from './measure.ts'
import { type BenchServer, openBare, startRun } from './server.ts'

/** `--runs 100000` stops there, for those who do not want to wait. */
const most = Number(process.argv[process.argv.indexOf('--runs') + 1]) || 1_000_000
const sizes = [10_000, 30_000, 100_000, 300_000, 1_000_000].filter((size) => size <= most)
/** Weighings of each run: enough for a ledger of several million, few enough to be stored while somebody waits. */
const weighingsPerRun = 3
const minutesBetween = 5
/** Time that grows with so small a power of the runs is flat. */
const flat = 0.15

/**
 * How what a kitchen waits for grows with its runs, as the power of their number that fits the medians best; and what one server
 * takes: weigh-ins a second, bytes of a listener.
 */
export async function measureGrowth(server: BenchServer): Promise<Measured[]> {
  const rows = [...(await measureListeners(server)), ...(await measureThroughput(server))]
  const pool = openBare()
  const connection = await pool.getConnection()
  const run = await startRun(server)
  const times = new Map<string, { size: number; median: number }[]>()
  const filling: { size: number; bytes: number }[] = []
  const cook = (await connection.query("SELECT id FROM people WHERE name = 'Jory Penhale'"))[0].id
  const day = (ago: number) => new Date(Date.now() - ago * 86_400_000).toISOString().slice(0, 10)
  const questions: [string, () => Promise<{ status: number; body: string }>][] = [
    ['a weigh-in', () => server.ask('POST', `/runs/${run.id}/weighings`, weighing(run.tubs[0]?.id))],
    ['log, newest first', () => server.ask('GET', '/runs?limit=50')],
    ['log, of one cook', () => server.ask('GET', `/runs?limit=50&cookId=${cook}`)],
    ['log, by main yield', () => server.ask('GET', '/runs?limit=50&sort=main-yield')],
    ['yield book', () => server.ask('GET', '/yield-book')],
    ['a run with its ledger', () => server.ask('GET', `/runs/${run.id}`)],
    ['what is being cut', () => server.ask('GET', '/runs?status=open&limit=12')],
    ['kitchens side by side, a month', () => server.ask('GET', `/kitchens/figures?from=${day(29)}&to=${day(0)}`)],
  ]
  for (const size of sizes) {
    const from = performance.now()
    await growTo(connection, run.kitchenId, size)
    process.stdout.write(`${size.toLocaleString('en')} runs are there after ${Math.round((performance.now() - from) / 1000)} s.\n`)
    filling.push({ size, bytes: await bytesOf(connection) })
    for (const [what, ask] of questions) {
      const each = await timeEach(25, async () => {
        const { status, body } = await ask()
        if (status >= 300) throw new Error(body)
      })
      times.set(what, [...(times.get(what) ?? []), { size, median: percentile(each, 0.5) }])
    }
  }
  for (const [what, points] of times) {
    const growth = powerOf(points)
    rows.push({
      what: `${what}, from ${sizes[0]?.toLocaleString('en')} to ${sizes.at(-1)?.toLocaleString('en')} runs`,
      value: points.map(({ median }) => ms(median)).join(', '),
      against: `n^${growth.toFixed(3)}`,
      ratio: growth,
      limit: /weigh-in|log, newest/.test(what) ? flat : 1,
    })
  }
  const [first, last] = [filling[0], filling.at(-1)]
  if (first && last)
    rows.push({
      what: `on disk, a run of ${weighingsPerRun} weighings with its indexes`,
      value: `${Math.round((last.bytes - first.bytes) / (last.size - first.size))} bytes`,
      against: `${(last.bytes / 2 ** 30).toFixed(2)} GiB in all`,
    })
  await connection.release()
  await pool.end()
  return rows
}

const weighing = (tubId = '') => ({ id: randomUUID(), tubId, weight: '184 g', weighedAt: new Date().toISOString() })

/** The power of the size that the medians grow with: the slope through their logarithms. */
function powerOf(points: readonly { size: number; median: number }[]): number {
  const logs = points.map(({ size, median }) => ({ x: Math.log(size), y: Math.log(median) }))
  const mean = (of: (point: { x: number; y: number }) => number) => logs.reduce((sum, point) => sum + of(point), 0) / logs.length
  const [x, y] = [mean((point) => point.x), mean((point) => point.y)]
  return mean((point) => (point.x - x) * (point.y - y)) / mean((point) => (point.x - x) ** 2)
}

/** Copies finished runs with some of their weighings, inside the database, a run every five minutes back from the earliest. */
async function growTo(connection: PoolConnection, kitchenId: string, size: number): Promise<void> {
  const columnsOf = async (table: string, without: readonly string[]) => {
    const rows: { name: string }[] = await connection.query(
      'SELECT COLUMN_NAME AS name FROM information_schema.COLUMNS WHERE TABLE_SCHEMA = DATABASE() AND TABLE_NAME = :table',
      { table },
    )
    return rows.filter(({ name }) => !without.includes(name)).map(({ name }) => `\`${name}\``)
  }
  const runColumns = await columnsOf('runs', ['id', 'number', 'started_at'])
  const batch = 10_000
  for (;;) {
    const [{ n, last, earliest }] = await connection.query(
      "SELECT COUNT(*) AS n, MAX(number) AS last, MIN(started_at) AS earliest FROM runs WHERE kitchen_id = :kitchenId AND status = 'finished'",
      { kitchenId },
    )
    const wanted = Math.min(batch, size - Number(n))
    if (wanted <= 0) break
    await connection.query(
      `INSERT INTO runs (id, number, started_at, ${runColumns.join(', ')})
       SELECT UUID(), :last + 1000 + place, :earliest - INTERVAL place * ${minutesBetween} MINUTE, ${runColumns.join(', ')}
       FROM (SELECT r.*, ROW_NUMBER() OVER () AS place FROM runs r CROSS JOIN (SELECT 1 FROM weighings LIMIT ${Math.ceil(wanted / 300)}) times
         WHERE r.kitchen_id = :kitchenId AND r.status = 'finished' AND r.number <= 300 LIMIT ${wanted}) copied`,
      { kitchenId, last: Number(last), earliest },
    )
    await connection.query(
      `INSERT INTO weighings (id, kitchen_id, run_id, tub_id, tenths, entered, person_id, weighed_at)
       SELECT UUID(), r.kitchen_id, r.id, t.id, 1840, '184 g', r.cook_id, r.started_at
       FROM runs r JOIN (SELECT id FROM tubs LIMIT 1) t CROSS JOIN (SELECT 1 FROM tubs LIMIT ${weighingsPerRun}) times
       WHERE r.kitchen_id = :kitchenId AND r.number > :last + 1000`,
      { kitchenId, last: Number(last) },
    )
  }
  await connection.query('ANALYZE TABLE runs, weighings')
}

async function bytesOf(connection: PoolConnection): Promise<number> {
  const [{ bytes }] = await connection.query(
    "SELECT SUM(DATA_LENGTH + INDEX_LENGTH) AS bytes FROM information_schema.TABLES WHERE TABLE_SCHEMA = DATABASE() AND TABLE_NAME IN ('runs', 'weighings')",
  )
  return Number(bytes)
}

const clients = 32
const seconds = 8

/** As many weigh-ins as one server takes from many tablets that wait for nothing but its answers. */
async function measureThroughput(server: BenchServer): Promise<Measured[]> {
  const runs = await Promise.all(Array.from({ length: clients }, () => startRun(server)))
  const agent = new Agent({ keepAlive: true })
  const until = performance.now() + seconds * 1000
  let stored = 0
  await Promise.all(
    runs.map(async (run) => {
      while (performance.now() < until) {
        await post(server, agent, `/runs/${run.id}/weighings`, weighing(run.tubs[0]?.id))
        stored += 1
      }
    }),
  )
  agent.destroy()
  return [
    {
      what: `weigh-ins of ${clients} tablets that wait for nothing`,
      value: `${Math.round(stored / seconds)} a second`,
      against: 'one server, its database and its clients on two cores',
    },
  ]
}

function post({ url, cookie }: BenchServer, agent: Agent, path: string, body: object): Promise<void> {
  const payload = JSON.stringify(body)
  const headers = { cookie: cookie(), 'content-type': 'application/json', 'content-length': Buffer.byteLength(payload) }
  return new Promise((resolve, reject) => {
    const sent = request(`${url}/api/v1${path}`, { method: 'POST', agent, headers }, (response) => {
      response.resume()
      response.on('end', () => (response.statusCode === 201 ? resolve() : reject(new Error(`It was answered ${response.statusCode}.`))))
    })
    sent.on('error', reject)
    sent.end(payload)
  })
}

const listeners = 400

/** What the server's memory grows by with each tablet that listens. */
async function measureListeners(server: BenchServer): Promise<Measured[]> {
  const agent = new Agent({ keepAlive: true })
  const open = () =>
    new Promise<() => void>((resolve, reject) => {
      const sent = request(`${server.url}/api/v1/live`, { agent, headers: { cookie: server.cookie() } }, (response) => {
        response.on('data', () => undefined)
        response.once('data', () => resolve(() => sent.destroy()))
        response.on('error', () => undefined)
      })
      sent.on('error', reject)
      sent.end()
    })
  const few = await Promise.all(Array.from({ length: 20 }, open))
  await pause(1500)
  const before = residentOf(server.pid)
  const many = await Promise.all(Array.from({ length: listeners }, open))
  await pause(1500)
  const bytes = (residentOf(server.pid) - before) / listeners
  for (const close of [...few, ...many]) close()
  agent.destroy()
  return [
    {
      what: `memory of a listener, of ${listeners}`,
      value: `${Math.round(bytes / 1024)} kB`,
      against: `server at ${Math.round(before / 2 ** 20)} MB`,
    },
  ]
}

function residentOf(pid: number): number {
  const kilobytes = /VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${pid}/status`, 'utf8'))?.[1]
  return Number(kilobytes) * 1024
}
