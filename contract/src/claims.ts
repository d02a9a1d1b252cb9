import { claimKinds } from '@fleam/core/receiving/delivery-check'
import * as z from 'zod'
import { amount, id, moment, note, stamp, version } from './primitives.ts'

const claimKind = z.enum(claimKinds)
export const claimStates = ['open', 'credited', 'refused'] as const

export const claimCreate = z.object({
  id,
  runId: id,
  /** What a supplier is asked to make good. */
  kinds: z.array(claimKind).min(1, 'Say what was wrong.').max(claimKinds.length),
  words: z.union([note(600), z.literal('')]).default(''),
  /** What is asked for, in the kitchen's currency. */
  asked: amount,
  at: moment,
})
export const claimSettle = z.object({
  version,
  state: z.enum(claimStates),
  /** What the supplier gave. */
  credited: amount.default(0),
  words: z.union([note(200), z.literal('')]).default(''),
})

export const claim = z.object({
  id,
  number: z.int(),
  version: z.int(),
  kinds: z.array(claimKind),
  words: z.string(),
  asked: z.number(),
  state: z.enum(claimStates),
  credited: z.number(),
  settledWords: z.string(),
  by: z.string(),
  at: stamp,
  settledBy: z.string().nullable(),
  settledAt: stamp.nullable(),
  run: z.object({
    id,
    number: z.int(),
    item: z.string(),
    supplier: z.string().nullable(),
    supplierId: id.nullable(),
    lot: z.string(),
    startedAt: stamp,
    billedTenths: z.int(),
    receivedTenths: z.int(),
    coreTempC: z.number().nullable(),
    limitC: z.number().nullable(),
  }),
})
export type Claim = z.infer<typeof claim>
