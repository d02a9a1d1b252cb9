import { type Supplier, supplierChange, supplierCreate } from '@fleam/contract/prices'
import { useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import Button from 'react-bootstrap/Button'
import { send } from '../../api/http.ts'
import { newId } from '../../api/new-id.ts'
import { suppliersQuery } from '../../api/queries.ts'
import { TextField } from '../../ui/fields.tsx'
import { Warning } from '../../ui/notes.tsx'
import { SidePanel } from '../../ui/side-panel.tsx'
import { useSubmission } from '../../ui/submission.ts'

export function SupplierForm({ supplier, onClose }: { supplier: Supplier | undefined; onClose: () => void }) {
  const queryClient = useQueryClient()
  const [id] = useState(newId)
  const [name, setName] = useState(supplier?.name ?? '')
  const { submit, errors, message, busy } = useSubmission(supplier ? supplierChange : supplierCreate, (request: object) =>
    supplier ? send<Supplier>('PUT', `/suppliers/${supplier.id}`, request) : send<Supplier>('POST', '/suppliers', request),
  )

  async function keep(event: React.FormEvent) {
    event.preventDefault()
    if (!(await submit(supplier ? { version: supplier.version, name } : { id, name }))) return
    await queryClient.invalidateQueries({ queryKey: suppliersQuery.queryKey })
    onClose()
  }

  return (
    <SidePanel title={supplier ? supplier.name : 'Add a supplier'} onClose={onClose}>
      <form className="stack" onSubmit={keep}>
        <TextField label="Name" value={name} onChange={setName} error={errors.name} autoFocus autoComplete="off" />
        {message && <Warning>{message}</Warning>}
        <Button type="submit" variant="act" disabled={busy}>
          Keep
        </Button>
      </form>
    </SidePanel>
  )
}
