import * as z from 'zod'
import { cutList, cuttingPlan } from './plan.ts'
import { id, line, moment, note, stamp } from './primitives.ts'

const named = z.object({ id, name: z.string().min(1).max(80) })
const stepIndex = z.int().min(0).max(200)

export const fishConditions = ['stiff', 'soft'] as const

/** What was seen of a fish at receiving: its kind and length give the weight to expect (Fulton), its state how it will cut. */
export const fishCheck = z.object({
  species: z.string().max(40),
  lengthCm: z.number('Type the length in cm.').min(5, 'At least 5 cm.').max(300, 'At most 300 cm.').nullable(),
  condition: z.enum(fishConditions).nullable(),
})
export type FishCheck = z.infer<typeof fishCheck>

export const temperaturePlaces = ['product', 'room', 'fridge'] as const

/** Something that happens at the bench beside weighing. */
export const happening = z.discriminatedUnion('kind', [
  /** A person has come to this step of the cut sheet. */
  z.object({ kind: z.literal('step'), step: stepIndex }),
  /** A line of the station list, ticked or not. */
  z.object({ kind: z.literal('station'), line: stepIndex, ticked: z.boolean() }),
  z.object({ kind: z.literal('optional-step'), step: stepIndex, done: z.boolean() }),
  /** The product is out of the cold, or back in it. */
  z.object({ kind: z.literal('cold'), out: z.boolean() }),
  z.object({
    kind: z.literal('temperature'),
    of: z.enum(temperaturePlaces),
    celsius: z.number('Type a temperature in °C.').min(-40, 'At least −40 °C.').max(120, 'At most 120 °C.'),
    /** What was done where it was over the limit. */
    action: z.union([note(400), z.literal('')]).default(''),
    limitC: z.number().nullable().default(null),
  }),
  z.object({ kind: z.literal('piece-done'), piece: z.int().min(1).max(1000) }),
  /** The piece on the board was measured and planned: the bench shows the next slice. */
  z.object({
    kind: z.literal('plan'),
    plan: z.union([cuttingPlan, cutList]),
    /** Which piece of the run was measured, where its pieces are weighed apart. */
    piece: z.int().min(1).max(1000).nullable().default(null),
  }),
  /** The piece weighs this, where the plan and what the run has left were not alike. */
  z.object({ kind: z.literal('plan-weight'), grams: z.number().positive().max(50_000) }),
  z.object({ kind: z.literal('plan-dropped') }),
  /** A slice that was cut to the plan, and what the plan had it weigh. */
  z.object({
    kind: z.literal('slice'),
    weighingId: id,
    thicknessMm: z.number().min(0).max(2000),
    plannedGrams: z.number().min(0).max(50_000),
  }),
  /** Something was tied or bonded and rests: it can be cut between these hours from now. */
  z.object({ kind: z.literal('rest'), what: line(80), hoursLow: z.number().min(0).max(240), hoursHigh: z.number().min(0).max(240) }),
])
export type Happening = z.infer<typeof happening>

/** Something else about the run has changed: read it again. */
export const changed = z.object({ kind: z.literal('changed'), what: z.enum(['tubs', 'defects', 'status', 'pictures']) })

export const benchEvent = z.object({
  id,
  sequence: z.int(),
  what: z.union([happening, changed]),
  at: stamp,
  by: named,
})
export type BenchEvent = z.infer<typeof benchEvent>

export const benchEventCreate = z.object({ id, what: happening, at: moment, personId: id.optional() })
