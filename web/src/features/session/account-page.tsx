import { type Account, ownSecretChange, type TimeCodeOffer, timeCodeConfirm, timeCodeStart } from '@fleam/contract/people'
import { queryOptions, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import Button from 'react-bootstrap/Button'
import Form from 'react-bootstrap/Form'
import { get, send } from '../../api/http.ts'
import { useSession } from '../../api/queries.ts'
import { momentText } from '../../ui/days.ts'
import { TextField } from '../../ui/fields.tsx'
import { Failed, Loading, Warning, Word } from '../../ui/notes.tsx'
import { useRequestForm } from '../../ui/request-form.ts'
import { say } from '../../ui/toasts.ts'
import { useChange } from '../../ui/use-change.ts'
import { OwnKitchens } from '../kitchens/own-kitchens.tsx'
import { OwnCalendar } from './own-calendar.tsx'

const accountQuery = queryOptions({ queryKey: ['account'], queryFn: () => get<Account>('/account'), staleTime: 0 })

/** One's own way in: the secret, a time code, and where one is signed in. */
export function Page() {
  const { person, tablet } = useSession()
  const account = useQuery(accountQuery)
  return (
    <main className="page">
      <section className="sheet stack">
        <h1>{person.name}</h1>
        {account.isPending && <Loading what="your account" />}
        {account.error && <Failed error={account.error} retry={account.refetch} />}
        {account.data && (
          <>
            {account.data.isAway ? (
              <Word>You signed in with the passphrase of your own kitchen: go there to change it.</Word>
            ) : (
              <SecretForm kind={account.data.secretKind} />
            )}
            {!tablet && (account.data.isAway || account.data.secretKind === 'passphrase') && <OwnKitchens />}
            {!account.data.isAway && account.data.secretKind === 'passphrase' && <TimeCode hasTimeCode={account.data.hasTimeCode} />}
            <OwnCalendar hasCalendar={account.data.hasCalendar} />
            <Sessions sessions={account.data.sessions} />
          </>
        )}
      </section>
    </main>
  )
}

function SecretForm({ kind }: { kind: Account['secretKind'] }) {
  const isPin = kind === 'pin'
  const { submit, field, message, busy } = useRequestForm({
    start: { current: '', secret: '' },
    schema: ownSecretChange,
    toRequest: (fields) => fields,
    send: (request) => send<void>('PUT', '/account/secret', request).then(() => true),
    next: () => ({ current: '', secret: '' }),
  })
  async function keep(event: React.FormEvent) {
    event.preventDefault()
    if (await submit()) say(`Your ${isPin ? 'PIN' : 'passphrase'} is changed; you are signed out everywhere else.`)
  }
  return (
    <Form className="stack" onSubmit={keep}>
      <h2>{isPin ? 'PIN' : 'Passphrase'}</h2>
      <div className="fields">
        <TextField label="The present one" type="password" {...field('current')} autoComplete="current-password" />
        <TextField
          label="The new one"
          type="password"
          {...field('secret')}
          autoComplete="new-password"
          hint={isPin ? '4 to 8 figures that nobody tries first' : 'At least 12 characters: a few words'}
        />
      </div>
      {message && <Warning>{message}</Warning>}
      <Button type="submit" variant="act" disabled={busy}>
        Change it
      </Button>
    </Form>
  )
}

function TimeCode({ hasTimeCode }: { hasTimeCode: boolean }) {
  const queryClient = useQueryClient()
  const [offer, setOffer] = useState<TimeCodeOffer>()
  const readAgain = () => queryClient.invalidateQueries({ queryKey: accountQuery.queryKey })
  const begin = useRequestForm({
    start: { current: '' },
    schema: timeCodeStart,
    toRequest: (fields) => fields,
    send: (request) =>
      hasTimeCode
        ? send<void>('DELETE', '/account/time-code', request).then(() => undefined)
        : send<TimeCodeOffer>('POST', '/account/time-code', request),
    next: () => ({ current: '' }),
  })
  const confirm = useRequestForm({
    start: { code: '' },
    schema: timeCodeConfirm,
    toRequest: ({ code }) => ({ key: offer?.key ?? '', code }),
    send: (request) => send<void>('PUT', '/account/time-code', request).then(() => true),
    next: () => ({ code: '' }),
  })
  return (
    <section className="stack">
      <h2>Time code</h2>
      <p className="field-hint">
        {hasTimeCode
          ? 'You are asked for the code of your app at every sign-in.'
          : 'Beside the passphrase, a code of six figures from an app on your phone that changes every half minute.'}
      </p>
      {!offer && (
        <Form
          className="stack"
          onSubmit={async (event) => {
            event.preventDefault()
            const answer = await begin.submit()
            setOffer(answer)
            await readAgain()
          }}
        >
          <div className="fields">
            <TextField label="Your passphrase" type="password" {...begin.field('current')} autoComplete="current-password" />
          </div>
          <Button type="submit" variant="plain" disabled={begin.busy}>
            {hasTimeCode ? 'No longer ask for one' : 'Set one up'}
          </Button>
        </Form>
      )}
      {begin.message && <Warning>{begin.message}</Warning>}
      {offer && (
        <Form
          className="stack"
          onSubmit={async (event) => {
            event.preventDefault()
            if (!(await confirm.submit())) return
            setOffer(undefined)
            say('From now on you are asked for a time code.')
            await readAgain()
          }}
        >
          <img className="time-code" alt="The key of the time code" src={`data:image/svg+xml,${encodeURIComponent(offer.picture)}`} />
          <p className="field-hint">
            Scan this with the app, or type the key: <code>{offer.key}</code>
          </p>
          <TextField label="The code that it shows now" {...confirm.field('code')} inputMode="numeric" autoComplete="one-time-code" />
          {confirm.message && <Warning>{confirm.message}</Warning>}
          <Button type="submit" variant="act" disabled={confirm.busy}>
            Ask me for it
          </Button>
        </Form>
      )}
    </section>
  )
}

function Sessions({ sessions }: Pick<Account, 'sessions'>) {
  const { change, busy, trouble } = useChange({
    send: (id: string) => send<void>('DELETE', `/account/sessions/${id}`),
    refresh: [accountQuery.queryKey],
    said: () => 'Signed out there.',
  })
  return (
    <section>
      <h2>Where you are signed in</h2>
      {trouble && <Warning>{trouble}</Warning>}
      <ul className="people">
        {sessions.map((one) => (
          <li key={one.id}>
            <strong>{one.tablet ?? deviceWords(one.device)}</strong>
            <span>
              {one.isThis ? 'here' : `last seen ${momentText(one.seenAt)}`} · {one.address}
            </span>
            {!one.isThis && (
              <Button variant="plain" disabled={busy} onClick={() => change(one.id)}>
                Sign out there
              </Button>
            )}
          </li>
        ))}
      </ul>
    </section>
  )
}

/** A browser says at length what it is; its system is what a person knows it by. */
function deviceWords(device: string): string {
  return /iPad|iPhone|Android|Windows|Macintosh|CrOS|Linux/.exec(device)?.[0] ?? 'Some device'
}
