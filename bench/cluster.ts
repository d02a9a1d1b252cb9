import { randomUUID } from 'node:crypto'
import { createPool, type PoolConnection } from 'mariadb'
import { type Measured, ms, percentile, printTable } from './measure.ts'

const turns = 600
const { urls, databases } = JSON.parse(process.env.FLEAM_BENCH_CLUSTER ?? '{}') as { urls: string[]; databases: string[] }

interface Answer {
  entries: { id: string; name: string; slug?: string }[]
}

/** A weigh-in through each of three servers at once, turn about with a bare insert on the same node: both wait for all nodes. */
async function measureCluster(): Promise<Measured[]> {
  const [first = ''] = urls
  const cookie = await signIn(first)
  const ask = async <Body>(method: string, url: string, body?: object) => {
    const answer = await fetch(url, {
      method,
      headers: { cookie, ...(body ? { 'content-type': 'application/json' } : {}) },
      ...(body ? { body: JSON.stringify(body) } : {}),
    })
    if (!answer.ok) throw new Error(`${method} ${url} was answered ${answer.status}.`)
    return (await answer.json()) as Body
  }
  const session = await ask<{ kitchen: { id: string }; person: { id: string } }>('GET', `${first}/session`)
  const item = (await ask<Answer>('GET', `${first}/items`)).entries.find(({ name }) => name.startsWith('Beef tenderloin'))
  const sheet = (await ask<Answer>('GET', `${first}/cut-sheets`)).entries.find(({ slug }) => slug === 'beef-tenderloin-traditional')
  const run = await ask<{ id: string; tubs: { id: string }[] }>('POST', `${first}/runs`, {
    id: randomUUID(),
    itemId: item?.id,
    cutSheetId: sheet?.id,
    supplierId: null,
    billed: '400 kg',
    received: '400 kg',
    weightsChecked: true,
    coreTempC: 2,
    startedAt: new Date().toISOString(),
  })
  const http: number[] = []
  const bare: number[] = []
  const from = performance.now()
  await Promise.all(
    urls.map(async (url, index) => {
      const { port, username, password } = new URL(databases[index] ?? '')
      const pool = createPool({
        host: '127.0.0.1',
        port: Number(port),
        user: username,
        password,
        database: 'fleam',
        connectionLimit: 1,
        namedPlaceholders: true,
        timezone: 'Z',
      })
      const connection = await pool.getConnection()
      for (let turn = 0; turn < turns; turn += 1) {
        const start = performance.now()
        await ask('POST', `${url}/runs/${run.id}/weighings`, {
          id: randomUUID(),
          tubId: run.tubs[index]?.id,
          weight: '18.4 g',
          weighedAt: new Date().toISOString(),
        })
        const between = performance.now()
        const stored = await bareCommit(connection, {
          kitchenId: session.kitchen.id,
          runId: run.id,
          tubId: run.tubs[index]?.id,
          personId: session.person.id,
        })
        if (turn < turns / 10) continue
        http.push(between - start)
        bare.push(stored)
      }
      await connection.release()
      await pool.end()
    }),
  )
  const seconds = (performance.now() - from) / 1000
  const row = (what: string, share: number, limit?: number): Measured => ({
    what: `weigh-in through three servers on three nodes, ${what}`,
    value: ms(percentile(http, share)),
    against: `bare commit ${ms(percentile(bare, share))}`,
    ratio: percentile(http, share) / percentile(bare, share),
    ...(limit ? { limit } : {}),
  })
  return [
    row('median', 0.5),
    row('99th percentile', 0.99, 6),
    {
      what: 'weigh-ins, with a bare commit after each',
      value: `${((turns * urls.length) / seconds).toFixed(0)} a second`,
      against: 'three tablets at once',
    },
  ]
}

/** Milliseconds of a bare insert and commit; one that was refused since another node was first is begun again, its clock too. */
async function bareCommit(connection: PoolConnection, values: object): Promise<number> {
  for (;;) {
    const start = performance.now()
    try {
      await connection.query('BEGIN')
      await connection.query(
        `INSERT INTO weighings (id, kitchen_id, run_id, tub_id, tenths, entered, person_id, weighed_at)
         VALUES (:id, :kitchenId, :runId, :tubId, 184, '18.4 g', :personId, :weighedAt)`,
        { ...values, id: randomUUID(), weighedAt: new Date() },
      )
      await connection.query('COMMIT')
      return performance.now() - start
    } catch (error) {
      if ((error as { errno?: number }).errno !== 1213) throw error
    }
  }
}

async function signIn(url: string): Promise<string> {
  const { people } = (await (await fetch(`${url}/demo`)).json()) as { people: { name: string; secret: string }[] }
  const { name, secret } = people.find((person) => person.name === 'Tobias Quill') ?? { name: '', secret: '' }
  const answer = await fetch(`${url}/session`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ name, secret }),
  })
  return String(answer.headers.get('set-cookie')).split(';')[0] ?? ''
}

process.exitCode = printTable(await measureCluster()) ? 0 : 1
