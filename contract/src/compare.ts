import { mainsSharings } from '@fleam/core/compare/portion-case'
import { byproductValues } from '@fleam/core/compare/value-in-parts'
import * as z from 'zod'
import { id, line, stamp, version } from './primitives.ts'

/** What a comparison looks at and what of it was changed from the kitchen's own figures; everything else stays live. */
export const comparisonBody = z.object({
  itemId: id,
  cutSheetId: id,
  outputKey: z.string().max(60),
  readyCutIds: z.array(id).max(20, 'Compare with at most 20 quotes at once.'),
  /** Inputs that were typed over, by their name. */
  changed: z
    .record(z.string().max(120), z.number().min(-1_000_000).max(10_000_000))
    .refine((changed) => Object.keys(changed).length <= 200, 'At most 200 inputs can be changed.'),
  byproducts: z.enum(byproductValues),
  mains: z.enum(mainsSharings),
  /** Portions cut here count as heavy as the kitchen's log says they are, not as their target. */
  asServed: z.boolean().default(true),
  idleHands: z.boolean(),
  pricesMove: z.boolean(),
  leftOver: z.enum(['used', 'lost']),
  supplierId: id.nullable(),
  cookId: id.nullable(),
})
export type ComparisonBody = z.infer<typeof comparisonBody>

export const comparison = z.object({ id, name: z.string(), body: comparisonBody, by: z.string(), at: stamp, version: z.int() })
export type Comparison = z.infer<typeof comparison>
export const comparisonCreate = z.object({ id, name: line(80), body: comparisonBody })
export const comparisonChange = z.object({ version, name: line(80), body: comparisonBody })
/** Off the list, or back on it. */
export const comparisonDrop = z.object({ version, dropped: z.boolean().default(true) })
