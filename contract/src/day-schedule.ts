import * as z from 'zod'
import { id, moment, stamp } from './primitives.ts'

const minute = z.int()
const jobState = z.enum(['open', 'started', 'done'])
export type JobState = z.infer<typeof jobState>

/** Why something is late: what it waited for. */
const cause = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('place'), place: z.string(), short: z.number(), from: minute, to: minute }),
  z.object({ kind: z.literal('person'), skill: z.string().nullable(), from: minute, to: minute }),
  z.object({ kind: z.literal('comes'), job: z.string(), at: minute }),
  z.object({ kind: z.literal('held'), job: z.string(), at: minute }),
  z.object({ kind: z.literal('long'), job: z.string() }),
])
export type LateCause = z.infer<typeof cause>

/** One job of a day: minutes count on the kitchen's clock from midnight of `startsOn`. */
export const scheduledJob = z.object({
  id: z.string(),
  kind: z.string(),
  name: z.string(),
  detail: z.string(),
  who: z.string(),
  place: z.string().nullable(),
  from: minute,
  handsUntil: minute,
  until: minute,
  due: minute.nullable(),
  pullAtC: z.number().nullable(),
  isRaw: z.boolean(),
  isHeld: z.boolean(),
  after: z.array(z.string()),
  itemId: z.string().nullable(),
  /** What its own ticks, or the bench's weighings, say of it. */
  state: jobState,
  /** Who ticked it; `null` where the bench did. */
  by: z.string().nullable(),
})
export type DayJobEntry = z.infer<typeof scheduledJob>

/** A day's schedule as it was planned last, with what has been done of it since. */
export const daySchedule = z.object({
  dayId: id,
  name: z.string(),
  date: z.string(),
  /** The day of minute 0. */
  startsOn: z.string(),
  plannedAt: stamp,
  by: z.string(),
  /** The version of the day that it was planned from: another is newer. */
  dayVersion: z.int(),
  isStale: z.boolean(),
  /** The minute from which the rest was planned again; `null` for all of it. */
  fromMinute: minute.nullable(),
  people: z.array(
    z.object({
      who: z.string(),
      name: z.string(),
      personId: z.string().nullable(),
      shifts: z.array(z.object({ from: minute, to: minute })),
    }),
  ),
  places: z.array(z.object({ id: z.string(), name: z.string(), kind: z.string(), room: z.number() })),
  jobs: z.array(scheduledJob),
  late: z.array(z.object({ id: z.string(), minutes: minute, why: cause })),
  cleanDowns: z.array(z.object({ place: z.string(), from: minute, until: minute })),
  overtimeMinutes: minute,
  orderBy: z.array(z.object({ name: z.string(), on: z.string() })),
  tubs: z.array(
    z.object({ product: z.string(), name: z.string(), grams: z.number(), tubs: z.int(), atBench: z.int(), fetch: z.array(minute) }),
  ),
  troubles: z.array(z.string()),
})
export type DaySchedule = z.infer<typeof daySchedule>

export const scheduleAsk = z.object({
  /** `plan` buys and cuts by a new plan; `kept` keeps what is to be cut; `now` keeps what was done too, and plans the rest from this minute. */
  from: z.enum(['plan', 'kept', 'now']).default('plan'),
})
export const tickCreate = z.object({ id, job: z.string().min(1).max(240), state: jobState, at: moment })
