import type { DayJobEntry, DaySchedule } from '@fleam/contract/day-schedule'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import Button from 'react-bootstrap/Button'
import Spinner from 'react-bootstrap/Spinner'
import Table from 'react-bootstrap/Table'
import { Link, useParams } from 'react-router'
import { ProblemFailure } from '../../api/http.ts'
import { dayQuery, scheduleQuery, useHasRole } from '../../api/queries.ts'
import { counted } from '../../ui/counted.ts'
import { dayText, momentText } from '../../ui/days.ts'
import { Choice } from '../../ui/fields.tsx'
import { Caution, Empty, Failed, Loading, Warning, Word } from '../../ui/notes.tsx'
import { useRemembered } from '../../ui/remembered.ts'
import { useUnits } from '../../ui/units.ts'
import { DayTabs } from './day-tabs.tsx'
import { JobPanel } from './job-panel.tsx'
import { Lanes } from './lanes.tsx'
import { useMinute } from './prep-list.tsx'
import { behind, causeText, dayOfMinute, hourText, lengthText, whenText } from './schedule-words.ts'
import { useScheduling } from './use-schedule.ts'
import './days.scss'

const beatMs = 30_000

/** When each thing of a day starts, who does it and where. */
export function Page() {
  const { id = '' } = useParams()
  const day = useQuery(dayQuery(id))
  const isLead = useHasRole('lead')
  const { data, error, refetch } = useQuery({
    ...scheduleQuery(id),
    refetchInterval: beatMs,
    retry: (count, failed) => !isMissing(failed) && count < 2,
  })
  const { plan, hold, busy, trouble } = useScheduling(id)
  const [openId, setOpenId] = useState<string>()
  const open = data?.jobs.find((job) => job.id === openId)
  const isNone = error !== null && isMissing(error) && !data && !day.error
  return (
    <main className="page">
      <DayTabs id={id} />
      <section className="sheet stack">
        <header className="result-head">
          <div>
            <h1>When it starts</h1>
            <p className="under-title">{day.data && `${day.data.name}, ${dayText(day.data.date)}`}</p>
          </div>
          {isLead && data && (
            <span className="actions no-print">
              <Button variant="plain" disabled={busy} onClick={() => plan('plan')}>
                Plan it anew
              </Button>
              <Button variant="act" disabled={busy} onClick={() => plan('now')}>
                Plan the rest from now
              </Button>
            </span>
          )}
        </header>
        {busy && (
          <div className="loading" role="status">
            <Spinner animation="border" size="sm" aria-hidden="true" /> Planning: who does what, where, and when …
          </div>
        )}
        {trouble && <Warning>{trouble}</Warning>}
        {isNone && <NotYet id={id} canPlan={isLead} busy={busy} onPlan={() => plan('plan')} />}
        {!data && !error && <Loading what="the schedule" />}
        {error && !isNone && !data && <Failed error={day.error ?? error} retry={refetch} />}
        {data && (
          <Shown
            schedule={data}
            onOpen={({ id: job }) => setOpenId(job)}
            onMove={isLead ? (job, at, who) => hold(data, job.id, { at, ...(who === undefined ? {} : { who }) }) : undefined}
          />
        )}
      </section>
      {data && open && (
        <JobPanel
          key={`${open.id} ${open.from} ${open.who}`}
          schedule={data}
          job={open}
          onClose={() => setOpenId(undefined)}
          onHold={
            isLead
              ? (held) => {
                  hold(data, open.id, held)
                  setOpenId(undefined)
                }
              : undefined
          }
        />
      )}
    </main>
  )
}

const isMissing = (error: Error) => error instanceof ProblemFailure && error.kind === 'not-found'

function NotYet({ id, canPlan, busy, onPlan }: { id: string; canPlan: boolean; busy: boolean; onPlan: () => void }) {
  return (
    <Empty title="Nothing is scheduled yet.">
      <p>
        From the plan, <Link to={`/days/${id}/hands`}>who works and where</Link>, and how each dish is cooked follows when each thing
        starts, so that all is ready at its service.
      </p>
      {canPlan && (
        <Button variant="act" disabled={busy} onClick={onPlan}>
          Plan when it starts
        </Button>
      )}
    </Empty>
  )
}

interface ShownProps {
  schedule: DaySchedule
  onOpen: (job: DayJobEntry) => void
  onMove: ((job: DayJobEntry, at: number, who: string | undefined) => void) | undefined
}

function Shown({ schedule, onOpen, onMove }: ShownProps) {
  const { startsOn, jobs, late, troubles, orderBy, cleanDowns, overtimeMinutes, plannedAt, by, isStale, fromMinute } = schedule
  const now = useMinute(startsOn)
  const last = Math.max(0, ...jobs.map(({ until }) => Math.floor((until - 1) / (24 * 60))))
  const today = Math.floor(now / (24 * 60))
  const [chosen, setChosen] = useState<number>()
  const shown = chosen ?? (today >= 0 && today <= last ? today : 0)
  const [view, setView] = useRemembered<'people' | 'places'>('fleam.lanes', 'people')
  const behindNow = behind(schedule, now)
  return (
    <>
      {isStale && <Warning>The day was changed since this was planned: plan it anew, or the rest from now.</Warning>}
      {troubles.map((words) => (
        <Warning key={words}>{words}</Warning>
      ))}
      {late.length > 0 && (
        <Warning>
          <p>{counted(late.length, 'thing')} cannot be ready in time:</p>
          <ul>
            {late.map(({ id, minutes, why }) => {
              const job = jobs.find((one) => one.id === id)
              return (
                <li key={id}>
                  <b>{job?.name}</b>, {job?.detail}: {lengthText(minutes)} late – {causeText(schedule, why)}.
                </li>
              )
            })}
          </ul>
        </Warning>
      )}
      {behindNow.length > 0 && (
        <Warning>
          {behindNow
            .slice(0, 4)
            .map(
              ({ job, minutes }) =>
                `${job.name} ${job.state === 'open' ? 'should have begun' : 'should be over'} ${lengthText(minutes)} ago`,
            )
            .join('; ')}
          {behindNow.length > 4 && `; ${behindNow.length - 4} more`}.
        </Warning>
      )}
      <Word>
        {late.length === 0 && 'Everything is ready in time. '}
        {overtimeMinutes > 0 && `${lengthText(overtimeMinutes)} of overtime. `}
        {cleanDowns.length > 0 && `${counted(cleanDowns.length, 'clean-down')} between raw poultry and the rest. `}
        Planned by {by}, {momentText(plannedAt)}
        {fromMinute !== null && `, from ${whenText(startsOn, fromMinute)} on`}.
      </Word>
      <div className="actions no-print">
        <Choice
          label="Day shown"
          value={String(shown)}
          onChange={(value) => setChosen(Number(value))}
          options={Array.from({ length: last + 1 }, (_, index) => ({
            value: String(index),
            label: dayText(dayOfMinute(startsOn, index * 24 * 60)),
          }))}
        />
        <Choice
          label="Lanes by"
          value={view}
          onChange={setView}
          options={[
            { value: 'people', label: 'By person' },
            { value: 'places', label: 'By place' },
          ]}
        />
      </div>
      <Lanes schedule={schedule} by={view} day={shown} now={now} onOpen={onOpen} onMove={onMove} />
      {onMove && (
        <p className="field-hint no-print">Drag a job to another hour or person: it is held there, and the rest is planned around it.</p>
      )}
      {orderBy.length > 0 && (
        <>
          <h2>Order by</h2>
          <ul className="plain-list">
            {orderBy.map(({ name, on }) => (
              <li key={name}>
                <b>{dayText(on)}</b> {name}
              </li>
            ))}
          </ul>
        </>
      )}
      <Tubs schedule={schedule} />
      <Caution>
        Raw poultry is cut last on a shared board, or the board is cleaned down before anything else. Rest, thawing and core temperatures
        are this house’s own; local food code comes first.
      </Caution>
    </>
  )
}

/** How many tubs of what, and when the sorter fetches a full one. */
function Tubs({ schedule: { startsOn, tubs } }: { schedule: DaySchedule }) {
  const { grams } = useUnits()
  if (tubs.length === 0) return null
  return (
    <>
      <h2>Tubs</h2>
      <div className="table-scroll">
        <Table className="figures">
          <thead>
            <tr>
              <th scope="col">Of</th>
              <th scope="col">Weight</th>
              <th scope="col">Tubs</th>
              <th scope="col">At the benches</th>
              <th scope="col" className="words">
                Fetch a full one at
              </th>
            </tr>
          </thead>
          <tbody>
            {tubs.map(({ product, name, grams: weight, tubs: count, atBench, fetch }) => (
              <tr key={product}>
                <th scope="row">{name}</th>
                <td>{grams(Math.round(weight))}</td>
                <td>{count}</td>
                <td>{atBench}</td>
                <td className="words">
                  {fetch.length === 0
                    ? '–'
                    : fetch.map((minute, at) => (at === 0 ? whenText(startsOn, minute) : hourText(minute))).join(', ')}
                </td>
              </tr>
            ))}
          </tbody>
        </Table>
      </div>
    </>
  )
}
