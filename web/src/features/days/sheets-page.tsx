import type { DayJobEntry, DaySchedule } from '@fleam/contract/day-schedule'
import { useQuery } from '@tanstack/react-query'
import Button from 'react-bootstrap/Button'
import Table from 'react-bootstrap/Table'
import { Link, useParams } from 'react-router'
import { ProblemFailure } from '../../api/http.ts'
import { dayQuery, scheduleQuery } from '../../api/queries.ts'
import { dayText } from '../../ui/days.ts'
import { Caution, Empty, Failed, Loading } from '../../ui/notes.tsx'
import { DayTabs } from './day-tabs.tsx'
import { hourText, whenText } from './schedule-words.ts'
import './days.scss'

/** One sheet for each person and one for each place, to print and to hang up. */
export function Page() {
  const { id = '' } = useParams()
  const { data, error, refetch } = useQuery(scheduleQuery(id))
  const day = useQuery(dayQuery(id))
  // without a schedule there is still the day
  const isNone = error instanceof ProblemFailure && error.kind === 'not-found' && !day.error
  return (
    <main className="page">
      <DayTabs id={id} />
      <section className="sheet no-print">
        <header className="result-head">
          <h1>Sheets</h1>
          {data && (
            <span className="actions">
              <Button variant="act" onClick={() => print()}>
                Print them all
              </Button>
            </span>
          )}
        </header>
        <p>
          One sheet for each person and one for each place. A calendar file takes a person’s hours into any calendar; the address that stays
          up to date is under <Link to="/account">your account</Link>.
        </p>
        {!data && !error && <Loading what="the schedule" />}
        {error && !data && !isNone && <Failed error={day.error ?? error} retry={refetch} />}
        {isNone && (
          <Empty title="Nothing is scheduled yet.">
            <Link to={`/days/${id}/schedule`}>Plan when it starts</Link>
          </Empty>
        )}
      </section>
      {data?.people.map(({ who, name }) => (
        <JobSheet key={who} schedule={data} title={name} jobs={data.jobs.filter((job) => job.who === who && job.handsUntil > job.from)}>
          <a className="no-print" href={`/api/v1/days/${id}/schedule.ics?who=${encodeURIComponent(who)}`}>
            Calendar file of {name}
          </a>
        </JobSheet>
      ))}
      {data?.places.map(({ id: place, name }) => (
        <JobSheet key={place} schedule={data} title={name} jobs={data.jobs.filter((job) => job.place === place)} isPlace />
      ))}
    </main>
  )
}

interface JobSheetProps {
  schedule: DaySchedule
  title: string
  jobs: readonly DayJobEntry[]
  isPlace?: boolean
  children?: React.ReactNode
}

function JobSheet({ schedule, title, jobs, isPlace = false, children }: JobSheetProps) {
  const { startsOn, people, places, name, date } = schedule
  if (jobs.length === 0) return null
  const nameOf = (job: DayJobEntry) =>
    isPlace ? people.find(({ who }) => who === job.who)?.name : places.find(({ id }) => id === job.place)?.name
  return (
    <section className="sheet job-sheet">
      <header className="result-head">
        <div>
          <h2>{title}</h2>
          <p className="under-title">
            {name}, {dayText(date)}
          </p>
        </div>
        {children}
      </header>
      <div className="table-scroll">
        <Table className="figures">
          <thead>
            <tr>
              <th scope="col">When</th>
              <th scope="col" className="words">
                What
              </th>
              <th scope="col" className="words">
                {isPlace ? 'Who' : 'Where'}
              </th>
              <th scope="col">Waits until</th>
              <th scope="col">Out at</th>
              <th scope="col">✓</th>
            </tr>
          </thead>
          <tbody>
            {[...jobs]
              .sort((a, b) => a.from - b.from)
              .map((job) => (
                <tr key={job.id}>
                  <th scope="row">
                    {whenText(startsOn, job.from)}–{hourText(job.handsUntil)}
                  </th>
                  <td className="words">
                    <b>{job.name}</b> {job.detail}
                    {job.isRaw && <small> raw poultry: clean down before anything else</small>}
                  </td>
                  <td className="words">{nameOf(job) ?? '–'}</td>
                  <td>{job.until > job.handsUntil ? whenText(startsOn, job.until) : '–'}</td>
                  <td>{job.pullAtC === null ? '–' : `${job.pullAtC} °C`}</td>
                  <td>{job.state === 'done' ? '✓' : ''}</td>
                </tr>
              ))}
          </tbody>
        </Table>
      </div>
      <Caution>Knives and raw poultry as always; temperatures are this house’s own, and local food code comes first.</Caution>
    </section>
  )
}
