import { existsSync, readFileSync, writeFileSync } from 'node:fs'
import { createRequire, Module } from 'node:module'
import { dirname, join } from 'node:path'
import vm from 'node:vm'
import { root } from './programs.mjs'

const built = join(root, 'server/dist/serve.cjs')
const codeCache = `${built}.cache`

/**
 * Serves Fleam in this process. The built server is loaded with the code that V8 compiled the last time, which takes a
 * third off a start.
 * @param {{ databaseUrl: string, host: string, port: number, withDemo: boolean }} options
 * @returns a handle with `close()`
 */
export async function serve(options) {
  const { serve: start } = load()
  return start({
    ...options,
    webRoot: join(root, 'web/dist'),
    heavyWorkFile: join(root, 'server/dist/heavy-work-thread.js'),
    logLevel: process.env.FLEAM_LOG,
  })
}

/** `FLEAM_SCALE=host:port` names a simulated scale that runs already. */
export function scaleFromEnvironment() {
  const [host, port] = (process.env.FLEAM_SCALE ?? '').split(':')
  return host && port ? { host, port: Number(port) } : undefined
}

function load() {
  const cachedData = existsSync(codeCache) ? readFileSync(codeCache) : undefined
  const script = new vm.Script(Module.wrap(readFileSync(built, 'utf8')), {
    filename: built,
    cachedData,
  })
  const module = { exports: {} }
  script.runInThisContext()(module.exports, createRequire(built), module, built, dirname(built))
  if (!cachedData || script.cachedDataRejected) setTimeout(() => keep(script), 2_000).unref()
  return module.exports
}

/** Without a place to write it the next start is merely slower. */
function keep(script) {
  try {
    writeFileSync(codeCache, script.createCachedData())
  } catch {
    return
  }
}

/** Run as a program: one copy of the server on the database of DATABASE_URL. */
if (process.argv[1] === import.meta.filename) {
  try {
    const server = await serve({
      databaseUrl: process.env.DATABASE_URL ?? '',
      host: process.env.HOST || '127.0.0.1',
      port: Number(process.env.PORT || 4180),
      withDemo: process.env.FLEAM_DEMO === '1',
      simulatedScale: scaleFromEnvironment(),
    })
    for (const signal of ['SIGINT', 'SIGTERM']) process.once(signal, () => server.close().then(() => process.exit(0)))
  } catch (error) {
    process.stderr.write(`${error.message}\n`)
    process.exit(1)
  }
}
