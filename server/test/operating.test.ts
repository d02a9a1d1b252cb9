import { execFile } from 'node:child_process'
import { randomUUID } from 'node:crypto'
import { mkdtempSync, rmSync } from 'node:fs'
import { createServer } from 'node:net'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { setTimeout as pause } from 'node:timers/promises'
import { promisify } from 'node:util'
import { makeTestDatabase } from '../../scripts/test-database.mjs'
import { openDatabase } from '../src/db/database.ts'
import { migrate } from '../src/db/migrate.ts'
import { serve } from '../src/serve.ts'
import { addKitchen, stockedKitchen } from './kitchen.ts'
import { freePort, root, startServer, until } from './processes.ts'

jest.setTimeout(180_000)

const { test_, kitchen } = stockedKitchen()

test('the log is a line of JSON for each request, by the name that the proxy gave it, without secrets', async () => {
  const server = await startServer(test_.url, { env: { FLEAM_LOG: 'info', FLEAM_TRUST_PROXY: '127.0.0.1' } })
  const ask = (path: string, name: string, init: RequestInit = {}) =>
    fetch(`${server.url}${path}`, {
      ...init,
      headers: { 'x-request-id': name, 'content-type': 'application/json', cookie: kitchen.cook.cookie },
    })
  const named = await ask('/api/v1/items', 'door-0001')
  expect(named.headers.get('x-request-id')).toBe('door-0001')
  const refused = await ask('/api/v1/people', 'door-0002', { method: 'POST', body: JSON.stringify({ secret: 'weir gate oars' }) })
  expect(await refused.json()).toMatchObject({ status: 403, requestId: 'door-0002' })
  const odd = await ask('/api/v1/items', 'not\ta name')
  expect(odd.headers.get('x-request-id')).toMatch(/^[\da-f-]{36}$/)
  const lines = () =>
    server
      .said()
      .trim()
      .split('\n')
      .map((line) => JSON.parse(line) as { reqId?: string; msg: string; res?: { statusCode: number } })
  await until(async () => lines().some(({ reqId, res }) => reqId === 'door-0002' && res?.statusCode === 403), 30_000)
  expect(lines()).toContainEqual(expect.objectContaining({ reqId: 'door-0001', msg: 'request completed' }))
  expect(server.said()).not.toContain('weir gate oars')
  expect(server.said()).not.toContain(kitchen.cook.cookie.split('=')[1])
  await server.kill()
})

test('nobody but a trusted proxy names a request', async () => {
  const answer = await test_.app.inject({ url: '/api/v1/health', headers: { 'x-request-id': 'door-0003' } })
  expect(answer.headers['x-request-id']).toMatch(/^[\da-f-]{36}$/)
})

test('figures for watching are at an address of their own, and nowhere unless asked for', async () => {
  const port = await freePort()
  const server = await startServer(test_.url, { env: { FLEAM_METRICS: `127.0.0.1:${port}` } })
  const figures = async () => (await fetch(`http://127.0.0.1:${port}/metrics`)).text()
  const headers = { cookie: kitchen.cook.cookie }
  await (await fetch(`${server.url}/api/v1/items`, { headers })).text()
  await (await fetch(`${server.url}/api/v1/items/none/quotes`, { headers })).text()
  const stream = await fetch(`${server.url}/api/v1/live`, { headers })
  const text = await figures()
  expect(text).toContain('fleam_request_seconds_count{method="GET",route="/api/v1/items",status="200"} 1')
  expect(text).toContain('fleam_request_seconds_bucket{le="10",method="GET",route="/api/v1/items",status="200"} 1')
  expect(text).toMatch(/^fleam_streams 1$/m)
  expect(text).toMatch(/^fleam_database_node 1$/m)
  expect(text).toMatch(/^process_resident_memory_bytes \d+/m)
  expect(text).not.toContain(kitchen.itemId)
  await stream.body?.cancel()
  await until(async () => /^fleam_streams 0$/m.test(await figures()), 30_000)
  expect((await fetch(`${server.url}/metrics`)).headers.get('content-type')).toMatch(/html/)
  await server.kill()
  const without = await startServer(test_.url)
  await expect(figures()).rejects.toThrow()
  await without.kill()
})

test('a port for watching that is taken gets a sentence', async () => {
  const other = createServer()
  const taken = await freePort()
  await new Promise<void>((resolve) => other.listen(taken, '127.0.0.1', resolve))
  const port = await freePort()
  const options = { databaseUrl: test_.url, host: '127.0.0.1', port, withDemo: false, webRoot: 'none', heavyWorkFile: 'none' }
  await expect(serve({ ...options, metrics: { host: '127.0.0.1', port: taken } })).rejects.toThrow(`Port ${taken} on 127.0.0.1 is in use`)
  await expect(fetch(`http://127.0.0.1:${port}/api/v1/health`)).rejects.toThrow()
  other.close()
})

test('a kitchen is restored as it stood at any moment since its backup', async () => {
  const folder = mkdtempSync(join(tmpdir(), 'fleam-moment-'))
  const binlog = join(folder, 'binlog')
  const { startMariadb } = await import(join(root, 'scripts/mariadb.mjs'))
  const server = await startMariadb({ dataDirectory: join(folder, 'data'), databases: 'fleam\\_%', binlog })
  await server.ready()
  try {
    const base = server.url.replace(/fleam$/, '')
    const [source, then, whole] = [
      makeTestDatabase({ server: base }),
      makeTestDatabase({ server: base }),
      makeTestDatabase({ server: base }),
    ]
    const tool = (url: string, ...given: string[]) =>
      promisify(execFile)(process.execPath, ['scripts/backup.mjs', ...given], {
        cwd: root,
        env: { ...process.env, NODE_OPTIONS: '', DATABASE_URL: url },
      })
    const db = openDatabase(source.url, { connections: 2 })
    await migrate(db)
    const records = db.of(await addKitchen(db, 'Moment'))
    const add = (name: string) => records.suppliers.create({ id: randomUUID(), name, priceList: null })
    await add('Before the backup')
    const file = join(folder, 'kitchen.gz')
    await tool(source.url, 'backup', file)
    await add('After the backup')
    await pause(1100)
    const moment = new Date().toISOString()
    await pause(1100)
    await add('After the moment')
    await records.suppliers.destroy({ name: 'Before the backup' })

    const suppliersIn = async (url: string) => {
      const restored = openDatabase(url, { connections: 1 })
      const rows = await restored.acrossKitchens.suppliers.findAll({ order: ['name'] })
      await restored.close()
      return rows.map(({ name }) => name)
    }
    expect((await tool(then.url, 'restore', file, '--until', moment, '--binlog', binlog)).stdout).toContain('what was changed until')
    expect(await suppliersIn(then.url)).toEqual(['After the backup', 'Before the backup'])
    const later = new Date(Date.now() + 5000).toISOString()
    await tool(whole.url, 'restore', file, '--until', later, '--binlog', binlog)
    expect(await suppliersIn(whole.url)).toEqual(['After the backup', 'After the moment'])

    const refusals: [string[], string][] = [
      [['--until', moment], 'Give both'],
      [['--until', 'yesterday', '--binlog', binlog], 'is no moment'],
      [['--until', '2020-01-01T00:00:00Z', '--binlog', binlog], 'restore an older one'],
      [['--until', moment, '--binlog', folder], 'is no longer in'],
    ]
    for (const [given, words] of refusals)
      await expect(tool(whole.url, 'restore', file, ...given)).rejects.toMatchObject({ stderr: expect.stringContaining(words) })
    await db.close()
  } finally {
    await server.stop()
    rmSync(folder, { recursive: true, force: true })
  }
})
