import { id } from '@fleam/contract/primitives'
import type { FastifyBaseLogger, FastifyInstance, RawReplyDefaultExpression, RawRequestDefaultExpression, RawServerDefault } from 'fastify'
import type { ZodTypeProvider } from 'fastify-type-provider-zod'
import * as z from 'zod'
import type { Database } from '../db/database.ts'
import type { HeavyWork } from '../heavy-work.ts'
import type { OpenStreams } from '../http/open-streams.ts'
import type { LiveFeed } from '../live-feed.ts'
import type { PrintQueue } from './labels/print-queue.ts'
import type { PriceWatch } from './prices/price-watch.ts'
import type { ScaleHub } from './scales/scale-hub.ts'
import type { Attempts } from './session/attempts.ts'

export interface Services {
  db: Database
  heavyWork: HeavyWork
  live: LiveFeed
  scales: ScaleHub
  streams: OpenStreams
  attempts: Attempts
  /** A scale of our own making, for trying things out. */
  simulatedScale?: { host: string; port: number } | undefined
  printing: PrintQueue
  /** The same for labels. */
  simulatedPrinter?: { host: string; port: number } | undefined
  priceWatch: PriceWatch
  /** The same for price lists. */
  simulatedSupplier?: { host: string; port: number } | undefined
}

export type App = FastifyInstance<
  RawServerDefault,
  RawRequestDefaultExpression,
  RawReplyDefaultExpression,
  FastifyBaseLogger,
  ZodTypeProvider
>

/** Registers the routes of one feature. */
export type Routes = (app: App, services: Services) => void

export const idParams = z.object({ id })
