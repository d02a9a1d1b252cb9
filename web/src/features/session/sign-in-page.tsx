import { type demo, type Session, type setupState, signIn } from '@fleam/contract/people'
import { useQuery, useQueryClient } from '@tanstack/react-query'
import Button from 'react-bootstrap/Button'
import Form from 'react-bootstrap/Form'
import { Navigate, useNavigate, useSearchParams } from 'react-router'
import type * as z from 'zod'
import { get, ProblemFailure, send } from '../../api/http.ts'
import { sessionQuery } from '../../api/queries.ts'
import { sessionIsSettled } from '../../api/session-over.ts'
import { outbox } from '../../outbox/tablet-outbox.ts'
import { TextField } from '../../ui/fields.tsx'
import { Loading, Warning } from '../../ui/notes.tsx'
import { useRequestForm } from '../../ui/request-form.ts'

async function fetchDemo(): Promise<z.infer<typeof demo>['people']> {
  try {
    return (await get<z.infer<typeof demo>>('/demo')).people
  } catch (error) {
    if (error instanceof ProblemFailure && error.problem.status === 404) return []
    throw error
  }
}

export function Page() {
  const navigate = useNavigate()
  const queryClient = useQueryClient()
  const [search] = useSearchParams()
  const setup = useQuery({ queryKey: ['setup'], queryFn: () => get<z.infer<typeof setupState>>('/setup') })
  const demoPeople = useQuery({ queryKey: ['demo'], queryFn: fetchDemo })
  const { submit, field, form, message, busy } = useRequestForm({
    start: { name: '', secret: '' },
    schema: signIn,
    toRequest: (fields) => fields,
    send: (request) => send<Session>('POST', '/session', request),
  })

  function stepIn({ name, secret }: { name: string; secret: string }) {
    form.reset({ name, secret })
    void enter()
  }

  async function enter() {
    const session = await submit()
    if (!session) return
    queryClient.clear()
    sessionIsSettled()
    queryClient.setQueryData(sessionQuery.queryKey, session)
    outbox.tryNow()
    const to = search.get('to')
    navigate(to?.startsWith('/') && !to.startsWith('//') ? to : '/', { replace: true })
  }

  // a kitchen without people has nobody who could sign in
  if (setup.isPending) return <Loading what="the kitchen" />
  if (setup.data?.needed) return <Navigate to="/set-up" replace />
  return (
    <main className="door">
      <div className="door-sheet sheet">
        <p className="wordmark wordmark-dark">FLEAM</p>
        <h1>Who is at the bench?</h1>
        <Form
          className="stack"
          onSubmit={(event) => {
            event.preventDefault()
            void enter()
          }}
        >
          <TextField label="Name" {...field('name')} autoComplete="username" autoFocus />
          <TextField label="PIN or password" type="password" {...field('secret')} autoComplete="current-password" />
          {message && <Warning>{message}</Warning>}
          {setup.error && <Warning>The server cannot be reached just now. Try again in a moment.</Warning>}
          <Button type="submit" variant="act" disabled={busy}>
            Sign in
          </Button>
        </Form>
      </div>
      {demoPeople.data && demoPeople.data.length > 0 && (
        <section className="door-demo" aria-label="People of the demo kitchen">
          <h2>This is the demo kitchen: step in as</h2>
          {demoPeople.data.map((person) => (
            <Button key={person.name} variant="bare" className="demo-person" disabled={busy} onClick={() => stepIn(person)}>
              <strong>{person.name}</strong>
              <span>{person.role}</span>
              <code>{person.secret}</code>
            </Button>
          ))}
          <p>Saltmarsh House, its cooks and its suppliers are made up.</p>
        </section>
      )}
    </main>
  )
}
