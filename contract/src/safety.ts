import * as z from 'zod'
import { id, line, moment, note, stamp } from './primitives.ts'

export const safetyDay = z.iso.date('Write a day such as 2026-03-14.')

/** What is put down beside runs and follow-ons: a cold store's temperature, a clean-down, anything else. */
export const safetyNoteKinds = ['cold store', 'clean-down', 'other'] as const
export const safetyNoteCreate = z
  .object({
    id,
    kind: z.enum(safetyNoteKinds),
    /** Which store, what was cleaned, or what it is about. */
    about: line(80),
    celsius: z.number('Type a temperature in °C.').min(-40, 'At least −40 °C.').max(120, 'At most 120 °C.').nullable().default(null),
    action: z.union([note(200), z.literal('')]).default(''),
    at: moment,
  })
  .refine(({ kind, celsius }) => kind !== 'cold store' || celsius !== null, { path: ['celsius'], message: 'Type the temperature.' })

/** One line of a day's food-safety record. */
export const safetyLine = z.object({
  at: stamp,
  what: z.enum([
    'receiving',
    'temperature',
    'out of the cold',
    'station',
    'cooking',
    'cooling',
    'check',
    'use-by',
    'thrown away',
    'defect',
    'cold store',
    'clean-down',
    'other',
  ]),
  about: z.string(),
  /** What was measured or seen, in words. */
  found: z.string(),
  /** The kitchen's limit as it was then, in words; empty where there is none. */
  limit: z.string(),
  isOut: z.boolean(),
  /** What was done about it. */
  action: z.string(),
  by: z.string(),
})
export type SafetyLine = z.infer<typeof safetyLine>
export const safetyRecord = z.object({ day: safetyDay, lines: z.array(safetyLine) })
export type SafetyRecord = z.infer<typeof safetyRecord>
