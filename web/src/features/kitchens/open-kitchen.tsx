import { kitchenCreate, type Place } from '@fleam/contract/kitchens'
import { useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import Button from 'react-bootstrap/Button'
import Form from 'react-bootstrap/Form'
import { send } from '../../api/http.ts'
import { newId } from '../../api/new-id.ts'
import { useKitchen } from '../../api/queries.ts'
import { SelectField, TextField } from '../../ui/fields.tsx'
import { Warning } from '../../ui/notes.tsx'
import { useRequestForm } from '../../ui/request-form.ts'
import { SidePanel } from '../../ui/side-panel.tsx'
import { say } from '../../ui/toasts.ts'
import { zonesOffered } from '../kitchen/places.ts'
import { placesQuery } from './queries.ts'

/** A further kitchen with people, prices and a log of its own; who opens it is its first manager. */
export function OpenKitchen({ onClose }: { onClose: () => void }) {
  const { settings } = useKitchen()
  const queryClient = useQueryClient()
  const [id] = useState(newId)
  const { currency, locale, timeZone } = settings
  const { submit, field, message, busy } = useRequestForm({
    start: { name: '', currency, timeZone },
    schema: kitchenCreate,
    toRequest: (fields) => ({ ...fields, id, locale, currency: fields.currency.trim().toUpperCase() }),
    send: (request) => send<Place>('POST', '/kitchens', request),
  })
  async function open(event: React.FormEvent) {
    event.preventDefault()
    const place = await submit()
    if (!place) return
    await queryClient.invalidateQueries({ queryKey: placesQuery.queryKey })
    await queryClient.invalidateQueries({ queryKey: ['side-by-side'] })
    say(`${place.name} is open, with you as its manager.`)
    onClose()
  }
  return (
    <SidePanel title="Open another kitchen" onClose={onClose}>
      <Form className="stack" onSubmit={open}>
        <TextField label="Name of the kitchen" {...field('name')} autoComplete="off" />
        <TextField label="Currency" hint="Three letters, such as EUR, GBP, USD" {...field('currency')} autoComplete="off" />
        <SelectField label="Time zone" {...field('timeZone')} options={zonesOffered(timeZone)} />
        <p className="field-hint">It starts with the cut sheets of the catalog and the usual limits, and with nobody but you.</p>
        {message && <Warning>{message}</Warning>}
        <Button type="submit" variant="act" disabled={busy}>
          Open it
        </Button>
      </Form>
    </SidePanel>
  )
}
