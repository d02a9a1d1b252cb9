import { spawn } from 'node:child_process'
import { join } from 'node:path'
import { ensureBuilt } from './build.mjs'
import { runMain, Trouble } from './fail.mjs'
import { freePort, isFree } from './mariadb.mjs'
import { ensurePackages, root } from './programs.mjs'

const host = '127.0.0.1'

/**
 * A simulated device as a process of its own, which ends with this one. Its addresses are known before it is started, so that a
 * start of Fleam need not wait for it.
 * @param {{ file: string, name: string, near: number }} device its script, the beginning of its variables, and a port to stay close
 * to, so that the addresses stay the same from start to start
 */
export async function placeDevice({ file, name, near }) {
  const [port, pagePort] = await Promise.all([0, 1].map((step) => portNear(near + step)))
  let child
  return {
    address: { host, port },
    page: `http://${host}:${pagePort}`,
    start() {
      child = spawn(process.execPath, [file, '--with-parent'], {
        cwd: root,
        env: { ...process.env, [`${name}_PORT`]: String(port), [`${name}_PAGE_PORT`]: String(pagePort) },
        stdio: ['pipe', 'ignore', 'inherit'],
      })
      child.stdin.on('error', () => undefined)
    },
    stop: () => child?.kill('SIGTERM'),
  }
}

async function portNear(port) {
  return port < 65_536 && (await isFree(port, host)) ? port : freePort()
}

/**
 * Runs a simulated device until it is told to end.
 * @param {{ name: string, near: number, what: string, speaks: string, built: string, serve: (built: object, ports: object) => Promise<{ close(): Promise<void> }> }} device
 */
export function runDevice({ name, near, what, speaks, built, serve }) {
  return runMain(async () => {
    const port = Number(process.env[`${name}_PORT`] || near)
    const pagePort = Number(process.env[`${name}_PAGE_PORT`] || near + 1)
    if (!process.argv.includes('--with-parent')) {
      ensurePackages()
      await ensureBuilt()
    }
    const device = await serve(await import(join(root, built)), { host, port, pagePort }).catch(() => {
      throw new Trouble(`Port ${port} or ${pagePort} is in use: set ${name}_PORT and ${name}_PAGE_PORT to others.`)
    })
    process.stdout.write(`The simulated ${what} speaks ${speaks} on ${host}:${port}; its page is http://${host}:${pagePort}\n`)
    const leave = () => device.close().then(() => process.exit(0))
    for (const signal of ['SIGINT', 'SIGTERM']) process.once(signal, leave)
    if (process.argv.includes('--with-parent')) process.stdin.resume().once('end', leave)
  })
}
