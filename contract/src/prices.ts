import * as z from 'zod'
import { amount, day, id, line, percent, price, stamp, version, weightEntry } from './primitives.ts'

export const animal = z.enum(['bird', 'fish', 'beef', 'lamb'])
export type Animal = z.infer<typeof animal>

const webAddress = z.union([
  z.literal('simulated'),
  z.url({ protocol: /^https?$/, error: 'Write an address such as https://supplier.example/prices.csv.' }).max(300),
])
/** Where a supplier's price list is fetched, and every how many hours; 0 for only when asked. */
const feed = z.object({
  address: webAddress,
  everyHours: z
    .int()
    .min(0)
    .max(24 * 31),
})

export const supplier = z.object({ id, name: z.string(), version: z.int(), feed: feed.nullable().default(null) })
export type Supplier = z.infer<typeof supplier>
export const supplierCreate = z.object({ id, name: line(80), feed: feed.nullable().default(null) })
export const supplierChange = z.object({ version, name: line(80), feed: feed.nullable().optional() })

/** A price list that was fetched from a supplier's address. Nothing of it stands before a person has taken it. */
export const fetchedList = z.object({
  id,
  supplierId: id,
  at: stamp,
  state: z.enum(['waiting', 'taken', 'let go', 'unchanged', 'failed']),
  why: z.string(),
  changes: z.int(),
})
export type FetchedList = z.infer<typeof fetchedList>
export const fetchedListWithText = fetchedList.extend({ text: z.string() })

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

/** An item whose latest quote lies off the same supplier's quote before it by more than the kitchen's limit. */
export const priceMove = z.object({
  itemId: id,
  itemName: z.string(),
  before: quote,
  after: quote,
  movePct: z.number(),
})
export type PriceMove = z.infer<typeof priceMove>

export const priceListFields = ['article', 'amount', 'unit', 'caseCount', 'caseWeight'] as const
export type PriceListField = (typeof priceListFields)[number]
const column = z.string().max(200)

const listSeparator = z.enum(['', ',', ';', '\t', '|']).default('')

/** How a supplier's price list is read: which column holds what, the unit where no column says it, the decimal sign. */
export const priceListReading = z.object({
  columns: z.object({
    article: column,
    amount: column,
    unit: column.nullable(),
    caseCount: column.nullable(),
    caseWeight: column.nullable(),
  }),
  unit: z.enum(['kg', 'lb', 'each', 'case']),
  decimalSign: z.enum(['.', ',']),
  /** What parts the columns; found out where empty. */
  separator: listSeparator,
})
export type PriceListReading = z.infer<typeof priceListReading>

/** What is kept of a supplier's list for the next time: how to read it, and which article is which item (`null`: none). */
export const keptPriceList = z.object({ reading: priceListReading.nullable(), articles: z.record(z.string().max(200), id.nullable()) })
export type KeptPriceList = z.infer<typeof keptPriceList>

const fileText = z.string().min(1, 'The file is empty.').max(1_000_000, 'That file is over 1 MB: send a shorter list.')
export const priceListOpen = z.object({ supplierId: id, text: fileText, separator: listSeparator })
export const priceListOpened = z.object({
  delimiter: z.string(),
  header: z.array(z.string()),
  lines: z.int(),
  /** The first lines, to see what is in which column. */
  sample: z.array(z.array(z.string())),
  /** As kept from the last list, where its columns are in this one; else a guess. */
  reading: priceListReading,
  isKept: z.boolean(),
})
export type PriceListOpened = z.infer<typeof priceListOpened>

export const priceListImport = z.object({
  id,
  supplierId: id,
  text: fileText,
  reading: priceListReading,
  /** Items chosen for articles in this go; what was chosen before is known. */
  articles: z.record(z.string().max(200), id.nullable()),
  /** Lines, by their numbers, that are left out of this list, and odd ones that were looked at and stand. */
  leftOut: z.array(z.int()).max(5000).default([]),
  checked: z.array(z.int()).max(5000).default([]),
  quotedOn: day,
  preview: z.boolean(),
})
export const priceListLine = z.object({
  line: z.int(),
  article: z.string(),
  item: z.object({ id, name: z.string() }).nullable(),
  /** Whether a person has said that this article is no item of the kitchen. */
  isLeftOut: z.boolean(),
  /** `null` of an article that is left out: its price is not read. */
  price: price.nullable(),
  before: price.nullable(),
  movePct: z.number().nullable(),
  /** So far from the last price that it must be looked at. */
  isOdd: z.boolean(),
})
export const priceListReport = z.object({
  written: z.boolean(),
  lines: z.array(priceListLine),
  problems: z.array(z.object({ line: z.int(), column: z.string(), message: z.string() })),
  /** Lines that must be looked at before anything is written. */
  unchecked: z.int(),
  /** Quotes that differ from what stands, or are new. */
  changes: z.int(),
})
export type PriceListReport = z.infer<typeof priceListReport>
