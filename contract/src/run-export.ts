import * as z from 'zod'
import { exportedPicture } from './pictures.ts'
import { amount, line, moment, within } from './primitives.ts'
import { run } from './runs.ts'

const person = z.object({ name: line(60) })
const entered = z.object({ entered: line(40) })
const made = z.object({ by: person, at: moment })
/** The limits of what a kitchen can write itself: a file says no more than its people could. */
const runLimits = z.object({
  item: z.object({ name: line(80) }),
  cutSheet: z.object({ name: line(80) }),
  supplier: z.object({ name: line(80) }).nullable(),
  cook: person,
  finishedBy: person.nullable(),
  lot: z.union([line(40), z.literal('')]),
  billed: entered,
  received: entered,
  pieces: z.int().max(1000, 'At most 1,000 pieces.'),
  minutes: z.number().max(1440, 'That is over a day.').nullable(),
  startedAt: moment,
  finishedAt: moment.nullable(),
  coreTempC: z.number().min(-40).max(60).nullable(),
  consumables: amount,
  rates: z.object({ ratePerHour: amount, onCostPct: z.number().max(300), disposalPerKg: amount }),
  readyCut: z
    .object({
      name: line(80),
      terms: z.object({
        portionEntered: line(40),
        trimPct: z.number().min(0).lt(100),
        lossPct: z.number().min(0).lt(100),
        feePerOrder: amount,
        portionsPerOrder: z.number().positive().max(100_000).nullable(),
      }),
    })
    .nullable(),
  tubs: z.array(z.object({ name: line(60), valuePerKg: amount.nullable(), separableCost: amount })).max(100, 'At most 100 tubs.'),
  weighings: z
    .array(z.object({ by: person, weighedAt: moment, entered: line(40), piece: z.int().max(1000).nullable() }))
    .max(20_000, 'At most 20,000 weighings in a run.'),
  defects: z.array(made).max(1000, 'At most 1,000 defects in a run.'),
  events: z.array(made).max(20_000, 'At most 20,000 events in a run.'),
})

/** What a file says in the words of version 1, where the nth piece of a run was an "item". */
function renamed(value: unknown, from: string, to: string): unknown {
  if (!isRecord(value) || !(from in value)) return value
  const { [from]: said, ...rest } = value
  return { ...rest, [to]: said }
}

function isRecord(value: unknown): value is Record<string, unknown> {
  return value !== null && typeof value === 'object' && !Array.isArray(value)
}

function eachOf(value: unknown, change: (one: unknown) => unknown): unknown {
  return Array.isArray(value) ? value.map(change) : value
}

function inTodaysWords(file: unknown): unknown {
  if (!isRecord(file) || file.version !== 1) return file
  const happening = (what: unknown) => {
    if (!isRecord(what) || (what.kind !== 'plan' && what.kind !== 'item-done')) return what
    return { ...(renamed(what, 'item', 'piece') as object), kind: what.kind === 'plan' ? 'plan' : 'piece-done' }
  }
  const run = (one: unknown) => {
    if (!isRecord(one)) return one
    const { weighings, events, ...rest } = renamed(one, 'byItem', 'byPiece') as Record<string, unknown>
    return {
      ...rest,
      weighings: eachOf(weighings, (line) => renamed(line, 'item', 'piece')),
      events: eachOf(events, (event) => (isRecord(event) ? { ...event, what: happening(event.what) } : event)),
    }
  }
  return { ...file, version: runsVersion, runs: eachOf(file.runs, run) }
}

export const runsVersion = 2

const exportedRun = run
  .extend({ pictures: z.array(exportedPicture).max(60, 'At most 60 pictures of a run.').default([]) })
  .superRefine(within(runLimits))
export type ExportedRun = z.infer<typeof exportedRun>

const runsFile = z.object({
  format: z.literal('fleam-runs', 'This is not a file of Fleam runs.'),
  version: z.literal(runsVersion, 'This file is of a version that this Fleam does not read.'),
  kitchen: z.object({ name: z.string().max(200), currency: z.string() }),
  exportedAt: z.string(),
  runs: z.array(exportedRun).max(5000, 'Import at most 5,000 runs at once.'),
})
/** Runs as a file: everything needed to get the same figures in another kitchen. Files of version 1 are read as well. */
export const runExport = z.preprocess(inTodaysWords, runsFile)
export type RunExport = z.infer<typeof runExport>

export const importProblem = z.object({ path: z.string(), line: z.int(), column: z.int(), message: z.string() })

/** How much of an import that is under way is done, from 0 to 1. */
export const importProgress = z.object({ done: z.number() })

/** What an import would do, or did. With any problem nothing is written. */
export const importReport = z.object({
  written: z.boolean(),
  kitchenName: z.string(),
  newRuns: z.array(z.object({ number: z.int(), item: z.string(), cook: z.string(), startedAt: z.string() })),
  alreadyHere: z.int(),
  stillOpen: z.int(),
  added: z.object({
    people: z.array(z.string()),
    suppliers: z.array(z.string()),
    items: z.array(z.string()),
    cutSheets: z.array(z.string()),
  }),
  problems: z.array(importProblem),
})
export type ImportReport = z.infer<typeof importReport>
