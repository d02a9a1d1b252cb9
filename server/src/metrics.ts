import Fastify, { type FastifyInstance } from 'fastify'
import { collectDefaultMetrics, Gauge, Histogram, Registry } from 'prom-client'
import type { Database } from './db/database.ts'
import type { OpenStreams } from './http/open-streams.ts'

/** Seconds between which answers are counted; a weigh-in takes some ten milliseconds, a feast's plan some ten seconds. */
const buckets = [0.005, 0.01, 0.025, 0.05, 0.1, 0.25, 0.5, 1, 2.5, 5, 10]

export interface Metrics {
  /** Counts what an application answers. */
  watch(app: FastifyInstance, of: { db: Database; streams: OpenStreams }): void
  /** All of it in Prometheus' text format, at `/metrics` of an address of its own. */
  listen(address: { host: string; port: number }): Promise<void>
  close(): Promise<void>
}

/** How this process is, and how long it takes to answer what. It has an address of its own, so that the kitchen's does not tell it. */
export function openMetrics(): Metrics {
  const registers = [new Registry()]
  const [registry] = registers as [Registry]
  collectDefaultMetrics({ register: registry })
  const answers = new Histogram({
    name: 'fleam_request_seconds',
    help: 'Time until a request was answered, by its route and status; streams of events are not among them.',
    labelNames: ['method', 'route', 'status'],
    buckets,
    registers,
  })
  const page = Fastify()
  page.get('/metrics', async (_request, reply) => reply.type(registry.contentType).send(await registry.metrics()))
  return {
    watch(app, { db, streams }) {
      app.addHook('onResponse', async ({ method, routeOptions }, reply) => {
        if (String(reply.getHeader('content-type')).startsWith('text/event-stream')) return
        answers.observe({ method, route: routeOptions.url ?? 'none', status: reply.statusCode }, reply.elapsedTime / 1000)
      })
      new Gauge({
        name: 'fleam_streams',
        help: 'Streams of events that are open.',
        registers,
        collect() {
          this.set(streams.count())
        },
      })
      new Gauge({
        name: 'fleam_database_node',
        help: 'Which of the nodes of DATABASE_URL is in use, from 1, its own.',
        registers,
        collect() {
          this.set(db.node()?.at ?? 1)
        },
      })
    },
    async listen(address) {
      await page.listen(address)
    },
    close: () => page.close(),
  }
}
