import { spawn } from 'node:child_process'
import { rmSync, writeFileSync } from 'node:fs'
import { join, resolve } from 'node:path'
import { setTimeout as pause } from 'node:timers/promises'
import { ensureBuilt } from './build.mjs'
import { runMain, Trouble } from './fail.mjs'
import { isFree, startMariadb } from './mariadb.mjs'
import { placePrinter } from './printer.mjs'
import { ensurePackages, root } from './programs.mjs'
import { placeScale } from './scale.mjs'
import { placeSupplier } from './supplier.mjs'

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
  const database = process.env.DATABASE_URL
    ? undefined
    : await startMariadb({ dataDirectory, binlog: process.env.FLEAM_BINLOG && resolve(process.env.FLEAM_BINLOG) })
  const pidFile = join(dataDirectory, 'fleam.pid')
  if (database) writeFileSync(pidFile, String(process.pid))
  const scale = withDemo && process.env.FLEAM_SCALE === undefined ? await placeScale(port) : undefined
  const printer = withDemo && process.env.FLEAM_PRINTER === undefined ? await placePrinter(port) : undefined
  const supplier = withDemo && process.env.FLEAM_SUPPLIER === undefined ? await placeSupplier(port) : undefined
  const server = keepServing({
    ...process.env,
    DATABASE_URL: process.env.DATABASE_URL || database.url,
    HOST: host,
    PORT: String(port),
    FLEAM_DEMO: withDemo ? '1' : '0',
    FLEAM_SCALE: scale ? `${scale.address.host}:${scale.address.port}` : process.env.FLEAM_SCALE,
    FLEAM_SUPPLIER: supplier ? `${supplier.address.host}:${supplier.address.port}` : process.env.FLEAM_SUPPLIER,
    FLEAM_PRINTER: printer ? `${printer.address.host}:${printer.address.port}` : process.env.FLEAM_PRINTER,
  })
  let leaving
  const leave = () => {
    leaving ??= (async () => {
      scale?.stop()
      printer?.stop()
      supplier?.stop()
      await server.stop()
      await database?.stop()
      rmSync(pidFile, { force: true })
    })()
    return leaving
  }
  for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => leave().then(() => process.exit(0)))
  try {
    await Promise.all([database?.ready(), server.listening])
  } catch (error) {
    await leave()
    throw error
  }
  scale?.start()
  printer?.start()
  supplier?.start()
  if (database) watch(database, () => leaving !== undefined)
  const shown = host.includes(':') ? `[${host}]` : host
  process.stdout.write(
    `Fleam is at http://${shown}:${port}\nCtrl-C stops it; the data stays in ${database ? dataDirectory : 'your database'}.\n${scale ? `A simulated bench scale is at ${scale.page}\n` : ''}${printer ? `A simulated label printer is at ${printer.page}\n` : ''}${supplier ? `A simulated supplier is at ${supplier.page}\n` : ''}`,
  )
})

/**
 * Runs the server as a process of its own and starts it again when it ends by itself.
 * @returns `listening`, which fails with what the server said if it cannot start, and `stop()`
 */
function keepServing(env) {
  let child
  let isStopping = false
  const run = () => {
    child = spawn(process.execPath, [join(root, 'server/dist/main.js')], { cwd: root, env, stdio: ['ignore', 'inherit', 'pipe', 'ipc'] })
    return child
  }
  const runAgain = () => {
    if (isStopping) return
    process.stderr.write('The server ended unexpectedly; starting it again.\n')
    setTimeout(() => {
      if (isStopping) return
      run().once('exit', runAgain).stderr.pipe(process.stderr, { end: false })
    }, 500)
  }
  const listening = new Promise((resolve, reject) => {
    let said = ''
    const hear = (text) => (said += text)
    run().stderr.on('data', hear)
    child.once('exit', () => reject(new Trouble(said.trim() || 'The server ended before it listened.')))
    child.once('message', () => {
      child.removeAllListeners('exit').once('exit', runAgain)
      child.stderr.off('data', hear).pipe(process.stderr, { end: false })
      resolve()
    })
  })
  return {
    listening,
    async stop() {
      isStopping = true
      if (child.exitCode !== null || child.signalCode !== null) return
      const gone = new Promise((resolve) => child.once('exit', resolve))
      child.kill('SIGTERM')
      await gone
    },
  }
}

/** A database that died is started again; meanwhile the server answers 503 and the pages keep what they have. */
function watch(database, isLeaving) {
  const onEnd = async () => {
    if (isLeaving()) return
    process.stderr.write('MariaDB ended unexpectedly; starting it again.\n')
    await pause(500)
    if (!isLeaving()) await database.restart().catch((error) => process.stderr.write(`${error.message}\n`))
  }
  database.onStart = (child) => child.once('exit', onEnd)
  database.child.once('exit', onEnd)
}

function readPort(text) {
  const number = Number(text)
  return /^\d+$/.test(text) && number >= 1 && number <= 65_535 ? number : Number.NaN
}
