import Button from 'react-bootstrap/Button'
import { useRouteError } from 'react-router'
import { messageOf, ProblemFailure, Unreachable } from '../api/http.ts'

/** What is shown in place of a page that cannot be. */
export function Trouble() {
  const error = useRouteError()
  const isKnown = error instanceof ProblemFailure || error instanceof Unreachable
  const isPartGone = error instanceof TypeError && /module/i.test(error.message)
  return (
    <main className="page">
      <section className="sheet">
        <h1>{isKnown || isPartGone ? 'This page cannot be fetched just now' : 'This page has failed'}</h1>
        {isPartGone && <p>The network is away, or the server has a newer Fleam than this page.</p>}
        <p>{isKnown ? messageOf(error) : 'Nothing that was weighed is lost: it is kept on this tablet and on the server.'}</p>
        <Button variant="act" onClick={() => location.reload()}>
          {isPartGone ? 'Open it anew' : 'Try again'}
        </Button>
      </section>
    </main>
  )
}
