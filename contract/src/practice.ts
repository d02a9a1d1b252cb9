import * as z from 'zod'
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

export const eyeQuery = z.object({ person: id.optional() })
