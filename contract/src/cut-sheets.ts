import { jointCostMethods } from '@fleam/core/runs/joint-cost'
import * as z from 'zod'
import { animal } from './prices.ts'
import { id } from './primitives.ts'

export const role = z.enum(['main', 'coproduct', 'byproduct', 'waste'])
export const jointCostMethod = z.enum(jointCostMethods)

/** Weight that a plate portion should have, in grams. `askedAtReceiving`: the run's own target takes its place. */
export const portionRule = z.object({
  targetGrams: z.number().positive(),
  toleranceGrams: z.number().positive(),
  askedAtReceiving: z.boolean(),
})

/** What a cut sheet says comes off: shares are percent of the received weight. */
export const sheetOutput = z
  .object({
    key: z.string().regex(/^[a-z][a-z0-9-]*$/),
    name: z.string().min(1).max(60),
    role,
    destination: z.string().max(80),
    portion: portionRule.optional(),
    lowPct: z.number().min(0).max(100),
    typicalPct: z.number().min(0).max(100),
    highPct: z.number().min(0).max(100),
  })
  .refine((output) => output.lowPct <= output.typicalPct && output.typicalPct <= output.highPct, 'Shares go low, typical, high.')

export const cutSheetBody = z
  .object({
    name: z.string().min(1).max(80),
    animal,
    school: z.string().max(200),
    weightKg: z.object({ low: z.number().positive(), high: z.number().positive() }),
    minutes: z.object({ low: z.number().positive(), high: z.number().positive() }),
    jointCostMethod,
    restHours: z.object({ low: z.number(), high: z.number() }).optional(),
    cautions: z.array(z.string().min(1).max(300)),
    outputs: z.array(sheetOutput).min(1),
  })
  .refine((body) => new Set(body.outputs.map((output) => output.key)).size === body.outputs.length, 'Output keys are unique.')
  .refine((body) => body.outputs.reduce((sum, output) => sum + output.typicalPct, 0) <= 100 + 1e-9, 'Typical shares are at most the whole.')
export type CutSheetBody = z.infer<typeof cutSheetBody>

/** One file of the catalog. */
export const catalogSheet = z.object({ slug: z.string().regex(/^[a-z][a-z0-9-]*$/), body: cutSheetBody })
export type CatalogSheet = z.infer<typeof catalogSheet>

export const cutSheet = z.object({ id, slug: z.string(), versionId: id, number: z.int(), body: cutSheetBody })
export type CutSheet = z.infer<typeof cutSheet>
