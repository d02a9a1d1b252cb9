import type { KitchenDay } from '@fleam/contract/day'
import type { DaySchedule, JobState, scheduleAsk, tickCreate } from '@fleam/contract/day-schedule'
import { type DayJob, type DayOfWork, jobsOfDay } from '@fleam/core/day/day-jobs'
import { demandOf } from '@fleam/core/day/kitchen-day'
import { whyLate } from '@fleam/core/day/lateness'
import type { Schedule, ScheduleInput } from '@fleam/core/day/schedule'
import { tubsOf } from '@fleam/core/day/tubs'
import { dayOf, startOfDay } from '@fleam/core/quantities/house-day'
import { daysAfter, daysBetween } from '@fleam/core/walk-in/use-by'
import { Op } from 'sequelize'
import type { z } from 'zod'
import type { KitchenRecords } from '../../db/records.ts'
import type { Actor } from '../../http/access.ts'
import { createOnce, found } from '../../http/changes.ts'
import { ProblemError, refuseField } from '../../http/problems.ts'
import type { DayScheduleRow, KeptSchedule } from './day-schedule.model.ts'
import { planWork, type Solve } from './plan-day.ts'
import { findDay } from './service.ts'

const minutesOfDay = 24 * 60
const withPerson = { association: 'person', attributes: ['name'] }
const mostToCome = 20

interface Engines {
  solve: Solve
  schedule: (input: ScheduleInput) => Promise<Schedule>
}

/** What is known of a job that was begun: the minute of the schedule, and who said so; the bench says it by its weighings. */
interface Done {
  state: JobState
  at: number
  who: string | null
  by: string | null
}

/**
 * Plans when each thing of a day starts and keeps that as its schedule: by a new plan of what to buy and cut, by the one that it has,
 * or from this minute on with what is done left as it is.
 */
export async function scheduleDay(
  by: Actor,
  day: KitchenDay,
  { from }: z.infer<typeof scheduleAsk>,
  { solve, schedule }: Engines,
): Promise<DaySchedule> {
  const kept = from === 'plan' ? undefined : (await by.records.daySchedules.findOne({ where: { dayId: day.id } }))?.body
  const work = kept ?? (await planWork(by, day, solve))
  if ('status' in work && work.status !== 'optimal')
    throw new ProblemError('day-not-met', { detail: 'Look at its plan, which says what is short and which limit to move.' })
  const asked = jobsOfDay(workOfDay(day, work.made), work.cuts, work.ready)
  if (asked.people.length === 0) throw refuseField('crew', 'Nobody works that day: say who does, and when.')
  const startsOn = daysAfter(day.date, -asked.startsBefore)
  const now = from === 'now' ? minuteNow(startsOn, by.kitchen.settings.timeZone) : null
  const done = await doneOf(by.records, by.kitchen.settings.timeZone, day.id, startsOn, asked.jobs)
  const input = inputFrom(asked, day, now, done)
  const answer = await schedule(input)
  const jobs = jobsShown(asked.jobs, answer, kept, done)
  const shown: KeptSchedule['shown'] = {
    ...{ startsOn, dayVersion: day.version, fromMinute: now, jobs },
    people: peopleOf(day, asked),
    places: day.body.places.map(({ id, name, kind, room }) => ({ id, name, kind, room })),
    ...{ late: whyLate(input, answer), cleanDowns: answer.cleanDowns, overtimeMinutes: answer.overtimeMinutes },
    orderBy: asked.orderBy.map(({ name, daysBefore }) => ({ name, on: daysAfter(day.date, -daysBefore) })),
    tubs: tubsOf(
      jobs.flatMap(({ id, place, who, from: start, handsUntil }) => {
        const gives = asked.jobs.find((job) => job.id === id)?.gives ?? []
        return gives.length > 0 ? [{ bench: place ?? who, from: start, until: handsUntil, gives }] : []
      }),
      day.body.tubKg * 1000,
    ),
    troubles: asked.troubles,
  }
  const body: KeptSchedule = { cuts: work.cuts, ready: work.ready, made: work.made, shown }
  await by.records.transaction(async (tx) => {
    const values = { body, personId: by.person.id, at: new Date() }
    // the day's row is what two that plan at once wait for
    found(await tx.days.lock({ id: day.id }))
    if ((await tx.daySchedules.update(values, { dayId: day.id })) === 0) await tx.daySchedules.create({ dayId: day.id, ...values })
  })
  return found(await findSchedule(by, day.id))
}

/** The newest schedule of a day, with what was done of it. */
export async function findSchedule(
  { records, kitchen }: Pick<Actor, 'records' | 'kitchen'>,
  dayId: string,
): Promise<DaySchedule | undefined> {
  const row = await records.daySchedules.findOne({ where: { dayId }, include: [withPerson, 'day'] })
  return row && !row.day?.dropped ? toSchedule({ records, timeZone: kitchen.settings.timeZone }, row) : undefined
}

/** Schedules that have begun and whose day is not over, the next first. */
export async function schedulesUnderWay({ records, kitchen }: Pick<Actor, 'records' | 'kitchen'>): Promise<DaySchedule[]> {
  const { timeZone } = kitchen.settings
  const today = dayOf(new Date(), timeZone)
  return (await schedulesToCome({ records, timeZone })).filter(({ startsOn }) => startsOn <= today)
}

/** Schedules of today and later, the next first. */
export async function schedulesToCome({ records, timeZone }: { records: KitchenRecords; timeZone: string }): Promise<DaySchedule[]> {
  const rows = await records.daySchedules.findAll({
    include: [
      withPerson,
      { association: 'day', required: true, where: { dropped: false, date: { [Op.gte]: dayOf(new Date(), timeZone) } } },
    ],
    limit: mostToCome,
  })
  const all = await Promise.all(rows.map((row) => toSchedule({ records, timeZone }, row)))
  return all.sort((a, b) => a.date.localeCompare(b.date))
}

/** Keeps that a job was begun, is done, or is neither. */
export async function tickJob(by: Actor, dayId: string, { id, job, state, at }: z.infer<typeof tickCreate>): Promise<DaySchedule> {
  const day = found(await findDay(by.records, dayId))
  const row = found(await by.records.daySchedules.findOne({ where: { dayId } }))
  if (!row.body.shown.jobs.some((one) => one.id === job))
    throw refuseField('job', 'The schedule has no such job any more: look at it again.')
  // a tablet's clock may be ahead of the kitchen's
  const said = new Date(Math.min(Date.parse(at), Date.now()))
  await createOnce(
    by.records,
    () => by.records.dayTicks.create({ id, dayId: day.id, job, state, at: said, personId: by.person.id }),
    async () => (await by.records.dayTicks.findOne({ where: { id, dayId } })) ?? undefined,
  )
  return found(await findSchedule(by, dayId))
}

async function toSchedule({ records, timeZone }: { records: KitchenRecords; timeZone: string }, row: DayScheduleRow): Promise<DaySchedule> {
  const { body, at, person } = row
  const day = found(row.day)
  const { jobs, ...shown } = body.shown
  const done = await doneOf(records, timeZone, row.dayId, shown.startsOn, jobs)
  return {
    ...{ dayId: row.dayId, name: day.name, date: day.date, plannedAt: at.toISOString(), by: found(person).name },
    ...shown,
    isStale: shown.dayVersion !== day.version,
    jobs: jobs.map(({ way: _way, items: _items, handsMinutes: _hands, waitMinutes: _wait, ...job }) => {
      const { state, by } = done.get(job.id) ?? { state: 'open' as const, by: null }
      return { ...job, state, by }
    }),
  }
}

function workOfDay({ body }: KitchenDay, made: KeptSchedule['made']): DayOfWork {
  const guests = new Map(body.services.map((service) => [service.id, service.guests]))
  return {
    services: body.services,
    dishes: body.dishes.map((dish) => {
      const { product, portions, grams } = demandOf(dish, guests.get(dish.serviceId) ?? 0)
      const making = made.find((one) => one.product === product)
      return {
        ...dish,
        ...{ product: making?.of ?? product, portions: Math.ceil(portions), grams: making ? grams / making.perGram : grams },
      }
    }),
    crew: body.crew.map(({ personId, name, ...shift }) => ({ ...shift, who: personId ?? name })),
    ...{ places: body.places, arrivals: body.arrivals, benchesPerSorter: body.benchesPerSorter, held: body.heldJobs },
  }
}

function peopleOf({ body }: KitchenDay, { people }: ReturnType<typeof jobsOfDay>): KeptSchedule['shown']['people'] {
  return [...new Set(people.map(({ id }) => id))].map((who) => {
    const { personId = null, name = who } = body.crew.find((shift) => (shift.personId ?? shift.name) === who) ?? {}
    return { who, name, personId, shifts: people.filter(({ id }) => id === who).map(({ from, to }) => ({ from, to })) }
  })
}

/** Minutes of the schedule that have gone by, on the kitchen's clock. */
function minuteNow(startsOn: string, timeZone: string, moment = new Date()): number {
  const today = dayOf(moment, timeZone)
  const minutes = Math.floor((moment.getTime() - startOfDay(today, timeZone).getTime()) / 60_000)
  return daysBetween(startsOn, today) * minutesOfDay + minutes
}

/**
 * What the engine is asked. From now on: what is done is left out, what is under way stands where it began, and nothing else starts
 * before this minute.
 */
function inputFrom(
  { jobs, people, places }: ReturnType<typeof jobsOfDay>,
  { body }: KitchenDay,
  now: number | null,
  done: ReadonlyMap<string, Done>,
): ScheduleInput {
  const { cleanDownMinutes } = body
  if (now === null) return { people, places, cleanDownMinutes, jobs }
  const isOver = (id: string) => done.get(id)?.state === 'done'
  const names = new Set(people.map(({ id }) => id))
  return {
    ...{ people, places, cleanDownMinutes },
    jobs: jobs
      .filter(({ id }) => !isOver(id))
      .map(({ heldAt, heldBy, ...job }) => {
        const begun = done.get(job.id)
        const after = (job.after ?? []).filter((id) => !isOver(id))
        if (begun?.state === 'started') {
          const who = begun.who !== null && names.has(begun.who) ? { heldBy: begun.who } : {}
          return { ...job, after, heldAt: Math.max(0, begun.at), ...who }
        }
        return {
          ...job,
          after,
          earliest: Math.max(job.earliest ?? 0, now, 0),
          ...(heldAt !== undefined && heldAt >= now ? { heldAt } : {}),
          ...(heldBy === undefined ? {} : { heldBy }),
        }
      }),
  }
}

/** Every job where it stands: as planned now, or as it was before it was done. */
function jobsShown(
  jobs: readonly DayJob[],
  answer: Schedule,
  kept: KeptSchedule | undefined,
  done: ReadonlyMap<string, Done>,
): KeptSchedule['shown']['jobs'] {
  return jobs.flatMap(
    ({ id, kind, name, detail, due = null, pullAtC, board, after = [], itemId, way, items, heldAt, heldBy, handsMinutes, waitMinutes }) => {
      const placed = answer.jobs.find((job) => job.id === id)
      const before = kept?.shown.jobs.find((job) => job.id === id)
      const at = placed ? { ...placed, who: placed.person } : before
      if (!at) return []
      const ended = done.get(id)
      const end = ended?.state === 'done' && ended.at > at.from ? { handsUntil: Math.min(at.handsUntil, ended.at), until: ended.at } : {}
      return [
        {
          ...{
            id,
            kind,
            name,
            detail,
            who: at.who,
            place: at.place,
            from: at.from,
            handsUntil: at.handsUntil,
            until: at.until,
            ...end,
            due,
          },
          ...{ pullAtC, isRaw: board === 'raw poultry', isHeld: heldAt !== undefined || heldBy !== undefined, after: [...after], itemId },
          ...{ way, items, handsMinutes, waitMinutes },
        },
      ]
    },
  )
}

/**
 * What was done of a schedule: as ticked, else as the bench knows it. A way's parts are done one after the other as its runs are
 * finished, and what was received came in.
 */
async function doneOf(
  records: KitchenRecords,
  timeZone: string,
  dayId: string,
  startsOn: string,
  jobs: readonly JobToTick[],
): Promise<Map<string, Done>> {
  const since = startOfDay(startsOn, timeZone)
  const itemIds = [...new Set(jobs.flatMap(({ itemId }) => itemId ?? []))]
  const [ticks, runs] = await Promise.all([
    records.dayTicks.findAll({ where: { dayId }, include: [withPerson], order: ['sequence'] }),
    itemIds.length === 0
      ? []
      : records.runs.findAll({
          where: { itemId: itemIds, startedAt: { [Op.gte]: since }, status: ['open', 'finished'] },
          include: [{ association: 'cutSheetVersion', attributes: ['cutSheetId'] }],
          attributes: ['id', 'itemId', 'pieces', 'status', 'startedAt', 'finishedAt', 'cookId'],
          order: ['startedAt'],
        }),
  ])
  const minuteOf = (moment: Date) => minuteNow(startsOn, timeZone, moment)
  const known = new Map<string, Done>()
  for (const { id, kind, itemId } of jobs) {
    const first = kind === 'receive' ? runs.find((run) => run.itemId === itemId) : undefined
    if (first) known.set(id, { state: 'done', at: minuteOf(first.startedAt), who: first.cookId, by: null })
  }
  for (const way of new Set(jobs.flatMap((job) => (job.kind === 'cut' ? (job.way ?? []) : [])))) {
    const own = runs.filter((run) => `${run.itemId}:${run.cutSheetVersion?.cutSheetId}` === way)
    const finished = own.filter(({ status }) => status === 'finished')
    let wanted = 0
    for (const { id, items } of jobs.filter((job) => job.kind === 'cut' && job.way === way)) {
      wanted += items
      const last = finished.find((_, index) => finished.slice(0, index + 1).reduce((sum, { pieces }) => sum + pieces, 0) >= wanted)
      if (last) known.set(id, { state: 'done', at: minuteOf(last.finishedAt ?? last.startedAt), who: last.cookId, by: null })
      else {
        const open = own.find(({ status }) => status === 'open')
        if (open) known.set(id, { state: 'started', at: minuteOf(open.startedAt), who: open.cookId, by: null })
        break
      }
    }
  }
  for (const { job, state, at, personId, person } of ticks) {
    if (state === 'open') known.delete(job)
    else known.set(job, { state, at: minuteOf(at), who: personId, by: person?.name ?? null })
  }
  tickWaits(jobs, known, minuteOf(new Date()))
  return known
}

interface JobToTick {
  id: string
  kind: string
  way: string | null
  itemId: string | null
  items: number
  handsMinutes: number
  waitMinutes?: number | undefined
  after?: readonly string[] | undefined
}

/** What waits is done when its time is over, and what needs no hands begins when what it waits for is done. */
function tickWaits(jobs: readonly JobToTick[], known: Map<string, Done>, now: number): void {
  for (const { id, handsMinutes, waitMinutes = 0, after = [] } of jobs) {
    if (waitMinutes === 0) continue
    const before = after.map((other) => known.get(other))
    if (!known.has(id) && handsMinutes === 0 && before.length > 0 && before.every((one) => one?.state === 'done'))
      known.set(id, { state: 'started', at: Math.max(...before.map((one) => one?.at ?? 0)), who: null, by: null })
    const begun = known.get(id)
    const over = (begun?.at ?? 0) + handsMinutes + waitMinutes
    if (begun?.state === 'started' && over <= now) known.set(id, { ...begun, state: 'done', at: over, by: null })
  }
}
