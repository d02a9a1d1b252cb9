import type { Door } from '@fleam/contract/people'
import Button from 'react-bootstrap/Button'
import Form from 'react-bootstrap/Form'
import { TextField } from '../../ui/fields.tsx'
import { Warning } from '../../ui/notes.tsx'
import { PinPad } from './pin-pad.tsx'
import type { SignIn } from './use-sign-in.ts'

/** On a tablet of the kitchen: its people, to be tapped, and a pad for the PIN. */
export function TabletDoor({ tablet, signIn }: { tablet: NonNullable<Door['tablet']>; signIn: SignIn }) {
  const { field, begin, enter, asksCode, message, busy } = signIn
  const chosen = tablet.people.find(({ name }) => name === field('name').value)
  if (!chosen)
    return (
      <>
        <p className="field-hint">
          {tablet.kitchen} · {tablet.name}
        </p>
        <div className="door-people">
          {tablet.people.map(({ name, role }) => (
            <Button key={name} variant="plain" onClick={() => begin({ name })}>
              <strong>{name}</strong>
              <small>{role}</small>
            </Button>
          ))}
        </div>
      </>
    )
  const { value: secret, onChange } = field('secret')
  return (
    <Form
      className="stack"
      onSubmit={(event) => {
        event.preventDefault()
        void enter()
      }}
    >
      <h2>{chosen.name}</h2>
      {chosen.asks === 'pin' ? (
        <PinPad name={chosen.name} pin={secret} busy={busy} onType={onChange} onEnter={() => void enter()} />
      ) : (
        <>
          <TextField label="Passphrase" type="password" {...field('secret')} autoComplete="current-password" autoFocus />
          {asksCode && <TextField label="Time code" {...field('code')} inputMode="numeric" autoComplete="one-time-code" autoFocus />}
          <Button type="submit" variant="act" disabled={busy}>
            Sign in
          </Button>
        </>
      )}
      {message && <Warning>{message}</Warning>}
      <Button variant="plain" onClick={() => begin({})}>
        Somebody else
      </Button>
    </Form>
  )
}
