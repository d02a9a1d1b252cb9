import { readyCutCost } from '@fleam/core/compare/ready-cut'
import type { BestMix, BestMixInput, PieceType } from '@fleam/core/plan/best-mix'
import { nearestFits } from '@fleam/core/plan/nearest-fit'
import { withoutStrip } from '@fleam/core/plan/pin-bone-strip'
import type { Profile, Station } from '@fleam/core/plan/profile'
import { readyCutOf } from '@fleam/core/runs/run-record'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import Button from 'react-bootstrap/Button'
import { itemsQuery } from '../../api/queries.ts'
import { DataTable } from '../../ui/data-table.tsx'
import { CheckField, numberOf, SelectField, TextField } from '../../ui/fields.tsx'
import { Caution, Warning } from '../../ui/notes.tsx'
import { PlaceTabs } from '../../ui/place-tabs.tsx'
import { useUnits } from '../../ui/units.ts'
import { usePlan } from '../../workers/use-plan.ts'
import { CutMap, type MappedPiece } from './cut-map.tsx'
import { PaperRule } from './paper-rule.tsx'
import { PieceForm } from './piece-form.tsx'
import { type PieceFields, fieldsOf as pieceFieldsOf, presets, readKept, stationsOf } from './plan-fields.ts'
import { TakeMixToBench } from './take-to-bench.tsx'
import { tryProfile, waysOf } from './ways.ts'

interface TypeEntry {
  name: string
  target: string
  from: string
  to: string
  thin: string
  thick: string
  face: string
  value: string
  most: string
  least: string
  place: '' | 'thick-end' | 'thin-end'
}

interface PlanFields {
  piece: PieceFields
  types: TypeEntry[]
  tipsValue: string
  strip: { from: string; to: string; width: string }
  foldsTail: boolean
}

const steak: TypeEntry = {
  name: 'Steak',
  target: '180',
  from: '172',
  to: '190',
  thin: '25',
  thick: '55',
  face: '6.5',
  value: '11.5',
  most: '',
  least: '',
  place: '',
}
const muscleStart: PlanFields = {
  piece: pieceFieldsOf(presets[0]?.stations ?? [], 1980),
  types: [
    steak,
    { ...steak, name: 'Tournedos', target: '112', from: '105', to: '120', thin: '20', thick: '45', face: '4.5', value: '6.2', most: '4' },
  ],
  tipsValue: '17',
  strip: { from: '0', to: '0', width: '0' },
  foldsTail: false,
}
const salmon = presets.find((preset) => preset.name === 'Salmon fillet')
const filletStart: PlanFields = {
  piece: pieceFieldsOf(salmon?.stations ?? [], salmon?.grams ?? 1320),
  types: [{ ...steak, name: 'Loin portion', target: '160', from: '150', to: '172', thin: '25', thick: '140', face: '0', value: '3.8' }],
  tipsValue: '7.5',
  strip: { from: '0', to: '18', width: '1' },
  foldsTail: true,
}

export function PlanTabs() {
  return (
    <PlaceTabs
      name="What is planned"
      parts={[
        { to: '/plan', name: 'A muscle', end: true },
        { to: '/plan/fillet', name: 'A fillet' },
        { to: '/plan/rack', name: 'A rack' },
        { to: '/plan/pair', name: 'Two, bonded' },
      ]}
    />
  )
}

/** Where to cut a tapered muscle so that the portions come out at weight. */
export function Page() {
  return <PiecePlan key="muscle" kind="muscle" kept="fleam.plan.2" start={muscleStart} />
}

/** The same for a fillet of width and thickness, with its pin-bone strip and its tail. */
export function FilletPage() {
  return <PiecePlan key="fillet" kind="fillet" kept="fleam.plan.fillet" start={filletStart} />
}

interface PiecePlanProps {
  kind: 'muscle' | 'fillet'
  kept: string
  start: PlanFields
}

function PiecePlan({ kind, kept, start }: PiecePlanProps) {
  const { grams } = useUnits()
  const [fields, setFields] = useState<PlanFields>(() => readKept(kept, start, isPlan))
  const [edited, setEdited] = useState<{ of: string; cuts: number[] }>()
  const [locked, setLocked] = useState<number[]>([])
  const [line, setLine] = useState<number>()
  const { input, lossGrams, refusal: measureRefusal } = questionOf(fields, kind)
  const shape = input && tryProfile(input)
  const profile = shape && 'profile' in shape ? shape.profile : undefined
  const held = profile ? locked.filter((cm) => cm > 0 && cm < profile.lengthCm) : []
  const question = input && profile ? { input, heldCm: held } : undefined
  const { answer: mix, of, refusal, busy } = usePlan('planAround', question)
  const asked = JSON.stringify(question)
  const trouble = measureRefusal ?? (shape && 'refusal' in shape ? shape.refusal : refusal)
  const planned = mix?.pieces.slice(1).map((piece) => piece.fromCm) ?? []
  const isEdited = edited !== undefined && edited.of === asked
  const cuts = isEdited ? edited.cuts : planned
  const pieces = profile && mix && input ? mapPieces(profile, input, isEdited ? undefined : mix, cuts) : []

  function change(next: PlanFields) {
    setFields(next)
    localStorage.setItem(kept, JSON.stringify(next))
  }
  const edit = (next: number[]) => setEdited({ of: asked ?? '', cuts: [...next].sort((a, b) => a - b) })
  const isLocked = (cm: number | undefined) => cm !== undefined && locked.some((one) => Math.abs(one - cm) < 1e-6)

  function move(at: number, toCm: number) {
    if (!profile || isLocked(cuts[at])) return
    const low = (cuts[at - 1] ?? 0) + 0.1
    const high = (cuts[at + 1] ?? profile.lengthCm) - 0.1
    const next = [...cuts]
    next[at] = Math.min(high, Math.max(low, Math.round(toCm * 10) / 10))
    setLine(at)
    edit(next)
  }

  const chosen = line === undefined ? undefined : cuts[line]
  return (
    <main className="page plan">
      <PlanTabs />
      <section className="sheet">
        <header className="result-head">
          <div>
            <h1>Where to cut</h1>
            <p className="under-title">Drag a line, or let the plan choose. Thick end on the left.</p>
          </div>
          <div className="sheet-actions no-print">
            {(isEdited || locked.length > 0) && (
              <Button
                variant="plain"
                onClick={() => {
                  setEdited(undefined)
                  setLocked([])
                }}
              >
                Put the lines back
              </Button>
            )}
          </div>
        </header>
        {trouble && <Warning>{trouble}</Warning>}
        {profile && mix && (
          <div className={busy ? 'plan-map plan-busy' : 'plan-map'}>
            <CutMap
              profile={profile}
              pieces={pieces}
              chosen={line}
              isLocked={(at) => isLocked(cuts[at])}
              onMove={move}
              onChoose={setLine}
              onRemove={(at) => edit(cuts.filter((_, index) => index !== at))}
            />
          </div>
        )}
        {profile && mix && (
          <div className="sheet-actions line-actions no-print">
            <span>
              {chosen === undefined ? 'Tap a line to hold it or take it out.' : `Line ${(line ?? 0) + 1} at ${chosen.toFixed(1)} cm`}
            </span>
            {chosen !== undefined && (
              <>
                <Button
                  variant="plain"
                  aria-pressed={isLocked(chosen)}
                  onClick={() => {
                    setEdited(undefined)
                    setLocked(isLocked(chosen) ? locked.filter((cm) => Math.abs(cm - chosen) > 1e-6) : [...locked, chosen])
                  }}
                >
                  {isLocked(chosen) ? 'Let it go' : 'Hold it here, plan the rest'}
                </Button>
                <Button
                  variant="plain"
                  onClick={() => {
                    edit(cuts.filter((_, index) => index !== line))
                    setLine(undefined)
                  }}
                >
                  Take it out
                </Button>
              </>
            )}
            <Button variant="plain" onClick={() => edit([...cuts, widestMiddle(cuts, profile.lengthCm)])}>
              Add a line
            </Button>
          </div>
        )}
        {pieces.some((piece) => piece.trouble) && (
          <Warning>
            {pieces
              .filter((piece) => piece.trouble)
              .map((piece) => `${piece.kind} at ${piece.fromCm.toFixed(1)} cm: ${piece.trouble}`)
              .join('; ')}
          </Warning>
        )}
        {lossGrams > 0 && (
          <p className="field-hint">The pin-bone strip takes {grams(lossGrams)} out of it; the weights above are without it.</p>
        )}
        {mix && of && !trouble && <Ways input={of.input} ways={waysOf(of.input, mix)} />}
        {mix && input && !trouble && mix.pieces.every((piece) => piece.type === 'tips') && <NothingFits input={input} />}
        {profile && mix && !trouble && <PaperRule profile={profile} pieces={pieces} />}
        {input && mix && !trouble && <TakeMixToBench kind={kind} input={input} />}
        <Caution>
          A plan guides the knife, the scale decides: weigh each slice. Bonded meat is cooked as ground meat and labelled; local food code
          comes first.
        </Caution>
      </section>
      <section className="sheet stack no-print">
        <h2>The piece</h2>
        <PieceForm piece={fields.piece} kind={kind} onChange={(piece) => change({ ...fields, piece })} />
        {kind === 'fillet' && <StripFields fields={fields} change={change} />}
        <h2>What is wanted</h2>
        {fields.types.map((type, index) => (
          <TypeFields
            key={index}
            type={type}
            change={(next) => change({ ...fields, types: fields.types.map((other, at) => (at === index ? next : other)) })}
            remove={fields.types.length > 1 ? () => change({ ...fields, types: fields.types.filter((_, at) => at !== index) }) : undefined}
          />
        ))}
        <div className="sheet-actions">
          <Button
            variant="plain"
            onClick={() =>
              change({ ...fields, types: [...fields.types, { ...(fields.types.at(-1) ?? steak), name: 'Another', place: '' }] })
            }
          >
            Add a kind
          </Button>
          <Button
            variant="plain"
            onClick={() =>
              change({
                ...fields,
                types: [
                  {
                    ...steak,
                    name: 'Head roast',
                    target: '450',
                    from: '380',
                    to: '560',
                    thin: '60',
                    thick: '160',
                    face: '0',
                    value: '17',
                    most: '1',
                    place: 'thick-end',
                  },
                  ...fields.types,
                ],
              })
            }
          >
            Add a head roast
          </Button>
          <Button variant="plain" onClick={() => change(start)}>
            Start anew
          </Button>
        </div>
        <CheckField
          label={`Fold the tail under to make one more ${fields.types[0]?.name.toLowerCase()}`}
          value={fields.foldsTail}
          onChange={(foldsTail) => change({ ...fields, foldsTail })}
        />
        <TextField
          label="Tips are worth, a kg"
          value={fields.tipsValue}
          onChange={(value) => change({ ...fields, tipsValue: value })}
          inputMode="decimal"
        />
      </section>
    </main>
  )
}

function isPlan(read: PlanFields): boolean {
  return Array.isArray(read.piece?.stations) && Array.isArray(read.types) && read.strip !== undefined
}

function widestMiddle(cuts: readonly number[], lengthCm: number): number {
  const edges = [0, ...cuts, lengthCm]
  const at = edges
    .slice(1)
    .reduce((best, edge, index) => (edge - (edges[index] ?? 0) > (edges[best + 1] ?? 0) - (edges[best] ?? 0) ? index : best), 0)
  return Math.round(((edges[at] ?? 0) + (edges[at + 1] ?? 0)) * 5) / 10
}

/** What to offer where nothing that is wanted fits: the nearest thing that does. */
function NothingFits({ input }: { input: BestMixInput }) {
  const { grams } = useUnits()
  const whole = (value: number) => grams(Math.round(value))
  const name = (id: string) => id.replace(/^\d+ /, '')
  const because = {
    'too-thin': 'at its thinnest it weighs',
    'too-thick': 'at its thickest it weighs',
    'face-too-small': 'the face is never that wide; a slice there weighs',
  }
  return (
    <Warning>
      No piece that is wanted fits this one.{' '}
      {nearestFits(input, input.types)
        .map(
          (fit) =>
            `${name(fit.type)}: ${because[fit.because]} ${whole(fit.because === 'too-thin' ? fit.gramsFrom : fit.gramsTo)}, so ask for that, or change its thickness.`,
        )
        .join(' ')}
    </Warning>
  )
}

function StripFields({ fields, change }: { fields: PlanFields; change: (fields: PlanFields) => void }) {
  const field = (key: keyof PlanFields['strip'], label: string) => (
    <TextField
      label={label}
      value={fields.strip[key]}
      onChange={(value) => change({ ...fields, strip: { ...fields.strip, [key]: value } })}
      inputMode="decimal"
    />
  )
  return (
    <fieldset className="plan-type">
      <legend>Pin-bone strip, cut out</legend>
      {field('from', 'From, cm')}
      {field('to', 'To, cm')}
      {field('width', 'Width, cm')}
    </fieldset>
  )
}

interface TypeFieldsProps {
  type: TypeEntry
  change: (type: TypeEntry) => void
  remove: (() => void) | undefined
}

function TypeFields({ type, change, remove }: TypeFieldsProps) {
  const field = (key: Exclude<keyof TypeEntry, 'place'>, label: string) => (
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
      <WorthFromPrice targetGrams={numberOf(type.target)} onWorth={(value) => change({ ...type, value })} />
      {field('from', 'From, g')}
      {field('to', 'To, g')}
      {field('face', 'Face, cm')}
      {field('thin', 'Thin, mm')}
      {field('thick', 'Thick, mm')}
      {field('least', 'At least')}
      {field('most', 'At most')}
      <SelectField
        label="Where"
        value={type.place}
        onChange={(place) => change({ ...type, place: place as TypeEntry['place'] })}
        options={[
          { value: '', label: 'anywhere' },
          { value: 'thick-end', label: 'thick end' },
          { value: 'thin-end', label: 'thin end' },
        ]}
      />
      {remove && (
        <Button variant="plain" onClick={remove}>
          Take {type.name} out
        </Button>
      )}
    </fieldset>
  )
}

/** What the same weight would cost ready-cut, as the worth of a piece. */
function WorthFromPrice({ targetGrams, onWorth }: { targetGrams: number; onWorth: (value: string) => void }) {
  const { money } = useUnits()
  const items = useQuery(itemsQuery)
  const priced = (items.data ?? []).flatMap((item) => {
    if (!item.readyCut || !item.latestQuote || !(targetGrams > 0)) return []
    return [{ id: item.id, name: item.name, worth: readyCutCost(readyCutOf(item.readyCut, item.latestQuote.price), targetGrams) }]
  })
  if (priced.length === 0) return null
  return (
    <SelectField
      label="As ready-cut"
      value=""
      onChange={(id) => {
        const chosen = priced.find((one) => one.id === id)
        if (chosen) onWorth(chosen.worth.toFixed(2))
      }}
      options={[{ value: '', label: 'as typed' }, ...priced.map((one) => ({ value: one.id, label: `${money(one.worth)} ${one.name}` }))]}
    />
  )
}

function Ways({ input, ways }: { input: BestMixInput; ways: ReturnType<typeof waysOf> }) {
  const { money, grams } = useUnits()
  const most = ways.reduce((best, way) => (way.worth > best.worth ? way : best))
  const second = ways
    .filter((way) => way !== most)
    .reduce<(typeof ways)[number] | undefined>((best, way) => (!best || way.worth > best.worth ? way : best), undefined)
  return (
    <>
      {second && (
        <p className="best-reason">
          <b>{most.name}</b> is worth most: {money(most.worth - second.worth)} more than{' '}
          {second.name.charAt(0).toLowerCase() + second.name.slice(1)}, because{' '}
          {reasonOf(most, second, (value) => grams(Math.round(value)))}.
        </p>
      )}
      {/* biome-ignore lint/a11y/noNoninteractiveTabindex: a region that scrolls must be reachable by keyboard */}
      <section className="table-scroll" aria-label="Ways of cutting" tabIndex={0}>
        <DataTable
          label="Ways of cutting it"
          rows={ways}
          rowKey={(way) => way.name}
          rowClass={(way) => (way === most ? 'best-way' : '')}
          columns={[
            {
              id: 'way',
              heading: 'Way of cutting',
              kind: 'head',
              cell: (way) => (
                <>
                  {way.name} {way === most && <small>worth most</small>}
                  {way.note && <small> {way.note}</small>}
                </>
              ),
            },
            {
              id: 'pieces',
              heading: 'Pieces',
              cell: (way) =>
                way.counts
                  .map((count, index) =>
                    count > 0 ? `${Number(count.toFixed(1))} ${input.types[index]?.id.replace(/^\d+ /, '').toLowerCase()}` : '',
                  )
                  .filter(Boolean)
                  .join(', ') || '–',
            },
            { id: 'spread', heading: 'Spread', sortBy: (way) => way.spreadGrams, cell: (way) => grams(Math.round(way.spreadGrams)) },
            { id: 'tips', heading: 'To tips', sortBy: (way) => way.tipsGrams, cell: (way) => grams(Math.round(way.tipsGrams)) },
            { id: 'off', heading: 'Off target', sortBy: (way) => way.offGrams, cell: (way) => `± ${grams(Math.round(way.offGrams))}` },
            { id: 'minutes', heading: 'Minutes', sortBy: (way) => way.minutes, cell: (way) => Math.round(way.minutes) },
            { id: 'enzyme', heading: 'Enzyme, rest', cell: (way) => (way.enzymeCost > 0 ? `${money(way.enzymeCost)}, 6–12 h` : '–') },
            { id: 'worth', heading: 'Worth', sortBy: (way) => way.worth, cell: (way) => money(way.worth) },
          ]}
        />
      </section>
    </>
  )
}

/** Why one way is worth more than another, in a few words. */
function reasonOf(
  most: ReturnType<typeof waysOf>[number],
  second: ReturnType<typeof waysOf>[number],
  whole: (grams: number) => string,
): string {
  const count = (way: typeof most) => way.counts.reduce((sum, one) => sum + one, 0)
  if (count(most) > count(second) + 0.01) return `it makes ${Number((count(most) - count(second)).toFixed(1))} more at weight`
  if (most.tipsGrams < second.tipsGrams - 5) return `${whole(second.tipsGrams - most.tipsGrams)} less goes to tips`
  if (most.enzymeCost < second.enzymeCost) return 'it needs no enzyme and no rest'
  if (most.tipsGrams > second.tipsGrams + 5) return `as many pieces leave ${whole(most.tipsGrams - second.tipsGrams)} more for tips`
  if (most.offGrams < second.offGrams) return 'its pieces lie nearer their targets'
  return 'more of its pieces are of the dearer kind'
}

function mapPieces(profile: Profile, input: BestMixInput, mix: BestMix | undefined, cuts: readonly number[]): MappedPiece[] {
  const edges = [0, ...cuts, profile.lengthCm]
  return edges.slice(1).map((toCm, index) => {
    const fromCm = edges[index] ?? 0
    const grams = profile.weightTo(toCm) - profile.weightTo(fromCm)
    const kind = mix?.pieces[index]?.type ?? kindOf(input.types, grams)
    const rank = input.types.findIndex((type) => type.id === kind)
    const type = input.types[rank]
    return { fromCm, toCm, grams, kind: kind.replace(/^\d+ /, ''), rank, trouble: type && troubleOf(type, grams, toCm - fromCm) }
  })
}

/** What a piece of a weight is meant to be: the kind with the nearest target, or tips where it is lighter than any. */
function kindOf(types: readonly PieceType[], grams: number): string {
  const nearest = types.reduce((best, type) => (Math.abs(type.targetGrams - grams) < Math.abs(best.targetGrams - grams) ? type : best))
  return grams < nearest.minGrams * 0.7 ? 'tips' : nearest.id
}

function troubleOf(type: PieceType, grams: number, cm: number): string | undefined {
  if (grams < type.minGrams - 0.05) return `${Math.round(grams)} g is under ${type.minGrams} g`
  if (grams > type.maxGrams + 0.05) return `${Math.round(grams)} g is over ${type.maxGrams} g`
  if (cm < type.minCm - 1e-6) return `${Math.round(cm * 10)} mm is thinner than ${type.minCm * 10} mm`
  return cm > type.maxCm + 1e-6 ? `${Math.round(cm * 10)} mm is thicker than ${type.maxCm * 10} mm` : undefined
}

/** The question that the fields ask, or the sentence that says why they ask none. */
function questionOf(fields: PlanFields, kind: 'muscle' | 'fillet'): { input?: BestMixInput; lossGrams: number; refusal?: string } {
  let measured: { stations: Station[]; grams: number; lossGrams: number } = {
    stations: stationsOf(fields.piece),
    grams: numberOf(fields.piece.grams),
    lossGrams: 0,
  }
  if (kind === 'fillet') {
    const { from, to, width } = fields.strip
    try {
      measured = withoutStrip(measured, { fromCm: numberOf(from) || 0, toCm: numberOf(to) || 0, widthCm: numberOf(width) || 0 })
    } catch (error) {
      return { lossGrams: 0, refusal: error instanceof Error ? error.message : String(error) }
    }
  }
  const types = fields.types.map(typeOf)
  const [first] = types
  // folded in two the tail may be twice as long and has no face of its own
  const folded =
    fields.foldsTail && first
      ? [
          {
            ...first,
            id: `${types.length + 1} Folded tail`,
            maxCount: 1,
            minCount: undefined,
            maxCm: first.maxCm * 2,
            minDiameterCm: 0,
            onlyAt: 'thin-end' as const,
          },
        ]
      : []
  return {
    lossGrams: measured.lossGrams,
    input: {
      grams: measured.grams,
      stations: measured.stations,
      types: [...types, ...folded],
      tipsValuePerKg: numberOf(fields.tipsValue) || 0,
      minTipsCm: 2,
      offTargetPerGram: 0.01,
      stepCm: 0.1,
    },
  }
}

function typeOf(type: TypeEntry, index: number): PieceType {
  const count = (text: string) => (text.trim() === '' ? undefined : Math.min(60, Math.max(0, Math.round(numberOf(text) || 0))))
  return {
    id: `${index + 1} ${type.name}`,
    value: numberOf(type.value) || 0,
    targetGrams: numberOf(type.target),
    minGrams: numberOf(type.from),
    maxGrams: numberOf(type.to),
    minCm: numberOf(type.thin) / 10,
    maxCm: numberOf(type.thick) / 10,
    minDiameterCm: numberOf(type.face) || 0,
    maxCount: count(type.most),
    minCount: count(type.least),
    onlyAt: type.place === '' ? undefined : type.place,
  }
}
