import { InputError } from '../input-error.ts'
import { seededRandom } from '../random/seeded-random.ts'

/** Whole minutes from the start of the horizon. */
type Minute = number

/** A shift of a person; one who has several stands here several times. */
export interface Shift {
  id: string
  from: Minute
  to: Minute
  skills?: readonly string[] | undefined
}

export interface Place {
  id: string
  kind: string
  /** How much it holds: 1 for a bench, litres for a pot, trays for an oven. */
  room: number
  /** It takes one thing at a time, however little that is, as a pot does. */
  isSingle?: boolean | undefined
}

export type Board = 'raw poultry' | 'other'

export interface Job {
  id: string
  handsMinutes: number
  waitMinutes?: number | undefined
  skill?: string | undefined
  place?: { kind: string; room: number; during: 'hands' | 'wait' | 'both' } | undefined
  board?: Board | undefined
  after?: readonly string[] | undefined
  earliest?: Minute | undefined
  due?: Minute | undefined
  /** Where it is to start, decided by hand. */
  heldAt?: Minute | undefined
  /** Who is to do it, decided by hand. */
  heldBy?: string | undefined
  /** Whether it is better late than early, such as what loses by waiting. */
  isLate?: boolean | undefined
}

export interface ScheduleInput {
  people: readonly Shift[]
  places: readonly Place[]
  cleanDownMinutes?: number | undefined
  jobs: readonly Job[]
  seed?: number | undefined
}

export interface ScheduledJob {
  id: string
  person: string
  place: string | null
  from: Minute
  handsUntil: Minute
  until: Minute
}

export interface Schedule {
  jobs: ScheduledJob[]
  late: { id: string; minutes: number }[]
  cleanDowns: { place: string; from: Minute; until: Minute }[]
  overtimeMinutes: number
  /** The longest chain, or the hands-on minutes over the people, whichever is more. */
  lowerBound: number
  /** The last hands-on minute. */
  endsAt: Minute
}

const usualCleanDown = 15
/** Four weeks: a feast is ordered no earlier. */
const mostMinutes = 28 * 24 * 60
const mostJobs = 500
/** How many orders of the jobs are tried, whatever the size: large days have fewer. */
const tries = 60_000
const leastTries = 40
/** A few jobs have few orders. */
const mostTriesOfJob = 20

/**
 * When each job starts, who does it and where: nobody is in two places, no place holds more than it has room for, and a bench that
 * turns from raw poultry to anything else is cleaned down first. Least lateness first, then overtime, then clean-downs, then the
 * earliest end. Serial schedule generation by several rules of priority, made better by a seeded search over the order of the jobs.
 *
 * @throws InputError where a job waits for itself, or nobody and nothing could do it
 */
export function schedule(input: ScheduleInput): Schedule {
  refuseNonsense(input)
  const { jobs } = input
  const builder = builderOf(input)
  let best: Built | undefined
  const tryOrder = (order: readonly number[]): boolean => {
    const built = builder.build(order)
    if (best && !isBetter(built.score, best.score)) return false
    best = built
    return true
  }
  for (const rule of builder.rules) tryOrder(rule)
  const random = seededRandom(input.seed ?? 1)
  let order = best ? [...best.order] : []
  const squared = jobs.length ** 2
  const rounds = jobs.length < 2 ? 0 : Math.min(mostTriesOfJob * squared, Math.max(leastTries, Math.round(tries / squared)))
  for (let round = 0; round < rounds; round += 1) {
    const next = [...order]
    const from = Math.floor(random.next() * next.length)
    const [moved] = next.splice(from, 1) as [number]
    next.splice(Math.floor(random.next() * (next.length + 1)), 0, moved)
    if (tryOrder(next)) order = next
    if (best?.score.every((part, index) => part === builder.ideal[index])) break
  }
  const { placed } = builder.settle(best as Built)
  return builder.answer(placed)
}

/** Late minutes, overtime, clean-downs, last hands-on minute: the first that differs decides. */
type Score = readonly [number, number, number, number]

function isBetter(score: Score, than: Score): boolean {
  for (const [index, part] of score.entries()) {
    const other = than[index] as number
    if (part !== other) return part < other
  }
  return false
}

interface Placed {
  job: number
  person: number
  place: number | null
  from: Minute
  handsUntil: Minute
  until: Minute
  overtime: number
}

interface Built {
  order: readonly number[]
  placed: Placed[]
  score: Score
}

interface Busy {
  from: Minute
  to: Minute
  room: number
  board: Board | undefined
}

function builderOf({ people: shifts, places, cleanDownMinutes = usualCleanDown, jobs }: ScheduleInput) {
  const names = [...new Set(shifts.map(({ id }) => id))]
  const shiftsOf = names.map((name) => shifts.filter(({ id }) => id === name).sort((a, b) => a.from - b.from))
  const skillsOf = shiftsOf.map((own) => new Set(own.flatMap(({ skills = [] }) => skills)))
  const indexOf = new Map(jobs.map(({ id }, index) => [id, index]))
  const before = jobs.map(({ after = [] }) => after.map((id) => indexOf.get(id) as number))
  const behind = jobs.map((): number[] => [])
  for (const [index, list] of before.entries()) for (const other of list) behind[other]?.push(index)
  const length = jobs.map(({ handsMinutes, waitMinutes = 0 }) => handsMinutes + waitMinutes)
  const able = jobs.map(({ skill, heldBy }) =>
    names
      .map((_, index) => index)
      .filter((index) => (heldBy === undefined ? skill === undefined || skillsOf[index]?.has(skill) : names[index] === heldBy))
      // who can do little else comes first, so that the others stay free for what only they can
      .sort((a, b) => (skillsOf[a]?.size ?? 0) - (skillsOf[b]?.size ?? 0) || a - b),
  )
  const fitting = jobs.map(({ place }) =>
    place
      ? places.map((_, index) => index).filter((index) => places[index]?.kind === place.kind && (places[index]?.room ?? 0) >= place.room)
      : [],
  )
  const tail = chainFrom((index) => behind[index] ?? [], length)
  const head = chainFrom((index) => before[index] ?? [], length)
  /** When a job must be over so that all that is due behind it can be in time. */
  const mustEnd = jobs.map(() => Number.POSITIVE_INFINITY)
  const latest = (index: number): number => {
    if (mustEnd[index] !== Number.POSITIVE_INFINITY) return mustEnd[index] as number
    const own = jobs[index]?.due ?? Number.POSITIVE_INFINITY
    const theirs = (behind[index] ?? []).map((next) => latest(next) - (length[next] ?? 0))
    mustEnd[index] = Math.min(own, ...theirs, 1e9)
    return mustEnd[index] as number
  }
  for (const index of jobs.keys()) latest(index)

  const byRule = (key: (index: number) => readonly number[]) =>
    [...jobs.keys()].sort((a, b) => {
      const [first, second] = [key(a), key(b)]
      for (const [at, value] of first.entries()) if (value !== second[at]) return value - (second[at] as number)
      return a - b
    })
  const slack = (index: number) => (mustEnd[index] as number) - (length[index] as number)
  const isRaw = (index: number) => (jobs[index]?.board === 'raw poultry' ? 1 : 0)
  const rules = [
    byRule((index) => [mustEnd[index] as number, isRaw(index)]),
    byRule((index) => [slack(index), isRaw(index)]),
    byRule((index) => [-(tail[index] as number)]),
    byRule((index) => [isRaw(index), slack(index)]),
    byRule((index) => [1 - isRaw(index), slack(index)]),
    byRule((index) => [jobs[index]?.earliest ?? 0, slack(index)]),
    byRule((index) => [-(jobs[index]?.handsMinutes ?? 0)]),
  ]

  function build(order: readonly number[]): Built {
    const busyPeople = names.map((): Busy[] => [])
    const busyPlaces = places.map((): Busy[] => [])
    const placed: (Placed | undefined)[] = jobs.map(() => undefined)
    // held ones stand first: all others are planned around them
    const rest = [
      ...order.filter((index) => jobs[index]?.heldAt !== undefined),
      ...order.filter((index) => jobs[index]?.heldAt === undefined),
    ]
    while (rest.length > 0) {
      const next = rest.findIndex((index) =>
        before[index]?.every((other) => placed[other] !== undefined || jobs[index]?.heldAt !== undefined),
      )
      const [index] = rest.splice(Math.max(0, next), 1) as [number]
      placed[index] = put(index, placed, busyPeople, busyPlaces)
    }
    const all = placed as Placed[]
    return { order, placed: all, score: scoreOf(all) }
  }

  function put(index: number, placed: readonly (Placed | undefined)[], busyPeople: Busy[][], busyPlaces: Busy[][]): Placed {
    const job = jobs[index] as Job
    const ready = Math.max(job.earliest ?? 0, ...(before[index] ?? []).map((other) => placed[other]?.until ?? 0))
    const start = job.heldAt ?? ready
    const made = earliestFor(index, start, busyPeople, busyPlaces)
    busyPeople[made.person]?.push({ from: made.from, to: made.handsUntil, room: 1, board: undefined })
    if (made.place !== null) {
      const [from, to] = inPlace(job, made.from)
      busyPlaces[made.place]?.push({ from, to, room: job.place?.room ?? 0, board: job.board })
    }
    return made
  }

  /** The first start from `start` on at which somebody is free for its hands and a place has room for it. */
  function earliestFor(index: number, start: Minute, busyPeople: readonly Busy[][], busyPlaces: readonly Busy[][]): Placed {
    const job = jobs[index] as Job
    const candidates = new Set([start])
    const offset = job.place?.during === 'wait' ? job.handsMinutes : 0
    for (const person of able[index] ?? []) {
      for (const { to } of busyPeople[person] ?? []) if (to > start) candidates.add(to)
      for (const { from, to } of shiftsOf[person] ?? []) {
        if (from > start) candidates.add(from)
        // what fits in no shift is overtime behind one
        candidates.add(Math.max(start, to - job.handsMinutes))
        candidates.add(Math.max(start, to))
      }
    }
    for (const place of fitting[index] ?? []) {
      for (const { to } of busyPlaces[place] ?? []) {
        for (const at of [to - offset, to - offset + cleanDownMinutes]) if (at > start) candidates.add(at)
      }
    }
    const sorted = job.heldAt === undefined ? [...candidates].sort((a, b) => a - b) : [start]
    for (const mayBeOvertime of [false, true]) {
      for (const from of sorted) {
        const place = job.place ? (fitting[index] ?? []).find((one) => hasRoom(job, one, from, busyPlaces)) : null
        if (place === undefined) continue
        const person = (able[index] ?? []).find((one) => isFree(one, from, job.handsMinutes, busyPeople, mayBeOvertime))
        if (person === undefined) continue
        const handsUntil = from + job.handsMinutes
        return {
          job: index,
          person,
          place,
          from,
          handsUntil,
          until: handsUntil + (job.waitMinutes ?? 0),
          overtime: overtimeOf(person, from, handsUntil),
        }
      }
    }
    // held where it cannot be: it stays there, and shows as it stands
    const person = able[index]?.[0] ?? 0
    const handsUntil = start + job.handsMinutes
    return {
      job: index,
      person,
      place: fitting[index]?.[0] ?? null,
      from: start,
      handsUntil,
      until: handsUntil + (job.waitMinutes ?? 0),
      overtime: overtimeOf(person, start, handsUntil),
    }
  }

  function isFree(person: number, from: Minute, minutes: number, busyPeople: readonly Busy[][], mayBeOvertime: boolean): boolean {
    if (minutes === 0) return true
    const to = from + minutes
    if (busyPeople[person]?.some((busy) => busy.from < to && busy.to > from)) return false
    return mayBeOvertime || (shiftsOf[person] ?? []).some((shift) => shift.from <= from && to <= shift.to)
  }

  function overtimeOf(person: number, from: Minute, to: Minute): number {
    const inside = (shiftsOf[person] ?? []).reduce(
      (sum, shift) => sum + Math.max(0, Math.min(to, shift.to) - Math.max(from, shift.from)),
      0,
    )
    return Math.max(0, to - from - inside)
  }

  function hasRoom(job: Job, place: number, start: Minute, busyPlaces: readonly Busy[][]): boolean {
    const [from, to] = inPlace(job, start)
    const { room = 0, isSingle = false } = places[place] ?? {}
    const busy = busyPlaces[place] ?? []
    const used = usedMost(busy, from, to)
    if (used + (job.place?.room ?? 0) > room || (isSingle && used > 0)) return false
    if (job.board === undefined) return true
    let previous: Busy | undefined
    let following: Busy | undefined
    for (const one of busy) {
      if (one.board === undefined) continue
      if (one.from < to && one.to > from) {
        if (one.board !== job.board) return false
        continue
      }
      if (one.to <= from && (!previous || one.to > previous.to)) previous = one
      if (one.from >= to && (!following || one.from < following.from)) following = one
    }
    if (job.board === 'other' && previous?.board === 'raw poultry' && from - previous.to < cleanDownMinutes) return false
    return !(job.board === 'raw poultry' && following?.board === 'other' && following.from - to < cleanDownMinutes)
  }

  function scoreOf(placed: readonly Placed[]): Score {
    let late = 0
    let overtime = 0
    let end = 0
    for (const one of placed) {
      late += Math.max(0, one.until - (jobs[one.job]?.due ?? Number.POSITIVE_INFINITY))
      overtime += one.overtime
      end = Math.max(end, one.handsUntil)
    }
    return [late, overtime, cleanDownsOf(placed).length, end]
  }

  function cleanDownsOf(placed: readonly Placed[]): Schedule['cleanDowns'] {
    return places.flatMap((place, at) => {
      const onBoard = placed
        .filter((one) => one.place === at && jobs[one.job]?.board !== undefined)
        .map((one) => ({ board: jobs[one.job]?.board, range: inPlace(jobs[one.job] as Job, one.from) }))
        .sort((a, b) => a.range[0] - b.range[0])
      return onBoard.flatMap(({ board, range: [, until] }, index) => {
        const next = onBoard[index + 1]
        if (board !== 'raw poultry' || next?.board !== 'other') return []
        return [{ place: place.id, from: until, until: until + cleanDownMinutes }]
      })
    })
  }

  /** Moves what is better late as late as it can be, by whoever is free then, and nothing else. */
  function settle({ order, placed, score }: Built): Built {
    const moved = placed.map((one) => ({ ...one }))
    const late = moved.filter(({ job }) => jobs[job]?.isLate && jobs[job]?.heldAt === undefined).sort((a, b) => b.until - a.until)
    for (const one of late) {
      const job = jobs[one.job] as Job
      const others = moved.filter((other) => other !== one)
      const busyPeople = names.map((_, person) =>
        others
          .filter((other) => other.person === person)
          .map(({ from, handsUntil }) => ({ from, to: handsUntil, room: 1, board: undefined })),
      )
      const busyPlaces = places.map((_, at) =>
        others
          .filter((other) => other.place === at)
          .map((other) => {
            const theirs = jobs[other.job] as Job
            const [from, to] = inPlace(theirs, other.from)
            return { from, to, room: theirs.place?.room ?? 0, board: theirs.board }
          }),
      )
      const nexts = (behind[one.job] ?? []).map((next) => moved[next]?.from ?? Number.POSITIVE_INFINITY)
      const last = Math.min(job.due ?? Number.POSITIVE_INFINITY, ...nexts) - (length[one.job] ?? 0)
      if (!Number.isFinite(last)) continue
      for (const from of latestStarts(one.job, last, one.from, busyPeople, busyPlaces)) {
        const people = [one.person, ...(able[one.job] ?? [])]
        const person = people.find((who) => isFree(who, from, job.handsMinutes, busyPeople, false))
        const place = job.place ? (fitting[one.job] ?? []).find((at) => hasRoom(job, at, from, busyPlaces)) : null
        if (person === undefined || place === undefined) continue
        Object.assign(one, {
          ...{ person, place, from, handsUntil: from + job.handsMinutes, until: from + (length[one.job] ?? 0), overtime: 0 },
        })
        break
      }
    }
    const settled = scoreOf(moved)
    // later is no use where it costs a clean-down or an hour
    const isWorse = settled[0] > score[0] || settled[1] > score[1] || settled[2] > score[2]
    return isWorse ? { order, placed, score } : { order, placed: moved, score: settled }
  }

  /** Where a job could start so late that a minute more would meet something: the latest first, none before it starts now. */
  function latestStarts(index: number, last: Minute, now: Minute, busyPeople: readonly Busy[][], busyPlaces: readonly Busy[][]): Minute[] {
    const { handsMinutes, place } = jobs[index] as Job
    const starts = new Set([last])
    for (const person of able[index] ?? []) {
      for (const { from } of busyPeople[person] ?? []) starts.add(from - handsMinutes)
      for (const { to } of shiftsOf[person] ?? []) starts.add(to - handsMinutes)
    }
    const inside = place === undefined ? 0 : inPlace(jobs[index] as Job, 0)[1]
    for (const at of fitting[index] ?? []) {
      for (const { from } of busyPlaces[at] ?? []) {
        starts.add(from - inside)
        starts.add(from - inside - cleanDownMinutes)
      }
    }
    return [...starts].filter((start) => start > now && start <= last).sort((a, b) => b - a)
  }

  const hands = jobs.reduce((sum, { handsMinutes }) => sum + handsMinutes, 0)
  const chain = Math.max(0, ...jobs.map((job, index) => Math.max(head[index] as number, (job.earliest ?? 0) + (length[index] as number))))
  const lowerBound = Math.max(chain, Math.ceil(hands / Math.max(1, names.length)))
  return {
    rules,
    build,
    settle,
    /** What cannot be bettered. */
    ideal: [0, 0, 0, lowerBound] as Score,
    answer(placed: readonly Placed[]): Schedule {
      const late = placed.flatMap(({ job, until }) => {
        const minutes = until - (jobs[job]?.due ?? Number.POSITIVE_INFINITY)
        return minutes > 0 ? [{ id: jobs[job]?.id ?? '', minutes }] : []
      })
      return {
        jobs: placed.map(({ job, person, place, from, handsUntil, until }) => ({
          id: jobs[job]?.id ?? '',
          person: names[person] ?? '',
          place: place === null ? null : (places[place]?.id ?? null),
          from,
          handsUntil,
          until,
        })),
        late,
        cleanDowns: cleanDownsOf(placed),
        overtimeMinutes: placed.reduce((sum, { overtime }) => sum + overtime, 0),
        lowerBound,
        endsAt: Math.max(0, ...placed.map(({ handsUntil }) => handsUntil)),
      }
    },
  }
}

/** The most that is used of a place at any minute between two.
 * @example usedMost([{ from: 0, to: 10, room: 2 }, { from: 5, to: 9, room: 1 }], 4, 6) === 3
 */
export function usedMost(busy: readonly Pick<Busy, 'from' | 'to' | 'room'>[], from: Minute, to: Minute): number {
  let most = 0
  const within = busy.filter((one) => one.from < to && one.to > from)
  for (const { from: at } of [{ from }, ...within]) {
    const then = Math.max(at, from)
    most = Math.max(
      most,
      within.reduce((sum, one) => (one.from <= then && one.to > then ? sum + one.room : sum), 0),
    )
  }
  return most
}

/** The minutes during which a job that starts then is in its place. */
function inPlace({ handsMinutes, waitMinutes = 0, place }: Job, start: Minute): [Minute, Minute] {
  const hands = start + handsMinutes
  if (place?.during === 'wait') return [hands, hands + waitMinutes]
  return [start, place?.during === 'both' ? hands + waitMinutes : hands]
}

/** The longest chain of jobs that begins, or ends, with each. */
function chainFrom(nextOf: (index: number) => readonly number[], length: readonly number[]): number[] {
  const known: (number | undefined)[] = []
  const from = (index: number): number => {
    const there = known[index]
    if (there !== undefined) return there
    const chain = (length[index] ?? 0) + Math.max(0, ...nextOf(index).map(from))
    known[index] = chain
    return chain
  }
  return length.map((_, index) => from(index))
}

function refuseNonsense({ people, places, jobs }: ScheduleInput): void {
  const refuse = (field: string, message: string): never => {
    throw new InputError(field, message)
  }
  if (jobs.length > mostJobs) refuse('jobs', `The day has ${jobs.length} jobs: plan at most ${mostJobs} at once.`)
  if (people.length === 0 && jobs.length > 0) refuse('people', 'Nobody works that day: say who does.')
  for (const [index, { id, from, to }] of people.entries()) {
    if (to <= from) refuse(`people.${index}.to`, `${id} has no minute: the shift ends before it begins.`)
    if (to > mostMinutes) refuse(`people.${index}.to`, 'Plan at most four weeks at once.')
  }
  const ids = new Set(jobs.map(({ id }) => id))
  if (ids.size !== jobs.length) refuse('jobs', 'Two jobs have the same id.')
  for (const [index, { id, after = [], skill, heldBy, place, earliest = 0, due = 0, heldAt = 0 }] of jobs.entries()) {
    if (heldBy !== undefined && !people.some((person) => person.id === heldBy))
      refuse(`jobs.${index}.heldBy`, `“${id}” is kept for ${heldBy}, who does not work that day.`)
    const strange = after.find((other) => !ids.has(other))
    if (strange !== undefined) refuse(`jobs.${index}.after`, `“${id}” waits for “${strange}”, which is not there.`)
    if (skill !== undefined && !people.some(({ skills = [] }) => skills.includes(skill)))
      refuse(`jobs.${index}.skill`, `“${id}” needs somebody who can do ${skill}, and nobody can.`)
    if (place && !places.some(({ kind, room }) => kind === place.kind && room >= place.room))
      refuse(`jobs.${index}.place`, `“${id}” needs room for ${place.room} in one ${place.kind}, and there is none so large.`)
    if (Math.max(earliest, due, heldAt) > mostMinutes) refuse(`jobs.${index}`, 'Plan at most four weeks at once.')
  }
  refuseCircle(jobs, refuse)
}

function refuseCircle(jobs: readonly Job[], refuse: (field: string, message: string) => never): void {
  const state = new Map<string, 'open' | 'done'>()
  const byId = new Map(jobs.map((job) => [job.id, job]))
  const visit = (id: string): void => {
    if (state.get(id) === 'done') return
    if (state.get(id) === 'open') refuse('jobs', `“${id}” waits for itself, by way of others.`)
    state.set(id, 'open')
    for (const other of byId.get(id)?.after ?? []) visit(other)
    state.set(id, 'done')
  }
  for (const { id } of jobs) visit(id)
}
