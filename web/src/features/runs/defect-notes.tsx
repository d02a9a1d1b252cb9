import { type Defect, defectCreate, defectKinds, type Run } from '@fleam/contract/runs'
import { useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import Button from 'react-bootstrap/Button'
import { send } from '../../api/http.ts'
import { newId } from '../../api/new-id.ts'
import { runQuery } from '../../api/queries.ts'
import { SelectField, TextField } from '../../ui/fields.tsx'
import { Warning } from '../../ui/notes.tsx'
import { useSubmission } from '../../ui/submission.ts'

/** What went wrong, to be set against yield later. */
export function DefectNotes({ run, step = null }: { run: Run; step?: string | null }) {
  const queryClient = useQueryClient()
  const [id, setId] = useState(newId)
  const [kind, setKind] = useState<Defect['kind']>(defectKinds[0])
  const [note, setNote] = useState('')
  const [isOfStep, setOfStep] = useState(true)
  const { submit, errors, message, busy } = useSubmission(defectCreate, (request: object) =>
    send<Defect>('POST', `/runs/${run.id}/defects`, request),
  )

  async function add() {
    const defect = await submit({ id, kind, note, step: isOfStep ? step : null })
    if (!defect) return
    queryClient.setQueryData(runQuery(run.id).queryKey, (known) => known && { ...known, defects: [...known.defects, defect] })
    setId(newId())
    setNote('')
  }

  return (
    <section className="defects">
      <h2>What went wrong?</h2>
      {run.defects.length > 0 && (
        <ul>
          {run.defects.map((defect) => (
            <li key={defect.id}>
              <strong>{defect.kind}</strong>
              {defect.note && `: ${defect.note}`}{' '}
              <small>
                {defect.step && `at “${defect.step}” · `}
                {defect.by.name}
              </small>
            </li>
          ))}
        </ul>
      )}
      <div className="fields defect-fields">
        <SelectField
          label="Defect"
          value={kind}
          onChange={(value) => setKind(value as Defect['kind'])}
          options={defectKinds.map((value) => ({ value, label: value }))}
        />
        <TextField label="Note" value={note} onChange={setNote} error={errors.note} />
        {step !== null && (
          <label className="check">
            <input type="checkbox" checked={isOfStep} onChange={(event) => setOfStep(event.target.checked)} /> at the step “{step}”
          </label>
        )}
        <Button variant="plain" disabled={busy} onClick={add}>
          Note it
        </Button>
      </div>
      {message && <Warning>{message}</Warning>}
    </section>
  )
}
