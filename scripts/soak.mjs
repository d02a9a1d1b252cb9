import { spawn } from 'node:child_process'
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { setTimeout as pause } from 'node:timers/promises'
import { ensureBuilt } from './build.mjs'
import { runMain } from './fail.mjs'
import { healthy } from './healthy.mjs'
import { freePort, startMariadb } from './mariadb.mjs'
import { ensurePackages, root } from './programs.mjs'
import { soakCluster } from './soak-cluster.mjs'
import { judge, misfits, signIn, startRun, tablets, weighUntil } from './soak-tablets.mjs'
import { soakUpgrade } from './soak-upgrade.mjs'

/**
 * Weighs on several benches through two servers on one database, while servers and database are killed or hang at random, answers
 * are lost and sends are doubled, then holds the ledger against what was sent: every line once, each tablet's in its order, nothing
 * else; and reads the whole database for what does not fit.
 * `npm run soak` takes ten minutes; `npm run soak -- --seconds 60` one; `npm run soak -- --cluster` does it on three servers and a
 * Galera cluster of three nodes; `npm run soak -- --upgrade` while the version before is replaced by this one.
 */
const seconds = Number(process.argv[process.argv.indexOf('--seconds') + 1]) || 600

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
  const allHealthy = () => Promise.all(urls.map((one) => healthy(one)))
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

if (process.argv[1] === import.meta.filename) {
  await runMain(async () => {
    ensurePackages()
    await ensureBuilt()
    const other = process.argv.includes('--cluster')
      ? { name: 'soak on a cluster', work: () => soakCluster(seconds) }
      : process.argv.includes('--upgrade') && { name: 'soak of an upgrade', work: soakUpgrade }
    if (other) {
      const { words, passed, failures } = await other.work()
      for (const failure of failures) process.stdout.write(`${failure}\n`)
      process.stdout.write(`${words}\n${other.name}: ${passed} passed, ${failures.length} failed\n`)
      process.exitCode = failures.length > 0 ? 1 : 0
      return
    }
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
