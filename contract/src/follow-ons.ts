import * as z from 'zod'
import { amountUnit } from './calc.ts'
import { jointCostMethod, role } from './cut-sheets.ts'
import { animal } from './prices.ts'
import { amount, id, line, moment, note, stamp, version } from './primitives.ts'
import { allergen, keptKind, lot } from './walk-in.ts'

const tenths = z.int('Weigh to 0.1.').min(1, 'Say how much.').max(50_000_000, 'That is over 5,000 kg or litres.')
const portions = z.int('Count whole portions.').min(1, 'At least one portion.').max(100_000).nullable().default(null)
const ingredient = z.object({
  name: line(80),
  grams: z.number('Type a weight.').min(0).max(5_000_000).nullable().default(null),
  cost: amount,
})

const share = z
  .object({
    low: z.number('Type a share.').min(0).max(1000),
    typical: z.number('Type a share.').min(0).max(1000),
    high: z.number('Type a share.').min(0).max(1000),
  })
  .refine(({ low, typical, high }) => low <= typical && typical <= high, 'From low over typical to high.')
const hours = z.number('Type the hours.').min(0, 'Hours are 0 or more.').max(2000, 'At most 2,000 hours.')
const words = (most: number) => z.array(line(200)).max(most, `At most ${most} lines.`)

/** One way of making something of what came off, as `FollowOnSheet` of core says. */
export const followOnSheetBody = z.object({
  name: line(60),
  madeOf: z.array(keptKind).max(20),
  animals: z.array(animal).max(4).optional(),
  added: z.array(z.object({ name: line(80), pctOfInput: z.number().min(0).max(500).optional() })).max(20),
  outputs: z
    .array(
      z.object({
        name: line(80),
        role,
        unit: amountUnit,
        kind: keptKind,
        /** Grams, millilitres or pieces for 100 g. */
        yieldPct: share,
        per: z.enum(['all', 'input']),
        isFormed: z.boolean().optional(),
      }),
    )
    .min(1, 'Say what comes out.')
    .max(12, 'At most 12 outputs.')
    .refine((outputs) => new Set(outputs.map(({ name }) => name)).size === outputs.length, 'Two outputs have the same name.')
    .refine((outputs) => outputs.some((output) => output.role === 'main'), 'One output is what it is made for.'),
  method: jointCostMethod,
  minutes: z.number('Type the minutes.').min(0, 'Minutes are 0 or more.').max(10_000, 'That is over a week.'),
  waitHours: z.object({ low: hours, high: hours }).refine(({ low, high }) => low <= high, 'From low to high.'),
  steps: words(20),
  checks: words(12),
  cautions: words(12),
  core: z.enum(['poultryCoreC', 'groundCoreC']).optional(),
  cools: z.boolean().optional(),
  doneAtLossPct: z.number().min(1).max(90).optional(),
  allergens: z.array(allergen).max(14).optional(),
})
export type FollowOnSheetBody = z.infer<typeof followOnSheetBody>

const expectedShare = z.object({ tests: z.int(), mean: z.number(), low: z.number(), high: z.number() })
/** A sheet, Fleam's (`id` null) or the kitchen's own, with what the kitchen's own follow-ons gave by it. */
export const followOnSheetEntry = z.object({
  id: id.nullable(),
  key: z.string(),
  version: z.int(),
  isRetired: z.boolean(),
  body: followOnSheetBody.extend({ outputs: z.array(followOnSheetBody.shape.outputs.element.extend({ name: z.string() })) }),
  book: z.object({
    tests: z.int(),
    minutes: z.number(),
    outputs: z.array(z.object({ name: z.string(), share: expectedShare })),
  }),
})
export type FollowOnSheetEntry = z.infer<typeof followOnSheetEntry>
export const followOnSheetCreate = z.object({ id, body: followOnSheetBody })
export const followOnSheetChange = z.object({ version, body: followOnSheetBody, isRetired: z.boolean().default(false) })

/** A lot whose cost moved when the run that it came of was put right. */
export const movedCost = z.object({ lotId: id, number: z.int(), name: z.string(), before: z.number(), after: z.number() })
export type MovedCost = z.infer<typeof movedCost>

/** What is kept of a raw cut when it is cooked, by the kitchen's own cooking tests. */
export const cookingTest = z.object({ outputKey: z.string(), animal: z.string().nullable(), keptPct: z.number(), tests: z.int() })
export type CookingTest = z.infer<typeof cookingTest>

/** What a by-product was worth by what was made of it: the next run can take it as its value. */
export const savedValue = z.object({
  outputKey: z.string(),
  animal: z.string().nullable(),
  /** Money for each kg that went in. */
  perKg: z.number(),
  name: z.string(),
  tenths: z.int(),
  unit: amountUnit,
  boughtPerUnit: z.number(),
  followOnId: id,
  number: z.int(),
})
export type SavedValue = z.infer<typeof savedValue>

const check = {
  id,
  kind: z.enum(['core', 'cooling', 'look']),
  words: line(160),
  celsius: z.number('Type the temperature.').min(-40, 'At least −40 °C.').max(300, 'At most 300 °C.').nullable(),
  /** What was done about a figure out of its limit. */
  action: z.union([note(200), z.literal('')]).default(''),
}

/** What is on record of a follow-on beside its inputs, which are what was taken for it. */
export const followOnBody = z.object({
  added: z.array(ingredient).max(40, 'At most 40 ingredients.').default([]),
  energy: amount.default(0),
  consumables: amount.default(0),
  minutes: z.number('Type the minutes.').min(0, 'Minutes are 0 or more.').max(10_000, 'That is over a week.').nullable().default(null),
  method: jointCostMethod.default('byproduct-credit'),
  rates: z.object({ ratePerHour: z.number(), onCostPct: z.number(), disposalPerKg: z.number() }),
  /** What was weighed into its tubs, and what a piece that dries weighed on the way; insert-only. */
  weighings: z
    .array(
      z.object({
        id,
        output: z.string().nullable().default(null),
        tenths: z.int(),
        portions: z.int().nullable().default(null),
        reversesId: id.nullable().default(null),
        at: stamp,
        by: z.string(),
      }),
    )
    .default([]),
  /** Temperatures and what was looked at; insert-only. */
  checks: z
    .array(z.object({ ...check, isOut: z.boolean(), limitC: z.number().nullable().default(null), at: stamp, by: z.string() }))
    .default([]),
  /** What a litre, a kg or a piece of the main output costs ready made. */
  boughtPerUnit: amount.nullable().default(null),
  /** What came out, as it was weighed: its lots may have been split since. */
  outputs: z
    .array(
      z.object({
        id,
        /** Absent in what was finished before they were kept. */
        name: z.string().optional(),
        unit: amountUnit.optional(),
        role: z.enum(['main', 'coproduct', 'byproduct']),
        tenths: z.int(),
        valuePerUnit: z.number().nullable(),
      }),
    )
    .default([]),
  waste: z.array(z.object({ name: z.string(), grams: z.number() })).default([]),
  note: z.string().max(400).default(''),
})
export type FollowOnBody = z.infer<typeof followOnBody>

export const followOnFigures = z.object({
  carried: z.number(),
  gross: z.number(),
  credit: z.number(),
  net: z.number(),
  yieldPct: z.number().nullable(),
})
export type FollowOnFigures = z.infer<typeof followOnFigures>

export const followOn = z.object({
  id,
  number: z.int(),
  version: z.int(),
  status: z.enum(['open', 'finished', 'discarded']),
  /** Key of the sheet that it goes by. */
  sheet: z.string(),
  name: z.string(),
  body: followOnBody,
  figures: followOnFigures.nullable(),
  by: z.object({ id, name: z.string() }),
  startedAt: stamp,
  /** When its waiting is over. */
  dueAt: stamp.nullable(),
  finishedAt: stamp.nullable(),
  inputs: z.array(
    z.object({
      moveId: id,
      lot: lot.pick({ id: true, number: true, name: true, unit: true, useBy: true, supplierLot: true }),
      tenths: z.int(),
      /** What it carried, so far as its run is finished. */
      cost: z.number().nullable(),
    }),
  ),
  outputs: z.array(lot),
})
export type FollowOn = z.infer<typeof followOn>

export const followOnInput = z.object({
  moveId: id,
  lotId: id,
  tenths: tenths.nullable().default(null),
  portions,
})
export const followOnCreate = z.object({
  id,
  sheet: line(60),
  name: line(80),
  inputs: z.array(followOnInput).min(1, 'A follow-on is made of something: choose what goes in.').max(60),
  waitHours: z.number('Type the hours.').min(0, 'Hours are 0 or more.').max(2000, 'At most 2,000 hours.').nullable().default(null),
  startedAt: moment,
})
/** Into one of its tubs, on the way (`output` null), or one taken back (`reversesId`). */
export const followOnWeighing = z.object({
  id,
  output: line(80).nullable().default(null),
  tenths,
  portions,
  reversesId: id.nullable().default(null),
  at: moment,
  personId: id.optional(),
})
export const followOnCheck = z.object({ ...check, at: moment, personId: id.optional() })
export const followOnFinish = z.object({
  version,
  added: followOnBody.shape.added,
  energy: amount.default(0),
  consumables: amount.default(0),
  minutes: z.number('Type the minutes.').min(0, 'Minutes are 0 or more.').max(10_000, 'That is over a week.'),
  method: jointCostMethod,
  boughtPerUnit: amount.nullable().default(null),
  note: z.union([note(400), z.literal('')]).default(''),
  outputs: z
    .array(
      z.object({
        id,
        name: line(80),
        role,
        unit: amountUnit,
        tenths,
        portions,
        /** Per kg, litre or piece. */
        valuePerUnit: amount.nullable().default(null),
        kind: keptKind,
        place: line(40),
        allergens: z.array(allergen).max(14).default([]),
        isFormed: z.boolean().default(false),
      }),
    )
    .min(1, 'Say what came out.')
    .max(40, 'At most 40 outputs.'),
})
export const followOnDiscard = z.object({ version, reason: note(200) })

/** A step on the way from a supplier's lot to a dish. */
export const traceNode = z.object({
  id: z.string(),
  what: z.enum(['delivery', 'run', 'lot', 'follow-on', 'taken']),
  name: z.string(),
  /** Of a lot: how it stands. */
  lot: lot.nullable(),
  tenths: z.int().nullable(),
  unit: amountUnit.nullable(),
  cost: z.number().nullable(),
  at: stamp.nullable(),
  by: z.string(),
})
export const trace = z.object({
  /** What was asked about. */
  start: z.string(),
  nodes: z.array(traceNode),
  flows: z.array(z.object({ from: z.string(), to: z.string(), tenths: z.int(), unit: amountUnit, cost: z.number().nullable() })),
})
export type Trace = z.infer<typeof trace>
export type TraceNode = z.infer<typeof traceNode>

export const recall = z.object({ supplierLot: line(40), reason: note(200), at: moment })
export const recalled = z.object({ blocked: z.array(lot) })
