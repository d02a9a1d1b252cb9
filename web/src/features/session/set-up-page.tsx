import { type Session, setup } from '@fleam/contract/people'
import { useQueryClient } from '@tanstack/react-query'
import Button from 'react-bootstrap/Button'
import Form from 'react-bootstrap/Form'
import { useNavigate } from 'react-router'
import { send } from '../../api/http.ts'
import { sessionQuery } from '../../api/queries.ts'
import { TextField } from '../../ui/fields.tsx'
import { Warning } from '../../ui/notes.tsx'
import { useRequestForm } from '../../ui/request-form.ts'

/** The first start of a kitchen of one's own: its name, its money, its first manager. */
export function Page() {
  const navigate = useNavigate()
  const queryClient = useQueryClient()
  const { submit, field, message, busy } = useRequestForm({
    start: { kitchenName: '', currency: 'EUR', name: '', secret: '' },
    schema: setup,
    toRequest: (fields) => ({ ...fields, ...placeOfTablet(), currency: fields.currency.trim().toUpperCase() }),
    send: (request) => send<Session>('POST', '/setup', request),
  })

  async function make(event: React.FormEvent) {
    event.preventDefault()
    const session = await submit()
    if (!session) return
    queryClient.setQueryData(sessionQuery.queryKey, session)
    navigate('/kitchen/limits', { replace: true })
  }

  return (
    <main className="door">
      <Form className="door-sheet sheet stack" onSubmit={make}>
        <p className="wordmark wordmark-dark">FLEAM</p>
        <h1>A new kitchen</h1>
        <TextField label="Name of the kitchen" autoFocus {...field('kitchenName')} />
        <TextField label="Currency" hint="Three letters, such as EUR, GBP, USD" {...field('currency')} />
        <TextField label="Your name, as its first manager" autoComplete="username" {...field('name')} />
        <TextField
          label="Passphrase"
          type="password"
          autoComplete="new-password"
          hint="At least 12 characters: a few words are easy to keep"
          {...field('secret')}
        />
        {message && <Warning>{message}</Warning>}
        <Button type="submit" variant="act" disabled={busy}>
          Open the kitchen
        </Button>
      </Form>
    </main>
  )
}

/** Where the tablet stands is where the kitchen is, until a manager says otherwise. */
function placeOfTablet() {
  const { locale, timeZone } = new Intl.DateTimeFormat().resolvedOptions()
  return { locale, timeZone }
}
