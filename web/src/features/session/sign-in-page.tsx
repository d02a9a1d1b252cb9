import type { Door, demo } from '@fleam/contract/people'
import { useQuery } from '@tanstack/react-query'
import Button from 'react-bootstrap/Button'
import Form from 'react-bootstrap/Form'
import { Navigate } from 'react-router'
import type * as z from 'zod'
import { get, ProblemFailure } from '../../api/http.ts'
import { TextField } from '../../ui/fields.tsx'
import { Loading, Warning } from '../../ui/notes.tsx'
import { TabletDoor } from './tablet-door.tsx'
import { type SignIn, useSignIn } from './use-sign-in.ts'

async function fetchDemo(): Promise<z.infer<typeof demo>['people']> {
  try {
    return (await get<z.infer<typeof demo>>('/demo')).people
  } catch (error) {
    if (error instanceof ProblemFailure && error.problem.status === 404) return []
    throw error
  }
}

export function Page() {
  const door = useQuery({ queryKey: ['door'], queryFn: () => get<Door>('/door'), staleTime: 0 })
  const demoPeople = useQuery({ queryKey: ['demo'], queryFn: fetchDemo })
  const signIn = useSignIn()

  // a kitchen without people has nobody who could sign in
  if (door.isPending) return <Loading what="the kitchen" />
  if (door.data?.needsSetup) return <Navigate to="/set-up" replace />
  return (
    <main className="door">
      <title>Sign in · Fleam</title>
      <div className="door-sheet sheet">
        <p className="wordmark wordmark-dark">FLEAM</p>
        <h1>Who is at the bench?</h1>
        {door.error && <Warning>The server cannot be reached just now. Try again in a moment.</Warning>}
        {door.data?.tablet ? (
          <TabletDoor tablet={door.data.tablet} signIn={signIn} />
        ) : (
          <NameForm asksKitchen={door.data?.asksKitchen ?? false} signIn={signIn} />
        )}
      </div>
      {demoPeople.data && demoPeople.data.length > 0 && (
        <section className="door-demo" aria-label="People of the demo kitchen">
          <h2>This is the demo kitchen: step in as</h2>
          {demoPeople.data.map(({ name, role, secret }) => (
            <Button
              key={name}
              variant="bare"
              className="demo-person"
              disabled={signIn.busy}
              onClick={() => {
                signIn.begin({ name, secret })
                void signIn.enter()
              }}
            >
              <strong>{name}</strong>
              <span>{role}</span>
              <code>{secret}</code>
            </Button>
          ))}
          <p>Saltmarsh House, its cooks and its suppliers are made up.</p>
        </section>
      )}
    </main>
  )
}

/** For devices that are no tablet of a kitchen: a passphrase, by name. */
function NameForm({ asksKitchen, signIn }: { asksKitchen: boolean; signIn: SignIn }) {
  const { field, enter, asksCode, message, busy } = signIn
  return (
    <Form
      className="stack"
      onSubmit={(event) => {
        event.preventDefault()
        void enter()
      }}
    >
      {asksKitchen && (
        <TextField label="Kitchen" {...field('kitchen')} autoComplete="organization" hint="Only where several have somebody of your name" />
      )}
      <TextField label="Name" {...field('name')} autoComplete="username" autoFocus />
      <TextField label="Passphrase" type="password" {...field('secret')} autoComplete="current-password" />
      {asksCode && <TextField label="Time code" {...field('code')} inputMode="numeric" autoComplete="one-time-code" autoFocus />}
      {message && <Warning>{message}</Warning>}
      <Button type="submit" variant="act" disabled={busy}>
        Sign in
      </Button>
      <p className="field-hint">PINs open on the kitchen’s own tablets.</p>
    </Form>
  )
}
