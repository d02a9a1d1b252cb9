import { spawn } from 'node:child_process'
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { ensureBuilt } from './build.mjs'
import { runMain } from './fail.mjs'
import { startGalera } from './galera.mjs'
import { healthy } from './healthy.mjs'
import { freePort } from './mariadb.mjs'
import { ensurePackages, root } from './programs.mjs'

/**
 * Three servers, each with a node of its own as home, on one cluster with the demo.
 * @returns the cluster, `urls` of the API, `servers` to be killed and started again, and `stop()`
 */
export async function startCluster(dataDirectory) {
  const cluster = await startGalera({ dataDirectory })
  const env = { ...process.env, HOST: '127.0.0.1', FLEAM_DEMO: '1', FLEAM_LOG: 'silent', NODE_OPTIONS: '' }
  const servers = []
  for (let index = 0; index < cluster.nodes.length; index += 1) {
    const port = await freePort()
    const start = () =>
      spawn(process.execPath, [join(root, 'server/dist/main.js')], {
        cwd: root,
        env: { ...env, DATABASE_URL: cluster.url(index), PORT: String(port) },
        stdio: 'ignore',
      })
    servers.push({ url: `http://127.0.0.1:${port}`, start, child: start() })
  }
  const urls = servers.map(({ url }) => `${url}/api/v1`)
  const handle = {
    cluster,
    servers,
    urls,
    /** All servers answer; `isHome`: each from its own node. */
    healthy: (isHome = false) => Promise.all(urls.map((url) => healthy(url, ({ node }) => !isHome || node.at === 1))),
    async stop() {
      for (const { child } of servers) child.kill('SIGKILL')
      await cluster.stop()
    },
  }
  try {
    await handle.healthy()
  } catch (error) {
    await handle.stop()
    throw error
  }
  return handle
}

if (process.argv[1] === import.meta.filename) {
  await runMain(async () => {
    ensurePackages()
    await ensureBuilt()
    const scratch = mkdtempSync(join(tmpdir(), 'fleam-cluster-'))
    process.stdout.write('Starting three nodes and three servers …\n')
    const { cluster, servers, stop } = await startCluster(scratch)
    for (const [index, { url }] of servers.entries()) {
      process.stdout.write(`Server ${index + 1} is at ${url}, its node at 127.0.0.1:${cluster.nodes[index].port}.\n`)
    }
    process.stdout.write('Ctrl-C ends all; nothing of it is kept.\n')
    let leaving
    const leave = () => {
      leaving ??= stop().then(() => rmSync(scratch, { recursive: true, force: true }))
      return leaving
    }
    await new Promise((resolve) => {
      for (const signal of ['SIGINT', 'SIGTERM']) process.once(signal, resolve)
    })
    await leave()
    process.exit(0)
  })
}
