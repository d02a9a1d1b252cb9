import { lazy, Suspense, useState } from 'react'
import Button from 'react-bootstrap/Button'
import { Link, useLocation } from 'react-router'
import { signInTrouble } from '../../outbox/outbox.ts'
import { outbox, useOutbox } from '../../outbox/tablet-outbox.ts'

// the server has refused it: what shows that can be fetched
const RefusedLine = lazy(() => import('./refused-line.tsx').then((module) => ({ default: module.RefusedLine })))

/** What this tablet still holds: waiting for the server, or refused by it. Nothing is shown when there is nothing. */
export function OutboxStatus() {
  const { lines, trouble, isKeeping } = useOutbox()
  const { pathname } = useLocation()
  const [open, setOpen] = useState(false)
  const refused = lines.filter((line) => line.refusal !== null)
  const unsent = lines.filter((line) => line.refusal === null && !(line.kind === 'picture' && line.isHeld))
  const waiting = unsent.length
  const weighings = unsent.filter((line) => line.kind !== 'event').length
  const isWaiting = waiting > 0 && trouble !== null
  if (refused.length === 0 && !isWaiting && isKeeping) return <span className="outbox-place" />
  const said = [
    !isKeeping && 'Not kept on this tablet',
    isWaiting && `${weighings || 'Notes'} waiting ${isKeeping ? 'on this tablet' : 'on this page'}`,
    refused.length > 0 && `${refused.length} not accepted`,
  ]
  return (
    <div className="outbox-place">
      <Button variant="bare" className="outbox-status" aria-expanded={open} onClick={() => setOpen(!open)}>
        {said.filter(Boolean).join(' · ')}
      </Button>
      {open && (
        <div className="outbox-panel">
          {!isKeeping && (
            <p>
              This browser keeps nothing: its store is full or shut off. What is weighed goes out at once; leave the page open while it
              waits.
            </p>
          )}
          {isWaiting && (
            <>
              <p>
                {trouble} What was weighed {isKeeping ? 'is kept here and ' : ''}goes out in order, once each.
              </p>
              {trouble === signInTrouble ? (
                <Link className="btn btn-act" to={`/sign-in?to=${encodeURIComponent(pathname)}`}>
                  Sign in
                </Link>
              ) : (
                <Button variant="line" onClick={outbox.tryNow}>
                  Try now
                </Button>
              )}
            </>
          )}
          <Suspense>
            {refused.map((line) => (
              <RefusedLine key={line.id} line={line} />
            ))}
          </Suspense>
        </div>
      )}
    </div>
  )
}
