import type { BestMixInput, PieceType } from '@fleam/core/plan/best-mix'
import type { Profile } from '@fleam/core/plan/profile'
import { useState } from 'react'
import { numberOf, TextField } from '../../ui/fields.tsx'
import { Caution, Warning } from '../../ui/notes.tsx'
import { useUnits } from '../../ui/units.ts'
import { CutMap, type MappedPiece } from './cut-map.tsx'
import { useBestMix } from './use-best-mix.ts'
import { tryProfile, waysOf } from './ways.ts'

const kept = 'fleam.plan'

interface PlanFields {
  grams: string
  stations: { cm: string; girth: string }[]
  types: {
    name: string
    target: string
    from: string
    to: string
    thin: string
    thick: string
    face: string
    value: string
    most: string
  }[]
  tipsValue: string
}

const tenderloin: PlanFields = {
  grams: '1980',
  stations: [
    { cm: '0', girth: '20' },
    { cm: '6', girth: '27' },
    { cm: '18', girth: '25' },
    { cm: '32', girth: '22.5' },
    { cm: '44', girth: '16.5' },
    { cm: '52', girth: '7' },
  ],
  types: [
    { name: 'Steak', target: '180', from: '172', to: '190', thin: '25', thick: '55', face: '6.5', value: '11.5', most: '' },
    { name: 'Tournedos', target: '112', from: '105', to: '120', thin: '20', thick: '45', face: '4.5', value: '6.2', most: '4' },
  ],
  tipsValue: '17',
}

/** Where to cut a tapered muscle so that the portions come out at weight. */
export function Page() {
  const { money, grams } = useUnits()
  const [fields, setFields] = useState<PlanFields>(readKept)
  const [moved, setMoved] = useState<{ of: string; cuts: number[] }>()
  const input = inputOf(fields)
  const question = JSON.stringify(input)
  const shape = tryProfile(input)
  const { mix, of, refusal, busy } = useBestMix('profile' in shape ? input : undefined)
  const change = (next: PlanFields) => {
    setFields(next)
    localStorage.setItem(kept, JSON.stringify(next))
  }
  const trouble = 'refusal' in shape ? shape.refusal : refusal
  const planned = mix?.pieces.slice(1).map((piece) => piece.fromCm) ?? []
  const isMoved = moved?.of === question && moved.cuts.length === planned.length
  const cuts = isMoved ? moved.cuts : planned
  const pieces =
    'profile' in shape && mix
      ? mapPieces(
          shape.profile,
          input,
          mix.pieces.map((piece) => piece.type),
          cuts,
        )
      : []

  function move(line: number, toCm: number) {
    if (!('profile' in shape)) return
    const low = (cuts[line - 1] ?? 0) + 0.1
    const high = (cuts[line + 1] ?? shape.profile.lengthCm) - 0.1
    const next = [...cuts]
    next[line] = Math.min(high, Math.max(low, Math.round(toCm * 10) / 10))
    setMoved({ of: question, cuts: next })
  }

  return (
    <main className="page plan">
      <section className="sheet">
        <header className="result-head">
          <div>
            <h1>Where to cut</h1>
            <p className="under-title">Drag a line, or let the plan choose. Thick end on the left.</p>
          </div>
          {isMoved && (
            <button type="button" className="btn btn-plain" onClick={() => setMoved(undefined)}>
              Put the lines back
            </button>
          )}
        </header>
        {trouble && <Warning>{trouble}</Warning>}
        {'profile' in shape && mix && (
          <div className={busy ? 'plan-map plan-busy' : 'plan-map'}>
            <CutMap profile={shape.profile} pieces={pieces} onMove={move} />
          </div>
        )}
        {pieces.some((piece) => piece.trouble) && (
          <p className="note note-warning">
            {pieces
              .filter((piece) => piece.trouble)
              .map((piece) => `${piece.kind} at ${piece.fromCm.toFixed(1)} cm: ${piece.trouble}`)
              .join('; ')}
          </p>
        )}
        {mix && of && !trouble && <Ways input={of} ways={waysOf(of, mix)} names={fields.types.map((type) => type.name)} />}
        {mix && !trouble && mix.pieces.every((piece) => piece.type === 'tips') && (
          <Warning>No piece that is wanted fits this muscle: widen a range of weight or thickness, or ask for a smaller face.</Warning>
        )}
        <Caution>
          A plan guides the knife, the scale decides: weigh each slice. Bonded meat is cooked as ground meat and labelled; local food code
          comes first.
        </Caution>
      </section>
      <section className="sheet stack">
        <h2>The piece</h2>
        <TextField
          label="Trimmed weight, g"
          value={fields.grams}
          onChange={(value) => change({ ...fields, grams: value })}
          inputMode="decimal"
        />
        {'profile' in shape && (
          <p className={shape.profile.densityIsPlausible ? 'field-hint' : 'field-error'}>
            {shape.profile.densityIsPlausible ? 'Tape and scale agree: ' : 'Tape and scale disagree, measure again: '}
            {shape.profile.densityGPerCm3.toFixed(2)} g per cm³ over {shape.profile.lengthCm} cm.
          </p>
        )}
        <Stations fields={fields} change={change} />
        <h2>What is wanted</h2>
        {fields.types.map((type, index) => (
          <TypeFields
            key={index}
            type={type}
            change={(next) => change({ ...fields, types: fields.types.map((other, at) => (at === index ? next : other)) })}
            remove={fields.types.length > 1 ? () => change({ ...fields, types: fields.types.filter((_, at) => at !== index) }) : undefined}
          />
        ))}
        <div className="actions">
          <button
            type="button"
            className="btn btn-plain"
            onClick={() =>
              change({
                ...fields,
                types: [
                  ...fields.types,
                  { ...(fields.types.at(-1) ?? tenderloin.types[0]), name: 'Another' } as PlanFields['types'][number],
                ],
              })
            }
          >
            Add a kind
          </button>
          <button type="button" className="btn btn-plain" onClick={() => change(tenderloin)}>
            Start from a tenderloin
          </button>
        </div>
        <TextField
          label="Tips are worth, a kg"
          value={fields.tipsValue}
          onChange={(value) => change({ ...fields, tipsValue: value })}
          inputMode="decimal"
          hint={`${grams(1000)} of tips: ${money(numberOf(fields.tipsValue) || 0)}`}
        />
      </section>
    </main>
  )
}

function Stations({ fields, change }: { fields: PlanFields; change: (fields: PlanFields) => void }) {
  const set = (index: number, part: Partial<PlanFields['stations'][number]>) =>
    change({ ...fields, stations: fields.stations.map((station, at) => (at === index ? { ...station, ...part } : station)) })
  return (
    <>
      <ol className="stations">
        {fields.stations.map((station, index) => (
          <li key={index}>
            <input
              className="form-control"
              aria-label={`Place ${index + 1}, cm`}
              inputMode="decimal"
              value={station.cm}
              onChange={(event) => set(index, { cm: event.target.value })}
            />
            <span>cm: girth</span>
            <input
              className="form-control"
              aria-label={`Girth ${index + 1}, cm`}
              inputMode="decimal"
              value={station.girth}
              onChange={(event) => set(index, { girth: event.target.value })}
            />
            <button
              type="button"
              className="btn btn-plain"
              aria-label={`Take out place ${index + 1}`}
              disabled={fields.stations.length <= 2}
              onClick={() => change({ ...fields, stations: fields.stations.filter((_, at) => at !== index) })}
            >
              ×
            </button>
          </li>
        ))}
      </ol>
      <button
        type="button"
        className="btn btn-plain"
        onClick={() => {
          const last = fields.stations.at(-1)
          change({ ...fields, stations: [...fields.stations, { cm: String((Number(last?.cm) || 0) + 5), girth: last?.girth ?? '20' }] })
        }}
      >
        Add a place
      </button>
    </>
  )
}

function TypeFields({
  type,
  change,
  remove,
}: {
  type: PlanFields['types'][number]
  change: (type: PlanFields['types'][number]) => void
  remove: (() => void) | undefined
}) {
  const field = (key: keyof typeof type, label: string) => (
    <TextField
      label={label}
      value={type[key]}
      onChange={(value) => change({ ...type, [key]: value })}
      inputMode={key === 'name' ? 'text' : 'decimal'}
    />
  )
  return (
    <fieldset className="plan-type">
      <legend className="visually-hidden">{type.name}</legend>
      {field('name', 'Kind')}
      {field('target', 'Target, g')}
      {field('value', 'Worth each')}
      {field('from', 'From, g')}
      {field('to', 'To, g')}
      {field('most', 'At most')}
      {field('thin', 'Thin, mm')}
      {field('thick', 'Thick, mm')}
      {field('face', 'Face, cm')}
      {remove && (
        <button type="button" className="btn btn-plain" onClick={remove}>
          Take {type.name} out
        </button>
      )}
    </fieldset>
  )
}

function Ways({ input, ways, names }: { input: BestMixInput; ways: ReturnType<typeof waysOf>; names: string[] }) {
  const { money, grams } = useUnits()
  const most = Math.max(...ways.map((way) => way.worth))
  return (
    // biome-ignore lint/a11y/noNoninteractiveTabindex: a region that scrolls must be reachable by keyboard
    <section className="table-scroll" aria-label="Ways of cutting" tabIndex={0}>
      <table className="figures">
        <thead>
          <tr>
            <th>Way of cutting</th>
            {names.map((name, index) => (
              <th key={input.types[index]?.id}>{name}</th>
            ))}
            <th>To tips</th>
            <th>Off target</th>
            <th>Worth</th>
          </tr>
        </thead>
        <tbody>
          {ways.map((way) => (
            <tr key={way.name} className={way.worth === most ? 'best-way' : ''}>
              <th scope="row">
                {way.name} {way.worth === most && <small>worth most</small>}
                {way.note && <small> {way.note}</small>}
              </th>
              {way.counts.map((count, index) => (
                <td key={input.types[index]?.id}>{count === 0 ? '–' : count}</td>
              ))}
              <td>{grams(way.tipsGrams)}</td>
              <td>± {grams(way.offGrams)}</td>
              <td>{money(way.worth)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  )
}

function mapPieces(profile: Profile, input: BestMixInput, kinds: readonly string[], cuts: readonly number[]): MappedPiece[] {
  const edges = [0, ...cuts, profile.lengthCm]
  return kinds.map((kind, index) => {
    const [fromCm, toCm] = [edges[index] ?? 0, edges[index + 1] ?? profile.lengthCm]
    const grams = profile.weightTo(toCm) - profile.weightTo(fromCm)
    const rank = input.types.findIndex((type) => type.id === kind)
    const type = input.types[rank]
    return { fromCm, toCm, grams, kind: kind.replace(/^\d+ /, ''), rank, trouble: type && troubleOf(type, grams, toCm - fromCm) }
  })
}

function troubleOf(type: PieceType, grams: number, cm: number): string | undefined {
  if (grams < type.minGrams - 0.05) return `${Math.round(grams)} g is under ${type.minGrams} g`
  if (grams > type.maxGrams + 0.05) return `${Math.round(grams)} g is over ${type.maxGrams} g`
  if (cm < type.minCm - 1e-6) return `${Math.round(cm * 10)} mm is thinner than ${type.minCm * 10} mm`
  return cm > type.maxCm + 1e-6 ? `${Math.round(cm * 10)} mm is thicker than ${type.maxCm * 10} mm` : undefined
}

function inputOf(fields: PlanFields): BestMixInput {
  return {
    grams: numberOf(fields.grams),
    stations: fields.stations.map((station) => ({ cm: numberOf(station.cm), girthCm: numberOf(station.girth) })),
    types: fields.types.map((type, index) => ({
      id: `${index + 1} ${type.name}`,
      value: numberOf(type.value) || 0,
      targetGrams: numberOf(type.target),
      minGrams: numberOf(type.from),
      maxGrams: numberOf(type.to),
      minCm: numberOf(type.thin) / 10,
      maxCm: numberOf(type.thick) / 10,
      minDiameterCm: numberOf(type.face) || 0,
      ...(type.most.trim() === '' ? {} : { maxCount: Math.min(60, Math.max(0, Math.round(numberOf(type.most) || 0))) }),
    })),
    tipsValuePerKg: numberOf(fields.tipsValue) || 0,
    minTipsCm: 2,
    offTargetPerGram: 0.01,
    stepCm: 0.1,
  }
}

function readKept(): PlanFields {
  try {
    const read = JSON.parse(localStorage.getItem(kept) ?? '') as PlanFields
    if (Array.isArray(read.stations) && Array.isArray(read.types)) return read
  } catch {
    // nothing kept yet
  }
  return tenderloin
}
