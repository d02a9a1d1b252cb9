import { type Defect, defectCreate, type Run } from '@fleam/contract/runs'
import { useQueryClient } from '@tanstack/react-query'
import { lazy, Suspense, useState } from 'react'
import Button from 'react-bootstrap/Button'
import { send } from '../../api/http.ts'
import { newId } from '../../api/new-id.ts'
import { runQuery } from '../../api/queries.ts'
import { CheckField, SelectField, TextField } from '../../ui/fields.tsx'
import { Warning } from '../../ui/notes.tsx'
import { useRequestForm } from '../../ui/request-form.ts'
import { defectsOf } from './defects.ts'

// on the bench they are fetched when there is something to show
const Pictures = lazy(() => import('../pictures/pictures.tsx').then((module) => ({ default: module.Pictures })))

/** What went wrong, to be set against yield later. */
export function DefectNotes({ run, step = null }: { run: Run; step?: string | null }) {
  const queryClient = useQueryClient()
  const [id, setId] = useState(newId)
  const kinds = defectsOf(run.item.animal)
  const { submit, field, message, busy } = useRequestForm({
    start: { kind: kinds[0] as Defect['kind'], note: '', isOfStep: true },
    schema: defectCreate,
    toRequest: ({ kind, note, isOfStep }) => ({ id, kind, note, step: isOfStep ? step : null }),
    send: (request) => send<Defect>('POST', `/runs/${run.id}/defects`, request),
    next: (sent) => ({ ...sent, note: '' }),
  })

  async function add() {
    const defect = await submit()
    if (!defect) return
    queryClient.setQueryData(runQuery(run.id).queryKey, (known) => known && { ...known, defects: [...known.defects, defect] })
    setId(newId())
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
              <Suspense>
                <Pictures runId={run.id} about="defect" defectId={defect.id} of={defect.kind} />
              </Suspense>
            </li>
          ))}
        </ul>
      )}
      <div className="fields defect-fields">
        <SelectField
          label="Defect"
          {...field('kind')}
          onChange={(value) => field('kind').onChange(value as Defect['kind'])}
          options={kinds.map((value) => ({ value, label: value }))}
        />
        <TextField label="Note" {...field('note')} />
        {step !== null && <CheckField label={`at the step “${step}”`} {...field('isOfStep')} />}
        <Button variant="plain" disabled={busy} onClick={add}>
          Note it
        </Button>
      </div>
      {message && <Warning>{message}</Warning>}
    </section>
  )
}
