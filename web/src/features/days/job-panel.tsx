import type { DayJobEntry, DaySchedule } from '@fleam/contract/day-schedule'
import { clockMinutes } from '@fleam/core/day/day-jobs'
import { useState } from 'react'
import Button from 'react-bootstrap/Button'
import Form from 'react-bootstrap/Form'
import { Link } from 'react-router'
import { dayText } from '../../ui/days.ts'
import { SelectField, TextField } from '../../ui/fields.tsx'
import { Caution, Warning } from '../../ui/notes.tsx'
import { SidePanel } from '../../ui/side-panel.tsx'
import { causeText, dayOfMinute, hourText, lengthText, whenText } from './schedule-words.ts'
import { TickButtons } from './tick-buttons.tsx'
import type { Hold } from './use-schedule.ts'

const minutesOfDay = 24 * 60
const hour = /^([01]?\d|2[0-3]):[0-5]\d$/

interface JobPanelProps {
  schedule: DaySchedule
  job: DayJobEntry
  onClose: () => void
  /** Absent for who may not. */
  onHold: ((hold: Hold | null) => void) | undefined
}

/** One job: what it is, when and where, and what is decided of it by hand. */
export function JobPanel({ schedule, job, onClose, onHold }: JobPanelProps) {
  const { startsOn, people, places, late } = schedule
  const [at, setAt] = useState(hourText(job.from))
  const [day, setDay] = useState(String(Math.floor(job.from / minutesOfDay)))
  const [who, setWho] = useState(job.who)
  const isHour = hour.test(at)
  const lateness = late.find(({ id }) => id === job.id)
  const days = Math.max(...schedule.jobs.map(({ until }) => Math.floor(until / minutesOfDay)), 0)
  return (
    <SidePanel title={job.name} onClose={onClose}>
      <div className="stack">
        <p>{job.detail}</p>
        <dl className="job-facts">
          <dt>Who</dt>
          <dd>{people.find((one) => one.who === job.who)?.name ?? job.who}</dd>
          <dt>Starts</dt>
          <dd>{whenText(startsOn, job.from)}</dd>
          {job.handsUntil > job.from && (
            <>
              <dt>Hands</dt>
              <dd>{lengthText(job.handsUntil - job.from)}</dd>
            </>
          )}
          {job.until > job.handsUntil && (
            <>
              <dt>Waits until</dt>
              <dd>{whenText(startsOn, job.until)}</dd>
            </>
          )}
          {job.place && (
            <>
              <dt>Where</dt>
              <dd>{places.find(({ id }) => id === job.place)?.name}</dd>
            </>
          )}
          {job.due !== null && (
            <>
              <dt>Due</dt>
              <dd>{whenText(startsOn, job.due)}</dd>
            </>
          )}
          {job.pullAtC !== null && (
            <>
              <dt>Take out at</dt>
              <dd>{job.pullAtC} °C in the core</dd>
            </>
          )}
        </dl>
        {lateness && (
          <Warning>
            {lengthText(lateness.minutes)} late: {causeText(schedule, lateness.why)}.
          </Warning>
        )}
        {job.isRaw && <Caution>Raw poultry: nothing else on this board until it is cleaned down. Knife hand dry, other hand flat.</Caution>}
        {job.pullAtC !== null && <Caution>It rises a few degrees at rest. Probe the thickest part; your food code comes first.</Caution>}
        <TickButtons dayId={schedule.dayId} job={job} />
        {job.kind === 'receive' && job.itemId && <Link to={`/receive?item=${job.itemId}`}>Receive and weigh it in</Link>}
        {onHold && job.state === 'open' && (
          <Form
            className="stack"
            onSubmit={(event) => {
              event.preventDefault()
              if (isHour) onHold({ at: Number(day) * minutesOfDay + clockMinutes(at), ...(who === job.who && !job.isHeld ? {} : { who }) })
            }}
          >
            <h3>Decide by hand</h3>
            <SelectField
              label="Day"
              value={day}
              onChange={setDay}
              options={Array.from({ length: days + 1 }, (_, index) => ({
                value: String(index),
                label: dayText(dayOfMinute(startsOn, index * minutesOfDay)),
              }))}
            />
            <TextField label="Starts at" value={at} onChange={setAt} error={isHour ? undefined : 'Write an hour such as 07:30.'} />
            <SelectField
              label="Who does it"
              value={who}
              onChange={setWho}
              options={people.map((one) => ({ value: one.who, label: one.name }))}
            />
            <div className="actions">
              <Button type="submit" variant="act" disabled={!isHour}>
                Hold it there
              </Button>
              {job.isHeld && (
                <Button variant="plain" onClick={() => onHold(null)}>
                  Let it go
                </Button>
              )}
            </div>
          </Form>
        )}
      </div>
    </SidePanel>
  )
}
