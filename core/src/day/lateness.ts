import { type Job, type Schedule, type ScheduleInput, usedMost } from './schedule.ts'

/** What a late job waited for. Minutes are those of the schedule. */
export type Cause =
  /** No place of the kind had room. */
  | { kind: 'place'; place: string; short: number; from: number; to: number }
  /** Nobody who can was free. */
  | { kind: 'person'; skill: string | null; from: number; to: number }
  /** Something comes only then. */
  | { kind: 'comes'; job: string; at: number }
  /** Something was put there by hand. */
  | { kind: 'held'; job: string; at: number }
  /** Its own steps take longer than there is time. */
  | { kind: 'long'; job: string }

export interface Lateness {
  id: string
  minutes: number
  why: Cause
}

/**
 * Why each late job is late: back along what it waited for, to the first thing that is not a job before it.
 */
export function whyLate(input: ScheduleInput, { jobs: scheduled, late }: Schedule): Lateness[] {
  const jobs = new Map(input.jobs.map((job) => [job.id, job]))
  const placed = new Map(scheduled.map((job) => [job.id, job]))
  const readyOf = ({ earliest = 0, after = [] }: Job) => Math.max(earliest, ...after.map((id) => placed.get(id)?.until ?? 0))

  function causeOf(id: string): Cause {
    const job = jobs.get(id)
    const at = placed.get(id)
    if (!job || !at) return { kind: 'long', job: id }
    if (job.heldAt !== undefined) return { kind: 'held', job: id, at: job.heldAt }
    const ready = readyOf(job)
    if (at.from > ready) {
      const blocked = placeCause(job, ready, at.from) ?? personCause(job, ready, at.from)
      if (blocked) return blocked
    }
    const before = (job.after ?? []).find((other) => placed.get(other)?.until === ready)
    if (before !== undefined && ready > (job.earliest ?? 0)) return causeOf(before)
    return (job.earliest ?? 0) > 0 ? { kind: 'comes', job: id, at: job.earliest ?? 0 } : { kind: 'long', job: id }
  }

  function placeCause(job: Job, ready: number, start: number): Cause | undefined {
    if (!job.place) return undefined
    const { kind, room, during } = job.place
    const waits = during === 'hands' ? 0 : (job.waitMinutes ?? 0)
    const [from, to] = [
      ready + (during === 'wait' ? job.handsMinutes : 0),
      ready + (during === 'wait' ? job.handsMinutes : 0) + (during === 'wait' ? 0 : job.handsMinutes) + waits,
    ]
    const free = input.places
      .filter((place) => place.kind === kind)
      .map((place) => {
        const used = usedMost(busyIn(place.id, job.id), from, to)
        return place.isSingle && used > 0 ? 0 : place.room - used
      })
    const most = Math.max(0, ...free)
    return most >= room ? undefined : { kind: 'place', place: kind, short: room - most, from: ready, to: start }
  }

  function busyIn(place: string, but: string) {
    return scheduled.flatMap((one) => {
      const theirs = jobs.get(one.id)?.place
      if (one.place !== place || one.id === but || !theirs) return []
      const from = theirs.during === 'wait' ? one.handsUntil : one.from
      return [{ from, to: theirs.during === 'hands' ? one.handsUntil : one.until, room: theirs.room }]
    })
  }

  function personCause({ skill, heldBy, handsMinutes }: Job, ready: number, start: number): Cause | undefined {
    const able = input.people.filter((person) =>
      heldBy === undefined ? skill === undefined || person.skills?.includes(skill) : person.id === heldBy,
    )
    const isFree = able.some(
      (shift) =>
        shift.from <= ready &&
        ready + handsMinutes <= shift.to &&
        !scheduled.some((one) => one.person === shift.id && one.from < ready + handsMinutes && one.handsUntil > ready),
    )
    return isFree ? undefined : { kind: 'person', skill: skill ?? null, from: ready, to: start }
  }

  return late.map(({ id, minutes }) => ({ id, minutes, why: causeOf(id) }))
}
