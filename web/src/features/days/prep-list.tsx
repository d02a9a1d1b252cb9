import type { DayJobEntry, DaySchedule } from '@fleam/contract/day-schedule'
import { useQuery } from '@tanstack/react-query'
import { useEffect, useState } from 'react'
import { Link } from 'react-router'
import { schedulesQuery, useSession } from '../../api/queries.ts'
import { minutesSince } from '../../ui/days.ts'
import { Choice } from '../../ui/fields.tsx'
import { Warning } from '../../ui/notes.tsx'
import { useRemembered } from '../../ui/remembered.ts'
import { behind, hourText, lengthText, whenText } from './schedule-words.ts'
import { TickButtons } from './tick-buttons.tsx'
import './days.scss'

const beatMs = 20_000
const mostShown = 5

/** What is to be done now of the days under way: under way, next, by whom. Nothing where no day is scheduled. */
export function PrepLists() {
  const { data } = useQuery({ ...schedulesQuery, refetchInterval: beatMs })
  return data?.map((schedule) => <PrepList key={schedule.dayId} schedule={schedule} />)
}

/** The minute of a schedule that it is now, a new one every little while. */
export function useMinute(startsOn: string): number {
  const [, setBeat] = useState(0)
  useEffect(() => {
    const timer = setInterval(() => setBeat((beat) => beat + 1), beatMs)
    return () => clearInterval(timer)
  }, [])
  return minutesSince(startsOn)
}

function PrepList({ schedule }: { schedule: DaySchedule }) {
  const me = useSession()?.person.id
  const [whose, setWhose] = useRemembered<'mine' | 'all'>('fleam.prep-list', 'all')
  const now = useMinute(schedule.startsOn)
  const isMine = schedule.people.some(({ who }) => who === me)
  const own = schedule.jobs
    .filter(({ who }) => whose === 'all' || !isMine || who === me)
    .filter(({ from, handsUntil, until }) => handsUntil > from || until > from)
    .sort((a, b) => a.from - b.from)
  const underWay = own.filter(({ state }) => state === 'started')
  const next = own.filter(({ state }) => state === 'open').slice(0, mostShown)
  const done = own.filter(({ state }) => state === 'done').length
  const late = behind(schedule, now)
  const [worst] = late
  return (
    <section className="sheet">
      <header className="result-head">
        <h2>To do for {schedule.name}</h2>
        {isMine && (
          <Choice
            label="Whose"
            value={whose}
            onChange={setWhose}
            options={[
              { value: 'mine', label: 'Mine' },
              { value: 'all', label: 'Everybody’s' },
            ]}
          />
        )}
      </header>
      {worst && (
        <Warning>
          {lengthText(worst.minutes)} behind: {worst.job.name.toLowerCase()}{' '}
          {worst.job.state === 'open' ? 'should have begun' : 'should be over'}
          {late.length > 1 && `, and ${late.length - 1} more`}.{' '}
          <Link to={`/days/${schedule.dayId}/schedule`}>Plan the rest again from now</Link>
        </Warning>
      )}
      {underWay.length > 0 && <PrepLines title="Under way" jobs={underWay} schedule={schedule} now={now} />}
      {next.length > 0 && <PrepLines title="Next" jobs={next} schedule={schedule} now={now} />}
      {next.length === 0 && underWay.length === 0 && <p className="good">Everything is done.</p>}
      <p>
        <Link to={`/days/${schedule.dayId}/schedule`}>The whole schedule</Link> · {done} of {own.length} done
      </p>
    </section>
  )
}

interface PrepLinesProps {
  title: string
  jobs: readonly DayJobEntry[]
  schedule: DaySchedule
  now: number
}

function PrepLines({ title, jobs, schedule, now }: PrepLinesProps) {
  return (
    <>
      <h3>{title}</h3>
      <ul className="plain-list prep-list">
        {jobs.map((job) => (
          <li key={job.id}>
            <span>
              <strong>{job.name}</strong> {job.detail}
              <small className={job.state === 'open' && job.from < now - 5 ? 'hot' : ''}>
                {whenText(schedule.startsOn, job.from)} · {schedule.people.find(({ who }) => who === job.who)?.name}
                {job.place && ` · ${schedule.places.find(({ id }) => id === job.place)?.name}`}
                {job.state === 'started' && job.until > job.handsUntil && ` · waits until ${hourText(job.until)}`}
                {job.pullAtC !== null && ` · out at ${job.pullAtC} °C`}
              </small>
            </span>
            <TickButtons dayId={schedule.dayId} job={job} />
          </li>
        ))}
      </ul>
    </>
  )
}
