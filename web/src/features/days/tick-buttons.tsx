import type { DayJobEntry } from '@fleam/contract/day-schedule'
import Button from 'react-bootstrap/Button'
import { Warning } from '../../ui/notes.tsx'
import { useTicks } from './use-schedule.ts'

/** Says that a job is begun, done, or neither after all. */
export function TickButtons({ dayId, job }: { dayId: string; job: DayJobEntry }) {
  const { change, busy, trouble } = useTicks(dayId)
  const named = (words: string) => `${words}: ${job.name}, ${job.detail}`
  return (
    <>
      <div className="actions">
        {job.state === 'open' && (
          <Button variant="plain" disabled={busy} aria-label={named('Begin')} onClick={() => void change({ job, state: 'started' })}>
            Begin
          </Button>
        )}
        {job.state !== 'done' && (
          <Button variant="plain" disabled={busy} aria-label={named('Done')} onClick={() => void change({ job, state: 'done' })}>
            Done
          </Button>
        )}
        {job.state !== 'open' && (
          <>
            <b className="good">{job.state === 'done' ? '✓ done' : 'under way'}</b>
            <small>{job.by ? `by ${job.by}` : 'by the bench’s weighings'}</small>
            {job.by && (
              <Button variant="line" disabled={busy} aria-label={named('Not yet')} onClick={() => void change({ job, state: 'open' })}>
                Not yet
              </Button>
            )}
          </>
        )}
      </div>
      {trouble && <Warning>{trouble}</Warning>}
    </>
  )
}
