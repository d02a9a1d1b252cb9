import { jointCostMethods } from '@fleam/core/runs/joint-cost'
import * as z from 'zod'
import { animal } from './prices.ts'
import { amount, id, line, note, within } from './primitives.ts'

export const role = z.enum(['main', 'coproduct', 'byproduct', 'waste'])
export const jointCostMethod = z.enum(jointCostMethods)

/** Weight that a plate portion should have, in grams. `askedAtReceiving`: the run's own target takes its place. */
export const portionRule = z.object({
  targetGrams: z.number().positive(),
  toleranceGrams: z.number().positive(),
  askedAtReceiving: z.boolean(),
  /** Pieces that make one portion, such as a breast and a leg piece. */
  pieces: z.int().min(2).optional(),
  /** Usual thickness of a portion, where it is cut by that. */
  thicknessCm: z.number().positive().optional(),
})

/** One step of the work, in the order of the sheet. `outputs` are the keys of what is weighed at it. */
export const sheetStep = z.object({
  /** What an optional step is known by, whatever its title and place in later versions; its first title unless given. */
  key: z.string().min(1).max(60).optional(),
  title: z.string().min(1).max(60),
  text: z.string().min(1).max(600),
  check: z.string().max(200).optional(),
  caution: z.string().max(200).optional(),
  knife: z.string().max(40).optional(),
  minutes: z.number().positive().optional(),
  /** A step that schools disagree about: the grams it usually frees and the minutes it takes. */
  optional: z.object({ gramsFreed: z.number(), minutes: z.number() }).optional(),
  outputs: z.array(z.string()).optional(),
  /** Parts and cut lines of the drawing that the step is about. */
  shows: z.array(z.string().max(40)).optional(),
})
export type SheetStep = z.infer<typeof sheetStep>

export const stepKey = ({ key, title }: SheetStep): string => key ?? title

/** The part of an animal that a sheet starts from. */
export const part = z.enum(['bird', 'round fish', 'flat fish', 'tenderloin', 'boned rib', 'bone-in rib', 'sirloin', 'rack'])

export const outputKind = z.string().min(1).max(40)

/** What a cut sheet says comes off: shares are percent of the received weight. */
export const sheetOutput = z
  .object({
    key: z.string().regex(/^[a-z][a-z0-9-]*$/),
    name: z.string().min(1).max(60),
    role,
    /** Of a main: what it can take the place of; mains of one kind share the cost by weight, kinds by what they are worth. */
    kind: outputKind.optional(),
    destination: z.string().max(80),
    portion: portionRule.optional(),
    countPerItem: z.int().positive().optional(),
    lowPct: z.number().min(0).max(100),
    typicalPct: z.number().min(0).max(100),
    highPct: z.number().min(0).max(100),
  })
  .refine((output) => output.lowPct <= output.typicalPct && output.typicalPct <= output.highPct, 'Shares go low, typical, high.')

/** What a run of one item uses up. `pricePerUnit` in the kitchen's currency; absent where the kitchen has not said. */
export const consumable = z.object({
  name: z.string().min(1).max(40),
  quantity: z.number().positive(),
  unit: z.enum(['m', 'g', 'piece']),
  pricePerUnit: amount.optional(),
  note: z.string().max(80).optional(),
})

/**
 * Fulton's condition factor K (g/cm³ × 100) of a kind of fish. `boughtPct` is what the fish as bought weighs of the whole
 * one: 100 in the round, less when gutted.
 */
export const fishKind = z.object({
  name: z.string().max(40),
  lowK: z.number().positive(),
  typicalK: z.number().positive(),
  highK: z.number().positive(),
  boughtPct: z.number().positive().max(100),
})
export type FishKind = z.infer<typeof fishKind>

export const cutSheetBody = z
  .object({
    name: z.string().min(1).max(80),
    animal,
    part: part.optional(),
    board: z.string().max(40).default(''),
    station: z.array(z.string().max(80)).default([]),
    steps: z.array(sheetStep).default([]),
    consumables: z.array(consumable).default([]),
    /** What weight to expect of a fish of a length, by kind. */
    fishKinds: z.array(fishKind).optional(),
    school: z.string().max(200),
    weightKg: z.object({ low: z.number().positive(), high: z.number().positive() }),
    minutes: z.object({ low: z.number().positive(), high: z.number().positive() }),
    jointCostMethod,
    restHours: z.object({ low: z.number(), high: z.number() }).optional(),
    cautions: z.array(z.string().min(1).max(300)),
    /** Keys of the questions of what can go wrong at it. */
    questions: z.array(z.string().max(40)).max(60).optional(),
    /** What an instructor looks at, by the key of the criterion, and what each counts. */
    rubric: z
      .array(z.object({ key: z.string().max(40), weight: z.number().positive().max(100) }))
      .max(40)
      .optional(),
    outputs: z.array(sheetOutput).min(1),
  })
  .refine((body) => new Set(body.outputs.map((output) => output.key)).size === body.outputs.length, 'Output keys are unique.')
  .refine((body) => {
    const keys = new Set(body.outputs.map((output) => output.key))
    return body.steps.every((step) => (step.outputs ?? []).every((key) => keys.has(key)))
  }, 'Steps name outputs of their sheet.')
  .refine((body) => body.outputs.reduce((sum, output) => sum + output.typicalPct, 0) <= 100 + 1e-9, 'Typical shares are at most the whole.')
export type CutSheetBody = z.infer<typeof cutSheetBody>

function figure(low: number, high: number, unit: string) {
  const words = `This is from ${low} to ${high} ${unit}.`
  return z.number(words).min(low, words).max(high, words)
}

function range(low: number, high: number, unit: string) {
  const end = figure(low, high, unit)
  return z
    .object({ low: end, high: end })
    .refine((value) => value.low <= value.high, { path: ['high'], message: 'The upper end lies under the lower one.' })
}

/** What a kitchen can mean by a sheet that it writes. */
const sheetLimits = z.object({
  name: line(80),
  weightKg: range(0.02, 500, 'kg'),
  minutes: range(0.1, 10_000, 'minutes'),
  restHours: range(0, 2000, 'hours').optional(),
  station: z.array(z.unknown()).max(60, 'At most 60 lines.'),
  cautions: z.array(line(300)).max(60, 'At most 60 cautions.'),
  steps: z
    .array(
      z.object({
        title: line(60),
        minutes: figure(0.1, 1000, 'minutes').optional(),
        optional: z.object({ gramsFreed: figure(-50_000, 50_000, 'g'), minutes: figure(0, 600, 'minutes') }).optional(),
      }),
    )
    .max(80, 'At most 80 steps.'),
  consumables: z
    .array(z.object({ name: line(40), quantity: figure(0.001, 100_000, 'of its unit'), pricePerUnit: amount.optional() }))
    .max(40, 'At most 40 consumables.'),
  fishKinds: z
    .array(
      z
        .object({ name: line(40), lowK: figure(0.1, 10, ''), typicalK: figure(0.1, 10, ''), highK: figure(0.1, 10, '') })
        .refine(({ lowK, typicalK, highK }) => lowK <= typicalK && typicalK <= highK, {
          path: ['typicalK'],
          message: 'Condition factors go low, typical, high.',
        }),
    )
    .max(100, 'At most 100 kinds of fish.')
    .optional(),
  outputs: z
    .array(
      z.object({
        key: z.string().max(60, 'A key has at most 60 letters.'),
        name: line(60),
        countPerItem: z.int().max(1000, 'At most 1,000 of an item.').optional(),
        portion: z
          .object({
            targetGrams: figure(1, 50_000, 'g'),
            toleranceGrams: figure(0.1, 10_000, 'g'),
            pieces: z.int().max(100, 'At most 100 pieces a portion.').optional(),
            thicknessCm: figure(0.1, 100, 'cm').optional(),
          })
          .refine(({ targetGrams, toleranceGrams }) => toleranceGrams < targetGrams, {
            path: ['toleranceGrams'],
            message: 'The tolerance is under the target.',
          })
          .optional(),
      }),
    )
    .max(60, 'At most 60 outputs.'),
})
const writtenSheet = cutSheetBody.superRefine(within(sheetLimits))

/** One file of the catalog. */
export const catalogSheet = z.object({ slug: z.string().regex(/^[a-z][a-z0-9-]*$/), body: writtenSheet })

export const sheetSource = z.enum(['catalog', 'kitchen'])

/** A cut sheet in its newest version. `source` says whether the kitchen has written that version itself. */
export const cutSheet = z.object({
  id,
  slug: z.string(),
  versionId: id,
  number: z.int(),
  source: sheetSource,
  basedOnId: id.nullable(),
  retired: z.boolean(),
  body: cutSheetBody,
})
export type CutSheet = z.infer<typeof cutSheet>

export const cutSheetCreate = z.object({ id, basedOnId: id.nullable().default(null), body: writtenSheet })
export const cutSheetChange = z.object({ number: z.int().min(1), body: writtenSheet })
export const cutSheetRetire = z.object({ retired: z.boolean() })

export const cutSheetVersion = z.object({
  number: z.int(),
  source: sheetSource,
  by: z.string().nullable(),
  at: z.string(),
  body: cutSheetBody,
})
export type CutSheetVersion = z.infer<typeof cutSheetVersion>

/** Cut sheets as a file that another kitchen can read in. */
export const cutSheetExport = z.object({
  format: z.literal('fleam-cut-sheets', 'This is not a file of Fleam cut sheets.'),
  version: z.literal(1, 'This file is of a version that this Fleam does not read.'),
  sheets: z.array(writtenSheet).min(1, 'The file holds no cut sheet.').max(200, 'Import at most 200 cut sheets at once.'),
})
export const cutSheetImport = z.object({ text: note(2_000_000), preview: z.boolean() })
export const cutSheetImportReport = z.object({
  written: z.boolean(),
  added: z.array(z.string()),
  alreadyHere: z.array(z.string()),
  problems: z.array(z.object({ path: z.string(), line: z.int(), column: z.int(), message: z.string() })),
})
export type CutSheetImportReport = z.infer<typeof cutSheetImportReport>
