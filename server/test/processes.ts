import { type ChildProcess, spawn, spawnSync } from 'node:child_process'
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { setTimeout as pause } from 'node:timers/promises'
import { freePort } from '../../scripts/mariadb.mjs'

export { freePort }

export const root = join(__dirname, '../..')

/** Whether this machine lets a test have a small disk of its own. */
export const mayMount = (() => {
  const folder = mkdtempSync(join(tmpdir(), 'fleam-test-'))
  const { status } = spawnSync('mount', ['-t', 'tmpfs', '-o', 'size=1m', 'tmpfs', folder])
  if (status === 0) spawnSync('umount', [folder])
  rmSync(folder, { recursive: true })
  return status === 0
})()

export interface RunningServer {
  url: string
  child: ChildProcess
  /** What it has said on standard output. */
  said(): string
  /** Ends it at once, as a power cut would. */
  kill(): Promise<void>
}

/** The built server as a process of its own, on a database; comes back when it is healthy. */
export async function startServer(
  databaseUrl: string,
  { port: asked, demo = false, env: given = {} }: { port?: number; demo?: boolean; env?: Record<string, string> } = {},
): Promise<RunningServer> {
  const port = asked ?? (await freePort())
  const env = {
    ...process.env,
    NODE_OPTIONS: '',
    DATABASE_URL: databaseUrl,
    PORT: String(port),
    HOST: '127.0.0.1',
    FLEAM_DEMO: demo ? '1' : '0',
    ...given,
  }
  const child = spawn(process.execPath, [join(root, 'server/dist/main.js')], { cwd: root, env, stdio: ['ignore', 'pipe', 'ignore'] })
  let said = ''
  child.stdout?.on('data', (chunk) => (said += chunk))
  const url = `http://127.0.0.1:${port}`
  const ended = new Promise<void>((resolve) => child.once('exit', () => resolve()))
  const kill = async () => {
    child.kill('SIGKILL')
    await ended
  }
  await until(async () => (await fetch(`${url}/api/v1/health`)).ok, 120_000)
  return { url, child, kill, said: () => said }
}

/** Waits until something holds; a condition that throws does not hold yet. */
export async function until(holds: () => Promise<boolean>, milliseconds: number): Promise<void> {
  const giveUpAt = Date.now() + milliseconds
  while (Date.now() < giveUpAt) {
    if (await holds().catch(() => false)) return
    await pause(20)
  }
  throw new Error(`It did not come about within ${milliseconds} ms.`)
}
