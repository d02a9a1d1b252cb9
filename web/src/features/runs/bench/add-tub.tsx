import { type Run, type Tub, tubCreate } from '@fleam/contract/runs'
import { useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import Button from 'react-bootstrap/Button'
import { send } from '../../../api/http.ts'
import { newId } from '../../../api/new-id.ts'
import { runQuery } from '../../../api/queries.ts'
import { Choice, TextField } from '../../../ui/fields.tsx'
import { Warning } from '../../../ui/notes.tsx'
import { SidePanel } from '../../../ui/side-panel.tsx'
import { useSubmission } from '../../../ui/submission.ts'

const roles: { value: Tub['role']; label: string }[] = [
  { value: 'main', label: 'Main' },
  { value: 'coproduct', label: 'Co-product' },
  { value: 'byproduct', label: 'By-product' },
  { value: 'waste', label: 'Waste' },
]

export function AddTub({ run, onClose, onAdded }: { run: Run; onClose: () => void; onAdded: (tub: Tub) => void }) {
  const queryClient = useQueryClient()
  const [id] = useState(newId)
  const [name, setName] = useState('')
  const [role, setRole] = useState<Tub['role']>('byproduct')
  const { submit, errors, message, busy } = useSubmission(tubCreate, (request: object) =>
    send<Tub>('POST', `/runs/${run.id}/tubs`, request),
  )

  async function add(event: React.FormEvent) {
    event.preventDefault()
    const tub = await submit({ id, name, role })
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
      <form onSubmit={add} className="stack">
        <TextField label="Name" value={name} onChange={setName} error={errors.name} autoFocus autoComplete="off" />
        <Choice label="Role" value={role} onChange={setRole} options={roles} />
        <p className="field-hint">
          Main: what it was bought for. Co-product: has a price of its own. By-product: of small value. Waste: thrown away.
        </p>
        {message && <Warning>{message}</Warning>}
        <Button type="submit" variant="act" disabled={busy}>
          Add the tub
        </Button>
      </form>
    </SidePanel>
  )
}
