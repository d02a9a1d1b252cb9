import { type Exercise, exerciseCreate, type StudentGroup } from '@fleam/contract/classes'
import { type Criterion, rubricOf } from '@fleam/core/practice/rubric'
import { ladder } from '@fleam/core/practice/screen-piece'
import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import Button from 'react-bootstrap/Button'
import Form from 'react-bootstrap/Form'
import { useNavigate } from 'react-router'
import { send } from '../../api/http.ts'
import { newId } from '../../api/new-id.ts'
import { cutSheetsQuery, itemsQuery } from '../../api/queries.ts'
import { DateField } from '../../ui/date-field.tsx'
import { today } from '../../ui/days.ts'
import { Choice, numberOf, SelectField, TextField, WeightField } from '../../ui/fields.tsx'
import { Warning } from '../../ui/notes.tsx'
import { useRequestForm } from '../../ui/request-form.ts'
import { SidePanel } from '../../ui/side-panel.tsx'
import { useUnits } from '../../ui/units.ts'
import { exercisesQuery } from './queries.ts'
import { RubricFields } from './rubric-fields.tsx'

const kinds = [
  { value: 'bench', label: 'At the bench' },
  { value: 'screen', label: 'On screen' },
] as const

/** What a group is given to do: a sheet and an item with its rubric, or a piece on screen that is the same for all. */
export function GivePanel({ group, onClose }: { group: StudentGroup; onClose: () => void }) {
  const queryClient = useQueryClient()
  const navigate = useNavigate()
  const { weightSystem } = useUnits()
  const sheets = (useQuery(cutSheetsQuery).data ?? []).filter(({ retired }) => !retired)
  const items = (useQuery(itemsQuery).data ?? []).filter(({ kind }) => kind === 'whole')
  const exercises = useQuery(exercisesQuery).data ?? []
  const [id] = useState(newId)
  const usual = sheets.find(({ slug }) => slug === 'chicken-saute') ?? sheets[0]
  const start = {
    name: '',
    day: today(),
    task: {
      ...{ kind: 'bench' as 'bench' | 'screen', cutSheetId: '', itemId: '', target: '', rung: 'rack' },
      seed: String(1 + Math.floor(Math.random() * 9999)),
      rubric: undefined as Criterion[] | undefined,
    },
  }
  const sheetOf = (cutSheetId: string) => sheets.find((one) => one.id === cutSheetId) ?? usual
  const itemsOf = (cutSheetId: string) => items.filter(({ animal }) => animal === sheetOf(cutSheetId)?.body.animal)
  /** The school's own of the last exercise by this sheet, else the sheet's. */
  function rubricBefore(cutSheetId: string): Criterion[] {
    const last = exercises.find(({ task }) => task.kind === 'bench' && task.cutSheetId === cutSheetId)
    if (last?.task.kind === 'bench') return last.task.rubric
    return rubricOf(sheetOf(cutSheetId)?.body.rubric ?? [{ key: 'knife', weight: 1 }])
  }
  const { submit, field, form, message, busy, problems } = useGiveForm(start, (fields) => {
    const { kind, rung, seed, target } = fields.task
    const sheet = sheetOf(fields.task.cutSheetId)
    const itemId = fields.task.itemId || itemsOf(sheet?.id ?? '')[0]?.id
    const name = fields.name.trim() || (kind === 'screen' ? (ladder.find(({ key }) => key === rung)?.name ?? '') : (sheet?.body.name ?? ''))
    return {
      ...{ id, groupId: group.id, name, day: fields.day },
      task:
        kind === 'screen'
          ? { kind, rung, seed: numberOf(seed) }
          : {
              ...{ kind, cutSheetId: sheet?.id, itemId, supplierId: null },
              target: target.trim() === '' ? null : /[a-z]/i.test(target) ? target : `${target} ${weightSystem === 'metric' ? 'g' : 'oz'}`,
              rubric: fields.task.rubric ?? rubricBefore(sheet?.id ?? ''),
            },
    }
  })
  const kind = form.watch('task.kind')
  const cutSheetId = form.watch('task.cutSheetId') || usual?.id || ''
  const rubric = form.watch('task.rubric') ?? rubricBefore(cutSheetId)
  const own = itemsOf(cutSheetId)
  async function give(event: React.FormEvent) {
    event.preventDefault()
    if (!(await submit())) return
    await queryClient.invalidateQueries({ queryKey: exercisesQuery.queryKey })
    onClose()
    navigate(`/school/classes/${id}`)
  }
  return (
    <SidePanel title={`An exercise for ${group.name}`} onClose={onClose} isWide>
      <Form className="stack" onSubmit={give}>
        <Choice label="Where" {...field('task.kind')} options={kinds} />
        <div className="fields">
          <TextField label="Name, if it has one of its own" {...field('name')} />
          <DateField label="Day" {...field('day')} />
        </div>
        {kind === 'bench' ? (
          <>
            <div className="fields">
              <SelectField
                label="Cut sheet"
                {...field('task.cutSheetId')}
                value={cutSheetId}
                onChange={(value) => {
                  form.setValue('task.cutSheetId', value, { shouldDirty: true })
                  form.setValue('task.itemId', '')
                  form.setValue('task.rubric', undefined)
                }}
                options={sheets.map((sheet) => ({ value: sheet.id, label: sheet.body.name }))}
              />
              <SelectField
                label="Item"
                {...field('task.itemId')}
                value={form.watch('task.itemId') || own[0]?.id || ''}
                options={own.map((item) => ({ value: item.id, label: item.name }))}
              />
              <WeightField label="Weight of a portion, if not the sheet’s" {...field('task.target')} />
            </div>
            {own.length === 0 && <Warning>No item of that kind is in the price list.</Warning>}
            <RubricFields rubric={rubric} onChange={(next) => form.setValue('task.rubric', next, { shouldDirty: true })} />
          </>
        ) : (
          <div className="fields">
            <SelectField label="Rung" {...field('task.rung')} options={ladder.map(({ key, name }) => ({ value: key, label: name }))} />
            <TextField
              label="Number of the piece"
              {...field('task.seed')}
              inputMode="numeric"
              hint="The same number is the same piece for everybody"
            />
          </div>
        )}
        {(message || problems) && <Warning>{message ?? problems}</Warning>}
        <Button type="submit" variant="act" disabled={busy}>
          Give it to {group.members.length}
        </Button>
      </Form>
    </SidePanel>
  )
}

interface GiveFields {
  name: string
  day: string
  task: {
    kind: 'bench' | 'screen'
    cutSheetId: string
    itemId: string
    target: string
    rung: string
    seed: string
    rubric: Criterion[] | undefined
  }
}

function useGiveForm(start: GiveFields, toRequest: (fields: GiveFields) => object) {
  const form = useRequestForm<GiveFields, Exercise>({
    start,
    schema: exerciseCreate,
    toRequest,
    send: (request) => send<Exercise>('POST', '/exercises', request),
  })
  // a criterion has no field of its own to stand beside
  const refused = form.form.formState.errors.task?.rubric
  return {
    ...form,
    problems: refused ? 'Something in the rubric cannot be kept: every criterion has a name and a weight from 0 to 100.' : undefined,
  }
}
