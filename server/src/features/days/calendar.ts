import { randomBytes } from 'node:crypto'
import type { DaySchedule } from '@fleam/contract/day-schedule'
import { readSettings } from '@fleam/contract/kitchen'
import { startOfDay } from '@fleam/core/quantities/house-day'
import ical, { ICalCalendarMethod } from 'ical-generator'
import type { Database } from '../../db/database.ts'
import { type SignedIn, tokenHash } from '../../http/access.ts'
import { found } from '../../http/changes.ts'
import { schedulesToCome } from './schedule-day.ts'

const minutesOfDay = 24 * 60
const msOfMinute = 60_000

/** A moment of a schedule, where the kitchen stands. */
export function momentOf(startsOn: string, timeZone: string, minute: number): Date {
  const days = Math.floor(minute / minutesOfDay)
  return new Date(startOfDay(startsOn, timeZone, days).getTime() + (minute - days * minutesOfDay) * msOfMinute)
}

/** What each person of schedules has to do, as iCalendar: hands only, with what waits in the words. */
export function calendarText(name: string, timeZone: string, parts: readonly { schedule: DaySchedule; who: string }[]): string {
  const calendar = ical({ name, prodId: { company: 'Fleam', product: 'Day', language: 'EN' }, method: ICalCalendarMethod.PUBLISH })
  for (const { schedule, who } of parts) {
    const at = (minute: number) => momentOf(schedule.startsOn, timeZone, minute)
    for (const { id, name: summary, detail, from, handsUntil, until, place, pullAtC, who: whose } of schedule.jobs) {
      if (whose !== who) continue
      const waits = until > handsUntil ? `Then waits until ${clockText(until)}.` : ''
      const pull = pullAtC === null ? '' : `Take it out at ${pullAtC} °C in the core: it rises at rest. Your food code comes first.`
      calendar.createEvent({
        id: `${schedule.dayId}.${id}`,
        start: at(from),
        end: at(Math.max(handsUntil, from + 1)),
        stamp: new Date(schedule.plannedAt),
        summary,
        description: [detail, waits, pull, schedule.name].filter(Boolean).join('\n'),
        ...(place ? { location: schedule.places.find((one) => one.id === place)?.name ?? '' } : {}),
      })
    }
  }
  return calendar.toString()
}

const clockText = (minute: number) =>
  `${String(Math.floor((minute % minutesOfDay) / 60)).padStart(2, '0')}:${String(minute % 60).padStart(2, '0')}`

/** A new secret address for a person's calendar; the one before opens nothing any more. */
export async function renewCalendar({ records, person }: SignedIn): Promise<string> {
  const token = randomBytes(32).toString('base64url')
  await records.people.update({ calendarHash: tokenHash(token) }, { id: person.id })
  return token
}

export async function dropCalendar({ records, person }: SignedIn): Promise<void> {
  await records.people.update({ calendarHash: null }, { id: person.id })
}

/** The calendar whose secret address that is: what its person has to do on the days to come. */
export async function calendarOfPerson(db: Database, token: string): Promise<string | undefined> {
  const person = await db.acrossKitchens.people.findOne({ where: { calendarHash: tokenHash(token), active: true } })
  if (!person) return undefined
  // who may no longer come in at home has no calendar elsewhere either
  if (person.homeId && (await db.acrossKitchens.people.count({ id: person.homeId, active: true })) === 0) return undefined
  const records = db.of(person.kitchenId)
  const { name, settings } = found(await records.kitchens.findOne())
  const { timeZone } = readSettings(settings)
  const schedules = await schedulesToCome({ records, timeZone })
  return calendarText(
    `${name}: ${person.name}`,
    timeZone,
    schedules.map((schedule) => ({ schedule, who: person.id })),
  )
}
