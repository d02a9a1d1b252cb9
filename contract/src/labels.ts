import * as z from 'zod'
import { id, line, stamp } from './primitives.ts'

/** Sizes that labels come in, in mm. */
export const labelSize = z.enum(['62x29', '100x50', 'a4-24'])
export type LabelSize = z.infer<typeof labelSize>

/** A printer of the kitchen, or the simulated one. */
export const printer = z.object({ id: z.string(), name: z.string(), size: labelSize, isSimulated: z.boolean() })
export type Printer = z.infer<typeof printer>

export const labelPrintCreate = z.object({
  id,
  printerId: line(160),
  lotIds: z.array(id).min(1, 'Say which lots.').max(120, 'At most 120 labels at once.'),
})

/** Labels that were sent to a printer: waiting, with why, until it has printed them. */
export const labelPrint = z.object({
  id,
  printer: z.string(),
  labels: z.int(),
  state: z.enum(['waiting', 'printed', 'given up']),
  why: z.string(),
  by: z.string(),
  askedAt: stamp,
  printedAt: stamp.nullable(),
})
export type LabelPrint = z.infer<typeof labelPrint>
