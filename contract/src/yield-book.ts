import * as z from 'zod'
import { amount, id, stamp } from './primitives.ts'
import { defectKind } from './runs.ts'

const count = z.int().min(0)

/** How many values, their mean and variance (n − 1). */
export const sample = z.object({ n: count, mean: z.number(), variance: z.number() })

/** Sums over runs of x = ln items and y = ln minutes an item. */
export const minutesSums = z.object({ n: count, x: z.number(), xx: z.number(), y: z.number(), xy: z.number(), yy: z.number() })

/** Sums over tests of a share y, percent: with the items of the run, n, and the grams of one, w. */
export const shareSums = z.object({ n: count, y: z.number(), yy: z.number(), ny: z.number(), nyy: z.number(), wy: z.number(), none: count })
export const runSums = z.object({ tests: count, n: count, nn: count, inverse: z.number(), w: z.number(), ww: z.number() })

/** What the kitchen's finished runs of an item by a cut sheet have given. Shares in percent of the received weight. */
export const yieldBookEntry = z.object({
  itemId: id,
  cutSheetId: id,
  /** Those that the figures rest on: after a change the ones since. */
  tests: count,
  since: stamp.nullable(),
  lastTestAt: stamp,
  /** Grams of one item as received. */
  itemGrams: sample,
  minutes: minutesSums,
  /** All mains together, percent of the received weight. */
  mains: shareSums,
  runs: runSums,
  /** Items in a run, on average, and items a week over the last eight. */
  itemsPerBatch: z.number(),
  itemsPerWeek: z.number(),
  consumablesPerItem: z.number(),
  /** `servedRatio`: what its portions weigh over their target, on average. `lastValuePerKg`: what the last run valued the output at; `null` where it said nothing. */
  outputs: z.array(
    z.object({ key: z.string(), share: shareSums, servedRatio: z.number().nullable(), lastValuePerKg: z.number().nullable() }),
  ),
})
export type YieldBookEntry = z.infer<typeof yieldBookEntry>

const named = z.object({ id, name: z.string() })

/** One finished run as a test of its cut sheet. */
export const yieldTestRecord = z.object({
  runId: id,
  number: z.int(),
  startedAt: stamp,
  supplier: named.nullable(),
  cook: named,
  sheetNumber: z.int(),
  pieces: z.int(),
  receivedTenths: z.int(),
  billedTenths: z.int(),
  minutes: z.number().nullable(),
  unaccountedPct: z.number(),
  shares: z.record(z.string(), z.number()),
  servedRatios: z.record(z.string(), z.number()),
  /** Optional steps of its version of the sheet, by their keys: those done, and those left out. */
  stepsDone: z.array(z.string()),
  stepsLeftOut: z.array(z.string()),
  /** Why it is left out of the book, where it is; it then says nothing of shares. */
  leftOut: z.string().nullable(),
  defects: z.array(z.object({ kind: defectKind, note: z.string() })),
})
export type YieldTestRecord = z.infer<typeof yieldTestRecord>
export const mostTests = 5000
export const yieldTestsQuery = z.object({ itemId: id, cutSheetId: id })

/** What a part is worth: the ready-cut item that it stands for, and the kitchen's own value. */
export const partWorth = z.object({ readyCutId: id.nullable(), ownPerKg: amount.nullable() })
export type PartWorth = z.infer<typeof partWorth>

/** An item cut by a sheet, as the kitchen looks at it: whether it is among the ways it weighs up, and what its parts are worth. */
export const wayOfCutting = z.object({
  itemId: id,
  cutSheetId: id,
  shown: z.boolean(),
  parts: z.record(z.string().max(60), partWorth),
  version: z.int(),
})
export type WayOfCutting = z.infer<typeof wayOfCutting>
/** `version` 0: the kitchen has said nothing of it yet. */
export const wayOfCuttingChange = z.object({
  shown: z.boolean(),
  parts: z.record(z.string().max(60), partWorth).refine((parts) => Object.keys(parts).length <= 100, 'At most 100 parts.'),
  version: z.int().min(0),
})
