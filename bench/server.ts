import { type ChildProcess, spawn } from 'node:child_process'
import { randomUUID } from 'node:crypto'
import { Agent, request } from 'node:http'
import { join } from 'node:path'
import { setTimeout as pause } from 'node:timers/promises'
import { createPool } from 'mariadb'
import { healthy } from '../scripts/healthy.mjs'
import { freePort } from '../scripts/mariadb.mjs'

export interface BenchServer {
  url: string
  pid: number
  cookie(): string
  ask(method: string, path: string, body?: unknown): Promise<{ status: number; body: string }>
  stop(): Promise<void>
  scale: { port: number; put(grams: number): Promise<unknown>; clear(): Promise<unknown> }
}

/** The built server with demo data as its own process, and a signed-in client that keeps its connection. */
export async function startServer(): Promise<BenchServer> {
  const port = await freePort()
  const scale = await openScale()
  // one session stands for a whole kitchen here
  const guards = { FLEAM_WRITES_PER_MINUTE: '1000000000', FLEAM_STREAMS_PER_SESSION: '1000' }
  const address = { PORT: String(port), HOST: '127.0.0.1' }
  const env = { ...process.env, ...guards, ...address, FLEAM_DEMO: '1', FLEAM_SCALE: `127.0.0.1:${scale.port}` }
  const child: ChildProcess = spawn(process.execPath, [join(process.cwd(), 'server/dist/main.js')], {
    env,
    stdio: process.env.FLEAM_LOG ? 'inherit' : 'ignore',
  })
  const url = `http://127.0.0.1:${port}`
  await healthy(`${url}/api/v1`)
  const agent = new Agent({ keepAlive: true, maxSockets: 1 })
  let cookie = ''
  const ask = (method: string, path: string, body?: unknown) =>
    new Promise<{ status: number; body: string }>((resolve, reject) => {
      const payload = body === undefined ? undefined : JSON.stringify(body)
      const headers =
        payload === undefined ? { cookie } : { cookie, 'content-type': 'application/json', 'content-length': Buffer.byteLength(payload) }
      const sent = request(`${url}/api/v1${path}`, { method, agent, headers }, (response) => {
        const chunks: Buffer[] = []
        response.on('data', (chunk) => chunks.push(chunk))
        response.on('end', () => {
          cookie ||= String(response.headers['set-cookie'] ?? '').split(';')[0] ?? ''
          resolve({ status: response.statusCode ?? 0, body: Buffer.concat(chunks).toString() })
        })
      })
      sent.on('error', reject)
      sent.end(payload)
    })
  await ask('POST', '/session', { name: 'Maren Holt', secret: 'tide-table-7' })
  const stop = async () => {
    const gone = new Promise((resolve) => child.once('exit', resolve))
    child.kill('SIGTERM')
    await gone
    agent.destroy()
    scale.stop()
  }
  return { url, pid: child.pid ?? 0, cookie: () => cookie, ask, stop, scale }
}

async function openScale() {
  const [port, pagePort] = [await freePort(), await freePort()]
  const env = { ...process.env, SCALE_PORT: String(port), SCALE_PAGE_PORT: String(pagePort) }
  const child = spawn(process.execPath, [join(process.cwd(), 'scripts/scale.mjs'), '--with-parent'], {
    env,
    stdio: ['pipe', 'ignore', 'ignore'],
  })
  const ask = (method: string, body?: object) =>
    fetch(`http://127.0.0.1:${pagePort}/things`, { method, ...(body ? { body: JSON.stringify(body) } : {}) })
  for (let tries = 0; tries < 200; tries += 1) {
    const isUp = await ask('DELETE').then(
      () => true,
      () => false,
    )
    if (isUp) break
    await pause(25)
  }
  return {
    port,
    put: (grams: number) => ask('POST', { name: 'a piece', grams }),
    clear: () => ask('DELETE'),
    stop: () => void child.kill('SIGTERM'),
  }
}

/** A bare connection to the same database through the same connector. */
export function openBare(connectionLimit = 1) {
  const { hostname, port, username, password, pathname } = new URL(process.env.DATABASE_URL ?? '')
  return createPool({
    host: hostname,
    port: Number(port),
    user: username,
    password,
    database: pathname.slice(1),
    connectionLimit,
    namedPlaceholders: true,
    insertIdAsNumber: true,
    bigIntAsNumber: true,
    timezone: 'Z',
  })
}

/** What opens runs of the demo's tenderloin: a request for each. */
export async function tenderloins(server: BenchServer): Promise<() => object> {
  const entriesOf = async (path: string) => JSON.parse((await server.ask('GET', path)).body).entries
  const items = await entriesOf('/items')
  const sheets = await entriesOf('/cut-sheets')
  const delivery = {
    itemId: items.find((item: { name: string }) => item.name.startsWith('Beef tenderloin')).id,
    cutSheetId: sheets.find((sheet: { slug: string }) => sheet.slug === 'beef-tenderloin-traditional').id,
    supplierId: null,
    billed: '400 kg',
    received: '400 kg',
    weightsChecked: true,
    coreTempC: 2,
  }
  return () => ({ ...delivery, id: randomUUID(), startedAt: new Date().toISOString() })
}

/** An open run of the demo's tenderloin. */
export async function startRun(server: BenchServer): Promise<{ id: string; kitchenId: string; personId: string; tubs: { id: string }[] }> {
  const session = JSON.parse((await server.ask('GET', '/session')).body)
  const created = await server.ask('POST', '/runs', (await tenderloins(server))())
  return { ...JSON.parse(created.body), kitchenId: session.kitchen.id, personId: session.person.id }
}
