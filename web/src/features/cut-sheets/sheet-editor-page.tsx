import {
  closestCenter,
  DndContext,
  type DragEndEvent,
  type DragOverEvent,
  KeyboardSensor,
  PointerSensor,
  useSensor,
  useSensors,
} from '@dnd-kit/core'
import { arrayMove, SortableContext, sortableKeyboardCoordinates, useSortable, verticalListSortingStrategy } from '@dnd-kit/sortable'
import { CSS } from '@dnd-kit/utilities'
import { type CutSheet, type CutSheetBody, cutSheetChange, cutSheetCreate, type SheetStep } from '@fleam/contract/cut-sheets'
import { useQuery, useQueryClient } from '@tanstack/react-query'
import { type ReactNode, useState } from 'react'
import Button from 'react-bootstrap/Button'
import Form from 'react-bootstrap/Form'
import { GripVertical, Trash } from 'react-bootstrap-icons'
import { Link, useNavigate, useParams, useSearchParams } from 'react-router'
import { get, send } from '../../api/http.ts'
import { newId } from '../../api/new-id.ts'
import { cutSheetsQuery } from '../../api/queries.ts'
import { Choice, numberOf, SelectField, TextField } from '../../ui/fields.tsx'
import { Failed, Loading, Warning } from '../../ui/notes.tsx'
import { type FieldErrors, useSubmission } from '../../ui/submission.ts'

/** Writes a new version of a cut sheet, or the kitchen's own variant of one. */
export function Page() {
  const { id = '' } = useParams()
  const [search] = useSearchParams()
  const { data, error, refetch } = useQuery({ queryKey: ['cut-sheets', id], queryFn: () => get<CutSheet>(`/cut-sheets/${id}`) })
  if (error) {
    return (
      <main className="page">
        <Failed error={error} retry={refetch} />
      </main>
    )
  }
  if (!data) return <Loading what="the cut sheet" />
  return <Editor sheet={data} isVariant={search.get('as') === 'variant'} />
}

type Keyed<Entry> = Entry & { at: string }
type Output = CutSheetBody['outputs'][number]

const keyed = <Entry extends object>(entries: readonly Entry[]): Keyed<Entry>[] => entries.map((entry) => ({ ...entry, at: newId() }))
const bare = <Entry extends { at: string }>({ at: _key, ...entry }: Entry) => entry

function Editor({ sheet, isVariant }: { sheet: CutSheet; isVariant: boolean }) {
  const navigate = useNavigate()
  const queryClient = useQueryClient()
  const [id] = useState(() => (isVariant ? newId() : sheet.id))
  const [body, setBody] = useState<CutSheetBody>(() => (isVariant ? { ...sheet.body, name: `${sheet.body.name}, our way` } : sheet.body))
  const [steps, setSteps] = useState(() => keyed(sheet.body.steps))
  const [outputs, setOutputs] = useState(() => keyed(sheet.body.outputs))
  const { submit, errors, message, busy } = useSubmission(isVariant ? cutSheetCreate : cutSheetChange, (request: object) =>
    isVariant ? send<CutSheet>('POST', '/cut-sheets', request) : send<CutSheet>('PUT', `/cut-sheets/${sheet.id}`, request),
  )
  const set = (part: Partial<CutSheetBody>) => setBody({ ...body, ...part })
  const total = outputs.reduce((sum, output) => sum + (Number.isFinite(output.typicalPct) ? output.typicalPct : 0), 0)

  async function keep(event: React.FormEvent) {
    event.preventDefault()
    const whole = { ...body, steps: steps.map(bare), outputs: outputs.map(bare) }
    const kept = await submit(isVariant ? { id, basedOnId: sheet.id, body: whole } : { number: sheet.number, body: whole })
    if (!kept) return
    await queryClient.invalidateQueries({ queryKey: cutSheetsQuery.queryKey })
    navigate(`/cut-sheets/${kept.id}`, { replace: true })
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
          <TextField label="Name" value={body.name} onChange={(name) => set({ name })} error={errors['body.name']} />
          <TextField
            label="School, in a sentence"
            value={body.school}
            onChange={(school) => set({ school })}
            error={errors['body.school']}
          />
          <RangeFields
            label="Weight, kg"
            value={body.weightKg}
            onChange={(weightKg) => set({ weightKg })}
            error={errors['body.weightKg.low']}
          />
          <RangeFields
            label="Minutes an item"
            value={body.minutes}
            onChange={(minutes) => set({ minutes })}
            error={errors['body.minutes.low']}
          />
          <TextField label="Board for" value={body.board} onChange={(board) => set({ board })} error={errors['body.board']} />
        </div>
        <Lines label="Station, one thing a line" value={body.station} onChange={(station) => set({ station })} />
        <h2>Steps</h2>
        <Sortable
          items={steps}
          nameOf={(step) => step.title}
          onOrder={setSteps}
          onRemove={(at) => setSteps(steps.filter((step) => step.at !== at))}
        >
          {(step, index) => (
            <StepFields
              step={step}
              outputs={outputs}
              errors={errors}
              path={`body.steps.${index}`}
              onChange={(part) => setSteps(steps.map((one) => (one.at === step.at ? { ...one, ...part } : one)))}
            />
          )}
        </Sortable>
        <Button variant="plain" onClick={() => setSteps([...steps, { title: 'New step', text: '', at: newId() }])}>
          Add a step
        </Button>
        <h2>Tubs</h2>
        <p className={total > 100 ? 'hot' : 'field-hint'}>
          Typical shares add up to {total.toFixed(1)} %:{' '}
          {total > 100 ? 'that is more than the whole.' : `${(100 - total).toFixed(1)} % is the usual loss.`}
        </p>
        <Sortable
          items={outputs}
          nameOf={(output) => output.name}
          onOrder={setOutputs}
          onRemove={(at) => {
            const gone = outputs.find((output) => output.at === at)?.key
            setOutputs(outputs.filter((output) => output.at !== at))
            setSteps(steps.map((step) => (step.outputs ? { ...step, outputs: step.outputs.filter((key) => key !== gone) } : step)))
          }}
        >
          {(output, index) => (
            <OutputFields
              output={output}
              errors={errors}
              path={`body.outputs.${index}`}
              onChange={(part) => setOutputs(outputs.map((one) => (one.at === output.at ? { ...one, ...part } : one)))}
            />
          )}
        </Sortable>
        <Button variant="plain" onClick={() => setOutputs([...outputs, newOutput(outputs)])}>
          Add a tub
        </Button>
        <Lines label="Cautions, one a line" value={body.cautions} onChange={(cautions) => set({ cautions })} />
        {Object.keys(errors).length > 0 && <Warning>{Object.values(errors)[0]}</Warning>}
        {message && <Warning>{message}</Warning>}
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

function newOutput(outputs: readonly Output[]): Keyed<Output> {
  let number = outputs.length + 1
  while (outputs.some((output) => output.key === `tub-${number}`)) number += 1
  return { key: `tub-${number}`, name: 'New tub', role: 'byproduct', destination: '', lowPct: 0, typicalPct: 0, highPct: 5, at: newId() }
}

interface RangeFieldsProps {
  label: string
  value: { low: number; high: number }
  onChange: (value: { low: number; high: number }) => void
  error?: string | undefined
}

function RangeFields({ label, value, onChange, error }: RangeFieldsProps) {
  return (
    <div className="range-fields">
      <NumberField label={`${label}, from`} value={value.low} onChange={(low) => onChange({ ...value, low })} error={error} />
      <NumberField label="to" value={value.high} onChange={(high) => onChange({ ...value, high })} />
    </div>
  )
}

interface NumberFieldProps {
  label: string
  value: number | undefined
  onChange: (value: number) => void
  error?: string | undefined
}

/** A number that is kept as typed until it is one. */
function NumberField({ label, value, onChange, error }: NumberFieldProps) {
  const [text, setText] = useState(value === undefined || Number.isNaN(value) ? '' : String(value))
  return (
    <TextField
      label={label}
      value={text}
      inputMode="decimal"
      onChange={(next) => {
        setText(next)
        onChange(numberOf(next))
      }}
      error={error}
    />
  )
}

function Lines({ label, value, onChange }: { label: string; value: readonly string[]; onChange: (lines: string[]) => void }) {
  const [text, setText] = useState(value.join('\n'))
  return (
    <label className="field">
      {label}
      <textarea
        className="form-control"
        rows={Math.max(3, value.length + 1)}
        value={text}
        onChange={(event) => {
          setText(event.target.value)
          onChange(
            event.target.value
              .split('\n')
              .map((line) => line.trim())
              .filter(Boolean),
          )
        }}
      />
    </label>
  )
}

interface StepFieldsProps {
  step: SheetStep
  outputs: readonly Output[]
  errors: FieldErrors
  path: string
  onChange: (part: Partial<SheetStep>) => void
}

function StepFields({ step, outputs, errors, path, onChange }: StepFieldsProps) {
  const words = (value: string) => (value.trim() === '' ? undefined : value)
  return (
    <>
      <div className="fields">
        <TextField label="Step" value={step.title} onChange={(title) => onChange({ title })} error={errors[`${path}.title`]} />
        <NumberField
          label="Usual minutes"
          value={step.minutes}
          onChange={(minutes) => onChange({ minutes: minutes > 0 ? minutes : undefined })}
          error={errors[`${path}.minutes`]}
        />
        <TextField
          label="Knife"
          value={step.knife ?? ''}
          onChange={(knife) => onChange({ knife: words(knife) })}
          error={errors[`${path}.knife`]}
        />
      </div>
      <label className="field">
        What to do
        <textarea className="form-control" rows={3} value={step.text} onChange={(event) => onChange({ text: event.target.value })} />
        {errors[`${path}.text`] && <span className="field-error">{errors[`${path}.text`]}</span>}
      </label>
      <div className="fields">
        <TextField
          label="Check"
          value={step.check ?? ''}
          onChange={(check) => onChange({ check: words(check) })}
          error={errors[`${path}.check`]}
        />
        <TextField
          label="Caution"
          value={step.caution ?? ''}
          onChange={(caution) => onChange({ caution: words(caution) })}
          error={errors[`${path}.caution`]}
        />
      </div>
      <fieldset className="checks">
        <legend>Weighed at this step</legend>
        {outputs.map((output) => (
          <label key={output.key} className="check">
            <input
              type="checkbox"
              checked={step.outputs?.includes(output.key) ?? false}
              onChange={({ target: { checked } }) => {
                const others = (step.outputs ?? []).filter((key) => key !== output.key)
                onChange({ outputs: checked ? [...others, output.key] : others })
              }}
            />{' '}
            {output.name}
          </label>
        ))}
      </fieldset>
    </>
  )
}

const roles = [
  { value: 'main', label: 'Main' },
  { value: 'coproduct', label: 'Co-product' },
  { value: 'byproduct', label: 'By-product' },
  { value: 'waste', label: 'Waste' },
] as const

interface OutputFieldsProps {
  output: Output
  errors: FieldErrors
  path: string
  onChange: (part: Partial<Output>) => void
}

function OutputFields({ output, errors, path, onChange }: OutputFieldsProps) {
  const { portion } = output
  return (
    <>
      <div className="fields">
        <TextField label="Tub" value={output.name} onChange={(name) => onChange({ name })} error={errors[`${path}.name`]} />
        <SelectField label="Role" value={output.role} onChange={(role) => onChange({ role: role as Output['role'] })} options={roles} />
        <TextField label="Dish or destination" value={output.destination} onChange={(destination) => onChange({ destination })} />
      </div>
      <div className="fields fields-narrow">
        <NumberField
          label="Low, %"
          value={output.lowPct}
          onChange={(lowPct) => onChange({ lowPct })}
          error={errors[`${path}.lowPct`] ?? errors[path]}
        />
        <NumberField
          label="Typical, %"
          value={output.typicalPct}
          onChange={(typicalPct) => onChange({ typicalPct })}
          error={errors[`${path}.typicalPct`]}
        />
        <NumberField
          label="High, %"
          value={output.highPct}
          onChange={(highPct) => onChange({ highPct })}
          error={errors[`${path}.highPct`]}
        />
      </div>
      <Choice
        label="Portions"
        value={portion ? 'by-weight' : 'none'}
        onChange={(value) =>
          onChange({
            portion: value === 'none' ? undefined : { targetGrams: 180, toleranceGrams: 10, askedAtReceiving: output.role === 'main' },
          })
        }
        options={[
          { value: 'none', label: 'Not portioned' },
          { value: 'by-weight', label: 'Portioned to a weight' },
        ]}
      />
      {portion && (
        <div className="fields fields-narrow">
          <NumberField
            label="Target, g"
            value={portion.targetGrams}
            onChange={(targetGrams) => onChange({ portion: { ...portion, targetGrams } })}
            error={errors[`${path}.portion.targetGrams`]}
          />
          <NumberField
            label="Tolerance, g"
            value={portion.toleranceGrams}
            onChange={(toleranceGrams) => onChange({ portion: { ...portion, toleranceGrams } })}
            error={errors[`${path}.portion.toleranceGrams`]}
          />
          <NumberField
            label="Pieces a portion"
            value={portion.pieces ?? 1}
            onChange={(pieces) => onChange({ portion: { ...portion, pieces: pieces >= 2 ? pieces : undefined } })}
            error={errors[`${path}.portion.pieces`]}
          />
          <NumberField
            label="Thickness, cm"
            value={portion.thicknessCm}
            onChange={(thicknessCm) => onChange({ portion: { ...portion, thicknessCm: thicknessCm > 0 ? thicknessCm : undefined } })}
          />
        </div>
      )}
    </>
  )
}

interface SortableProps<Entry> {
  items: readonly Keyed<Entry>[]
  nameOf: (entry: Keyed<Entry>) => string
  onOrder: (items: Keyed<Entry>[]) => void
  onRemove: (at: string) => void
  children: (entry: Keyed<Entry>, index: number) => ReactNode
}

/** A list to drag into order, by finger, mouse or keys. */
function Sortable<Entry>({ items, nameOf, onOrder, onRemove, children }: SortableProps<Entry>) {
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 6 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  )
  function drop({ active, over }: DragEndEvent) {
    if (!over || active.id === over.id) return
    const place = (at: string | number) => items.findIndex((item) => item.at === at)
    onOrder(arrayMove([...items], place(active.id), place(over.id)))
  }
  const said = ({ active, over }: Pick<DragOverEvent, 'active' | 'over'>) => {
    const item = items.find((one) => one.at === active.id)
    const place = items.findIndex((one) => one.at === over?.id) + 1
    return item && place > 0 ? `${nameOf(item)}: place ${place} of ${items.length}` : ''
  }
  const announcements = { onDragStart: said, onDragOver: said, onDragEnd: said, onDragCancel: () => 'Left where it was' }
  return (
    <DndContext sensors={sensors} collisionDetection={closestCenter} accessibility={{ announcements }} onDragEnd={drop}>
      <SortableContext items={items.map((item) => item.at)} strategy={verticalListSortingStrategy}>
        <ol className="sortable">
          {items.map((item, index) => (
            <SortableLine key={item.at} at={item.at} name={nameOf(item)} onRemove={() => onRemove(item.at)}>
              {children(item, index)}
            </SortableLine>
          ))}
        </ol>
      </SortableContext>
    </DndContext>
  )
}

function SortableLine({ at, name, onRemove, children }: { at: string; name: string; onRemove: () => void; children: ReactNode }) {
  const { attributes, listeners, setNodeRef, transform, transition, isDragging } = useSortable({ id: at })
  return (
    <li ref={setNodeRef} style={{ transform: CSS.Transform.toString(transform), transition }} className={isDragging ? 'dragging' : ''}>
      <details>
        <summary>
          <Button variant="bare" className="grip" aria-label={`Drag ${name}`} {...attributes} {...listeners}>
            <GripVertical aria-hidden />
          </Button>
          <strong>{name}</strong>
          <Button
            variant="bare"
            className="grip"
            aria-label={`Remove ${name}`}
            onClick={(event) => {
              event.preventDefault()
              onRemove()
            }}
          >
            <Trash aria-hidden />
          </Button>
        </summary>
        {children}
      </details>
    </li>
  )
}
