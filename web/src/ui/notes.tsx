import type { ReactNode } from 'react'
import Alert from 'react-bootstrap/Alert'
import Button from 'react-bootstrap/Button'
import Spinner from 'react-bootstrap/Spinner'
import { Link } from 'react-router'
import { messageOf, ProblemFailure, Unreachable } from '../api/http.ts'

/** Something that must be seen: refused, over a limit, or not reached. */
export function Warning({ children }: { children: ReactNode }) {
  return (
    <Alert variant="hot" className="note" transition={false}>
      {children}
    </Alert>
  )
}

/** What can hurt someone, at the step where it can. */
export function Caution({ children }: { children: ReactNode }) {
  return (
    <Alert variant="caution" className="note" role="note" transition={false}>
      {children}
    </Alert>
  )
}

/** What is good to know. */
export function Word({ isGood = false, isNews = false, children }: { isGood?: boolean; isNews?: boolean; children: ReactNode }) {
  return (
    <Alert variant={isGood ? 'good' : 'quiet'} className="note" role={isNews ? 'status' : 'note'} transition={false}>
      {children}
    </Alert>
  )
}

/** What is not there yet; `isPage` where that is all that the page has to say. */
export function Empty({ title, isPage = false, children }: { title: string; isPage?: boolean; children?: ReactNode }) {
  const Title = isPage ? 'h1' : 'p'
  return (
    <div className="empty">
      <Title className="empty-title">{title}</Title>
      {children}
    </div>
  )
}

export function Loading({ what }: { what: string }) {
  return (
    <div className="loading" role="status">
      <Spinner animation="border" size="sm" aria-hidden="true" />
      Fetching {what} …
    </div>
  )
}

/** Answers that trying again does not change. */
const settled = new Set(['not-found', 'role-too-low'])

/** A list or page that could not be fetched, with the way to try again, or on where that cannot help. */
export function Failed({ error, retry }: { error: unknown; retry: () => void }) {
  if (error instanceof ProblemFailure && settled.has(error.kind))
    return (
      <Warning>
        <p>{messageOf(error)}</p>
        <Link to="/">To your first page</Link>
      </Warning>
    )
  return (
    <Warning>
      <p>{error instanceof Unreachable ? `${error.message} Try again in a moment.` : messageOf(error)}</p>
      <Button variant="line" onClick={retry}>
        Try again
      </Button>
    </Warning>
  )
}
