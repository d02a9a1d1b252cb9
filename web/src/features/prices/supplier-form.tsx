import { type Supplier, supplierChange, supplierCreate } from '@fleam/contract/prices'
import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import Button from 'react-bootstrap/Button'
import Form from 'react-bootstrap/Form'
import { send } from '../../api/http.ts'
import { newId } from '../../api/new-id.ts'
import { fetchedListsQuery, suppliersQuery } from '../../api/queries.ts'
import { SelectField, TextField } from '../../ui/fields.tsx'
import { Warning } from '../../ui/notes.tsx'
import { useRequestForm } from '../../ui/request-form.ts'
import { SidePanel } from '../../ui/side-panel.tsx'

interface SupplierFormProps {
  supplier: Supplier | undefined
  onClose: () => void
  onKept?: (supplier: Supplier) => void
}

type FeedKind = 'nowhere' | 'address' | 'simulated'

const feedKind = (supplier: Supplier | undefined): FeedKind =>
  supplier?.feed ? (supplier.feed.address === 'simulated' ? 'simulated' : 'address') : 'nowhere'

export function SupplierForm({ supplier, onClose, onKept }: SupplierFormProps) {
  const queryClient = useQueryClient()
  const [id] = useState(newId)
  const hasSimulated = useQuery(fetchedListsQuery).data?.hasSimulated ?? false
  const { submit, field, form, refusalOf, message, busy } = useRequestForm({
    start: {
      name: supplier?.name ?? '',
      from: feedKind(supplier),
      address: supplier?.feed && supplier.feed.address !== 'simulated' ? supplier.feed.address : '',
      everyHours: String(supplier?.feed?.everyHours ?? 24),
    },
    schema: supplier ? supplierChange : supplierCreate,
    toRequest: ({ name, from, address, everyHours }) => {
      const where = from === 'simulated' ? 'simulated' : address.trim()
      const feed = from === 'nowhere' ? null : { address: where, everyHours: Number(everyHours) }
      return supplier ? { version: supplier.version, name, feed } : { id, name, feed }
    },
    send: (request) =>
      supplier ? send<Supplier>('PUT', `/suppliers/${supplier.id}`, request) : send<Supplier>('POST', '/suppliers', request),
  })

  async function keep(event: React.FormEvent) {
    event.preventDefault()
    const kept = await submit()
    if (!kept) return
    await queryClient.invalidateQueries({ queryKey: suppliersQuery.queryKey })
    onKept?.(kept)
    onClose()
  }

  return (
    <SidePanel title={supplier ? supplier.name : 'Add a supplier'} onClose={onClose}>
      <Form className="stack" onSubmit={keep}>
        <TextField label="Name" {...field('name')} autoFocus autoComplete="off" />
        <SelectField
          label="Its price list is fetched"
          {...field('from')}
          onChange={(from) => field('from').onChange(from as FeedKind)}
          options={[
            { value: 'nowhere', label: 'not at all: a file is read in' },
            { value: 'address', label: 'from an address' },
            ...(hasSimulated || form.watch('from') === 'simulated' ? [{ value: 'simulated', label: 'from the simulated supplier' }] : []),
          ]}
        />
        {form.watch('from') === 'address' && (
          <TextField
            label="Address of the CSV list"
            {...field('address')}
            error={refusalOf('feed.address') ?? refusalOf('feed')}
            placeholder="https://supplier.example/prices.csv"
            autoComplete="off"
            hint="Fleam asks this address and no other, and follows no redirect"
          />
        )}
        {form.watch('from') !== 'nowhere' && (
          <SelectField
            label="How often"
            {...field('everyHours')}
            options={[
              { value: '0', label: 'when asked' },
              { value: '6', label: 'every six hours' },
              { value: '24', label: 'every day' },
              { value: '168', label: 'every week' },
            ]}
            hint="what differs is shown first; nothing is taken by itself"
          />
        )}
        {message && <Warning>{message}</Warning>}
        <Button type="submit" variant="act" disabled={busy}>
          Keep
        </Button>
      </Form>
    </SidePanel>
  )
}
