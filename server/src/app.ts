import { existsSync } from 'node:fs'
import cookie from '@fastify/cookie'
import helmet from '@fastify/helmet'
import staticFiles from '@fastify/static'
import swagger from '@fastify/swagger'
import Fastify, { type FastifyInstance, type FastifyServerOptions } from 'fastify'
import { jsonSchemaTransform, serializerCompiler, validatorCompiler, type ZodTypeProvider } from 'fastify-type-provider-zod'
import { calcRoutes } from './features/calc/routes.ts'
import { claimRoutes } from './features/claims/routes.ts'
import { classRoutes } from './features/classes/routes.ts'
import { compareRoutes } from './features/compare/routes.ts'
import { cutSheetRoutes } from './features/cut-sheets/routes.ts'
import { dayRoutes } from './features/days/routes.ts'
import { dishRoutes } from './features/dishes/routes.ts'
import { followOnRoutes } from './features/follow-ons/routes.ts'
import { healthRoutes } from './features/health/routes.ts'
import { kitchenRoutes } from './features/kitchen/routes.ts'
import { kitchensRoutes } from './features/kitchens/routes.ts'
import { openPrintQueue } from './features/labels/print-queue.ts'
import { labelRoutes } from './features/labels/routes.ts'
import { liveRoutes } from './features/live/routes.ts'
import { orderRoutes } from './features/orders/routes.ts'
import { peopleRoutes } from './features/people/routes.ts'
import { pictureRoutes } from './features/pictures/routes.ts'
import { planRoutes } from './features/plan/routes.ts'
import { practiceRoutes } from './features/practice/routes.ts'
import { openPriceWatch } from './features/prices/price-watch.ts'
import { priceRoutes } from './features/prices/routes.ts'
import type { Routes, Services } from './features/routes.ts'
import { exchangeRoutes } from './features/runs/exchange-routes.ts'
import { runRoutes } from './features/runs/routes.ts'
import { safetyRoutes } from './features/safety/routes.ts'
import { scaleRoutes } from './features/scales/routes.ts'
import { openScaleHub } from './features/scales/scale-hub.ts'
import { securityRoutes } from './features/security/routes.ts'
import { accountRoutes } from './features/session/account-routes.ts'
import { countAttempts } from './features/session/attempts.ts'
import { sessionRoutes } from './features/session/routes.ts'
import { setupRoutes } from './features/setup/routes.ts'
import { tabletRoutes } from './features/tablets/routes.ts'
import { walkInRoutes } from './features/walk-in/routes.ts'
import { yieldBookRoutes } from './features/yield-book/routes.ts'
import { registerAccess } from './http/access.ts'
import { writeApiPage } from './http/api-page.ts'
import { registerErrorHandler, sendProblem } from './http/error-handler.ts'
import { type Guards, nameRequest, registerGuards, requestTimeoutMs } from './http/guards.ts'
import { openStreams } from './http/open-streams.ts'
import { ProblemError } from './http/problems.ts'
import { limitWrites } from './http/write-rate.ts'
import { openLiveFeed } from './live-feed.ts'
import type { Metrics } from './metrics.ts'

const features: readonly Routes[] = [
  healthRoutes,
  sessionRoutes,
  accountRoutes,
  tabletRoutes,
  securityRoutes,
  setupRoutes,
  kitchenRoutes,
  kitchensRoutes,
  peopleRoutes,
  priceRoutes,
  cutSheetRoutes,
  runRoutes,
  pictureRoutes,
  exchangeRoutes,
  liveRoutes,
  scaleRoutes,
  dayRoutes,
  practiceRoutes,
  classRoutes,
  orderRoutes,
  dishRoutes,
  planRoutes,
  yieldBookRoutes,
  walkInRoutes,
  followOnRoutes,
  labelRoutes,
  safetyRoutes,
  claimRoutes,
  compareRoutes,
  calcRoutes,
]

/** A weighing, a form, a note; what needs more says so at its route. */
const usualBodyLimit = 32 * 1024

export interface AppOptions extends Omit<Services, 'live' | 'scales' | 'streams' | 'attempts' | 'printing' | 'priceWatch'> {
  /** Folder of the built pages; without it only the API is served. */
  webRoot?: string
  logger?: FastifyServerOptions['logger']
  guards?: Guards | undefined
  metrics?: Metrics | undefined
}

export async function buildApp({ webRoot, logger = false, guards = {}, metrics, ...given }: AppOptions): Promise<FastifyInstance> {
  const { db } = given
  const services: Services = {
    ...given,
    live: openLiveFeed(db),
    scales: openScaleHub(),
    printing: openPrintQueue({ db, heavyWork: given.heavyWork, simulatedPrinter: given.simulatedPrinter }),
    priceWatch: openPriceWatch({ db, heavyWork: given.heavyWork, simulatedSupplier: given.simulatedSupplier }),
    streams: openStreams(db, guards.streamsPerSession),
    attempts: countAttempts(db.sequelize),
  }
  const app = Fastify({
    logger,
    genReqId: nameRequest(guards),
    trustProxy: guards.trustProxy ?? false,
    bodyLimit: usualBodyLimit,
    requestTimeout: requestTimeoutMs,
    frameworkErrors: (error, _request, reply) =>
      void sendProblem(reply, new ProblemError('broken-request', { detail: error.message.slice(0, 200) })),
    forceCloseConnections: true,
  }).withTypeProvider<ZodTypeProvider>()
  app.setValidatorCompiler(validatorCompiler)
  app.setSerializerCompiler(serializerCompiler)
  app.addHook('onClose', async () => {
    services.scales.close()
    await services.printing.close()
    await services.priceWatch.close()
    services.streams.close()
    await services.live.close()
  })
  metrics?.watch(app as unknown as FastifyInstance, services)
  registerErrorHandler(app as unknown as FastifyInstance)
  registerGuards(app as unknown as FastifyInstance, guards)
  await app.register(cookie)
  await app.register(helmet, {
    contentSecurityPolicy: {
      directives: {
        defaultSrc: ["'self'"],
        styleSrc: ["'self'", "'unsafe-inline'"],
        imgSrc: ["'self'", 'data:', 'blob:'],
        upgradeInsecureRequests: null,
      },
    },
    hsts: false,
  })
  registerAccess(app as unknown as FastifyInstance, services.db, limitWrites(guards.writesPerMinute))
  await app.register(swagger, {
    openapi: { info: { title: 'Fleam', version: '1', description: 'Yield tests, portion cost and cutting records.' } },
    transform: jsonSchemaTransform,
  })
  await app.register(async (scope) => {
    for (const routes of features) routes(scope.withTypeProvider<ZodTypeProvider>(), services)
  })
  app.get('/api/docs', { config: { access: 'cook' } }, async (_request, reply) =>
    reply.type('text/html; charset=utf-8').send(writeApiPage(app.swagger())),
  )
  app.get('/api/v1/openapi.json', { config: { access: 'cook' }, schema: { hide: true } }, async () => app.swagger())
  if (webRoot && existsSync(webRoot)) await serveWeb(app as unknown as FastifyInstance, webRoot)
  else app.setNotFoundHandler((_request, reply) => sendProblem(reply, new ProblemError('not-found')))
  return app as unknown as FastifyInstance
}

/** Built files carry their hash in the name and are kept for good; any other path is a page of the application. */
async function serveWeb(app: FastifyInstance, webRoot: string): Promise<void> {
  await app.register(staticFiles, {
    root: webRoot,
    wildcard: false,
    preCompressed: true,
    setHeaders: (response, path) => {
      const lasting = path.includes('/assets/')
      response.header('cache-control', lasting ? 'public, max-age=31536000, immutable' : 'no-cache')
    },
  })
  app.setNotFoundHandler((request, reply) => {
    const isPage = request.method === 'GET' && !request.url.startsWith('/api/') && !request.url.startsWith('/assets/')
    if (isPage) return reply.header('cache-control', 'no-cache').sendFile('index.html')
    return sendProblem(reply, new ProblemError('not-found'))
  })
}
