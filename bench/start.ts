import { spawn } from 'node:child_process'
import { join } from 'node:path'
import { setTimeout as pause } from 'node:timers/promises'
import { freePort, startMariadb } from '../scripts/mariadb.mjs'
import { type Measured, ms, percentile } from './measure.ts'

const turns = 5

/** A second start, from `npm start` to healthy, against the bare start of MariaDB on the same data. */
export async function measureStart(): Promise<Measured[]> {
  const dataDirectory = join(process.env.FLEAM_BENCH_SCRATCH ?? '', 'start')
  await startFleam(dataDirectory)
  const whole: number[] = []
  const bare: number[] = []
  for (let turn = 0; turn < turns; turn += 1) {
    whole.push(await startFleam(dataDirectory))
    const start = performance.now()
    const database = await startMariadb({ dataDirectory })
    await database.ready()
    bare.push(performance.now() - start)
    await database.stop()
  }
  const [fleam, mariadb] = [percentile(whole, 0.5), percentile(bare, 0.5)]
  return [
    {
      what: 'second start to healthy, npm start',
      value: ms(fleam),
      against: `bare MariaDB ${ms(mariadb)}`,
      ratio: fleam / mariadb,
      limit: 3,
    },
  ]
}

async function startFleam(dataDirectory: string): Promise<number> {
  const port = await freePort()
  const env = { ...process.env, DATABASE_URL: '', FLEAM_DATA: dataDirectory, PORT: String(port) }
  const start = performance.now()
  const child = spawn('npm', ['start', '--silent'], { env, stdio: 'ignore', detached: true })
  const url = `http://127.0.0.1:${port}/api/v1/health`
  while (
    !(await fetch(url).then(
      (answer) => answer.ok,
      () => false,
    ))
  )
    await pause(10)
  const taken = performance.now() - start
  const gone = new Promise((resolve) => child.once('exit', resolve))
  if (child.pid) process.kill(-child.pid, 'SIGINT')
  await gone
  await pause(300)
  return taken
}
