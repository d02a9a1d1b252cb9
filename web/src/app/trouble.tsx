import Button from 'react-bootstrap/Button'
import { useRouteError } from 'react-router'
import { messageOf, ProblemFailure, Unreachable } from '../api/http.ts'

/** What is shown in place of a page that cannot be. */
export function Trouble() {
  const error = useRouteError()
  const isKnown = error instanceof ProblemFailure || error instanceof Unreachable
  return (
    <main className="page">
      <section className="sheet">
        <h1>{isKnown ? 'This page cannot be fetched just now' : 'This page has failed'}</h1>
        <p>{isKnown ? messageOf(error) : 'Nothing that was weighed is lost: it is kept on this tablet and on the server.'}</p>
        <Button variant="act" onClick={() => location.reload()}>
          Try again
        </Button>
      </section>
    </main>
  )
}
