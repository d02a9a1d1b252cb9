import { dayOf, startOfDay } from '@fleam/core/quantities/house-day'

interface Place {
  locale: string
  timeZone: string
}

const isWithoutHour = /^\d{4}-\d{2}-\d{2}$/

function formatsOf({ locale, timeZone }: Place) {
  const inZone = (options: Intl.DateTimeFormatOptions) => new Intl.DateTimeFormat(locale, { timeZone, ...options })
  const date = { day: 'numeric', month: 'short', year: 'numeric' } as const
  const hour = { hour: '2-digit', minute: '2-digit' } as const
  return {
    timeZone,
    day: inZone(date),
    calendarDay: new Intl.DateTimeFormat(locale, { timeZone: 'UTC', ...date }),
    weekday: new Intl.DateTimeFormat(locale, { timeZone: 'UTC', weekday: 'short' }),
    moment: inZone({ day: 'numeric', month: 'short', ...hour }),
    time: inZone(hour),
    decimalSign: new Intl.NumberFormat(locale).formatToParts(0.5).find(({ type }) => type === 'decimal')?.value === ',' ? ',' : '.',
  }
}

let formats = formatsOf({ locale: 'en-GB', timeZone: 'UTC' })

/** Days, hours and numbers are those of the kitchen that is signed in, wherever the tablet stands. */
export function standIn(place: Place): void {
  formats = formatsOf(place)
}

/** A moment's day where the kitchen stands, or a calendar day, which is the same everywhere. */
export const dayText = (stamp: string) => (isWithoutHour.test(stamp) ? formats.calendarDay : formats.day).format(new Date(stamp))
/** `Sat` of a calendar day. */
export const weekdayText = (day: string) => formats.weekday.format(new Date(day))
export const momentText = (stamp: string) => formats.moment.format(new Date(stamp))
export const timeText = (stamp: string) => formats.time.format(new Date(stamp))

/** The sign before the decimals where the kitchen stands. */
export const decimalSign = () => formats.decimalSign

const hourOfDay = /^([01]?\d|2[0-3])[:.]?([0-5]\d)$/

/** The moment of an hour such as `09:30` on a calendar day where the kitchen stands; empty where either cannot be read. */
export function momentAt(day: string, hour: string): string {
  const [, hours, minutes] = hourOfDay.exec(hour.trim()) ?? []
  if (hours === undefined || !isWithoutHour.test(day)) return ''
  return new Date(startOfDay(day, formats.timeZone).getTime() + (Number(hours) * 60 + Number(minutes)) * 60_000).toISOString()
}

/** Today's calendar day where the kitchen stands, as `2026-03-14`, or one some days later. */
export const today = (daysLater = 0) => dayOf(Date.now() + daysLater * 86_400_000, formats.timeZone)

/** Minutes that have gone by since a calendar day began where the kitchen stands. */
export function minutesSince(day: string): number {
  return Math.floor((Date.now() - startOfDay(day, formats.timeZone).getTime()) / 60_000)
}
