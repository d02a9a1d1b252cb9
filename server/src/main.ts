import { dirname, join } from 'node:path'
import { fileURLToPath } from 'node:url'
import { outliveStrayKills } from './db/ailments.ts'
import { serve } from './serve.ts'

/** One copy of the server, as a program: everything it needs to know stands in its environment. */
const {
  DATABASE_URL = '',
  HOST = '127.0.0.1',
  PORT = '4180',
  FLEAM_DEMO,
  FLEAM_LOG = 'warn',
  FLEAM_SCALE = '',
  FLEAM_PRINTER = '',
  FLEAM_SUPPLIER = '',
  FLEAM_METRICS = '',
} = process.env
const { FLEAM_TRUST_PROXY, FLEAM_HOSTS = '', FLEAM_WRITES_PER_MINUTE, FLEAM_STREAMS_PER_SESSION } = process.env
const here = dirname(fileURLToPath(import.meta.url))
/** A host and port, as `127.0.0.1:4190`. */
const addressIn = (text: string) => {
  const [host, port] = text.split(':')
  return host && port ? { host, port: Number(port) } : undefined
}

outliveStrayKills()
try {
  const server = await serve({
    databaseUrl: DATABASE_URL,
    host: HOST,
    port: Number(PORT),
    withDemo: FLEAM_DEMO === '1',
    webRoot: join(here, '../../web/dist'),
    heavyWorkFile: join(here, 'heavy-work-thread.js'),
    logLevel: FLEAM_LOG,
    guards: {
      trustProxy: FLEAM_TRUST_PROXY === '1' || FLEAM_TRUST_PROXY || false,
      hosts: FLEAM_HOSTS.split(',')
        .map((host) => host.trim())
        .filter((host) => host !== ''),
      writesPerMinute: Number(FLEAM_WRITES_PER_MINUTE) || undefined,
      streamsPerSession: Number(FLEAM_STREAMS_PER_SESSION) || undefined,
    },
    metrics: addressIn(FLEAM_METRICS),
    simulatedScale: addressIn(FLEAM_SCALE),
    simulatedPrinter: addressIn(FLEAM_PRINTER),
    simulatedSupplier: addressIn(FLEAM_SUPPLIER),
  })
  let isLeaving = false
  const leave = () => {
    if (isLeaving) return
    isLeaving = true
    server.close().then(() => process.exit(0))
  }
  process.on('SIGINT', leave).on('SIGTERM', leave)
  // whoever started it is gone
  process.on('disconnect', leave)
  process.send?.('listening')
} catch (error) {
  process.stderr.write(`${(error as Error).message}\n`)
  process.exit(1)
}
