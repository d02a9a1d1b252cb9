import { type MeasuredProfile, measuredProfileCreate } from '@fleam/contract/plan'
import { profileOf, type Station } from '@fleam/core/plan/profile'
import { placesToTapeAgain } from '@fleam/core/plan/tape'
import { stationsOfShape } from '@fleam/core/plan/usual-profile'
import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import Button from 'react-bootstrap/Button'
import { get, send } from '../../api/http.ts'
import { newId } from '../../api/new-id.ts'
import { usualShapesQuery } from '../../api/queries.ts'
import { Choice, numberOf, SelectField, TextField } from '../../ui/fields.tsx'
import { Warning, Word } from '../../ui/notes.tsx'
import { useRequestForm } from '../../ui/request-form.ts'
import { ExpectedWeight } from './expected-weight.tsx'
import { type PlanKind, useFittingCuts } from './fitting-cuts.ts'
import { fieldsOf, type Measure, type PieceFields, presets, stationsOf } from './plan-fields.ts'
import { MeasureField, useMeasured, usePlanUnits } from './plan-units.tsx'

interface PieceFormProps {
  piece: PieceFields
  kind: PlanKind
  onChange: (piece: PieceFields) => void
}

const profilesKey = ['profiles']

/** Weight, length and tape of one piece; started from a shape, a piece measured before, or what this kitchen's pieces usually are. */
export function PieceForm({ piece, kind, onChange }: PieceFormProps) {
  const { unitOf } = usePlanUnits()
  const set = (index: number, part: Partial<PieceFields['stations'][number]>) =>
    onChange({ ...piece, stations: piece.stations.map((station, at) => (at === index ? { ...station, ...part } : station)) })
  return (
    <>
      <StartFrom kind={kind} piece={piece} onChange={onChange} />
      <MeasureField of="g" label="Trimmed weight" value={piece.grams} onChange={(grams) => onChange({ ...piece, grams })} />
      <ExpectedWeight kind={kind} onTake={(grams) => onChange({ ...piece, grams: String(grams) })} />
      <DensityCheck piece={piece} isMuscle={kind !== 'fillet'} />
      <Choice<Measure>
        label="Measured with"
        value={piece.measure}
        onChange={(measure) => onChange({ ...piece, measure, stations: piece.stations.map((station) => converted(station, measure)) })}
        options={[
          { value: 'girth', label: 'A tape round it' },
          { value: 'width-height', label: 'Width and height' },
        ]}
      />
      <ol className="stations">
        {piece.stations.map((station, index) => (
          <li key={index}>
            <StationInput label={`Place ${index + 1}`} value={station.cm} onChange={(cm) => set(index, { cm })} />
            <span>{unitOf('cm')}:</span>
            {piece.measure === 'girth' ? (
              <StationInput label={`Girth ${index + 1}`} value={station.girth} onChange={(girth) => set(index, { girth })} />
            ) : (
              <span className="station-size">
                <StationInput label={`Width ${index + 1}`} value={station.width} onChange={(width) => set(index, { width })} />
                ×
                <StationInput label={`Height ${index + 1}`} value={station.height} onChange={(height) => set(index, { height })} />
              </span>
            )}
            <Button
              variant="plain"
              aria-label={`Take out place ${index + 1}`}
              disabled={piece.stations.length <= 2}
              onClick={() => onChange({ ...piece, stations: piece.stations.filter((_, at) => at !== index) })}
            >
              ×
            </Button>
          </li>
        ))}
      </ol>
      <Button variant="plain" onClick={() => onChange({ ...piece, stations: [...piece.stations, stationAfter(piece)] })}>
        Add a place
      </Button>
      <KeepProfile piece={piece} kind={kind} />
    </>
  )
}

function StationInput({ label, value, onChange }: { label: string; value: string; onChange: (value: string) => void }) {
  const { unitOf } = usePlanUnits()
  const field = useMeasured('cm', value, onChange)
  return (
    <input
      className="form-control"
      aria-label={`${label}, ${unitOf('cm')}`}
      inputMode="decimal"
      value={field.value}
      onChange={(event) => field.onChange(event.target.value)}
    />
  )
}

/** A round section of the same area in the other measure, so that changing it loses nothing. */
function converted(station: PieceFields['stations'][number], measure: Measure): PieceFields['stations'][number] {
  const text = (value: number) => String(Math.round(value * 10) / 10)
  if (measure === 'girth' && station.girth === '') {
    return { ...station, girth: text(Math.PI * Math.sqrt(numberOf(station.width) * numberOf(station.height))) }
  }
  if (measure === 'width-height' && station.width === '') {
    const diameter = text(numberOf(station.girth) / Math.PI)
    return { ...station, width: diameter, height: diameter }
  }
  return station
}

function stationAfter({ stations }: PieceFields): PieceFields['stations'][number] {
  const last = stations.at(-1)
  return { ...(last ?? { girth: '20', width: '6', height: '6' }), cm: String((Number(last?.cm) || 0) + 5) }
}

function DensityCheck({ piece, isMuscle }: { piece: PieceFields; isMuscle: boolean }) {
  const { written } = usePlanUnits()
  try {
    const stations = stationsOf(piece)
    const profile = profileOf({ stations, grams: numberOf(piece.grams) })
    const again = isMuscle ? placesToTapeAgain(stations) : []
    return (
      <>
        <p className={profile.densityIsPlausible ? 'field-hint' : 'field-error'}>
          {profile.densityIsPlausible ? 'Tape and scale agree: ' : 'Tape and scale disagree, measure again: '}
          {profile.densityGPerCm3.toFixed(2)} g per cm³ over {written('cm', profile.lengthCm)}.
        </p>
        {again.length > 0 && (
          <p className="field-error">
            It lies flattened, over twice as wide as high: lift it round, or measure it at{' '}
            {again.map((cm) => written('cm', cm)).join(' and ')} too.
          </p>
        )}
      </>
    )
  } catch {
    // what is wrong is said above the drawing
    return null
  }
}

function StartFrom({ kind, piece, onChange }: PieceFormProps) {
  const profiles = useQuery({
    queryKey: profilesKey,
    queryFn: async () => (await get<{ entries: MeasuredProfile[] }>('/profiles')).entries,
  })
  const usual = useQuery(usualShapesQuery)
  const fitting = useFittingCuts(kind)
  const starts: { value: string; label: string; take: () => { stations: readonly Station[]; grams: number } }[] = [
    ...(usual.data ?? [])
      .filter(({ item }) => fitting.some((cut) => cut.item.id === item.id))
      .map(({ item, shape }) => ({
        value: `usual ${item.id}`,
        label: `${item.name}: usual here, from ${shape.pieces} cut to plan`,
        take: () => {
          const grams = numberOf(piece.grams) || 1000
          return { stations: stationsOfShape(shape, grams), grams }
        },
      })),
    ...(profiles.data ?? [])
      .filter((profile) => profile.kind === kind)
      .map((profile) => ({ value: profile.id, label: `${profile.name}, measured by ${profile.by}`, take: () => profile })),
    ...presets
      .filter((preset) => preset.kind === kind)
      .map((preset) => ({ value: preset.name, label: `${preset.name}, usual size`, take: () => preset })),
  ]
  return (
    <SelectField
      label="Start from"
      value=""
      onChange={(value) => {
        const start = starts.find((one) => one.value === value)?.take()
        if (start) onChange(fieldsOf(start.stations, start.grams))
      }}
      options={[{ value: '', label: 'what stands below' }, ...starts.map(({ value, label }) => ({ value, label }))]}
    />
  )
}

function KeepProfile({ piece, kind }: Omit<PieceFormProps, 'onChange'>) {
  const queryClient = useQueryClient()
  const [id, setId] = useState(newId)
  const { submit, field, form, message, busy } = useRequestForm({
    start: { name: '' },
    schema: measuredProfileCreate,
    toRequest: ({ name }) => ({ id, name, kind, stations: stationsOf(piece), grams: numberOf(piece.grams) }),
    send: (request) => send<MeasuredProfile>('POST', '/profiles', request),
  })
  const { isSubmitSuccessful, isDirty } = form.formState
  async function keep() {
    const profile = await submit()
    if (!profile) return
    setId(newId())
    await queryClient.invalidateQueries({ queryKey: profilesKey })
  }
  return (
    <details className="keep-profile">
      <summary>Keep this measure</summary>
      <TextField label="Name" {...field('name')} />
      {message && <Warning>{message}</Warning>}
      {isSubmitSuccessful && !isDirty && <Word isGood>Kept: it is offered under Start from.</Word>}
      <Button variant="plain" disabled={busy} onClick={keep}>
        Keep it
      </Button>
    </details>
  )
}
