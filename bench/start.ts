import { spawn } from 'node:child_process'
import { existsSync } from 'node:fs'
import { join } from 'node:path'
import { setTimeout as pause } from 'node:timers/promises'
import { freePort, startMariadb } from '../scripts/mariadb.mjs'
import { type Measured, ms, percentile } from './measure.ts'

const turns = 9
const script = [process.execPath, 'scripts/start.mjs'] as const
const npm = ['npm', 'start', '--silent'] as const

/**
 * A second start to healthy against the bare start of MariaDB on the same data, turn about. What npm itself takes before
 * it runs the script is reported beside it.
 */
export async function measureStart(): Promise<Measured[]> {
  const dataDirectory = join(process.env.FLEAM_BENCH_SCRATCH ?? '', 'start')
  await startFleam(dataDirectory, script)
  const [whole, throughNpm, bare]: [number[], number[], number[]] = [[], [], []]
  for (let turn = 0; turn < turns; turn += 1) {
    whole.push(await startFleam(dataDirectory, script))
    throughNpm.push(await startFleam(dataDirectory, npm))
    const start = performance.now()
    const database = await startMariadb({ dataDirectory })
    await database.ready()
    bare.push(performance.now() - start)
    await database.stop()
  }
  const [fleam, withNpm, mariadb] = [percentile(whole, 0.5), percentile(throughNpm, 0.5), percentile(bare, 0.5)]
  const against = `bare MariaDB ${ms(mariadb)}`
  return [
    { what: 'second start to healthy', value: ms(fleam), against, ratio: fleam / mariadb, limit: 6 },
    { what: 'the same through npm start', value: ms(withNpm), against, ratio: withNpm / mariadb },
  ]
}

async function startFleam(dataDirectory: string, [program, ...args]: readonly [string, ...string[]]): Promise<number> {
  const port = await freePort()
  const env = { ...process.env, DATABASE_URL: '', FLEAM_DATA: dataDirectory, PORT: String(port) }
  const start = performance.now()
  const child = spawn(program, args, { env, stdio: 'ignore', detached: true })
  const isHealthy = () =>
    fetch(`http://127.0.0.1:${port}/api/v1/health`).then(
      (answer) => answer.ok,
      () => false,
    )
  await until(isHealthy)
  const taken = performance.now() - start
  if (child.pid) process.kill(-child.pid, 'SIGINT')
  await until(async () => !existsSync(join(dataDirectory, 'fleam.pid')))
  return taken
}

async function until(holds: () => Promise<boolean>): Promise<void> {
  const giveUpAt = Date.now() + 30_000
  while (!(await holds())) {
    if (Date.now() > giveUpAt) throw new Error('Fleam did not start or stop within half a minute.')
    await pause(5)
  }
}
