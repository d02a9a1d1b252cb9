import * as z from 'zod'
import { amountUnit } from './calc.ts'
import { jointCostMethod, role } from './cut-sheets.ts'
import { amount, id, line, moment, note, stamp, version } from './primitives.ts'
import { allergen, keptKind, lot } from './walk-in.ts'

const tenths = z.int('Weigh to 0.1.').min(1, 'Say how much.').max(50_000_000, 'That is over 5,000 kg or litres.')
const portions = z.int('Count whole portions.').min(1, 'At least one portion.').max(100_000).nullable().default(null)
const ingredient = z.object({
  name: line(80),
  grams: z.number('Type a weight.').min(0).max(5_000_000).nullable().default(null),
  cost: amount,
})

/** What is on record of a follow-on beside its inputs, which are what was taken for it. */
export const followOnBody = z.object({
  added: z.array(ingredient).max(40, 'At most 40 ingredients.').default([]),
  energy: amount.default(0),
  consumables: amount.default(0),
  minutes: z.number('Type the minutes.').min(0, 'Minutes are 0 or more.').max(10_000, 'That is over a week.').nullable().default(null),
  method: jointCostMethod.default('byproduct-credit'),
  rates: z.object({ ratePerHour: z.number(), onCostPct: z.number(), disposalPerKg: z.number() }),
  /** What a piece that dries, or a pot that reduces, weighed in between. */
  weighings: z.array(z.object({ id, tenths: z.int(), at: stamp, by: z.string() })).default([]),
  /** What came out, as it was weighed: its lots may have been split since. */
  outputs: z
    .array(z.object({ id, role: z.enum(['main', 'coproduct', 'byproduct']), tenths: z.int(), valuePerUnit: z.number().nullable() }))
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
export const followOnWeighing = z.object({ id, tenths, at: moment })
export const followOnFinish = z.object({
  version,
  added: followOnBody.shape.added,
  energy: amount.default(0),
  consumables: amount.default(0),
  minutes: z.number('Type the minutes.').min(0, 'Minutes are 0 or more.').max(10_000, 'That is over a week.'),
  method: jointCostMethod,
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
