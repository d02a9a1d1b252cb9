import { ladder } from '@fleam/core/practice/screen-piece'
import * as z from 'zod'
import { usualShape } from './plan.ts'
import { id, line, moment, stamp } from './primitives.ts'

const tenths = z.int('Weigh to 0.1 g.').min(1, 'A weight is more than nothing.').max(1_000_000, 'That is over 100 kg: check the weight.')

/** A weight that was said before the scale said it, in tenths of a gram. */
export const guessCreate = z.object({ id, said: tenths, weighed: tenths, what: z.union([line(60), z.literal('')]).default(''), at: moment })
export type GuessCreate = z.infer<typeof guessCreate>

export const guess = z.object({ id, said: z.int(), weighed: z.int(), what: z.string(), at: stamp })
export type Guess = z.infer<typeof guess>

const interval = z.object({ pct: z.number(), low: z.number(), high: z.number() })
/** How well a person judges weights, with the guesses that it goes by, the earliest first. */
export const trainedEye = z.object({
  personId: id,
  name: z.string(),
  guesses: z.array(guess),
  eye: z.object({ guesses: z.int(), bias: interval, spread: interval.nullable(), isImproving: z.boolean().nullable() }).nullable(),
})
export type TrainedEye = z.infer<typeof trainedEye>

/** How a card was answered the first time that it was shown. */
export const answerCreate = z.object({ id, card: line(120), isRight: z.boolean(), at: moment })
export type AnswerCreate = z.infer<typeof answerCreate>

export const practisedAnswer = z.object({ id, card: z.string(), isRight: z.boolean(), at: stamp })
/** What somebody has practised, the earliest first. */
export const practised = z.object({ personId: id, name: z.string(), answers: z.array(practisedAnswer) })
export type Practised = z.infer<typeof practised>

export const rung = z.enum(
  ladder.map(({ key }) => key),
  'There is no such rung.',
)
const cm = z.number().min(0).max(500)
export const seed = z.int('A seed is a whole number.').min(0).max(4_294_967_295)

/** Cuts of a piece that was drawn by its seed. `shape` is the usual shape of what the kitchen cuts, where the piece was drawn after that. */
export const attemptCreate = z.object({
  id,
  rung,
  seed,
  shape: usualShape.nullable().default(null),
  cutsCm: z.array(cm).max(60, 'At most 60 cuts.'),
  exerciseId: id.nullable().default(null),
  at: moment,
})
export type AttemptCreate = z.infer<typeof attemptCreate>

export const attempt = z.object({
  ...{ id, rung: z.string(), seed: z.int(), cutsCm: z.array(z.number()), exerciseId: id.nullable(), score: z.number(), at: stamp },
})
export type Attempt = z.infer<typeof attempt>
/** What somebody has cut on screen, the earliest first. */
export const attempts = z.object({ personId: id, name: z.string(), attempts: z.array(attempt) })
export type Attempts = z.infer<typeof attempts>

export const whoseQuery = z.object({ person: id.optional() })

const expected = z.object({ low: z.number(), mean: z.number(), high: z.number() })
const progressRun = z.object({
  ...{ id, number: z.int(), sheet: z.string(), item: z.string(), at: stamp, isExercise: z.boolean() },
  mainPct: z.number(),
  expected,
  /** How far its portions lie apart, percent of their mean; `null` where there are too few. */
  spreadPct: z.number().nullable(),
  /** What was given away over the target, in the kitchen's currency; `null` where nothing is cut to a target. */
  giveaway: z.number().nullable(),
  minutes: z.number(),
  expectedMinutes: z.number(),
})

/** How somebody gets on at all that they do and practise. */
export const progress = z.object({
  ...{ personId: id, name: z.string() },
  runs: z.array(progressRun),
  eye: trainedEye.shape.eye,
  practice: z.object({ asked: z.int(), known: z.int(), due: z.int(), days: z.int(), rightPct: z.number().nullable() }),
  screen: z.array(z.object({ rung: z.string(), tries: z.int(), best: z.number(), last: z.number() })),
  marks: z.array(z.object({ name: z.string(), mark: z.number(), times: z.int() })),
  exercises: z.array(z.object({ id, name: z.string(), day: z.string(), total: z.number() })),
  next: z.array(
    z.object({
      key: z.enum(['yield', 'evenness', 'marks', 'eye', 'questions', 'screen', 'minutes']),
      what: z.string(),
      why: z.string(),
    }),
  ),
})
export type Progress = z.infer<typeof progress>

export const paceQuery = whoseQuery.extend({ sheet: id.optional() })
const minutesOrNone = z.number().nullable()

/** How long somebody takes by step of a sheet, minutes an item, against their own best and the middle of the house. */
export const pace = z.object({
  ...{ personId: id, name: z.string() },
  /** Sheets that they have cut by, the most often first. */
  sheets: z.array(z.object({ id, name: z.string(), runs: z.int() })),
  sheet: z.object({ id, versionId: z.string(), name: z.string(), cautions: z.array(z.string()) }).nullable(),
  ...{ ownRuns: z.int(), houseRuns: z.int() },
  steps: z.array(z.object({ step: z.string(), last: minutesOrNone, best: minutesOrNone, house: minutesOrNone })),
})
export type Pace = z.infer<typeof pace>
