import { type Comparison, type ComparisonBody, comparisonChange, comparisonCreate } from '@fleam/contract/compare'
import { useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import Button from 'react-bootstrap/Button'
import Form from 'react-bootstrap/Form'
import { useNavigate } from 'react-router'
import * as z from 'zod'
import { send } from '../../api/http.ts'
import { newId } from '../../api/new-id.ts'
import { comparisonsQuery } from '../../api/queries.ts'
import { TextField } from '../../ui/fields.tsx'
import { Warning } from '../../ui/notes.tsx'
import { useRequestForm } from '../../ui/request-form.ts'
import { SidePanel } from '../../ui/side-panel.tsx'
import { linkTo } from './body-link.ts'

/** Keeps a comparison by name, or what was changed of a kept one; copies its address to pass on. */
export function KeepComparison({ body, kept, suggestion }: { body: ComparisonBody; kept: Comparison | undefined; suggestion: string }) {
  const [isOpen, setOpen] = useState(false)
  const isChanged = kept !== undefined && JSON.stringify(kept.body) !== JSON.stringify(body)
  return (
    <>
      <Button variant="plain" onClick={() => setOpen(true)}>
        {kept ? (isChanged ? 'Keep or pass on *' : 'Pass on') : 'Keep or pass on'}
      </Button>
      {isOpen && <KeepPanel body={body} kept={kept} suggestion={suggestion} onClose={() => setOpen(false)} />}
    </>
  )
}

function KeepPanel(props: { body: ComparisonBody; kept: Comparison | undefined; suggestion: string; onClose: () => void }) {
  const { body, kept, suggestion, onClose } = props
  const queryClient = useQueryClient()
  const navigate = useNavigate()
  const [id] = useState(newId)
  const [isCopied, setCopied] = useState(false)
  const { submit, field, form, message, busy } = useRequestForm({
    start: { name: kept?.name ?? suggestion, isNew: kept === undefined },
    schema: z.union([comparisonChange, comparisonCreate]),
    toRequest: ({ name, isNew }) => (isNew ? { id, name, body } : { version: kept?.version, name, body }),
    send: (request) =>
      'id' in request ? send<Comparison>('POST', '/comparisons', request) : send<Comparison>('PUT', `/comparisons/${kept?.id}`, request),
  })
  const isSame = kept !== undefined && JSON.stringify(kept.body) === JSON.stringify(body)
  const address = `${location.origin}${isSame ? `/compare/kept/${kept.id}` : linkTo(body)}`

  async function keep(asNew: boolean) {
    form.setValue('isNew', asNew)
    const done = await submit()
    if (!done) return
    await queryClient.invalidateQueries({ queryKey: comparisonsQuery.queryKey })
    onClose()
    navigate(`/compare/kept/${done.id}`)
  }
  return (
    <SidePanel title="Keep or pass on" onClose={onClose}>
      <div className="stack">
        <TextField label="Name" {...field('name')} />
        {message && <Warning>{message}</Warning>}
        {kept && (
          <Button variant="act" disabled={busy} onClick={() => keep(false)}>
            Keep the changes
          </Button>
        )}
        <Button variant={kept ? 'plain' : 'act'} disabled={busy} onClick={() => keep(true)}>
          {kept ? 'Keep as another' : 'Keep it by this name'}
        </Button>
        <h3>Address to pass on</h3>
        <p className="field-hint">It opens this comparison for anyone of this kitchen, with what was changed.</p>
        <Form.Control readOnly aria-label="Address to pass on" value={address} onFocus={(event) => event.target.select()} />
        <Button
          variant="plain"
          onClick={() =>
            navigator.clipboard
              ?.writeText(address)
              .then(() => setCopied(true))
              .catch(() => undefined)
          }
        >
          {isCopied ? 'Copied' : 'Copy the address'}
        </Button>
      </div>
    </SidePanel>
  )
}
