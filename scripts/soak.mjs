import { spawn, spawnSync } from 'node:child_process'
import { randomBytes, randomUUID } from 'node:crypto'
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { setTimeout as pause } from 'node:timers/promises'
import { ensureBuilt } from './build.mjs'
import { runMain } from './fail.mjs'
import { freePort, startMariadb } from './mariadb.mjs'
import { ensurePackages, root } from './programs.mjs'

/**
 * Weighs on several benches through two servers on one database, while servers and database are killed or hang at random, answers
 * are lost and sends are doubled, then holds the ledger against what was sent: every line once, each tablet's in its order, nothing
 * else; and reads the whole database for what does not fit.
 * `npm run soak` takes ten minutes; `npm run soak -- --seconds 60` one.
 */
const seconds = Number(process.argv[process.argv.indexOf('--seconds') + 1]) || 600
const tablets = 4
const gapMs = 120

/** @returns how many checks held and how many did not */
export async function soak(runSeconds) {
  const scratch = mkdtempSync(join(tmpdir(), 'fleam-soak-'))
  const database = await startMariadb({ dataDirectory: scratch })
  await database.ready()
  const ports = [await freePort(), await freePort()]
  const urls = ports.map((port) => `http://127.0.0.1:${port}/api/v1`)
  const [url] = urls
  const common = { ...process.env, DATABASE_URL: database.url, HOST: '127.0.0.1', FLEAM_DEMO: '1', FLEAM_LOG: 'silent' }
  const startServer = (port) =>
    spawn(process.execPath, [join(root, 'server/dist/main.js')], { cwd: root, env: { ...common, PORT: String(port) }, stdio: 'ignore' })
  // both on a database that is still empty: one of them fills it
  const servers = ports.map(startServer)
  const toll = { server: 0, database: 0, hung: 0, lost: 0, doubled: 0, retries: 0 }
  const allHealthy = () => Promise.all(urls.map(healthy))
  try {
    await allHealthy()
    const lead = await signIn(url, 'Tobias Quill')
    const run = await startRun(url, lead)
    const until = Date.now() + runSeconds * 1000
    let isOver = false
    const troubles = (async () => {
      while (Date.now() < until) {
        await pause(3000 + Math.random() * 5000)
        const lot = Math.random()
        if (lot < 0.5) {
          toll.server += 1
          const which = Math.random() < 0.5 ? 0 : 1
          const gone = new Promise((done) => servers[which].once('exit', done))
          servers[which].kill('SIGKILL')
          await gone
          await pause(Math.random() * 1500)
          servers[which] = startServer(ports[which])
        } else if (lot < 0.75) {
          toll.hung += 1
          database.child.kill('SIGSTOP')
          await pause(Math.min(30_000, runSeconds * 100) * Math.random())
          database.child.kill('SIGCONT')
        } else {
          toll.database += 1
          const gone = new Promise((done) => database.child.once('exit', done))
          database.child.kill('SIGKILL')
          await gone
          await database.restart()
        }
        await allHealthy()
      }
      isOver = true
    })()
    const sent = await Promise.all(Array.from({ length: tablets }, (_, index) => weighUntil(urls, lead, run, index, () => isOver, toll)))
    await troubles
    await allHealthy()
    const stored = await (await fetch(`${url}/runs/${run.id}`, { headers: { cookie: lead } })).json()
    const { passed, failures } = judge(stored, sent)
    const unfit = misfits(database.url)
    return { passed: passed + (unfit ? 0 : 1), failures: unfit ? [...failures, unfit] : failures, toll, lines: sent.flat().length }
  } finally {
    for (const server of servers) server.kill('SIGKILL')
    database.child.kill('SIGCONT')
    await database.stop()
    rmSync(scratch, { recursive: true, force: true })
  }
}

async function healthy(url) {
  for (let tries = 0; tries < 1200; tries += 1) {
    const isUp = await fetch(`${url}/health`, { signal: AbortSignal.timeout(1000) }).then(
      (answer) => answer.ok,
      () => false,
    )
    if (isUp) return
    await pause(50)
  }
  throw new Error('The server did not come back within a minute.')
}

async function signIn(url, name) {
  const { people } = await (await fetch(`${url}/demo`)).json()
  const { secret } = people.find((person) => person.name === name)
  const answer = await fetch(`${url}/session`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ name, secret }),
  })
  return String(answer.headers.get('set-cookie')).split(';')[0]
}

async function startRun(url, cookie) {
  const list = async (path) => (await (await fetch(`${url}${path}`, { headers: { cookie } })).json()).entries
  const item = (await list('/items?limit=200')).find((one) => one.kind === 'whole' && one.animal === 'beef')
  const sheet = (await list('/cut-sheets?limit=200')).find((one) => one.slug === 'beef-tenderloin-traditional')
  const answer = await fetch(`${url}/runs`, {
    method: 'POST',
    headers: { cookie, 'content-type': 'application/json' },
    body: JSON.stringify({
      id: randomUUID(),
      itemId: item.id,
      cutSheetId: sheet.id,
      supplierId: null,
      billed: '490 kg',
      received: '490 kg',
      weightsChecked: true,
      coreTempC: null,
      startedAt: new Date().toISOString(),
    }),
  })
  return answer.json()
}

/** One tablet: each line goes out until it was answered, the next only then, as the outbox does. */
async function weighUntil(urls, cookie, run, index, isOver, toll) {
  const tub = run.tubs[index]
  const lines = []
  while (!isOver()) {
    const last = lines.at(-1)
    const isReversal = last && last.reversesId === null && Math.random() < 0.15
    const line = isReversal
      ? { id: randomUUID(), path: 'reversals', reversesId: last.id, tenths: last.tenths }
      : { id: randomUUID(), path: 'weighings', reversesId: null, tenths: 10 + (randomBytes(2).readUInt16LE() % 3000) }
    await sendUntilStored(urls, cookie, run, tub, line, toll)
    lines.push({ ...line, tubId: tub.id })
    await pause(gapMs * Math.random() * 2)
  }
  return lines
}

async function sendUntilStored(urls, cookie, run, tub, line, toll) {
  const weighedAt = new Date().toISOString()
  const body =
    line.path === 'reversals'
      ? { id: line.id, reversesId: line.reversesId, weighedAt }
      : { id: line.id, tubId: tub.id, weight: `${line.tenths / 10} g`, weighedAt }
  const send = (signal = AbortSignal.timeout(5000)) =>
    fetch(`${urls[Math.floor(Math.random() * urls.length)]}/runs/${run.id}/${line.path}`, {
      method: 'POST',
      headers: { cookie, 'content-type': 'application/json' },
      body: JSON.stringify(body),
      signal,
    })
  for (;;) {
    try {
      if (Math.random() < 0.06) {
        toll.lost += 1
        await send(AbortSignal.timeout(1 + Math.random() * 8)).catch(() => undefined)
        continue
      }
      const answers = Math.random() < 0.08 ? await Promise.all([send(), send()]) : [await send()]
      if (answers.length > 1) toll.doubled += 1
      if (answers.some((answer) => answer.status === 201)) return
      const refused = answers.find((answer) => answer.status < 500)
      if (refused) throw new Refused(`${refused.status} ${await refused.text()}`)
    } catch (error) {
      if (error instanceof Refused) throw error
    }
    toll.retries += 1
    await pause(100)
  }
}

class Refused extends Error {}

/** What of the database does not fit, if anything. */
function misfits(databaseUrl) {
  const env = { ...process.env, DATABASE_URL: databaseUrl }
  const { status, stdout, stderr } = spawnSync(process.execPath, [join(root, 'server/dist/check.js')], { cwd: root, env, encoding: 'utf8' })
  return status === 0 ? undefined : (stdout + stderr).trim()
}

function judge(run, sent) {
  const failures = []
  const expected = new Map(sent.flat().map((line) => [line.id, line]))
  const stored = run.weighings
  const ids = new Set(stored.map((line) => line.id))
  const check = (holds, what) => holds || failures.push(what)
  check(ids.size === stored.length, 'A line stands twice.')
  check(
    [...expected.keys()].every((id) => ids.has(id)),
    'A line that was accepted is lost.',
  )
  check(
    stored.every((line) => expected.has(line.id)),
    'A line that nobody sent stands in the ledger.',
  )
  check(
    stored.every((line) => {
      const given = expected.get(line.id)
      return given && given.tenths === line.tenths && given.tubId === line.tubId && given.reversesId === line.reversesId
    }),
    'A line is not what was sent.',
  )
  for (const lines of sent) {
    const order = stored.filter((line) => line.tubId === lines[0]?.tubId).map((line) => line.id)
    check(order.join() === lines.map((line) => line.id).join(), 'A tablet’s lines are not in its order.')
  }
  return { passed: 4 + sent.length - failures.length, failures }
}

if (process.argv[1] === import.meta.filename) {
  await runMain(async () => {
    ensurePackages()
    await ensureBuilt()
    const { passed, failures, toll, lines } = await soak(seconds)
    process.stdout.write(
      `${lines} lines on ${tablets} tablets in ${seconds} s; servers killed ${toll.server} times, database ${toll.database}, hung ${toll.hung}; ` +
        `${toll.lost} answers lost, ${toll.doubled} sends doubled, ${toll.retries} sent again.\n`,
    )
    for (const failure of failures) process.stdout.write(`${failure}\n`)
    process.stdout.write(`soak: ${passed} passed, ${failures.length} failed\n`)
    if (failures.length > 0) process.exitCode = 1
  })
}
