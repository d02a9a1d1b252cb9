import { TZDate } from '@date-fns/tz'

/**
 * The calendar day, `2026-03-14`, that a moment falls on where the kitchen stands.
 *
 * @param moment what `Date` reads
 * @param timeZone an IANA name, as `Europe/Dublin`
 * @example dayOf('2026-03-14T23:30:00Z', 'Europe/Athens') // '2026-03-15'
 */
export function dayOf(moment: string | number | Date, timeZone: string): string {
  const there = new TZDate(new Date(moment).getTime(), timeZone)
  const two = (figure: number) => String(figure).padStart(2, '0')
  return `${there.getFullYear()}-${two(there.getMonth() + 1)}-${two(there.getDate())}`
}

/**
 * The moment at which a calendar day begins where the kitchen stands; `daysLater` whole days after it, which are not all of
 * 24 hours.
 *
 * @param day `2026-03-14`
 * @param timeZone an IANA name
 * @example startOfDay('2026-03-29', 'Europe/Berlin').toISOString() // '2026-03-28T23:00:00.000Z'
 */
export function startOfDay(day: string, timeZone: string, daysLater = 0): Date {
  const [year = 0, month = 1, date = 1] = day.split('-').map(Number)
  return new Date(new TZDate(year, month - 1, date + daysLater, timeZone).getTime())
}
