import { spawn, spawnSync } from 'node:child_process'
import { mkdirSync, mkdtempSync, readdirSync, rmSync, symlinkSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { setTimeout as pause } from 'node:timers/promises'
import { buildServer } from './build.mjs'
import { Trouble } from './fail.mjs'
import { healthy } from './healthy.mjs'
import { freePort, startMariadb } from './mariadb.mjs'
import { root } from './programs.mjs'
import { judge, misfits, signIn, startRun, tablets, weighUntil } from './soak-tablets.mjs'

/** For so long tablets weigh on with servers as they are before the next is replaced. */
const betweenMs = 2000

/**
 * Weighs on several benches while the version that was before the last change of the schema is replaced by this one, a server at a
 * time, then one of them by the former again, as if the new one were not wanted, and by the new one for good. Then holds the ledger
 * against what was sent.
 * @returns how many checks held, what did not, and a sentence of what was done
 * @throws Trouble where the former version cannot be had, as in a copy without its history
 */
export async function soakUpgrade() {
  const scratch = mkdtempSync(join(tmpdir(), 'fleam-upgrade-'))
  try {
    const former = join(scratch, 'former')
    const commit = await buildFormer(former)
    return await replaceOneByOne(scratch, former, commit)
  } finally {
    rmSync(scratch, { recursive: true, force: true })
  }
}

/** The server of the commit before the last change of the schema, with this one's packages. */
async function buildFormer(at) {
  const git = (...given) => spawnSync('git', given, { cwd: root, encoding: 'utf8' })
  const changed = git('log', '-1', '--format=%H', '--', 'server/src/db/migrate.ts').stdout.trim()
  const commit = git('rev-parse', '--short', `${changed}^`)
  if (!changed || commit.status !== 0) throw new Trouble('This copy has no history from which the former version could be built.')
  mkdirSync(at)
  const taken = spawnSync('sh', ['-c', `git archive ${changed}^ | tar -x -C "$0"`, at], { cwd: root, encoding: 'utf8' })
  if (taken.status !== 0) throw new Trouble(`The former version could not be taken out of the history: ${taken.stderr.trim()}`)
  mkdirSync(join(at, 'node_modules/@fleam'), { recursive: true })
  const link = (from, to) => symlinkSync(from, join(at, to))
  for (const name of readdirSync(join(root, 'node_modules')))
    if (name !== '@fleam') link(join(root, 'node_modules', name), `node_modules/${name}`)
  for (const name of ['core', 'contract', 'server']) link(join(at, name), `node_modules/@fleam/${name}`)
  for (const name of ['core', 'server']) {
    const own = join(root, name, 'node_modules')
    if (readdirSync(join(root, name)).includes('node_modules')) link(own, `${name}/node_modules`)
  }
  await buildServer(at)
  return commit.stdout.trim()
}

async function replaceOneByOne(scratch, former, commit) {
  const database = await startMariadb({ dataDirectory: join(scratch, 'data') })
  await database.ready()
  const ports = [await freePort(), await freePort()]
  const urls = ports.map((port) => `http://127.0.0.1:${port}/api/v1`)
  const env = { ...process.env, DATABASE_URL: database.url, HOST: '127.0.0.1', FLEAM_DEMO: '1', FLEAM_LOG: 'silent' }
  const start = (at, which) =>
    spawn(process.execPath, [join(at, 'server/dist/main.js')], { cwd: at, env: { ...env, PORT: String(ports[which]) }, stdio: 'ignore' })
  const servers = [start(former, 0), start(former, 1)]
  const steps = async () => Number(await migrationsIn(database.url))
  const toll = { lost: 0, doubled: 0, retries: 0, longestMs: 0 }
  try {
    await Promise.all(urls.map((url) => healthy(url)))
    const before = await steps()
    const lead = await signIn(urls[0], 'Tobias Quill')
    const run = await startRun(urls[0], lead)
    let isOver = false
    const replace = async (which, at) => {
      const gone = new Promise((done) => servers[which].once('exit', done))
      servers[which].kill('SIGTERM')
      await gone
      servers[which] = start(at, which)
      await healthy(urls[which])
      await pause(betweenMs)
    }
    const rolling = (async () => {
      await pause(betweenMs)
      await replace(0, root)
      await replace(0, former)
      await replace(0, root)
      await replace(1, root)
    })().finally(() => (isOver = true))
    const sent = await Promise.all(Array.from({ length: tablets }, (_, index) => weighUntil(urls, lead, run, index, () => isOver, toll)))
    await rolling
    const stored = await (await fetch(`${urls[1]}/runs/${run.id}`, { headers: { cookie: lead } })).json()
    const { passed, failures } = judge(stored, sent)
    const unfit = misfits(database.url)
    if (unfit) failures.push(unfit)
    const added = (await steps()) - before
    if (added < 1) failures.push('The schema was not changed under the former version.')
    const words =
      `${sent.flat().length} lines on ${tablets} tablets while ${commit} was replaced by this version, put back and replaced again, over ${added} change${added === 1 ? '' : 's'} of the schema; ` +
      `${toll.lost} answers lost, ${toll.doubled} sends doubled, ${toll.retries} sent again; the longest that a line took was ${toll.longestMs} ms.`
    return { passed: passed + (unfit ? 0 : 1) + (added < 1 ? 0 : 1), failures, words }
  } finally {
    for (const server of servers) server.kill('SIGKILL')
    await database.stop()
  }
}

async function migrationsIn(url) {
  const { createConnection } = await import('mariadb')
  const { hostname, port, username, password } = new URL(url)
  const connection = await createConnection({ host: hostname, port: Number(port), user: username, password, database: 'fleam' })
  const [{ n }] = await connection.query('SELECT COUNT(*) AS n FROM migrations')
  await connection.end()
  return n
}
