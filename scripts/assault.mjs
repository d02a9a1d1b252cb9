import { spawn, spawnSync } from 'node:child_process'
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { Worker } from 'node:worker_threads'
import { maker, seeded } from './assault-requests.mjs'
import { ensureBuilt } from './build.mjs'
import { runMain } from './fail.mjs'
import { healthy } from './healthy.mjs'
import { freePort, startMariadb } from './mariadb.mjs'
import { ensurePackages, root } from './programs.mjs'

/**
 * Sends what nobody means to every route of a demo kitchen on loopback, with a database of its own, as each role, and fails on
 * any answer of 500 or more, any refusal of a field that does not name it, anything that was accepted and cannot be read back or
 * is nonsense, and any health answer over 250 ms. `npm run assault` takes ten minutes; `-- --seconds 60` one; `-- --seed 7`
 * sends what seed 7 sends.
 */
const argument = (name, usual) => Number(process.argv[process.argv.indexOf(`--${name}`) + 1]) || usual
const slowestHealthMs = 250
const inFlight = 8
const readBackAfter = 500
const mostTold = 12
/** What ends or changes the assault's own way in. */
const leftAlone = new Set(['DELETE /api/v1/session', 'PUT /api/v1/account/secret', 'PUT /api/v1/account/time-code', 'GET /api/v1/live'])
const streams = /\/live$/

/**
 * @param shareSlow of health answers that may be slow all the same: where other work shares the machine, none can be promised
 * @returns what was sent, and what did not hold
 */
export async function assault(seconds, seed, shareSlow = 0) {
  const scratch = mkdtempSync(join(tmpdir(), 'fleam-assault-'))
  const database = await startMariadb({ dataDirectory: scratch })
  await database.ready()
  const port = await freePort()
  const env = { ...process.env, DATABASE_URL: database.url, PORT: String(port), HOST: '127.0.0.1', FLEAM_DEMO: '1', FLEAM_LOG: 'silent' }
  const server = spawn(process.execPath, [join(root, 'server/dist/main.js')], {
    cwd: root,
    env: { ...env, FLEAM_WRITES_PER_MINUTE: '1000000000' },
    stdio: ['ignore', 'ignore', 'inherit'],
  })
  let hasEnded = false
  server.once('exit', () => (hasEnded = true))
  try {
    const attack = await prepare(`http://127.0.0.1:${port}`, seed)
    const until = Date.now() + seconds * 1000
    const isOver = () => Date.now() > until || hasEnded
    const stopWatching = watchHealth(attack, isOver)
    try {
      await Promise.all(Array.from({ length: inFlight }, () => send(attack, isOver)))
    } finally {
      await stopWatching()
    }
    if (hasEnded) attack.fail('The server ended.')
    else await readBack(attack)
    const { status, stdout, stderr } = spawnSync(process.execPath, [join(root, 'server/dist/check.js')], {
      cwd: root,
      env,
      encoding: 'utf8',
    })
    if (status !== 0) attack.fail(`What was accepted does not fit: ${(stdout + stderr).slice(0, 2000)}`)
    const { sent, failures, slowest, accepted, slow, asked } = attack
    if (slow.length > shareSlow * asked) for (const words of slow.slice(0, mostTold)) attack.fail(words)
    const words = `${sent} requests by seed ${seed}, ${accepted} accepted, slowest health answer ${Math.round(slowest)} ms`
    return { words, failures }
  } finally {
    server.kill('SIGKILL')
    await database.stop()
    rmSync(scratch, { recursive: true, force: true })
  }
}

async function prepare(url, seed) {
  await healthy(`${url}/api/v1`)
  const { people } = await (await fetch(`${url}/api/v1/demo`)).json()
  const cookies = []
  for (const name of ['Maren Holt', 'Tobias Quill', 'Jory Penhale']) {
    const { secret } = people.find((person) => person.name === name)
    const body = JSON.stringify({ name, secret })
    const answer = await fetch(`${url}/api/v1/session`, { method: 'POST', headers: { 'content-type': 'application/json' }, body })
    cookies.push(String(answer.headers.get('set-cookie')).split(';')[0])
  }
  const attack = {
    url,
    cookies,
    random: seeded(seed),
    ids: new Map(),
    operations: [],
    reads: [],
    underWay: new Set(),
    asked: 0,
    slow: [],
    sent: 0,
    readNextAt: readBackAfter,
    accepted: 0,
    slowest: 0,
    failures: [],
    fail(what) {
      if (this.failures.length < mostTold) this.failures.push(what)
    },
  }
  const idsOf = (name) => {
    const known = attack.ids.get(featureOf(name)) ?? []
    return known[Math.floor(attack.random() * known.length)]
  }
  attack.make = maker(attack.random, idsOf)
  const document = await (await fetch(`${url}/api/v1/openapi.json`, { headers: { cookie: cookies[0] } })).json()
  for (const [path, methods] of Object.entries(document.paths)) {
    for (const [method, operation] of Object.entries(methods)) {
      const name = `${method.toUpperCase()} ${path}`
      if (leftAlone.has(name) || streams.test(path)) continue
      // files are long, and say the same each time
      const share = path.includes('.') ? 1 : 12
      for (let times = 0; times < share; times += 1) attack.operations.push({ name, path, method: method.toUpperCase(), operation })
      const asksMore = (operation.parameters ?? []).some(({ required }) => required)
      if (method === 'get' && !path.includes('{') && !asksMore) attack.reads.push(path)
    }
  }
  await readBack(attack)
  return attack
}

/** Kinds of id by the names of fields and of places in paths. */
const features = {
  itemId: 'items',
  againstId: 'items',
  readyCutId: 'items',
  readyCutIds: 'items',
  cutSheetId: 'cut-sheets',
  basedOnId: 'cut-sheets',
  supplierId: 'suppliers',
  runId: 'runs',
  tubId: 'tubs',
  cookId: 'people',
  personId: 'people',
  weighingId: 'weighings',
  reversesId: 'weighings',
}
const featureOf = (name) => features[name] ?? name

/** One after the other until it is over: makes a request, sends it as somebody, judges the answer. */
async function send(attack, isOver) {
  while (!isOver()) {
    const { name, path, method, operation } = attack.operations[Math.floor(attack.random() * attack.operations.length)]
    const request = attack.make(path, method, operation)
    const cookie = attack.cookies[Math.floor(attack.random() * attack.cookies.length)]
    attack.sent += 1
    const shown = `${name} (${request.body?.length ?? 0} bytes)`
    attack.underWay.add(shown)
    let answer
    try {
      answer = await fetch(`${attack.url}${request.path}`, {
        method,
        headers: { cookie, ...(request.body === undefined ? {} : { 'content-type': request.type }) },
        ...(request.body === undefined ? {} : { body: request.body }),
        signal: AbortSignal.timeout(30_000),
      })
    } catch (error) {
      // a body that is refused by its size is not read to its end
      if (!isOver() && (request.body?.length ?? 0) < 30_000) attack.fail(`${name} was not answered: ${error.cause?.code ?? error.message}`)
      attack.underWay.delete(shown)
      continue
    }
    const text = await answer.text().catch(() => '')
    attack.underWay.delete(shown)
    judge(attack, name, request, answer, text)
    if (attack.sent < attack.readNextAt) continue
    attack.readNextAt = attack.sent + readBackAfter
    await readBack(attack)
  }
}

function judge(attack, name, request, answer, text) {
  const shown = `${name} ${request.path.slice(0, 160)} ${(request.body ?? '').slice(0, 400)}`
  if (answer.status >= 500 && answer.status !== 502) return attack.fail(`${answer.status} to ${shown}: ${text.slice(0, 200)}`)
  if (answer.ok) {
    attack.accepted += 1
    return
  }
  const problem = parsed(text)
  if (!String(answer.headers.get('content-type')).startsWith('application/problem+json') || !problem?.type)
    return attack.fail(`${answer.status} without a problem to ${shown}: ${text.slice(0, 200)}`)
  if (problem.type === 'urn:fleam:problem:invalid-input') {
    const isNamed = problem.errors?.length > 0 && problem.errors.every(({ field, message }) => field && message)
    if (!isNamed) attack.fail(`A refusal that names no field to ${shown}: ${text.slice(0, 200)}`)
  }
}

/** Whatever was accepted can be read, and is something that a kitchen can mean. */
async function readBack(attack) {
  const read = async (path) => {
    const answer = await fetch(`${attack.url}${path}`, { headers: { cookie: attack.cookies[0] } })
    const text = await answer.text()
    if (!answer.ok && answer.status !== 404) attack.fail(`${answer.status} reading ${path}: ${text.slice(0, 200)}`)
    const value = parsed(text)
    const nonsense = value && nonsenseIn(value)
    if (nonsense) attack.fail(`${path} tells nonsense: ${nonsense}`)
    return value
  }
  for (const path of attack.reads) {
    const value = await read(path.includes('.') ? path : `${path}?limit=200`)
    const entries = value?.entries ?? []
    const ids = entries.flatMap(({ id }) => (typeof id === 'string' ? [id] : []))
    if (ids.length > 0) attack.ids.set(path.split('/')[3], ids)
  }
  // people keep their way in
  const people = await read('/api/v1/people?limit=200')
  const own = new Set(['Maren Holt', 'Tobias Quill', 'Jory Penhale'])
  attack.ids.set(
    'people',
    (people?.entries ?? []).filter(({ name }) => !own.has(name)).map(({ id }) => id),
  )
  const runs = (attack.ids.get('runs') ?? []).slice(0, 6)
  const opened = await Promise.all(runs.map((id) => read(`/api/v1/runs/${id}`)))
  attack.ids.set(
    'tubs',
    opened.flatMap((run) => run?.tubs?.map(({ id }) => id) ?? []),
  )
  attack.ids.set(
    'weighings',
    opened.flatMap((run) => run?.weighings?.slice(-20).map(({ id }) => id) ?? []),
  )
}

/** Control signs other than line breaks, halves of signs, and marks that hide or turn what follows. */
const unprintable = /(?![\n\r\t])[\p{Cc}\p{Cs}\u200b\u200e\u200f\u202a-\u202e\u2066-\u2069]/u

/** The first thing in an answer that no kitchen can mean. */
function nonsenseIn(value, at = '') {
  if (typeof value === 'string') return unprintable.test(value) ? `${at} ${JSON.stringify(value.slice(0, 80))}` : undefined
  if (typeof value === 'number') return Math.abs(value) > 1e15 ? `${at} ${value}` : undefined
  if (value === null || typeof value !== 'object') return undefined
  for (const [key, part] of Object.entries(value)) {
    if (key === 'name' && typeof part === 'string' && part !== '' && !/[\p{L}\p{N}]/u.test(part))
      return `${at}.name ${JSON.stringify(part)}`
    const found = nonsenseIn(part, `${at}.${key}`)
    if (found) return found
  }
  return undefined
}

/** Asks for health all the while, from a thread of its own: this one is busy reading what comes back. */
function watchHealth(attack, isOver) {
  const watcher = new Worker(new URL('./assault-health.mjs', import.meta.url), { workerData: { url: attack.url } })
  watcher.on('message', (took) => {
    attack.asked += 1
    if (took > slowestHealthMs && !isOver())
      attack.slow.push(`Health was answered after ${Math.round(took)} ms while these were under way: ${[...attack.underWay].join(', ')}`)
    attack.slowest = Math.max(attack.slowest, took)
  })
  return async () => void (await watcher.terminate())
}

function parsed(text) {
  try {
    return JSON.parse(text)
  } catch {
    return undefined
  }
}

if (process.argv[1]?.endsWith('assault.mjs')) {
  await runMain(async () => {
    ensurePackages()
    await ensureBuilt()
    const { words, failures } = await assault(argument('seconds', 600), argument('seed', Date.now() % 1_000_000))
    process.stdout.write(`${words}\n${failures.map((failure) => `FAILED: ${failure}\n`).join('')}`)
    process.exitCode = failures.length === 0 ? 0 : 1
  })
}
