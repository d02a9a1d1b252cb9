import type { ReactNode } from 'react'
import Button from 'react-bootstrap/Button'
import { messageOf } from './submission.ts'

/** Something that must be seen: refused, over a limit, or not reached. */
export function Warning({ children }: { children: ReactNode }) {
  return (
    <div className="note note-warning" role="alert">
      {children}
    </div>
  )
}

export function Caution({ children }: { children: ReactNode }) {
  return <div className="note note-caution">{children}</div>
}

export function Empty({ title, children }: { title: string; children?: ReactNode }) {
  return (
    <div className="empty">
      <p className="empty-title">{title}</p>
      {children}
    </div>
  )
}

export function Loading({ what }: { what: string }) {
  return (
    <div className="loading" role="status">
      <span className="loading-bar" />
      Fetching {what} …
    </div>
  )
}

/** A list or page that could not be fetched, with the way to try again. */
export function Failed({ error, retry }: { error: unknown; retry: () => void }) {
  return (
    <Warning>
      <p>{messageOf(error)}</p>
      <Button variant="line" onClick={retry}>
        Try again
      </Button>
    </Warning>
  )
}
