import { setTimeout as pause } from 'node:timers/promises'
import type { FastifyServerOptions } from 'fastify'
import { buildApp } from './app.ts'
import { addressExample, readAddress } from './db/address.ts'
import { isUnreachable } from './db/ailments.ts'
import { type Database, openDatabase } from './db/database.ts'
import { migrate } from './db/migrate.ts'
import { loadDemoKitchen } from './demo/kitchen.ts'
import { syncCatalog } from './features/cut-sheets/catalog-sheets.ts'
import { needsSetup } from './features/setup/service.ts'
import { openHeavyWork } from './heavy-work.ts'
import type { Guards } from './http/guards.ts'

export interface ServeOptions {
  databaseUrl: string
  host: string
  port: number
  /** Fill an empty database with the demo kitchen. */
  withDemo: boolean
  /** Folder of the built pages. */
  webRoot: string
  /** The built module of the long computations. */
  heavyWorkFile: string
  logLevel?: string | undefined
  guards?: Guards | undefined
  /** Where `/metrics` is answered; nowhere unless given. */
  metrics?: { host: string; port: number } | undefined
  simulatedScale?: { host: string; port: number } | undefined
  simulatedPrinter?: { host: string; port: number } | undefined
  simulatedSupplier?: { host: string; port: number } | undefined
}

/** Listens once the database is reached and up to date. A start that cannot be gets an error whose message is one sentence. */
export async function serve(options: ServeOptions): Promise<{ close(): Promise<void> }> {
  const { databaseUrl, host, port } = options
  if (!readAddress(databaseUrl)) throw new Error(`Fleam needs DATABASE_URL, such as ${addressExample}.`)
  const db = openDatabase(databaseUrl)
  const heavyWork = openHeavyWork(options.heavyWorkFile, databaseUrl)
  // most do without what counts
  const metrics = options.metrics ? (await import('./metrics.ts')).openMetrics() : undefined
  const logger = options.logLevel ? logTo(options.logLevel) : false
  try {
    const [app] = await Promise.all([
      buildApp({ ...options, db, heavyWork, logger, metrics }),
      prepareDatabase(databaseUrl, options.withDemo),
    ])
    if (options.metrics) await metrics?.listen(options.metrics)
    await app.listen({ host, port })
    return {
      async close() {
        await metrics?.close()
        await app.close()
        await heavyWork.close()
        await db.close()
      },
    }
  } catch (error) {
    await db.close().catch(() => undefined)
    throw new Error(sentenceFor(error, options))
  }
}

/** A line of JSON for what goes wrong, with its cause and without what anybody typed. */
function logTo(level: string): FastifyServerOptions['logger'] {
  const err = ({ name, message, stack, parent }: Error & { parent?: { code?: string } }) => ({
    type: name,
    message: message.slice(0, 500),
    code: parent?.code,
    stack: stack ?? '',
  })
  // whoever reads the log is not to read calendars with it
  const req = ({ method, url }: { method: string; url: string }) => ({ method, url: url.replace(/^(\/api\/v1\/calendars\/)[^/]+/, '$1…') })
  return { level, serializers: { err: err as never, req: req as never } }
}

async function prepareDatabase(databaseUrl: string, withDemo: boolean): Promise<void> {
  const db = openDatabase(databaseUrl, { connections: 3, isPatient: true })
  try {
    await reachDatabase(db)
    await refuseHalfRestored(db)
    await migrate(db)
    await syncCatalog(db)
    if (withDemo && (await needsSetup(db))) await loadDemoKitchen(db, new Date())
  } finally {
    await db.close()
  }
}

/** A restore that was interrupted leaves a part of what was kept, which looks like all of it. */
async function refuseHalfRestored({ sequelize }: Database): Promise<void> {
  if (!(await sequelize.getQueryInterface().tableExists('unfinished_restore'))) return
  throw new Error('a restore into this database was not finished. Restore the backup again, into an empty one.')
}

async function reachDatabase(db: Database): Promise<void> {
  const giveUpAt = Date.now() + 30_000
  for (;;) {
    try {
      await db.sequelize.authenticate()
      return
    } catch (error) {
      if (!isUnreachable(error) || Date.now() > giveUpAt) throw error
      await pause(25)
    }
  }
}

function sentenceFor(error: unknown, { databaseUrl, host, port }: ServeOptions): string {
  const { code, message, port: taken = port } = error as { code?: string; message: string; port?: number }
  if (code === 'EADDRINUSE') return `Port ${taken} on ${host} is in use: stop what uses it, or start with PORT=another.`
  if (code === 'EACCES' || code === 'EADDRNOTAVAIL') return `Fleam may not listen on ${host}:${port}: choose another HOST or PORT.`
  if (isUnreachable(error)) return `The database at ${hostsOf(databaseUrl)} cannot be reached: start it, or set DATABASE_URL to another.`
  return `Fleam could not start: ${message.split('\n')[0]}`
}

const hostsOf = (databaseUrl: string) =>
  readAddress(databaseUrl)
    ?.nodes.map(({ host, port }) => `${host}:${port}`)
    .join(', ')
