import { DndContext, type DragEndEvent, PointerSensor, useDraggable, useDroppable, useSensor, useSensors } from '@dnd-kit/core'
import { CSS } from '@dnd-kit/utilities'
import type { DayJobEntry, DaySchedule } from '@fleam/contract/day-schedule'
import { useRef } from 'react'
import Button from 'react-bootstrap/Button'
import { hourText, lengthText } from './schedule-words.ts'

const minutesOfDay = 24 * 60
/** A dragged job starts at a whole multiple of these minutes. */
const snapMinutes = 5
/** The words of a short job need the room of so many minutes. */
const leastWords = 75

interface Bar {
  job: DayJobEntry
  from: number
  to: number
  /** Up to where its words may stand. */
  wordsTo: number
  /** Which of the lane's rows it stands in: what overlaps stands one below the other. */
  row: number
}

interface Lane {
  id: string
  name: string
  detail: string
  bars: Bar[]
  rows: number
  /** Minutes that are neither worked nor free. */
  shifts: { from: number; to: number }[] | null
  cleanDowns: { from: number; until: number }[]
}

interface LanesProps {
  schedule: DaySchedule
  by: 'people' | 'places'
  /** The day that is shown, counted from the first of the schedule. */
  day: number
  now: number
  onOpen: (job: DayJobEntry) => void
  /** Absent for who may not. */
  onMove: ((job: DayJobEntry, at: number, who: string | undefined) => void) | undefined
}

/** A day of a schedule as lanes, one for each person or place, with what each does when. */
export function Lanes({ schedule, by, day, now, onOpen, onMove }: LanesProps) {
  const track = useRef<HTMLDivElement>(null)
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 6 } }))
  const [dayStart, dayEnd] = [day * minutesOfDay, (day + 1) * minutesOfDay]
  const lanes = (by === 'people' ? lanesOfPeople(schedule) : lanesOfPlaces(schedule)).map((lane) => within(lane, dayStart, dayEnd))
  const [from, to] = windowOf(lanes, dayStart, dayEnd)
  const share = (minute: number) => `${((minute - from) / (to - from)) * 100}%`
  const hours = Array.from({ length: Math.floor((to - from) / 60) + 1 }, (_, hour) => from + hour * 60)
  const late = new Set(schedule.late.map(({ id }) => id))

  function drop({ active, delta, over }: DragEndEvent) {
    const job = schedule.jobs.find(({ id }) => id === active.id)
    const width = track.current?.clientWidth ?? 0
    if (!job || width === 0 || !onMove) return
    const moved = (delta.x / width) * (to - from)
    const at = Math.max(0, Math.round((job.from + moved) / snapMinutes) * snapMinutes)
    const who = by === 'people' && over && over.id !== job.who ? String(over.id) : undefined
    if (Math.abs(moved) < snapMinutes / 2 && who === undefined) return
    onMove(job, Math.abs(moved) < snapMinutes / 2 ? job.from : at, who)
  }

  return (
    <DndContext sensors={sensors} onDragEnd={drop}>
      <section className="lanes-scroll" aria-label="The day’s lanes">
        <div className="lanes">
          <div className="lane lane-head" aria-hidden="true">
            <span />
            <div className="lane-track" ref={track}>
              {hours.map((hour) => (
                <span key={hour} className="lane-hour" style={{ left: share(hour) }}>
                  {hourText(hour)}
                </span>
              ))}
            </div>
          </div>
          {lanes.map((lane) => (
            <LaneRow
              key={lane.id}
              lane={lane}
              hours={hours}
              share={share}
              now={now >= from && now <= to ? now : null}
              isDropped={by === 'people'}
            >
              {lane.bars.map((bar) => (
                <JobBar
                  key={bar.job.id}
                  bar={bar}
                  share={share}
                  isLate={late.has(bar.job.id)}
                  onOpen={() => onOpen(bar.job)}
                  canMove={onMove !== undefined && bar.job.state === 'open'}
                />
              ))}
            </LaneRow>
          ))}
        </div>
      </section>
    </DndContext>
  )
}

interface LaneRowProps {
  lane: Lane
  hours: readonly number[]
  share: (minute: number) => string
  now: number | null
  isDropped: boolean
  children: React.ReactNode
}

function LaneRow({ lane, hours, share, now, isDropped, children }: LaneRowProps) {
  const { setNodeRef, isOver } = useDroppable({ id: lane.id, disabled: !isDropped })
  return (
    <div className="lane">
      <div className="lane-name">
        <strong>{lane.name}</strong>
        <small>{lane.detail}</small>
      </div>
      <div ref={setNodeRef} className={isOver ? 'lane-track lane-over' : 'lane-track'} style={{ height: Math.max(1, lane.rows) * 44 + 8 }}>
        {lane.shifts?.map((shift) => (
          <span
            key={shift.from}
            className="lane-shift"
            style={{ left: share(shift.from), width: `calc(${share(shift.to)} - ${share(shift.from)})` }}
          />
        ))}
        {hours.map((hour) => (
          <span key={hour} className="lane-line" style={{ left: share(hour) }} />
        ))}
        {lane.cleanDowns.map(({ from, until }) => (
          <span
            key={from}
            className="lane-clean"
            title={`Clean-down, ${hourText(from)} to ${hourText(until)}`}
            style={{ left: share(from), width: `calc(${share(until)} - ${share(from)})` }}
          />
        ))}
        {now !== null && <span className="lane-now" style={{ left: share(now) }} />}
        {children}
      </div>
    </div>
  )
}

interface JobBarProps {
  bar: Bar
  share: (minute: number) => string
  isLate: boolean
  onOpen: () => void
  canMove: boolean
}

function JobBar({ bar: { job, from, to, wordsTo, row }, share, isLate, onOpen, canMove }: JobBarProps) {
  const { listeners, setNodeRef, transform, isDragging } = useDraggable({ id: job.id, disabled: !canMove })
  const classes = [`job-${job.kind}`, job.state === 'done' && 'job-done', job.state === 'started' && 'job-started']
  return (
    <Button
      bsPrefix="job-bar"
      ref={setNodeRef}
      {...listeners}
      className={[...classes, isLate && 'job-late', job.isHeld && 'job-held', isDragging && 'job-dragged'].filter(Boolean).join(' ')}
      style={{
        ...{ left: share(from), width: `calc(${share(wordsTo)} - ${share(from)})`, top: 4 + row * 44 },
        transform: CSS.Translate.toString(transform),
      }}
      title={`${job.name}, ${job.detail}`}
      aria-label={`${job.name}, ${job.detail}, ${hourText(job.from)} to ${hourText(job.until)}${isLate ? ', late' : ''}${job.isHeld ? ', held' : ''}${job.state === 'open' ? '' : `, ${job.state}`}`}
      onClick={onOpen}
    >
      <span className="job-block" style={{ width: `${((to - from) / Math.max(1, wordsTo - from)) * 100}%` }} />
      <b>{job.name}</b>
      <small>
        {hourText(job.from)} · {job.detail}
      </small>
    </Button>
  )
}

function lanesOfPeople({ people, jobs, cleanDowns }: DaySchedule): Lane[] {
  return people.map(({ who, name, shifts }) => {
    const own = jobs.filter((job) => job.who === who && job.handsUntil > job.from)
    const minutes = own.reduce((sum, { from, handsUntil }) => sum + handsUntil - from, 0)
    return {
      ...{ id: who, name, detail: minutes > 0 ? lengthText(minutes) : 'nothing to do', shifts, rows: 1 },
      bars: own.map((job) => ({ job, from: job.from, to: job.handsUntil, wordsTo: 0, row: 0 })),
      cleanDowns: cleanDowns.slice(0, 0),
    }
  })
}

/** One lane a place, and one for what only waits. */
function lanesOfPlaces({ places, jobs, cleanDowns }: DaySchedule): Lane[] {
  const units: Record<string, string> = { pot: 'litres', oven: 'trays', shelf: 'kg' }
  const own = places.map(
    ({ id, name, kind, room }): Lane => ({
      ...{ id, name, detail: units[kind] ? `${room} ${units[kind]}` : '', shifts: null, rows: 1 },
      bars: jobs.filter((job) => job.place === id).map((job) => ({ job, ...placeSpan(job, kind), wordsTo: 0, row: 0 })),
      cleanDowns: cleanDowns.filter(({ place }) => place === id),
    }),
  )
  const waits = jobs.filter((job) => job.place === null && job.until > job.handsUntil)
  const rest: Lane = {
    ...{ id: 'rests', name: 'At rest', detail: 'no room needed', shifts: null, rows: 1, cleanDowns: [] },
    bars: waits.map((job) => ({ job, from: job.from, to: job.until, wordsTo: 0, row: 0 })),
  }
  return waits.length > 0 ? [...own, rest] : own
}

const placeSpan = ({ from, handsUntil, until }: DayJobEntry, kind: string) =>
  kind === 'bench' ? { from, to: handsUntil } : kind === 'shelf' ? { from: handsUntil, to: until } : { from, to: until }

/** What of a lane falls on a day, with what overlaps one below the other. */
function within(lane: Lane, start: number, end: number): Lane {
  const clip = (one: { from: number; to: number }) => ({ from: Math.max(start, one.from), to: Math.min(end, one.to) })
  const ends: number[] = []
  const bars = lane.bars
    .filter(({ from, to }) => from < end && to > start)
    .sort((a, b) => a.from - b.from)
    .map((bar) => {
      const free = ends.findIndex((until) => until <= bar.from)
      const row = free === -1 ? ends.length : free
      const wordsTo = Math.min(end, Math.max(bar.to, bar.from + leastWords))
      ends[row] = wordsTo
      return { ...bar, ...clip(bar), wordsTo, row }
    })
  return {
    ...lane,
    ...{ bars, rows: ends.length },
    shifts: lane.shifts?.filter(({ from, to }) => from < end && to > start).map(clip) ?? null,
    cleanDowns: lane.cleanDowns.filter(({ from, until }) => from < end && until > start),
  }
}

/** Whole hours around everything that is shown. */
function windowOf(lanes: readonly Lane[], start: number, end: number): [number, number] {
  const spans = lanes.flatMap(({ bars, shifts }) => [...bars, ...(shifts ?? [])])
  if (spans.length === 0) return [start + 6 * 60, start + 18 * 60]
  const from = Math.floor(Math.min(...spans.map((span) => span.from)) / 60) * 60
  return [Math.max(start, from), Math.min(end, Math.max(from + 240, Math.ceil(Math.max(...spans.map((span) => span.to)) / 60) * 60))]
}
