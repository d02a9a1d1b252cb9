import { dayOf, startOfDay } from '../src/quantities/house-day.ts'

test('a moment falls on the day of the kitchen, east and west of Greenwich', () => {
  expect(dayOf('2026-03-14T23:30:00Z', 'Europe/Athens')).toBe('2026-03-15')
  expect(dayOf('2026-03-14T02:00:00Z', 'America/Los_Angeles')).toBe('2026-03-13')
  expect(dayOf('2026-12-31T12:00:00Z', 'Pacific/Kiritimati')).toBe('2027-01-01')
})

test('a day begins at the kitchen’s midnight, and lasts 23 or 25 hours when the clocks change', () => {
  expect(startOfDay('2026-03-14', 'America/Los_Angeles').toISOString()).toBe('2026-03-14T07:00:00.000Z')
  const hours = (day: string) => (startOfDay(day, 'Europe/Berlin', 1).getTime() - startOfDay(day, 'Europe/Berlin').getTime()) / 3_600_000
  expect([hours('2026-03-28'), hours('2026-03-29'), hours('2026-10-25')]).toEqual([24, 23, 25])
  expect(startOfDay('2026-12-31', 'UTC', 1).toISOString()).toBe('2027-01-01T00:00:00.000Z')
})

test.each(['Europe/Dublin', 'Asia/Kolkata', 'America/St_Johns', 'Australia/Lord_Howe'])(
  'the start of a day is on that day in %s',
  (zone) => {
    for (let date = 1; date <= 28; date += 1) {
      const day = `2026-10-${String(date).padStart(2, '0')}`
      const start = startOfDay(day, zone).getTime()
      expect([dayOf(start, zone), dayOf(start - 1, zone) < day]).toEqual([day, true])
    }
  },
)
