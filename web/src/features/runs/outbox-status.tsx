import { useState } from 'react'
import { momentText, useUnits } from '../../ui/units.ts'
import { dismiss, tryNow } from './outbox.ts'
import { useOutbox } from './use-run.ts'

const lineWords = { weighing: '', reversal: 'Taking back ', move: 'Moving ' } as const

/** What this tablet still holds: waiting for the server, or refused by it. Nothing is shown when there is nothing. */
export function OutboxStatus() {
  const { lines, trouble } = useOutbox()
  const { weight } = useUnits()
  const [open, setOpen] = useState(false)
  const refused = lines.filter((line) => line.refusal !== null)
  const waiting = lines.length - refused.length
  if (refused.length === 0 && (waiting === 0 || trouble === null)) return <span className="outbox-place" />
  return (
    <div className="outbox-place">
      <button type="button" className="outbox-status" aria-expanded={open} onClick={() => setOpen(!open)}>
        {waiting > 0 && `${waiting} waiting on this tablet`}
        {waiting > 0 && refused.length > 0 && ' · '}
        {refused.length > 0 && `${refused.length} not accepted`}
      </button>
      {open && (
        <div className="outbox-panel">
          {waiting > 0 && (
            <>
              <p>{trouble} What was weighed is kept here and goes out in order, once each.</p>
              <button type="button" className="btn btn-outline-dark" onClick={tryNow}>
                Try now
              </button>
            </>
          )}
          {refused.map((line) => (
            <div key={line.id} className="outbox-refused">
              <p>
                <strong>{line.kind === 'event' ? 'A note at the bench' : `${lineWords[line.kind]}${weight(line.tenths)}`}</strong> (
                {line.person.name}, {momentText(line.at)}): {line.refusal}
              </p>
              <button type="button" className="btn btn-outline-dark" onClick={() => dismiss(line.id)}>
                Seen, let it go
              </button>
            </div>
          ))}
        </div>
      )}
    </div>
  )
}
