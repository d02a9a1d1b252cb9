import { type BondedPair, bondedPair } from '@fleam/core/plan/bonded-pair'
import { profileOf } from '@fleam/core/plan/profile'
import { useRef, useState } from 'react'
import Button from 'react-bootstrap/Button'
import { numberOf, TextField } from '../../ui/fields.tsx'
import { useHouseFigures } from '../../ui/house-figures.ts'
import { Caution, Warning } from '../../ui/notes.tsx'
import { useUnits } from '../../ui/units.ts'
import { useDragAlong } from '../../ui/use-drag-along.ts'
import { PieceForm } from './piece-form.tsx'
import { fieldsOf, type PieceFields, presets, readKept, stationsOf } from './plan-fields.ts'
import { PlanTabs } from './plan-tabs.tsx'
import { type Measured, MeasureField, usePlanUnits } from './plan-units.tsx'
import { PutToRest } from './put-to-rest.tsx'
import { TakeListToBench } from './take-to-bench.tsx'

interface PairFields {
  a: PieceFields
  b: PieceFields
  portion: string
  thin: string
  thick: string
  offset: string
  value: string
  tips: string
  enzymePct: string
  enzymePerKg: string
  restLow: string
  restHigh: string
}

const kept = 'fleam.plan.pair'
const tenderloin = presets[0]
const piece = fieldsOf(tenderloin?.stations ?? [], tenderloin?.grams ?? 1980)
const start: PairFields = {
  a: piece,
  b: { ...piece, grams: '1900' },
  portion: '180',
  thin: '25',
  thick: '55',
  offset: '0',
  value: '11.5',
  tips: '17',
  enzymePct: '1',
  enzymePerKg: '90',
  restLow: '6',
  restHigh: '12',
}

/** Two muscles head to tail in one log: how even it is, and whether it is worth the enzyme and the wait. */
export function Page() {
  const house = useHouseFigures()
  const [fields, setFields] = useState<PairFields>(() =>
    readKept(kept, start, (read) => Array.isArray(read.a?.stations) && Array.isArray(read.b?.stations)),
  )
  const change = (part: Partial<PairFields>) => {
    const next = { ...fields, ...part }
    setFields(next)
    localStorage.setItem(kept, JSON.stringify(next))
  }
  const field = (key: Exclude<keyof PairFields, 'a' | 'b'>, label: string) => (
    <TextField label={label} value={fields[key]} onChange={(value) => change({ [key]: value })} inputMode="decimal" />
  )
  const measure = (key: Exclude<keyof PairFields, 'a' | 'b'>, of: Measured, label: string) => (
    <MeasureField of={of} label={label} value={fields[key]} onChange={(value) => change({ [key]: value })} />
  )
  const { said } = usePlanUnits()
  const answer = pairOf(fields)
  return (
    <main className="page plan">
      <PlanTabs />
      <section className="sheet">
        <h1>Two muscles, bonded head to tail</h1>
        {'refusal' in answer ? (
          <Warning>{said(answer.refusal)}</Warning>
        ) : (
          <Log fields={fields} pair={answer.pair} onOffset={(cm) => change({ offset: String(cm) })} />
        )}
        {'pair' in answer && <Verdict fields={fields} pair={answer.pair} />}
        <Caution>
          {house(
            'Bonded meat: the outside is now inside. Cook it as ground meat, {groundCoreC} °C core in this house, with poultry {poultryCoreC} °C; label it as formed where the law asks. Do not breathe the enzyme powder; many blends carry milk, an allergen. Local food code comes first.',
          )}
        </Caution>
        {'pair' in answer && answer.pair.thicknessCm.length > 0 && (
          <TakeListToBench
            kind="muscle"
            what="Portions"
            pieces={answer.pair.thicknessCm.map((thicknessCm) => ({ thicknessCm, grams: numberOf(fields.portion) }))}
          />
        )}
        {'pair' in answer && <PutToRest hoursLow={numberOf(fields.restLow) || 0} hoursHigh={numberOf(fields.restHigh) || 0} />}
      </section>
      <section className="sheet stack">
        <h2>First muscle</h2>
        <PieceForm piece={fields.a} kind="muscle" onChange={(a) => change({ a })} />
        <h2>Second muscle, reversed</h2>
        <PieceForm piece={fields.b} kind="muscle" onChange={(b) => change({ b })} />
        <h2>What is wanted</h2>
        <div className="fields fields-narrow">
          {measure('portion', 'g', 'Portion')}
          {measure('thin', 'mm', 'Thin')}
          {measure('thick', 'mm', 'Thick')}
          {field('value', 'Worth each')}
          {measure('tips', 'a kg', 'Tips are worth')}
          {field('enzymePct', 'Enzyme, % of weight')}
          {measure('enzymePerKg', 'a kg', 'Enzyme')}
          {field('restLow', 'Rest from, h')}
          {field('restHigh', 'to, h')}
        </div>
        <Button variant="plain" onClick={() => change(start)}>
          Start anew
        </Button>
      </section>
    </main>
  )
}

const muscleOf = (fields: PieceFields) => ({ stations: stationsOf(fields), grams: numberOf(fields.grams) })

function pairOf(fields: PairFields): { pair: BondedPair } | { refusal: string } {
  try {
    const pair = bondedPair({
      a: muscleOf(fields.a),
      b: muscleOf(fields.b),
      portionGrams: numberOf(fields.portion),
      offsetCm: numberOf(fields.offset) || 0,
    })
    return { pair }
  } catch (error) {
    return { refusal: error instanceof Error ? error.message : String(error) }
  }
}

const width = 820

/** Both muscles as they lie, the second one's place to be dragged, and the log's cut lines. */
function Log({ fields, pair, onOffset }: { fields: PairFields; pair: BondedPair; onOffset: (cm: number) => void }) {
  const { figure, unitOf, written } = usePlanUnits()
  const [a, b] = [profileOf(muscleOf(fields.a)), profileOf(muscleOf(fields.b))]
  const offset = numberOf(fields.offset) || 0
  const from = Math.min(0, offset)
  const perCm = (width - 24) / pair.lengthCm
  const x = (cm: number) => 12 + (cm - from) * perCm
  const shape = (along: (cm: number) => number, length: number, at: number, middle: number) => {
    const places = Array.from({ length: 41 }, (_, index) => (length * index) / 40)
    const top = places.map((cm) => `${x(at + cm)},${middle - along(cm) * 5}`)
    const bottom = places.map((cm) => `${x(at + cm)},${middle + along(cm) * 5}`).reverse()
    return [...top, ...bottom].join(' ')
  }
  const places: number[] = []
  for (const cm of pair.thicknessCm) places.push((places.at(-1) ?? from) + cm)
  const set = (cm: number) => onOffset(Math.round(Math.min(a.lengthCm, Math.max(-b.lengthCm, cm)) * 10) / 10)
  const begin = useRef(offset)
  const { drawing, handle } = useDragAlong({
    width,
    onTake: () => {
      begin.current = offset
    },
    onDrag: (_, _at, moved) => set(begin.current + moved / perCm),
  })
  return (
    // biome-ignore lint/a11y/useSemanticElements: a drawing cannot be a fieldset
    <svg ref={drawing} className="cut-map" viewBox={`0 0 ${width} 240`} role="group" aria-label="Two muscles head to tail">
      <polygon points={shape((cm) => a.diameterAt(cm), a.lengthCm, 0, 66)} fill="var(--tone-flesh)" stroke="var(--tone-outline)" />
      <polygon
        points={shape((cm) => b.diameterAt(b.lengthCm - cm), b.lengthCm, offset, 150)}
        className="second-muscle"
        fill="var(--tone-dark)"
        stroke="var(--tone-outline)"
        tabIndex={0}
        role="slider"
        aria-label="Where the second muscle begins"
        aria-valuemin={Math.round(-b.lengthCm)}
        aria-valuemax={Math.round(a.lengthCm)}
        aria-valuenow={Math.round(offset)}
        aria-valuetext={written('cm', offset)}
        {...handle(0)}
        onKeyDown={(event) => {
          const step = event.key === 'ArrowRight' ? 0.5 : event.key === 'ArrowLeft' ? -0.5 : 0
          if (step !== 0) set(offset + step)
        }}
      />
      {places.map((cm, index) => (
        <g key={index}>
          <line x1={x(cm)} x2={x(cm)} y1={14} y2={204} stroke="var(--act)" strokeWidth={2} strokeDasharray="6 4" />
          <text x={x(cm - (pair.thicknessCm[index] ?? 0) / 2)} y={222} textAnchor="middle" className="cut-thickness">
            {figure('mm', (pair.thicknessCm[index] ?? 0) * 10)}
          </text>
        </g>
      ))}
      <text x={width / 2} y={238} textAnchor="middle" className="cut-end">
        thickness in {unitOf('mm')}; drag the lower muscle to move it
      </text>
    </svg>
  )
}

function Verdict({ fields, pair }: { fields: PairFields; pair: BondedPair }) {
  const { written } = usePlanUnits()
  const { money, grams } = useUnits()
  const [thin, thick] = [numberOf(fields.thin) / 10, numberOf(fields.thick) / 10]
  const portion = numberOf(fields.portion)
  const fitting = pair.thicknessCm.filter((cm) => cm >= thin && cm <= thick).length
  const alone = [fields.a, fields.b].reduce((sum, one) => sum + portionsAlone(muscleOf(one), portion, thin, thick), 0)
  const enzymeGrams = (pair.grams * (numberOf(fields.enzymePct) || 0)) / 100
  const enzyme = (enzymeGrams * (numberOf(fields.enzymePerKg) || 0)) / 1000
  const won = fitting - alone
  const gain = won * ((numberOf(fields.value) || 0) - (portion * (numberOf(fields.tips) || 0)) / 1000) - enzyme
  return (
    <>
      <p className="best-reason">
        {gain > 0 ? (
          <>
            <b>Worth it:</b> {won} more portions than cutting the two alone, {money(gain)} after {money(enzyme)} of enzyme, for{' '}
            {fields.restLow}–{fields.restHigh} h of rest.
          </>
        ) : (
          <>
            <b>Not worth it:</b>{' '}
            {won > 0
              ? `${won} more portions do not pay for ${money(enzyme)} of enzyme`
              : `it makes ${won === 0 ? 'no more' : 'fewer'} portions than cutting the two alone`}
            , and the log must rest {fields.restLow}–{fields.restHigh} h.
          </>
        )}
      </p>
      <dl className="facts">
        <div>
          <dt>Portions</dt>
          <dd>
            {fitting} of {pair.portions} within {written('mm', thin * 10)} to {written('mm', thick * 10)}; alone {alone}
          </dd>
        </div>
        <div>
          <dt>Evenness</dt>
          <dd>{written('mm', pair.thicknessSpreadCm * 10)} between the thickest and the thinnest</dd>
        </div>
        <div>
          <dt>Left over</dt>
          <dd>{grams(Math.round(pair.leftGrams))}</dd>
        </div>
        <div>
          <dt>Enzyme</dt>
          <dd>
            {grams(Math.round(enzymeGrams))}, {money(enzyme)}
          </dd>
        </div>
      </dl>
    </>
  )
}

/** Portions of one weight from one muscle whose thickness is within range. */
function portionsAlone(muscle: ReturnType<typeof muscleOf>, portion: number, thin: number, thick: number): number {
  const profile = profileOf(muscle)
  const count = Math.floor(profile.grams / portion + 1e-9)
  const places = Array.from({ length: count + 1 }, (_, index) => profile.placeOf(index * portion))
  return places.slice(1).filter((to, index) => {
    const cm = to - (places[index] ?? 0)
    return cm >= thin && cm <= thick
  }).length
}
