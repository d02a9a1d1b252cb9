import { join, type Place } from '@fleam/contract/kitchens'
import { useQuery, useQueryClient } from '@tanstack/react-query'
import Button from 'react-bootstrap/Button'
import Form from 'react-bootstrap/Form'
import { Link } from 'react-router'
import { send } from '../../api/http.ts'
import { TextField } from '../../ui/fields.tsx'
import { Failed, Loading, Warning } from '../../ui/notes.tsx'
import { useRequestForm } from '../../ui/request-form.ts'
import { say } from '../../ui/toasts.ts'
import { placesQuery } from './queries.ts'
import { useMove } from './use-move.ts'

/** Where one works: going from kitchen to kitchen, and coming into a further one. */
export function OwnKitchens() {
  const places = useQuery(placesQuery)
  const { move, busy, trouble } = useMove()
  return (
    <section className="stack">
      <h2>Your kitchens</h2>
      {places.isPending && <Loading what="your kitchens" />}
      {places.error && <Failed error={places.error} retry={places.refetch} />}
      {trouble && <Warning>{trouble}</Warning>}
      <ul className="people">
        {places.data?.map(({ kitchenId, name, role, isHere, isHome }) => (
          <li key={kitchenId}>
            <strong>{name}</strong>
            <span>
              {role}
              {isHere && ' · here'}
              {isHome && places.data.length > 1 && ' · home kitchen'}
            </span>
            {!isHere && (
              <Button variant="plain" disabled={busy} aria-label={`Go to ${name}`} onClick={() => move(kitchenId)}>
                Go there
              </Button>
            )}
          </li>
        ))}
      </ul>
      {places.data && places.data.length > 1 && <Link to="/kitchen/side-by-side">Their figures side by side</Link>}
      <JoinForm />
    </section>
  )
}

function JoinForm() {
  const queryClient = useQueryClient()
  const { submit, field, message, busy } = useRequestForm({
    start: { code: '' },
    schema: join,
    toRequest: (fields) => fields,
    send: (request) => send<Place>('POST', '/kitchens/join', request),
    next: () => ({ code: '' }),
  })
  async function come(event: React.FormEvent) {
    event.preventDefault()
    const place = await submit()
    if (!place) return
    await queryClient.invalidateQueries({ queryKey: placesQuery.queryKey })
    say(`You work in ${place.name} too now, as ${place.role}.`)
  }
  return (
    <Form className="stack" onSubmit={come}>
      <div className="fields">
        <TextField
          label="Come into another kitchen"
          {...field('code')}
          hint="with the code that its manager gave you, such as ABCD-2345-EFGH"
          autoComplete="off"
        />
      </div>
      {message && <Warning>{message}</Warning>}
      <Button type="submit" variant="plain" disabled={busy}>
        Come in
      </Button>
    </Form>
  )
}
