import * as z from 'zod'
import { amount, day, id, line, percent, price, stamp, version, weightEntry } from './primitives.ts'

export const animal = z.enum(['bird', 'fish', 'beef', 'lamb'])
export type Animal = z.infer<typeof animal>

export const supplier = z.object({ id, name: z.string(), version: z.int() })
export type Supplier = z.infer<typeof supplier>
export const supplierCreate = z.object({ id, name: line(80) })
export const supplierChange = z.object({ version, name: line(80) })

/** A price quoted on a day. A new quote never replaces an old one. */
export const quote = z.object({
  id,
  itemId: id,
  supplier: z.object({ id, name: z.string() }).nullable(),
  price,
  quotedOn: z.string(),
  at: stamp,
})
export type Quote = z.infer<typeof quote>
export const quoteCreate = z.object({ id, supplierId: id.nullable(), price, quotedOn: day })

export const itemKind = z.enum(['whole', 'ready-cut'])

/** How a ready-cut portion arrives: its weight, what is lost of it, and what an order costs beside the pieces. */
export const readyCutTerms = z.object({
  portionTenths: z.int().positive(),
  portionEntered: z.string(),
  trimPct: z.number(),
  lossPct: z.number(),
  feePerOrder: z.number(),
  portionsPerOrder: z.number().nullable(),
})

export const item = z.object({
  id,
  name: z.string(),
  kind: itemKind,
  animal,
  readyCut: readyCutTerms.nullable(),
  /** For something bought whole: the ready-cut item that its portions are set against. */
  againstId: id.nullable(),
  latestQuote: quote.nullable(),
  version: z.int(),
})
export type Item = z.infer<typeof item>

const itemFields = z.object({
  name: line(80),
  kind: itemKind,
  animal,
  readyCut: z
    .object({
      portion: weightEntry,
      trimPct: percent.lt(100, 'Trim is under 100 %.').default(0),
      lossPct: percent.lt(100, 'Loss is under 100 %.').default(0),
      feePerOrder: amount.default(0),
      portionsPerOrder: z.int().min(1, 'An order has at least one portion.').max(100_000).nullable().default(null),
    })
    .refine((terms) => terms.feePerOrder === 0 || terms.portionsPerOrder !== null, {
      path: ['portionsPerOrder'],
      message: 'Say how many portions an order has, to share its fee.',
    })
    .nullable(),
  againstId: id.nullable(),
})

function kindFits(value: z.infer<typeof itemFields>, context: z.RefinementCtx): void {
  if (value.kind === 'ready-cut' && value.readyCut === null) {
    context.addIssue({ code: 'custom', path: ['readyCut', 'portion'], message: 'Say what a ready-cut portion weighs.' })
  }
  if (value.kind === 'whole' && value.readyCut !== null) {
    context.addIssue({ code: 'custom', path: ['readyCut'], message: 'Only ready-cut items have a portion weight.' })
  }
  if (value.kind === 'ready-cut' && value.againstId !== null) {
    context.addIssue({ code: 'custom', path: ['againstId'], message: 'Only whole items are set against a ready-cut one.' })
  }
}
export const itemCreate = itemFields.extend({ id }).superRefine(kindFits)
export const itemChange = itemFields.extend({ version }).superRefine(kindFits)
