import * as z from 'zod'
import { run } from './runs.ts'

/** Runs as a file: everything needed to get the same figures in another kitchen. */
export const runExport = z.object({
  format: z.literal('fleam-runs', 'This is not a file of Fleam runs.'),
  version: z.literal(1, 'This file is of a version that this Fleam does not read.'),
  kitchen: z.object({ name: z.string().max(200), currency: z.string() }),
  exportedAt: z.string(),
  runs: z.array(run).max(5000, 'Import at most 5,000 runs at once.'),
})
export type RunExport = z.infer<typeof runExport>

export const importProblem = z.object({ path: z.string(), line: z.int(), column: z.int(), message: z.string() })

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
