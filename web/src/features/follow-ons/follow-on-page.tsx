import { type FollowOn, followOnFinish } from '@fleam/contract/follow-ons'
import { type FollowOnSheet, followOnSheet } from '@fleam/core/follow-ons/follow-on-sheets'
import { jointCostMethods } from '@fleam/core/runs/joint-cost'
import { keptKinds } from '@fleam/core/walk-in/keeping'
import { useQuery, useQueryClient } from '@tanstack/react-query'
import { lazy, Suspense, useState } from 'react'
import Button from 'react-bootstrap/Button'
import Form from 'react-bootstrap/Form'
import { Link, useNavigate, useParams } from 'react-router'
import { get, send } from '../../api/http.ts'
import { newId } from '../../api/new-id.ts'
import { followOnsQuery, lotsQuery, useKitchen } from '../../api/queries.ts'
import { dayText, momentText } from '../../ui/days.ts'
import { numberOf, numberOrNull, SelectField, TextField } from '../../ui/fields.tsx'
import { Caution, Failed, Loading, Warning } from '../../ui/notes.tsx'
import { useRequestForm } from '../../ui/request-form.ts'
import { percentText, useUnits } from '../../ui/units.ts'
import { useChange } from '../../ui/use-change.ts'
import { amountHint, amountText, portionsText, tenthsTyped } from '../walk-in/amounts.ts'
import '../walk-in/walk-in.scss'
import { WalkInTabs } from '../walk-in/walk-in-tabs.tsx'

const DryingChart = lazy(() => import('./drying-chart.tsx').then((module) => ({ default: module.DryingChart })))

const followOnQuery = (id: string) => ({ queryKey: ['follow-on', id], queryFn: () => get<FollowOn>(`/follow-ons/${id}`) })

/** One follow-on: what went in, what is done with it, what came out and what that costs. */
export function Page() {
  const { id = '' } = useParams()
  const { data, isPending, error, refetch } = useQuery(followOnQuery(id))
  return (
    <main className="page">
      <WalkInTabs />
      {isPending && <Loading what="the follow-on" />}
      {error && !data && <Failed error={error} retry={refetch} />}
      {data && <Shown key={data.version} followOn={data} />}
    </main>
  )
}

function Shown({ followOn }: { followOn: FollowOn }) {
  const sheet = followOnSheet(followOn.sheet)
  const isOpen = followOn.status === 'open'
  return (
    <>
      <section className="sheet">
        <p className="over">
          Follow-on {followOn.number} · {followOn.by.name} · begun {momentText(followOn.startedAt)}
          {followOn.dueAt && ` · due ${momentText(followOn.dueAt)}`}
        </p>
        <h1>{followOn.name}</h1>
        {followOn.status === 'discarded' && <Warning>Struck: {followOn.body.note} What had gone in lies where it lay.</Warning>}
        <Inputs followOn={followOn} />
        {isOpen && (
          <>
            <div className="stack">
              {sheet.cautions.map((words) => (
                <Caution key={words}>{words}</Caution>
              ))}
            </div>
            {sheet.steps.length > 0 && (
              <ol className="follow-on-steps">
                {sheet.steps.map((step) => (
                  <li key={step}>{step}</li>
                ))}
              </ol>
            )}
            {sheet.checks.length > 0 && <p className="field-hint">Look at: {sheet.checks.join(' · ')}</p>}
          </>
        )}
      </section>
      {(isOpen || followOn.body.weighings.length > 0) && <Between followOn={followOn} sheet={sheet} />}
      {isOpen ? <FinishForm followOn={followOn} sheet={sheet} /> : followOn.status === 'finished' && <Result followOn={followOn} />}
    </>
  )
}

function Inputs({ followOn }: { followOn: FollowOn }) {
  const units = useUnits()
  return (
    <ul className="plain-list">
      {followOn.inputs.map(({ moveId, lot, tenths, cost }) => (
        <li key={moveId}>
          <Link to={`/walk-in/${lot.id}`}>
            {amountText(units, lot.unit, tenths)} {lot.name.toLowerCase()}, lot {lot.number}
          </Link>{' '}
          <small>{cost === null ? 'what it carries is known when its run is finished' : `carries ${units.money(cost)}`}</small>
        </li>
      ))}
    </ul>
  )
}

const gramsIn = (followOn: FollowOn) =>
  followOn.inputs.filter(({ lot }) => lot.unit === 'g').reduce((sum, { tenths }) => sum + tenths, 0) / 10

/** What it weighs in between, against where it should end. */
function Between({ followOn, sheet }: { followOn: FollowOn; sheet: FollowOnSheet }) {
  const units = useUnits()
  const [text, setText] = useState('')
  const tenths = tenthsTyped(units, 'g', text)
  const { queryKey } = followOnQuery(followOn.id)
  const { change, busy, trouble } = useChange({
    send: (weight: number) =>
      send<FollowOn>('POST', `/follow-ons/${followOn.id}/weighings`, { id: newId(), tenths: weight, at: new Date().toISOString() }),
    refresh: [queryKey],
  })
  const start = gramsIn(followOn)
  const last = followOn.body.weighings.at(-1)
  const lost = last && start > 0 ? (1 - last.tenths / 10 / start) * 100 : undefined
  if (sheet.doneAtLossPct === undefined && followOn.body.weighings.length === 0) return null
  return (
    <section className="sheet stack">
      <h2>On the way</h2>
      {lost !== undefined && (
        <p>
          It has lost <b>{percentText(lost)}</b> of its weight
          {sheet.doneAtLossPct !== undefined &&
            (lost >= sheet.doneAtLossPct ? ': done.' : `; done at ${percentText(sheet.doneAtLossPct, 0)}.`)}
        </p>
      )}
      {followOn.body.weighings.length > 0 && (
        <Suspense fallback={<div className="waste-chart" />}>
          <DryingChart followOn={followOn} startGrams={start} doneAtLossPct={sheet.doneAtLossPct} />
        </Suspense>
      )}
      {followOn.status === 'open' && (
        <Form
          className="fields"
          onSubmit={(event) => {
            event.preventDefault()
            if (tenths) void change(tenths).then((done) => done && setText(''))
          }}
        >
          <TextField label="It weighs now" value={text} onChange={setText} hint={amountHint.g} autoComplete="off" />
          <Button type="submit" variant="plain" disabled={busy || !tenths}>
            Put it down
          </Button>
        </Form>
      )}
      {trouble && <Warning>{trouble}</Warning>}
    </section>
  )
}

interface OutputFields {
  id: string
  name: string
  role: string
  unit: string
  amount: string
  portions: string
  valuePerUnit: string
  kind: string
  place: string
}

const unitWords = { g: 'grams', ml: 'litres', piece: 'pieces' }
const roleOptions = [
  { value: 'main', label: 'what it is made for' },
  { value: 'coproduct', label: 'co-product' },
  { value: 'byproduct', label: 'by-product' },
  { value: 'waste', label: 'thrown away' },
]
const methodWords = { 'byproduct-credit': 'by-products credited', 'sales-value': 'by sales value', weight: 'by weight' }

function FinishForm({ followOn, sheet }: { followOn: FollowOn; sheet: FollowOnSheet }) {
  const units = useUnits()
  const queryClient = useQueryClient()
  const navigate = useNavigate()
  const { places } = useKitchen().settings.walkIn
  const started = gramsIn(followOn)
  const expected = (pct: number) => (started * pct) / 100
  const [added, setAdded] = useState(() =>
    sheet.added.map(({ name, pctOfInput }) => ({
      name,
      grams: pctOfInput ? String(Math.round((started * pctOfInput) / 100)) : '',
      cost: '',
    })),
  )
  const [outputs, setOutputs] = useState<OutputFields[]>(() =>
    sheet.outputs.map(({ name, role, unit, kind }) => ({
      id: newId(),
      name: name || followOn.name,
      role,
      unit,
      amount: '',
      portions: '',
      valuePerUnit: '',
      kind,
      place: places[0] ?? '',
    })),
  )
  const { submit, field, message, busy, form } = useRequestForm({
    start: { minutes: String(sheet.minutes), energy: '0', consumables: '0', method: sheet.method as string, note: '' },
    schema: followOnFinish,
    toRequest: (fields) => ({
      version: followOn.version,
      minutes: numberOf(fields.minutes),
      energy: numberOf(fields.energy),
      consumables: numberOf(fields.consumables),
      method: fields.method,
      note: fields.note,
      added: added
        .filter(({ cost, grams }) => cost.trim() !== '' || grams.trim() !== '')
        .map(({ name, grams, cost }) => ({ name, grams: numberOrNull(grams), cost: cost.trim() === '' ? 0 : numberOf(cost) })),
      outputs: outputs
        .filter(({ amount }) => amount.trim() !== '')
        .map(({ amount, portions, valuePerUnit, ...output }) => ({
          ...output,
          tenths: tenthsTyped(units, output.unit as 'g', amount) ?? Number.NaN,
          portions: numberOrNull(portions),
          valuePerUnit: numberOrNull(valuePerUnit),
          allergens: sheet.allergens ?? [],
          isFormed: sheet.outputs.find(({ name }) => name === output.name)?.isFormed ?? false,
        })),
    }),
    send: (request) => send<FollowOn>('POST', `/follow-ons/${followOn.id}/finish`, request),
  })
  const { change: strike, busy: isStriking } = useChange({
    send: () =>
      send<FollowOn>('POST', `/follow-ons/${followOn.id}/discard`, { version: followOn.version, reason: 'It was not made after all.' }),
    refresh: [followOnQuery(followOn.id).queryKey, followOnsQuery.queryKey, lotsQuery.queryKey],
    said: () => `${followOn.name} is struck: what had gone in lies where it lay.`,
  })
  async function finish(event: React.FormEvent) {
    event.preventDefault()
    const done = await submit()
    if (!done) return
    queryClient.setQueryData(followOnQuery(followOn.id).queryKey, done)
    await Promise.all([lotsQuery, followOnsQuery].map(({ queryKey }) => queryClient.invalidateQueries({ queryKey })))
  }
  const set = (at: number, part: Partial<OutputFields>) =>
    setOutputs(outputs.map((one, index) => (index === at ? { ...one, ...part } : one)))
  const errors = form.formState.errors as Record<string, unknown>
  return (
    <Form className="sheet stack" onSubmit={finish}>
      <h2>What came out</h2>
      {outputs.map((output, at) => {
        const usual = sheet.outputs[at]
        const unit = output.unit as keyof typeof unitWords
        return (
          <fieldset key={output.id} className="follow-on-output">
            <legend>{output.name || 'What is it?'}</legend>
            <div className="fields">
              {(sheet.key === 'own' || at >= sheet.outputs.length) && (
                <TextField label="Called" value={output.name} onChange={(name) => set(at, { name })} autoComplete="off" />
              )}
              <TextField
                label={`How much, ${unitWords[unit]}`}
                value={output.amount}
                onChange={(amount) => set(at, { amount })}
                autoComplete="off"
                hint={
                  usual && sheet.key !== 'own' && started > 0
                    ? `usually ${amountText(units, unit, Math.round(expected(usual.yieldPct.low) * 10))} to ${amountText(units, unit, Math.round(expected(usual.yieldPct.high) * 10))}`
                    : amountHint[unit]
                }
              />
              <TextField
                label="Portions"
                value={output.portions}
                onChange={(portions) => set(at, { portions })}
                inputMode="numeric"
                hint="where they are counted"
              />
              {output.role !== 'main' && output.role !== 'waste' && (
                <TextField
                  label={`Worth per ${unit === 'ml' ? 'litre' : unit === 'piece' ? 'piece' : 'kg'}`}
                  value={output.valuePerUnit}
                  onChange={(valuePerUnit) => set(at, { valuePerUnit })}
                  inputMode="decimal"
                />
              )}
              {output.role !== 'waste' && (
                <SelectField
                  label="Put away in"
                  value={output.place}
                  onChange={(place) => set(at, { place })}
                  options={places.map((place) => ({ value: place, label: place }))}
                />
              )}
            </div>
            {(sheet.key === 'own' || at >= sheet.outputs.length) && (
              <div className="fields">
                <SelectField label="As" value={output.role} onChange={(role) => set(at, { role })} options={roleOptions} />
                <SelectField
                  label="Measured in"
                  value={output.unit}
                  onChange={(other) => set(at, { unit: other })}
                  options={Object.entries(unitWords).map(([value, label]) => ({ value, label }))}
                />
                <SelectField
                  label="Keeps as"
                  value={output.kind}
                  onChange={(kind) => set(at, { kind })}
                  options={keptKinds.map((kind) => ({ value: kind, label: kind }))}
                />
              </div>
            )}
          </fieldset>
        )
      })}
      <Button
        variant="plain"
        onClick={() =>
          setOutputs([
            ...outputs,
            {
              id: newId(),
              name: '',
              role: 'coproduct',
              unit: 'g',
              amount: '',
              portions: '',
              valuePerUnit: '',
              kind: 'cooked and sliced',
              place: places[0] ?? '',
            },
          ])
        }
      >
        Something else came out
      </Button>
      <h2>What was added</h2>
      {added.map((line, at) => {
        const change = (part: Partial<typeof line>) => setAdded(added.map((one, index) => (index === at ? { ...one, ...part } : one)))
        return (
          <div key={at} className="fields">
            <TextField label="Ingredient" value={line.name} onChange={(name) => change({ name })} autoComplete="off" />
            <TextField label="Grams" value={line.grams} onChange={(grams) => change({ grams })} inputMode="decimal" />
            <TextField label="Cost" value={line.cost} onChange={(cost) => change({ cost })} inputMode="decimal" />
          </div>
        )
      })}
      <Button variant="plain" onClick={() => setAdded([...added, { name: '', grams: '', cost: '' }])}>
        Something else was added
      </Button>
      <h2>What it took</h2>
      <div className="fields">
        <TextField label="Hands-on minutes" {...field('minutes')} inputMode="decimal" />
        <TextField label="Energy, in money" {...field('energy')} inputMode="decimal" />
        <TextField label="Consumables, in money" {...field('consumables')} inputMode="decimal" />
        <SelectField
          label="Cost shared"
          {...field('method')}
          options={jointCostMethods.map((method) => ({ value: method, label: methodWords[method] }))}
        />
      </div>
      {'outputs' in errors && <Warning>Say how much came out, of one thing at least, with its name.</Warning>}
      {'added' in errors && <Warning>What was added has a name, and grams and cost that are numbers.</Warning>}
      {message && <Warning>{message}</Warning>}
      <div className="actions">
        <Button type="submit" variant="act" disabled={busy}>
          Finish and put away
        </Button>
        <Button variant="plain" disabled={isStriking} onClick={() => void strike().then((done) => done && navigate('/walk-in/follow-ons'))}>
          It was not made after all
        </Button>
      </div>
    </Form>
  )
}

function Result({ followOn }: { followOn: FollowOn }) {
  const units = useUnits()
  const { figures, body } = followOn
  if (!figures) return null
  const labour = figures.gross - figures.carried - body.consumables
  const lines = [
    ['What went in, and was added', figures.carried],
    ['Hands and disposal', labour],
    ['Consumables', body.consumables],
    ['By-products credited', -figures.credit],
  ] as const
  return (
    <section className="sheet">
      <h2>What it costs</h2>
      <dl className="lot-facts">
        {lines.map(([name, amount]) => (
          <div key={name}>
            <dt>{name}</dt>
            <dd>{units.money(amount)}</dd>
          </div>
        ))}
        <div>
          <dt>To be carried</dt>
          <dd>{units.money(figures.net)}</dd>
        </div>
        {figures.yieldPct !== null && (
          <div>
            <dt>Yield</dt>
            <dd>{percentText(figures.yieldPct)}</dd>
          </div>
        )}
      </dl>
      <h2>What came out</h2>
      <ul className="last-runs">
        {followOn.outputs.map((lot) => {
          const perUnit = lot.cost === null ? null : (lot.cost / lot.packedTenths) * (lot.unit === 'piece' ? 10 : 10_000)
          return (
            <li key={lot.id}>
              <Link to={`/walk-in/${lot.id}`}>
                <span>
                  <strong>
                    {amountText(units, lot.unit, lot.packedTenths)} {lot.name.toLowerCase()}
                  </strong>
                  <small>
                    Lot {lot.number} · {lot.place} · use by {dayText(lot.useBy)}
                    {lot.packedPortions !== null && ` · ${portionsText(lot.packedPortions)}`}
                  </small>
                </span>
                <span className="last-figure">
                  <small>{lot.unit === 'ml' ? 'a litre' : lot.unit === 'piece' ? 'a piece' : 'a kg'}</small>
                  {perUnit === null ? '–' : units.money(perUnit)}
                </span>
                <span className="last-figure">
                  <small>a portion</small>
                  {lot.cost !== null && lot.packedPortions ? units.money(lot.cost / lot.packedPortions) : '–'}
                </span>
              </Link>
            </li>
          )
        })}
      </ul>
      {followOn.outputs[0] && <Link to={`/walk-in/trace/${followOn.outputs[0].id}`}>From the invoice to here</Link>}
    </section>
  )
}
