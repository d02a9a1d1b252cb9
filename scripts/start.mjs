import { spawn } from 'node:child_process'
import { rmSync, writeFileSync } from 'node:fs'
import { join, resolve } from 'node:path'
import { setTimeout as pause } from 'node:timers/promises'
import { ensureBuilt } from './build.mjs'
import { runMain, Trouble } from './fail.mjs'
import { isFree, startMariadb } from './mariadb.mjs'
import { ensurePackages, root } from './programs.mjs'

const host = process.env.HOST || '127.0.0.1'
const port = readPort(process.env.PORT || '4180')
const dataDirectory = resolve(process.env.FLEAM_DATA || join(root, '.data'))
const withDemo = !process.argv.includes('--empty')

await runMain(async () => {
  if (Number.isNaN(port)) throw new Trouble(`PORT must be a number from 1 to 65535, not “${process.env.PORT}”.`)
  if (!(await isFree(port, host)))
    throw new Trouble(`Port ${port} on ${host} is in use or not allowed: stop what uses it, or start with PORT=another.`)
  ensurePackages()
  await ensureBuilt()
  const database = process.env.DATABASE_URL ? undefined : await startMariadb({ dataDirectory })
  await serve(database)
})

/** Runs the server beside its database until either is told to stop; a database that died is started again. */
async function serve(database) {
  const pidFile = join(dataDirectory, 'fleam.pid')
  if (database) writeFileSync(pidFile, String(process.pid))
  const env = {
    ...process.env,
    HOST: host,
    PORT: String(port),
    DATABASE_URL: process.env.DATABASE_URL || database?.url,
    FLEAM_DEMO: withDemo ? '1' : '0',
    NODE_ENV: 'production',
  }
  const server = spawn(process.execPath, ['--enable-source-maps', join(root, 'server/dist/main.js')], {
    env,
    cwd: root,
    stdio: ['ignore', 'inherit', 'inherit', 'ipc'],
    detached: true,
  })
  let leaving = false
  const leave = async () => {
    if (leaving) return
    leaving = true
    if (server.exitCode === null && server.signalCode === null) {
      const gone = new Promise((done) => server.once('exit', done))
      server.kill('SIGTERM')
      await gone
    }
    await database?.stop()
    rmSync(pidFile, { force: true })
  }
  process.once('SIGINT', leave)
  process.once('SIGTERM', leave)
  server.once('message', () => {
    process.stdout.write(
      `Fleam is at http://${host.includes(':') ? `[${host}]` : host}:${port}\nCtrl-C stops it; the data stays in ${database ? dataDirectory : 'your database'}.\n`,
    )
  })
  if (database) {
    const watch = (child) =>
      child.once('exit', async () => {
        if (leaving) return
        process.stderr.write('MariaDB ended unexpectedly; starting it again.\n')
        await pause(500)
        if (!leaving) await database.restart().catch((error) => process.stderr.write(`${error.message}\n`))
      })
    database.onStart = watch
    try {
      await database.ready()
    } catch (error) {
      await leave()
      throw error
    }
    watch(database.child)
  }
  const code = await new Promise((done) => server.once('exit', (exitCode) => done(exitCode ?? 1)))
  const wasAsked = leaving
  await leave()
  if (!wasAsked) process.exitCode = code || 1
}

function readPort(text) {
  const number = Number(text)
  return /^\d+$/.test(text) && number >= 1 && number <= 65_535 ? number : Number.NaN
}
