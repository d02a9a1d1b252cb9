import { randomUUID } from 'node:crypto'
import { Agent, request } from 'node:http'
import { setTimeout as pause } from 'node:timers/promises'
import { type Measured, ms, percentile } from './measure.ts'
import { type BenchServer, openBare, startRun } from './server.ts'

interface Kitchen {
  what: string
  benches: number
  listeners: number
  gapMs: number
  seconds: number
}

/** Ten benches weigh once a second and thirty listeners hear them all. */
const kitchen: Kitchen = { what: 'weigh-in to 30 listeners', benches: 10, listeners: 30, gapMs: 1000, seconds: 60 }
/** Thirty students weigh every three seconds, and the walls of two instructors hear them all. */
const classroom: Kitchen = { what: 'a class of 30 benches to two walls', benches: 30, listeners: 2, gapMs: 3000, seconds: 45 }
/** How soon what is weighed is heard; a bare insert beside, for as long. */
export async function measureLive(server: BenchServer): Promise<Measured[]> {
  return [...(await hear(server, kitchen)), ...(await hear(server, classroom))]
}

async function hear(server: BenchServer, { what, benches, listeners, gapMs, seconds }: Kitchen): Promise<Measured[]> {
  const runs = []
  for (let index = 0; index < benches; index += 1) runs.push(await startRun(server))
  const sentAt = new Map<string, number>()
  const delays: number[] = []
  const heard = Array.from({ length: listeners }, () => new Map<string, number>())
  const agent = new Agent({ keepAlive: true })
  const streams = await Promise.all(
    heard.map((own) =>
      listen(server, agent, (id) => {
        own.set(id, (own.get(id) ?? 0) + 1)
        const start = sentAt.get(id)
        if (start !== undefined) delays.push(performance.now() - start)
      }),
    ),
  )
  const pool = openBare()
  const connection = await pool.getConnection()
  const bare: number[] = []
  const until = Date.now() + seconds * 1000
  const weighing = runs.map(async (run, index) => {
    await pause((gapMs / benches) * index)
    while (Date.now() < until) {
      const next = pause(gapMs)
      const id = randomUUID()
      sentAt.set(id, performance.now())
      await post(server, agent, `/runs/${run.id}/weighings`, {
        id,
        tubId: run.tubs[0]?.id,
        weight: '18.4 g',
        weighedAt: new Date().toISOString(),
      })
      await next
    }
  })
  const inserting = (async () => {
    const [run] = runs
    await pause(50)
    while (Date.now() < until) {
      const next = pause(100)
      const start = performance.now()
      await connection.query('BEGIN')
      await connection.query(
        `INSERT INTO weighings (id, kitchen_id, run_id, tub_id, tenths, entered, person_id, weighed_at)
         VALUES (:id, :kitchenId, :runId, :tubId, 184, '18.4 g', :personId, :weighedAt)`,
        {
          id: randomUUID(),
          kitchenId: run?.kitchenId,
          runId: run?.id,
          tubId: run?.tubs[0]?.id,
          personId: run?.personId,
          weighedAt: new Date(),
        },
      )
      await connection.query('COMMIT')
      bare.push(performance.now() - start)
      await next
    }
  })()
  await Promise.all([...weighing, inserting])
  await pause(1000)
  for (const stream of streams) stream.destroy()
  agent.destroy()
  await connection.release()
  await pool.end()
  const missed = heard.reduce((sum, own) => sum + [...sentAt.keys()].filter((id) => !own.has(id)).length, 0)
  const repeated = heard.reduce((sum, own) => sum + [...own.values()].filter((count) => count > 1).length, 0)
  if (missed + repeated > 0) throw new Error(`Listeners missed ${missed} weighings and heard ${repeated} twice.`)
  return [
    {
      what: `${what}, ${sentAt.size} weighings, 99th percentile`,
      value: ms(percentile(delays, 0.99)),
      against: `bare insert ${ms(percentile(bare, 0.99))}`,
      ratio: percentile(delays, 0.99) / percentile(bare, 0.99),
      limit: 10,
    },
    {
      what: 'the same, median; none missed, none heard twice',
      value: ms(percentile(delays, 0.5)),
      against: `bare insert ${ms(percentile(bare, 0.5))}`,
    },
  ]
}

function listen(server: BenchServer, agent: Agent, onWeighing: (id: string) => void): Promise<{ destroy(): void }> {
  return new Promise((resolve, reject) => {
    const sent = request(`${server.url}/api/v1/live`, { headers: { cookie: server.cookie() }, agent }, (response) => {
      if (response.statusCode !== 200) return reject(new Error(`The stream was answered ${response.statusCode}.`))
      let text = ''
      response.setEncoding('utf8').on('data', (chunk: string) => {
        const blocks = (text + chunk).split('\n\n')
        text = blocks.pop() ?? ''
        for (const block of blocks) {
          if (block.includes('event: ready')) resolve(sent)
          const id = block.includes('event: weighing') ? /"weighing":\{"id":"([^"]+)"/.exec(block)?.[1] : undefined
          if (id) onWeighing(id)
        }
      })
    })
    sent.on('error', () => undefined)
    sent.end()
  })
}

function post(server: BenchServer, agent: Agent, path: string, body: object): Promise<void> {
  const payload = JSON.stringify(body)
  return new Promise((resolve, reject) => {
    const headers = { cookie: server.cookie(), 'content-type': 'application/json', 'content-length': Buffer.byteLength(payload) }
    const sent = request(`${server.url}/api/v1${path}`, { method: 'POST', agent, headers }, (response) => {
      response.resume().on('end', () => (response.statusCode === 201 ? resolve() : reject(new Error(`Answered ${response.statusCode}.`))))
    })
    sent.on('error', reject)
    sent.end(payload)
  })
}
