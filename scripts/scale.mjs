import { spawn } from 'node:child_process'
import { join } from 'node:path'
import { ensureBuilt } from './build.mjs'
import { runMain, Trouble } from './fail.mjs'
import { freePort, isFree } from './mariadb.mjs'
import { ensurePackages, root } from './programs.mjs'

const host = '127.0.0.1'

/**
 * The simulated bench scale as a process of its own, which ends with this one. Its addresses are known before it is
 * started, so that a start of Fleam need not wait for it.
 * @param {number} near a port to stay close to, so that the addresses stay the same from start to start
 */
export async function placeScale(near) {
  const [port, pagePort] = await Promise.all([10, 11].map((step) => portNear(near + step)))
  let child
  return {
    address: { host, port },
    page: `http://${host}:${pagePort}`,
    start() {
      child = spawn(process.execPath, [import.meta.filename, '--with-parent'], {
        cwd: root,
        env: { ...process.env, SCALE_PORT: String(port), SCALE_PAGE_PORT: String(pagePort) },
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

if (process.argv[1] === import.meta.filename) {
  await runMain(async () => {
    const port = Number(process.env.SCALE_PORT || 4190)
    const pagePort = Number(process.env.SCALE_PAGE_PORT || 4191)
    if (!process.argv.includes('--with-parent')) {
      ensurePackages()
      await ensureBuilt()
    }
    const { serveSimulatedScale } = await import(join(root, 'server/dist/scale.js'))
    const scale = await serveSimulatedScale({ host, port, pagePort, seed: Number(process.env.SCALE_SEED || 1) }).catch(() => {
      throw new Trouble(`Port ${port} or ${pagePort} is in use: set SCALE_PORT and SCALE_PAGE_PORT to others.`)
    })
    process.stdout.write(`The simulated scale speaks on ${host}:${port}; its page is http://${host}:${pagePort}\n`)
    const leave = () => scale.close().then(() => process.exit(0))
    for (const signal of ['SIGINT', 'SIGTERM']) process.once(signal, leave)
    if (process.argv.includes('--with-parent')) process.stdin.resume().once('end', leave)
  })
}
