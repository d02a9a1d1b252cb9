import { type CutSheet, type CutSheetBody, cutSheetChange, cutSheetCreate } from '@fleam/contract/cut-sheets'
import { useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import Button from 'react-bootstrap/Button'
import Form from 'react-bootstrap/Form'
import { useFieldArray } from 'react-hook-form'
import { Link, useNavigate, useSearchParams } from 'react-router'
import { send } from '../../api/http.ts'
import { newId } from '../../api/new-id.ts'
import { cutSheetsQuery } from '../../api/queries.ts'
import { LinesField, numberOf, TextField } from '../../ui/fields.tsx'
import { Warning } from '../../ui/notes.tsx'
import { useRequestForm } from '../../ui/request-form.ts'
import { Sortable } from '../../ui/sortable.tsx'
import { OutputEditor, StepEditor } from './sheet-editor-lines.tsx'
import { outputFieldsOf, sheetFieldsOf, sheetOfFields, stepFieldsOf } from './sheet-fields.ts'
import { WithSheet } from './with-sheet.tsx'

/** Writes a new version of a cut sheet, or the kitchen's own variant of one. */
export function Page() {
  const [search] = useSearchParams()
  return <WithSheet>{(sheet) => <Editor sheet={sheet} isVariant={search.get('as') === 'variant'} />}</WithSheet>
}

function Editor({ sheet, isVariant }: { sheet: CutSheet; isVariant: boolean }) {
  const navigate = useNavigate()
  const queryClient = useQueryClient()
  const [id] = useState(() => (isVariant ? newId() : sheet.id))
  const body: CutSheetBody = isVariant ? { ...sheet.body, name: `${sheet.body.name}, our way` } : sheet.body
  const { submit, field, form, message, busy } = useRequestForm({
    start: sheetFieldsOf(body),
    schema: isVariant ? cutSheetCreate : cutSheetChange,
    toRequest: (fields) => {
      const written = sheetOfFields(fields, body)
      return isVariant ? { id, basedOnId: sheet.id, body: written } : { number: sheet.number, body: written }
    },
    send: (request) =>
      isVariant ? send<CutSheet>('POST', '/cut-sheets', request) : send<CutSheet>('PUT', `/cut-sheets/${sheet.id}`, request),
    keepAs: `${isVariant ? 'variant' : 'sheet'}-${sheet.versionId}`,
  })
  const steps = useFieldArray({ control: form.control, name: 'body.steps' })
  const outputs = useFieldArray({ control: form.control, name: 'body.outputs' })
  const tubs = form.watch('body.outputs')
  const total = tubs.reduce((sum, { typicalPct }) => sum + (numberOf(typicalPct) || 0), 0)
  const refusal = firstRefusal(form.formState.errors)

  async function keep(event: React.FormEvent) {
    event.preventDefault()
    const kept = await submit()
    if (!kept) return
    await queryClient.invalidateQueries({ queryKey: cutSheetsQuery.queryKey })
    navigate(`/cut-sheets/${kept.id}`, { replace: true })
  }

  function removeOutput(at: number) {
    const gone = tubs[at]?.key
    outputs.remove(at)
    form.getValues('body.steps').forEach((step, index) => {
      form.setValue(
        `body.steps.${index}.outputs`,
        step.outputs.filter((key) => key !== gone),
      )
    })
  }

  return (
    <main className="page">
      <Form className="sheet stack" onSubmit={keep}>
        <h1>{isVariant ? `Our own variant of “${sheet.body.name}”` : `Change “${sheet.body.name}”`}</h1>
        <p className="field-hint">
          {isVariant
            ? 'The sheet it comes from stays as it is.'
            : `This makes version ${sheet.number + 1}. Runs stay with the version they used.`}
        </p>
        <div className="fields">
          <TextField label="Name" {...field('body.name')} />
          <TextField label="School, in a sentence" {...field('body.school')} />
          <div className="range-fields">
            <TextField label="Weight, kg, from" inputMode="decimal" {...field('body.weightKg.low')} />
            <TextField label="to" inputMode="decimal" {...field('body.weightKg.high')} />
          </div>
          <div className="range-fields">
            <TextField label="Minutes an item, from" inputMode="decimal" {...field('body.minutes.low')} />
            <TextField label="to" inputMode="decimal" {...field('body.minutes.high')} />
          </div>
          <TextField label="Board for" {...field('body.board')} />
        </div>
        <LinesField label="Station, one thing a line" rows={6} {...field('body.station')} />
        <h2>Steps</h2>
        <Sortable
          items={steps.fields}
          nameOf={(_, index) => form.watch(`body.steps.${index}.title`)}
          onMove={steps.move}
          onRemove={steps.remove}
        >
          {(_, index) => <StepEditor field={field} at={index} tubs={tubs} />}
        </Sortable>
        <Button variant="plain" onClick={() => steps.append(stepFieldsOf({ title: 'New step', text: '' }))}>
          Add a step
        </Button>
        <h2>Tubs</h2>
        <p className={total > 100 ? 'hot' : 'field-hint'}>
          Typical shares add up to {total.toFixed(1)} %:{' '}
          {total > 100 ? 'that is more than the whole.' : `${(100 - total).toFixed(1)} % is the usual loss.`}
        </p>
        <Sortable items={outputs.fields} nameOf={(_, index) => tubs[index]?.name ?? ''} onMove={outputs.move} onRemove={removeOutput}>
          {(_, index) => <OutputEditor field={field} at={index} />}
        </Sortable>
        <Button variant="plain" onClick={() => outputs.append(newOutput(tubs))}>
          Add a tub
        </Button>
        <LinesField label="Cautions, one a line" rows={6} {...field('body.cautions')} />
        {refusal && <Warning>{refusal}</Warning>}
        {message && message !== refusal && <Warning>{message}</Warning>}
        <div className="actions">
          <Link className="btn btn-plain" to={`/cut-sheets/${sheet.id}`}>
            Leave it
          </Link>
          <Button type="submit" variant="act" className="btn-large" disabled={busy}>
            {isVariant ? 'Keep our variant' : `Keep as version ${sheet.number + 1}`}
          </Button>
        </div>
      </Form>
    </main>
  )
}

function newOutput(tubs: readonly { key: string }[]) {
  let number = tubs.length + 1
  while (tubs.some((tub) => tub.key === `tub-${number}`)) number += 1
  return outputFieldsOf({
    key: `tub-${number}`,
    name: 'New tub',
    role: 'byproduct',
    destination: '',
    lowPct: 0,
    typicalPct: 0,
    highPct: 5,
  })
}

/** The first thing refused anywhere in the sheet: its field may stand in a line that is folded up. */
function firstRefusal(errors: object): string | undefined {
  for (const value of Object.values(errors)) {
    if (typeof value !== 'object' || value === null || value instanceof Element) continue
    if (typeof value.message === 'string' && value.message !== '') return value.message
    const inner = firstRefusal(value)
    if (inner) return inner
  }
  return undefined
}
