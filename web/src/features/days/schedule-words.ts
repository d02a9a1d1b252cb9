import type { DayJobEntry, DaySchedule, LateCause } from '@fleam/contract/day-schedule'
import { daysAfter } from '@fleam/core/walk-in/use-by'
import { weekdayText } from '../../ui/days.ts'

const minutesOfDay = 24 * 60

/** The hour of a minute of a schedule. */
export function hourText(minute: number): string {
  const ofDay = ((minute % minutesOfDay) + minutesOfDay) % minutesOfDay
  return `${String(Math.floor(ofDay / 60)).padStart(2, '0')}:${String(ofDay % 60).padStart(2, '0')}`
}

/** The calendar day of a minute of a schedule. */
export const dayOfMinute = (startsOn: string, minute: number) => daysAfter(startsOn, Math.floor(minute / minutesOfDay))

/** The day and hour of a minute of a schedule. */
export const whenText = (startsOn: string, minute: number) => `${weekdayText(dayOfMinute(startsOn, minute))} ${hourText(minute)}`

export function lengthText(minutes: number): string {
  const [hours, rest] = [Math.floor(minutes / 60), minutes % 60]
  return hours === 0 ? `${rest} min` : rest === 0 ? `${hours} h` : `${hours} h ${rest} min`
}

const roomWords: Record<string, (short: number) => string> = {
  bench: (short) => (short === 1 ? 'one bench' : `${short} benches`),
  pot: (short) => `${short} litres of pot`,
  oven: (short) => (short === 1 ? 'one oven tray' : `${short} oven trays`),
  shelf: (short) => `${short} kg of cold shelf`,
}
const skillWords: Record<string, string> = { cut: 'who cuts', sort: 'who sorts', cook: 'who cooks' }

/** Why something is late, in words. */
export function causeText({ startsOn, jobs }: DaySchedule, cause: LateCause): string {
  const at = (minute: number) => whenText(startsOn, minute)
  const name = (id: string) => jobs.find((job) => job.id === id)?.name ?? 'something before it'
  if (cause.kind === 'place')
    return `${roomWords[cause.place]?.(cause.short) ?? cause.place} short from ${at(cause.from)} to ${hourText(cause.to)}`
  if (cause.kind === 'person')
    return `nobody ${cause.skill === null ? '' : `${skillWords[cause.skill] ?? `who can ${cause.skill}`} `}is free from ${at(cause.from)} to ${hourText(cause.to)}`
  if (cause.kind === 'comes') return `${name(cause.job)} is at ${at(cause.at)} at the earliest`
  if (cause.kind === 'held') return `${name(cause.job)} was put at ${at(cause.at)} by hand`
  return 'its own steps take longer than there is time'
}

/** What should have begun, or be done, and is not: jobs with the minutes that they are behind. */
export function behind({ jobs }: DaySchedule, now: number): { job: DayJobEntry; minutes: number }[] {
  return jobs
    .flatMap((job) => {
      const minutes = job.state === 'open' ? now - job.from : job.state === 'started' ? now - job.until : 0
      return minutes > graceMinutes ? [{ job, minutes }] : []
    })
    .sort((a, b) => b.minutes - a.minutes)
}

/** So late nobody is. */
const graceMinutes = 5
