import { type Session, signIn } from '@fleam/contract/people'
import { useQueryClient } from '@tanstack/react-query'
import Button from 'react-bootstrap/Button'
import Form from 'react-bootstrap/Form'
import { Link, useLocation } from 'react-router'
import { send } from '../api/http.ts'
import { sessionQuery, useSession } from '../api/queries.ts'
import { sessionIsSettled } from '../api/session-over.ts'
import { outbox } from '../outbox/tablet-outbox.ts'
import { TextField } from '../ui/fields.tsx'
import { Warning } from '../ui/notes.tsx'
import { useRequestForm } from '../ui/request-form.ts'

/** The PIN or passphrase of who was at it when a session ran out; the page behind it stays as it is. */
export function AgainForm() {
  const { person, kitchen } = useSession()
  const { pathname, search } = useLocation()
  const queryClient = useQueryClient()
  const { submit, field, message, busy } = useRequestForm({
    start: { secret: '' },
    schema: signIn,
    toRequest: ({ secret }) => ({ name: person.name, secret, kitchen: kitchen.id }),
    send: (request) => send<Session>('POST', '/session', request),
  })
  async function enter(event: React.FormEvent) {
    event.preventDefault()
    const session = await submit()
    if (!session) return
    sessionIsSettled()
    queryClient.setQueryData(sessionQuery.queryKey, session)
    void queryClient.invalidateQueries()
    outbox.tryNow()
  }
  return (
    <Form className="sign-in-again" aria-label="Sign in again" onSubmit={enter}>
      <p>
        <strong>Your session has run out.</strong> What you have here stays.
      </p>
      <TextField label={`PIN or passphrase of ${person.name}`} type="password" {...field('secret')} autoComplete="current-password" />
      <Button type="submit" variant="act" disabled={busy}>
        Sign in again
      </Button>
      <Link to={`/sign-in?to=${encodeURIComponent(pathname + search)}`}>Somebody else</Link>
      {message && <Warning>{message}</Warning>}
    </Form>
  )
}
