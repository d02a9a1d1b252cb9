import { profileOf } from '@fleam/core/plan/profile'
import { type RackCuts, rackCuts } from '@fleam/core/plan/rack-cuts'
import { useState } from 'react'
import Button from 'react-bootstrap/Button'
import { counted } from '../../ui/counted.ts'
import { Choice, numberOf, TextField } from '../../ui/fields.tsx'
import { Caution, Warning } from '../../ui/notes.tsx'
import { percentText, useUnits } from '../../ui/units.ts'
import { useDragAlong } from '../../ui/use-drag-along.ts'
import { PieceForm } from './piece-form.tsx'
import { type PieceFields, readKept, stationsOf } from './plan-fields.ts'
import { PlanTabs } from './plan-tabs.tsx'
import { MeasureField, usePlanUnits } from './plan-units.tsx'
import { TakeListToBench } from './take-to-bench.tsx'

interface RackFields {
  piece: PieceFields
  ribs: string
  half: string
  pattern: string
}

const kept = 'fleam.plan.rack'
const start: RackFields = {
  piece: {
    grams: '680',
    measure: 'girth',
    stations: [
      { cm: '0', girth: '23', width: '', height: '' },
      { cm: '9', girth: '21', width: '', height: '' },
      { cm: '20', girth: '18', width: '', height: '' },
    ],
  },
  ribs: '1.4, 3.9, 6.3, 8.8, 11.3, 13.7, 16.2, 18.6',
  half: '0.4',
  pattern: '1, 1, 1, 1, 1, 1, 1, 1',
}

const patterns = [
  { value: 'singles', label: 'Singles', of: (ribs: number) => Array.from({ length: ribs }, () => 1) },
  {
    value: 'doubles',
    label: 'Doubles',
    of: (ribs: number) => [...Array.from({ length: Math.floor(ribs / 2) }, () => 2), ...(ribs % 2 ? [1] : [])],
  },
  { value: 'half', label: 'Half racks', of: (ribs: number) => [Math.ceil(ribs / 2), Math.floor(ribs / 2)] },
  { value: 'own', label: 'As typed', of: undefined },
] as const

/** Where to cut a rack between its bones so that the cutlets weigh most alike. */
export function Page() {
  const { grams } = useUnits()
  const { said } = usePlanUnits()
  const [fields, setFields] = useState<RackFields>(() =>
    readKept(kept, start, (read) => typeof read.ribs === 'string' && Array.isArray(read.piece?.stations)),
  )
  const [moved, setMoved] = useState<{ of: string; cuts: number[] }>()
  const ribs = numbersOf(fields.ribs)
  const bones = numbersOf(fields.pattern)
  const question = JSON.stringify(fields)
  const answer = attempt(() =>
    rackCuts({
      stations: stationsOf(fields.piece),
      grams: numberOf(fields.piece.grams),
      ribsCm: ribs,
      boneHalfWidthCm: numberOf(fields.half),
      bonesPerPiece: bones,
    }),
  )
  const change = (next: RackFields) => {
    setFields(next)
    localStorage.setItem(kept, JSON.stringify(next))
  }
  const pattern = patterns.find((one) => one.of?.(ribs.length).join() === bones.join())?.value ?? 'own'
  const cuts = moved?.of === question ? moved.cuts : 'value' in answer ? answer.value.cutsCm : []
  return (
    <main className="page plan">
      <PlanTabs />
      <section className="sheet">
        <header className="result-head">
          <div>
            <h1>Where to cut the rack</h1>
            <p className="under-title">Each line may lie anywhere between two bones: moved a little, the cutlets come out alike.</p>
          </div>
          {moved?.of === question && (
            <Button variant="plain" onClick={() => setMoved(undefined)}>
              Put the lines back
            </Button>
          )}
        </header>
        {'refusal' in answer && <Warning>{said(answer.refusal)}</Warning>}
        {'value' in answer && (
          <>
            <RackMap fields={fields} ribs={ribs} cuts={cuts} bones={bones} onMove={(next) => setMoved({ of: question, cuts: next })} />
            <Spread answer={answer.value} cuts={cuts} fields={fields} />
            <Crown ribs={ribs.length} lengthCm={lengthOf(fields)} />
            <TakeListToBench kind="rack" what="Cutlets" pieces={cutletsOf(fields, cuts, bones)} />
          </>
        )}
        <Caution>
          Saw, cleaver and shears throw chips: wrap the bone ends, guard the eyes. Feel every cutlet for splinters. Local food code and
          licensed practice come first.
        </Caution>
        {'value' in answer && (
          <p className="field-hint">
            {counted(bones.length, 'piece')} of {grams(Math.round(numberOf(fields.piece.grams) / bones.length))} on average.
          </p>
        )}
      </section>
      <section className="sheet stack">
        <h2>The rack</h2>
        <PieceForm piece={fields.piece} kind="rack" onChange={(piece) => change({ ...fields, piece })} />
        <MeasureField
          of="cm"
          label="Middle of each rib from the first end"
          value={fields.ribs}
          onChange={(value) => change({ ...fields, ribs: value })}
          hint={`${ribs.length} ribs`}
        />
        <MeasureField of="cm" label="Half the width of a bone" value={fields.half} onChange={(half) => change({ ...fields, half })} />
        <Choice
          label="Cut into"
          value={pattern}
          onChange={(value) => {
            const of = patterns.find((one) => one.value === value)?.of
            if (of) change({ ...fields, pattern: of(ribs.length).join(', ') })
          }}
          options={patterns.map(({ value, label }) => ({ value, label }))}
        />
        <TextField
          label="Bones of each piece"
          value={fields.pattern}
          onChange={(value) => change({ ...fields, pattern: value })}
          hint="such as 2, 1, 1, 2, 2"
        />
        <Button variant="plain" onClick={() => change(start)}>
          Start anew
        </Button>
      </section>
    </main>
  )
}

function numbersOf(text: string): number[] {
  return text
    .split(/[,;\s]+/)
    .filter(Boolean)
    .map(numberOf)
}

function attempt<Value>(work: () => Value): { value: Value } | { refusal: string } {
  try {
    return { value: work() }
  } catch (error) {
    return { refusal: error instanceof Error ? error.message : String(error) }
  }
}

/** The pieces between the lines, as the bench takes them. */
function cutletsOf(fields: RackFields, cuts: readonly number[], bones: readonly number[]) {
  const profile = profileOf({ stations: stationsOf(fields.piece), grams: numberOf(fields.piece.grams) })
  const edges = [0, ...cuts, profile.lengthCm]
  return edges.slice(1).map((to, index) => {
    const from = edges[index] ?? 0
    return { thicknessCm: to - from, grams: profile.weightTo(to) - profile.weightTo(from), bones: bones[index] ?? 1 }
  })
}

function lengthOf(fields: RackFields): number {
  const places = fields.piece.stations.map((station) => numberOf(station.cm))
  return (places.at(-1) ?? 0) - (places[0] ?? 0)
}

const width = 820

interface RackMapProps {
  fields: RackFields
  ribs: readonly number[]
  cuts: readonly number[]
  bones: readonly number[]
  onMove: (cuts: number[]) => void
}

/** The rack from its fat side with its bones; lines move between them, weights follow. */
function RackMap({ fields, ribs, cuts, bones, onMove }: RackMapProps) {
  const { written } = usePlanUnits()
  const { grams } = useUnits()
  const profile = profileOf({ stations: stationsOf(fields.piece), grams: numberOf(fields.piece.grams) })
  const half = numberOf(fields.half)
  const perCm = (width - 24) / profile.lengthCm
  const x = (cm: number) => 12 + cm * perCm
  const edges = [0, ...cuts, profile.lengthCm]
  const tall = (cm: number) => profile.diameterAt(cm) * 14
  const outline = Array.from({ length: 41 }, (_, index) => (profile.lengthCm * index) / 40)
  const gapOf = (line: number) => {
    const rib = bones.slice(0, line + 1).reduce((sum, count) => sum + count, 0)
    return { from: (ribs[rib - 1] ?? 0) + half, to: (ribs[rib] ?? profile.lengthCm) - half }
  }
  const move = (line: number, toCm: number) => {
    const { from, to } = gapOf(line)
    onMove(cuts.map((cm, index) => (index === line ? Math.min(to, Math.max(from, Math.round(toCm * 20) / 20)) : cm)))
  }
  const { drawing, handle } = useDragAlong({ width, onDrag: (line, at, moved) => moved !== 0 && move(line, (at - 12) / perCm) })
  return (
    // biome-ignore lint/a11y/useSemanticElements: a drawing cannot be a fieldset
    <svg
      ref={drawing}
      className="cut-map"
      viewBox={`0 0 ${width} 270`}
      role="group"
      aria-label={`Rack of ${counted(ribs.length, 'rib')} in ${counted(bones.length, 'piece')}`}
    >
      {ribs.map((cm) => (
        <rect
          key={cm}
          x={x(cm - half)}
          y={8}
          width={2 * half * perCm}
          height={150}
          rx={5}
          fill="var(--tone-bone)"
          stroke="var(--tone-outline)"
        />
      ))}
      <polygon
        points={[...outline.map((cm) => `${x(cm)},${212 - tall(cm)}`), `${x(profile.lengthCm)},212`, `${x(0)},212`].join(' ')}
        fill="var(--tone-flesh)"
        fillOpacity={0.9}
        stroke="var(--tone-outline)"
      />
      {edges.slice(1).map((to, index) => {
        const from = edges[index] ?? 0
        return (
          <g key={from} className="cut-piece">
            <text x={x((from + to) / 2)} y={190} textAnchor="middle" className="cut-weight">
              {grams(Math.round(profile.weightTo(to) - profile.weightTo(from))).replace(/ g$/, '')}
            </text>
            <text x={x((from + to) / 2)} y={236} textAnchor="middle" className="cut-thickness">
              {bones[index]}
            </text>
          </g>
        )
      })}
      {cuts.map((cm, line) => (
        <g
          key={line}
          className="cut-line"
          tabIndex={0}
          role="slider"
          aria-label={`Cut ${line + 1}`}
          aria-valuemin={Math.round(gapOf(line).from * 10)}
          aria-valuemax={Math.round(gapOf(line).to * 10)}
          aria-valuenow={Math.round(cm * 10)}
          aria-valuetext={written('cm', cm)}
          {...handle(line)}
          onKeyDown={(event) => {
            const step = event.key === 'ArrowRight' ? 0.05 : event.key === 'ArrowLeft' ? -0.05 : 0
            if (step !== 0) move(line, cm + step)
          }}
        >
          <rect x={x(cm) - 12} y="2" width="24" height="214" />
          <line x1={x(cm)} x2={x(cm)} y1="4" y2="214" />
        </g>
      ))}
      <text x={12} y={262} className="cut-end">
        first end
      </text>
      <text x={width / 2} y={262} textAnchor="middle" className="cut-end">
        weight in each piece, bones below
      </text>
    </svg>
  )
}

function Spread({ answer, cuts, fields }: { answer: RackCuts; cuts: readonly number[]; fields: RackFields }) {
  const { grams } = useUnits()
  const profile = profileOf({ stations: stationsOf(fields.piece), grams: numberOf(fields.piece.grams) })
  const edges = [0, ...cuts, profile.lengthCm]
  const weights = edges.slice(1).map((to, index) => profile.weightTo(to) - profile.weightTo(edges[index] ?? 0))
  const spread = Math.max(...weights) - Math.min(...weights)
  const less = answer.midpointSpreadGrams > 0 ? (1 - spread / answer.midpointSpreadGrams) * 100 : 0
  return (
    <p className="best-reason">
      <b>{grams(Math.round(spread * 10) / 10)}</b> between the heaviest and the lightest, against{' '}
      <b>{grams(Math.round(answer.midpointSpreadGrams * 10) / 10)}</b> cut straight between the bones
      {less > 1 && <>: {percentText(less, 0)} less</>}.
    </p>
  )
}

/** Two such racks bent into a crown. */
function Crown({ ribs, lengthCm }: { ribs: number; lengthCm: number }) {
  const { written } = usePlanUnits()
  const round = 2 * lengthCm
  return (
    <p className="field-hint">
      As a crown: two racks, {2 * ribs} bones, {written('cm', round)} round, so {written('cm', round / Math.PI)} across; scored at the
      chine, tied at the eye and at the bones.
    </p>
  )
}
