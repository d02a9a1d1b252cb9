import * as z from 'zod'
import { usualShape } from './plan.ts'
import { rung, seed } from './practice.ts'
import { day, id, line, moment, note, stamp, version, weightEntry } from './primitives.ts'
import { runCreate } from './runs.ts'

const named = z.object({ id, name: z.string() })

/** Students who are taught together. */
export const studentGroup = z.object({ id, name: z.string(), instructor: named, members: z.array(named), version: z.int() })
export type StudentGroup = z.infer<typeof studentGroup>

const memberIds = z
  .array(id)
  .max(60, 'At most 60 students in a group.')
  .refine((ids) => new Set(ids).size === ids.length, 'Nobody is in a group twice.')
export const groupCreate = z.object({ id, name: line(60), memberIds })
export const groupChange = z.object({ version, name: line(60), memberIds })

/** What an instructor looks at in an exercise, and what it counts against the rest. */
export const criterion = z.object({
  key: z.string().min(1).max(40),
  name: line(60),
  look: z.union([line(200), z.literal('')]).default(''),
  weight: z.number('Type a number.').min(0, 'A weight is 0 or more.').max(100, 'A weight is at most 100.'),
})
const rubric = z
  .array(criterion)
  .min(1, 'A rubric has a criterion at least.')
  .max(40, 'At most 40 criteria.')
  .refine((all) => new Set(all.map(({ key }) => key)).size === all.length, 'Every criterion is there once.')
  .refine((all) => all.some(({ weight }) => weight > 0), 'Something must count.')

/** What is to be done: a cut sheet at the bench, or a piece that is cut on screen and is the same for everybody. */
export const exerciseTask = z.discriminatedUnion('kind', [
  z.object({
    kind: z.literal('bench'),
    ...{ cutSheetId: id, itemId: id, supplierId: id.nullable(), target: weightEntry.nullable().default(null), rubric },
  }),
  z.object({ kind: z.literal('screen'), rung, seed, shape: usualShape.nullable().default(null) }),
])
const storedTask = z.discriminatedUnion('kind', [
  z.object({
    kind: z.literal('bench'),
    ...{ cutSheetId: id, itemId: id, supplierId: id.nullable(), rubric: z.array(criterion) },
    target: z.object({ tenths: z.int(), entered: z.string() }).nullable(),
  }),
  z.object({ kind: z.literal('screen'), rung: z.string(), seed: z.int(), shape: usualShape.nullable() }),
])
export type ExerciseTask = z.infer<typeof storedTask>

export const exerciseCreate = z.object({ id, groupId: id, name: line(80), day, task: exerciseTask })
export const exerciseChange = z.object({ version, name: line(80), day, rubric: rubric.optional() })
export const exerciseHandBack = z.object({ version, handedBack: z.boolean() })

export const exercise = z.object({
  ...{ id, name: z.string(), day: z.string(), version: z.int(), group: named, instructor: named },
  task: storedTask,
  sheetName: z.string().nullable(),
  itemName: z.string().nullable(),
  /** When the marks were shown to the students. */
  handedBackAt: stamp.nullable(),
  /** The run of whoever asks, where it has begun. */
  ownRunId: id.nullable(),
})
export type Exercise = z.infer<typeof exercise>

/** What was weighed in at the start of a student's run; the rest is the exercise's. */
export const exerciseStart = runCreate.pick({ id: true, received: true, coreTempC: true, temperature: true, weightsChecked: true })

/** A mark or a word of an instructor's; the last said counts. An empty criterion is the word for the whole. */
export const markCreate = z.object({
  id,
  personId: id,
  criterion: z.string().max(40),
  mark: z.int('Marks are whole.').min(0, 'The least mark is 0.').max(4, 'The best mark is 4.').nullable(),
  word: z.union([note(400), z.literal('')]).default(''),
  at: moment,
})
export type MarkCreate = z.infer<typeof markCreate>

const givenMark = z.object({ mark: z.int().nullable(), word: z.string(), by: z.string(), at: stamp })
const computedMark = z.object({ key: z.string(), name: z.string(), mark: z.number(), why: z.string() })

/** How one student did an exercise. `total` in percent of what the rubric allows, of the criteria that are marked. */
export const studentResult = z.object({
  student: named,
  runId: id.nullable(),
  runStatus: z.string().nullable(),
  given: z.record(z.string(), givenMark),
  computed: z.array(computedMark),
  total: z.number().nullable(),
  marked: z.int(),
  score: z.number().nullable(),
})
export type StudentResult = z.infer<typeof studentResult>

/** The results of an exercise, by student. */
export const exerciseResults = z.object({ exercise, results: z.array(studentResult) })
export type ExerciseResults = z.infer<typeof exerciseResults>

/** What a student is handed back: their own marks, and how the class did without names. */
export const ownResult = z.object({
  exercise,
  result: studentResult,
  /** How many of the class came to each tenth of the whole, from 0–10 % to 90–100 %. */
  spread: z.array(z.int()),
})
export type OwnResult = z.infer<typeof ownResult>
