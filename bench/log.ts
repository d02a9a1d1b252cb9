import { randomUUID } from 'node:crypto'
import type { PoolConnection } from 'mariadb'
import { openDatabase } from '../server/src/db/database.ts'
import { findRun } from '../server/src/features/runs/find-run.ts'
import { findWeighing } from '../server/src/features/runs/ledger-lines.ts'
import { listRuns } from '../server/src/features/runs/log.ts'
import { type Measured, ms, percentile, timeEach } from './measure.ts'
import { type BenchServer, openBare, tenderloins } from './server.ts'

const runs = 100_000
const weighingsPerRun = 15

/** The first page of the log over 100,000 runs against a bare indexed SELECT of 50 rows; and no query scans a table. */
export async function measureLog(server: BenchServer): Promise<Measured[]> {
  const pool = openBare()
  const connection = await pool.getConnection()
  const kitchenId = (await connection.query('SELECT kitchen_id AS id FROM people WHERE has_demo_secret = 1 LIMIT 1'))[0].id
  await fill(connection, kitchenId)
  const bare = await timeEach(200, () =>
    connection.query('SELECT * FROM runs WHERE kitchen_id = :kitchenId ORDER BY started_at DESC, id DESC LIMIT 50', { kitchenId }),
  )
  const measured: Measured[] = []
  const cook = (await connection.query('SELECT cook_id FROM runs WHERE kitchen_id = :kitchenId LIMIT 1', { kitchenId }))[0].cook_id
  for (const [name, query] of [
    ['newest first', 'limit=50'],
    ['of one cook', `limit=50&cookId=${cook}`],
    ['by main yield', 'limit=50&sort=main-yield'],
  ] as const) {
    const times = await timeEach(100, async () => {
      const answer = await server.ask('GET', `/runs?${query}`)
      if (answer.status !== 200) throw new Error(answer.body)
    })
    const [page, base] = [percentile(times, 0.5), percentile(bare, 0.5)]
    measured.push({
      what: `yield log, first page of ${runs.toLocaleString('en')} runs, ${name}`,
      value: ms(page),
      against: `bare SELECT of 50 ${ms(base)}`,
      ratio: page / base,
      limit: 10,
    })
  }
  measured.push(await countScans(connection, kitchenId, cook))
  await connection.release()
  await pool.end()
  return measured
}

const patienceMs = 200

/** What a kitchen of 100,000 finished runs waits for; they are there already. */
export async function measureManyRuns(server: BenchServer): Promise<Measured[]> {
  const delivery = await tenderloins(server)
  const receive = async () => {
    const from = performance.now()
    const answer = await fetch(`${server.url}/api/v1/runs`, {
      method: 'POST',
      headers: { cookie: server.cookie(), 'content-type': 'application/json' },
      body: JSON.stringify(delivery()),
    })
    if (answer.status !== 201) throw new Error(await answer.text())
    return performance.now() - from
  }
  const empty = await timeEach(20, async () => {
    const answer = await server.ask('GET', '/runs?limit=50&sort=main-yield&from=2001-01-01&to=2001-12-31')
    if (answer.status !== 200 || JSON.parse(answer.body).entries.length > 0) throw new Error(answer.body)
  })
  const one = await timeEach(20, receive)
  const twenty: number[] = []
  for (let turn = 0; turn < 5; turn += 1) twenty.push(Math.max(...(await Promise.all(Array.from({ length: 20 }, receive)))))
  const many = `among ${runs.toLocaleString('en')} runs`
  const row = (what: string, value: number): Measured => ({
    what: `${what} ${many}`,
    value: ms(value),
    against: `${patienceMs} ms`,
    ratio: value / patienceMs,
    limit: 1,
  })
  return [
    row('log by main yield over an empty year', percentile(empty, 0.5)),
    row('a delivery received', percentile(one, 0.5)),
    row('twenty deliveries at once, the last', percentile(twenty, 0.5)),
  ]
}

/** Copies the demo's runs and weighings, with new ids and earlier days, inside the database. */
async function fill(connection: PoolConnection, kitchenId: string): Promise<void> {
  const run = (
    await connection.query(
      "SELECT r.* FROM runs r JOIN tubs t ON t.run_id = r.id WHERE r.kitchen_id = :kitchenId AND r.status = 'finished' LIMIT 1",
      {
        kitchenId,
      },
    )
  )[0]
  const tub = (await connection.query('SELECT id FROM tubs WHERE run_id = :id LIMIT 1', { id: run.id }))[0]
  const cooks: { id: string }[] = await connection.query('SELECT id FROM people WHERE kitchen_id = :kitchenId', { kitchenId })
  const started = Date.now()
  for (let first = 0; first < runs; first += 1000) {
    const rows = Array.from({ length: 1000 }, (_, index) => ({
      ...run,
      id: randomUUID(),
      number: 1000 + first + index,
      cook_id: cooks[(first + index) % cooks.length]?.id,
      started_at: new Date(started - (first + index) * 600_000),
      main_pct: 50 + ((first + index) % 3000) / 100,
    }))
    const columns = Object.keys(run)
    const marks = columns.map((column) => `:${column}`).join(', ')
    await connection.beginTransaction()
    await connection.batch(`INSERT INTO runs (${columns.join(', ')}) VALUES (${marks})`, rows)
    const lines = rows.flatMap((row) =>
      Array.from({ length: weighingsPerRun }, () => [
        randomUUID(),
        row.kitchen_id,
        row.id,
        tub.id,
        1840,
        '184 g',
        row.cook_id,
        row.started_at,
      ]),
    )
    await connection.batch(
      {
        sql: 'INSERT INTO weighings (id, kitchen_id, run_id, tub_id, tenths, entered, person_id, weighed_at) VALUES (?, ?, ?, ?, ?, ?, ?, ?)',
        namedPlaceholders: false,
      },
      lines,
    )
    await connection.commit()
  }
  await connection.query('ANALYZE TABLE runs, weighings')
}

/** EXPLAINs every query that the application makes to read the log and a run, over the large tables; `ALL` is a scan. */
async function countScans(connection: PoolConnection, kitchenId: string, cookId: string): Promise<Measured> {
  const run = (await connection.query('SELECT id, item_id, supplier_id FROM runs WHERE kitchen_id = :kitchenId LIMIT 1', { kitchenId }))[0]
  const filters = [
    {},
    { cookId },
    { itemId: run.item_id },
    { supplierId: run.supplier_id },
    { status: 'finished' as const },
    { from: '2020-01-01', to: '2030-01-01' },
  ]
  const sorts = ['newest', 'oldest', 'main-yield', 'cost-per-kg', 'unaccounted'] as const
  const queries: string[] = []
  const hear = (said: string) => void queries.push(said.replace(/^Executing \([^)]*\): /, ''))
  const db = openDatabase(process.env.DATABASE_URL ?? '', { connections: 2, hear })
  const records = db.of(kitchenId)
  for (const filter of filters) for (const sort of sorts) await listRuns(records, { ...filter, sort, timeZone: 'UTC' }, undefined, 51)
  await findRun(records, run.id)
  await findWeighing(records, run.id, run.id)
  await db.close()
  let scans = 0
  for (const sql of queries) {
    const plan: { table: string; type: string; rows: number }[] = await connection.query(`EXPLAIN ${sql}`)
    for (const step of plan) {
      if (step.type !== 'ALL' || step.rows < 1000) continue
      scans += 1
      process.stdout.write(`a scan of ${step.table} (${step.rows} rows): ${sql.replace(/\s+/g, ' ').slice(0, 300)}\n`)
    }
  }
  return {
    what: `table scans in ${queries.length} queries over ${(runs * weighingsPerRun).toLocaleString('en')} weighings`,
    value: String(scans),
    against: 'none',
    ratio: scans,
    limit: 0,
  }
}
