import { type Run, type Tub, tubCreate } from '@fleam/contract/runs'
import { useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import Button from 'react-bootstrap/Button'
import Form from 'react-bootstrap/Form'
import { send } from '../../../api/http.ts'
import { newId } from '../../../api/new-id.ts'
import { runQuery } from '../../../api/queries.ts'
import { Choice, TextField } from '../../../ui/fields.tsx'
import { Warning } from '../../../ui/notes.tsx'
import { useRequestForm } from '../../../ui/request-form.ts'
import { SidePanel } from '../../../ui/side-panel.tsx'

const roles: { value: Tub['role']; label: string }[] = [
  { value: 'main', label: 'Main' },
  { value: 'coproduct', label: 'Co-product' },
  { value: 'byproduct', label: 'By-product' },
  { value: 'waste', label: 'Waste' },
]

export function AddTub({ run, onClose, onAdded }: { run: Run; onClose: () => void; onAdded: (tub: Tub) => void }) {
  const queryClient = useQueryClient()
  const [id] = useState(newId)
  const { submit, field, message, busy } = useRequestForm({
    start: { name: '', role: 'byproduct' as Tub['role'] },
    schema: tubCreate,
    toRequest: ({ name, role }) => ({ id, name, role }),
    send: (request) => send<Tub>('POST', `/runs/${run.id}/tubs`, request),
  })
  const { value: role, onChange: setRole } = field('role')

  async function add(event: React.FormEvent) {
    event.preventDefault()
    const tub = await submit()
    if (!tub) return
    queryClient.setQueryData(
      runQuery(run.id).queryKey,
      (known) => known && { ...known, tubs: [...known.tubs.filter((other) => other.id !== tub.id), tub] },
    )
    onAdded(tub)
    onClose()
  }

  return (
    <SidePanel title="Add a tub" onClose={onClose}>
      <Form onSubmit={add} className="stack">
        <TextField label="Name" {...field('name')} autoFocus autoComplete="off" />
        <Choice label="Role" value={role} onChange={setRole} options={roles} />
        <p className="field-hint">
          Main: what it was bought for. Co-product: has a price of its own. By-product: of small value. Waste: thrown away.
        </p>
        {message && <Warning>{message}</Warning>}
        <Button type="submit" variant="act" disabled={busy}>
          Add the tub
        </Button>
      </Form>
    </SidePanel>
  )
}
