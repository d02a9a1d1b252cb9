import { type Supplier, supplierChange, supplierCreate } from '@fleam/contract/prices'
import { useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import Button from 'react-bootstrap/Button'
import Form from 'react-bootstrap/Form'
import { send } from '../../api/http.ts'
import { newId } from '../../api/new-id.ts'
import { suppliersQuery } from '../../api/queries.ts'
import { TextField } from '../../ui/fields.tsx'
import { Warning } from '../../ui/notes.tsx'
import { useRequestForm } from '../../ui/request-form.ts'
import { SidePanel } from '../../ui/side-panel.tsx'

interface SupplierFormProps {
  supplier: Supplier | undefined
  onClose: () => void
  onKept?: (supplier: Supplier) => void
}

export function SupplierForm({ supplier, onClose, onKept }: SupplierFormProps) {
  const queryClient = useQueryClient()
  const [id] = useState(newId)
  const { submit, field, message, busy } = useRequestForm({
    start: { name: supplier?.name ?? '' },
    schema: supplier ? supplierChange : supplierCreate,
    toRequest: ({ name }) => (supplier ? { version: supplier.version, name } : { id, name }),
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
        {message && <Warning>{message}</Warning>}
        <Button type="submit" variant="act" disabled={busy}>
          Keep
        </Button>
      </Form>
    </SidePanel>
  )
}
