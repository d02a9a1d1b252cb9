import type { SavedValue } from '@fleam/contract/follow-ons'
import { type Run, runFinish, type Tub, tubChange } from '@fleam/contract/runs'
import { benchTime } from '@fleam/core/bench/bench-time'
import { balanceOfRun } from '@fleam/core/runs/run-record'
import { amountText } from '@fleam/core/walk-in/amount-text'
import { useQuery, useQueryClient } from '@tanstack/react-query'
import { type ReactNode, useState } from 'react'
import Button from 'react-bootstrap/Button'
import Form from 'react-bootstrap/Form'
import { Link, useNavigate } from 'react-router'
import { send } from '../../api/http.ts'
import { runQuery, savedValuesQuery, useHasRole, useKitchen } from '../../api/queries.ts'
import { useOutbox } from '../../outbox/tablet-outbox.ts'
import { counted } from '../../ui/counted.ts'
import { numberOf, numberOrNull, TextField } from '../../ui/fields.tsx'
import { Warning, Word } from '../../ui/notes.tsx'
import { useRequestForm } from '../../ui/request-form.ts'
import { roleWords } from '../../ui/roles.ts'
import { percentText, useUnits } from '../../ui/units.ts'
import { Pictures } from '../pictures/pictures.tsx'
import { BalanceBar } from './balance-bar.tsx'
import { signsOfWork, stepsOf } from './bench/steps.ts'
import { DefectNotes } from './defect-notes.tsx'
import { WithRun } from './with-run.tsx'

export function Page() {
  return <WithRun>{(run) => <Finish run={run} />}</WithRun>
}

function Finish({ run }: { run: Run }) {
  const { weight, currency } = useUnits()
  const navigate = useNavigate()
  const queryClient = useQueryClient()
  const { lines } = useOutbox()
  const { breakMinutes } = useKitchen().settings.limits
  const [clocked] = useState(() => benchTime(signsOfWork(run), Date.now(), breakMinutes))
  // what comes late would move the button from under the finger
  const { isLoading } = useSavedValues()
  const waiting = lines.filter((line) => line.runId === run.id && line.refusal === null).length
  const { submit, field, refusalOf, message, busy } = useRequestForm({
    start: {
      minutes: String(run.minutes ?? usualOr(clocked.minutes, run)),
      consumables: String(run.consumables || usedUp(run)),
      unaccountedReason: run.unaccountedReason ?? '',
    },
    schema: runFinish,
    toRequest: ({ minutes, consumables, unaccountedReason }) => ({
      version: run.version,
      minutes: numberOf(minutes),
      consumables: numberOf(consumables),
      unaccountedReason: isOver ? unaccountedReason : '',
    }),
    send: (request) => send<Run>('POST', `/runs/${run.id}/finish`, request),
    keepAs: `finish-${run.id}`,
  })
  const balance = balanceOfRun(run)
  const isOver = balance.state === 'over-limit'
  const isNegative = balance.state === 'more-than-received'
  const unaccounted = weight(Math.round(Math.abs(balance.unaccountedGrams) * 10))

  async function finish(event: React.FormEvent) {
    event.preventDefault()
    const finished = await submit()
    if (!finished) {
      void queryClient.invalidateQueries({ queryKey: runQuery(run.id).queryKey })
      return
    }
    queryClient.setQueryData(runQuery(run.id).queryKey, finished)
    void queryClient.invalidateQueries({ queryKey: ['runs'] })
    navigate(`/runs/${run.id}`, { replace: true })
  }

  return (
    <main className="page finish">
      <Form className="sheet stack" onSubmit={finish}>
        <h1>Finish and cost: run {run.number}</h1>
        <BalanceBar run={run} />
        {isNegative ? (
          <Warning>
            {unaccounted} more came off the board than went on it. A weighing is wrong:{' '}
            <Link to={`/bench/${run.id}`}>go back and take it back</Link>.
          </Warning>
        ) : (
          <Balance isOver={isOver}>
            {unaccounted} unaccounted for, {percentText(balance.unaccountedPct)} (drip, blade, evaporation; house limit{' '}
            {percentText(run.rates.unaccountedLimitPct, 1)}).
            {isOver && ' Was anything left unweighed? The bag liquid, the fat, a piece eaten or dropped?'}
          </Balance>
        )}
        {isOver && <TextField label="Where it went" {...field('unaccountedReason')} />}
        <div className="fields">
          <TextField
            label="Knife time, minutes"
            {...field('minutes')}
            inputMode="decimal"
            hint={`the bench’s clock says ${clocked.minutes.toFixed(1)}, the sheet ${minutesOfSheet(run, 'low')}–${minutesOfSheet(run, 'high')}${run.pieces > 1 ? ` for ${run.pieces}` : ''}`}
          />
          <TextField label={`Wrap, twine and the like, ${currency}`} {...field('consumables')} inputMode="decimal" />
        </div>
        <MinutesByStep run={run} minutesByStep={clocked.minutesByStep} />
        {run.status === 'open' && <TubValues run={run} />}
        <h2>The tray</h2>
        <Pictures runId={run.id} about="tray" of="the tray" />
        <DefectNotes run={run} />
        {waiting > 0 && (
          <Warning>
            {counted(waiting, 'weighing still waits', 'weighings still wait')} on this tablet: they must reach the server before the run is
            closed.
          </Warning>
        )}
        {message && <Warning>{message}</Warning>}
        {refusalOf('weighings') && <Warning>{refusalOf('weighings')}</Warning>}
        {run.status === 'open' ? (
          <div className="actions">
            <Link className="btn btn-plain" to={`/bench/${run.id}`}>
              Back to the bench
            </Link>
            <Button type="submit" variant="act" className="btn-large" disabled={busy || isLoading || isNegative || waiting > 0}>
              Close the run
            </Button>
          </div>
        ) : (
          <Link className="btn btn-act" to={`/runs/${run.id}`}>
            This run is closed: see the result
          </Link>
        )}
      </Form>
    </main>
  )
}

/** What follow-ons of the house made of such parts; students do not see it. */
const useSavedValues = () => useQuery({ ...savedValuesQuery, enabled: useHasRole('cook') })

const Balance = ({ isOver, children }: { isOver: boolean; children: ReactNode }) =>
  isOver ? <Warning>{children}</Warning> : <Word isGood>{children}</Word>

/** What a kg of each output is worth to this kitchen; remembered for the next run of the sheet. */
export function TubValues({ run }: { run: Run }) {
  const { perUnit, currency } = useUnits()
  return (
    <fieldset className="tub-values">
      <legend>
        What the parts are worth, {currency} per {perUnit}
      </legend>
      <p className="field-hint">What you would pay for the same thing ready-cut, or what it replaces. Kept for the next run.</p>
      <div className="fields">
        {run.tubs
          .filter((tub) => tub.role !== 'waste')
          .map((tub) => (
            <TubValue key={tub.id} run={run} tub={tub} />
          ))}
      </div>
    </fieldset>
  )
}

function TubValue({ run, tub }: { run: Run; tub: Tub }) {
  const { fromPerKg, perKgFrom } = useUnits()
  const queryClient = useQueryClient()
  const { submit, field, form, message } = useRequestForm({
    start: { valuePerKg: tub.valuePerKg === null ? '' : String(Number(fromPerKg(tub.valuePerKg).toFixed(4))) },
    schema: tubChange,
    toRequest: ({ valuePerKg }) => {
      const value = numberOrNull(valuePerKg)
      return { valuePerKg: value === null ? null : perKgFrom(value), separableCost: tub.separableCost }
    },
    send: (request) => send<Run>('PUT', `/runs/${run.id}/tubs/${tub.id}`, request),
  })
  const value = field('valuePerKg')

  const { isDirty } = form.formState
  async function takeSaved(perKg: number) {
    value.onChange(String(Number(fromPerKg(perKg).toFixed(4))))
    const changed = await submit()
    if (changed) queryClient.setQueryData(runQuery(run.id).queryKey, changed)
  }
  async function keep() {
    const changed = isDirty ? await submit() : undefined
    if (changed) queryClient.setQueryData(runQuery(run.id).queryKey, changed)
  }

  const { data: savedValues } = useSavedValues()
  const saved = savedValues?.find(({ outputKey, animal }) => outputKey === tub.key && animal === run.item.animal)
  return (
    <div>
      <TextField label={tub.name} {...value} onBlur={keep} error={value.error ?? message} inputMode="decimal" hint={roleWords[tub.role]} />
      {saved && saved.perKg > 0 && tub.role === 'byproduct' && <SavedHint saved={saved} onTake={takeSaved} />}
    </div>
  )
}

/** What was made of it last, and what it was worth by that. */
function SavedHint({ saved, onTake }: { saved: SavedValue; onTake: (perKg: number) => void }) {
  const { money, perWeight, weightSystem } = useUnits()
  const unit = { g: 'a kg', ml: 'a litre', piece: 'a piece' }[saved.unit]
  return (
    <p className="field-hint">
      Made {amountText(saved.unit, saved.tenths, weightSystem)} {saved.name.toLowerCase()} last, {money(saved.boughtPerUnit)} {unit} bought:
      worth {perWeight(saved.perKg)}.{' '}
      <Button variant="line" onClick={() => onTake(saved.perKg)}>
        Take it
      </Button>
    </p>
  )
}

/** Minutes by step, as the clock of the bench has them. */
function MinutesByStep({ run, minutesByStep }: { run: Run; minutesByStep: ReadonlyMap<number, number> }) {
  const steps = stepsOf(run)
  const timed = [...minutesByStep].filter(([step, minutes]) => minutes >= 0.1 && steps[step]).sort(([a], [b]) => a - b)
  if (timed.length === 0) return null
  return (
    <p className="step-minutes">
      {timed.map(([step, minutes]) => (
        <span key={step}>
          {steps[step]?.title} <b>{minutes.toFixed(1)} min</b>
        </span>
      ))}
    </p>
  )
}

function minutesOfSheet(run: Run, end: 'low' | 'high'): number {
  return run.sheet.minutes[end] * run.pieces
}

/** The clock's minutes, unless it has seen too little of the work to be true: then what the sheet usually takes. */
function usualOr(clocked: number, run: Run): number {
  if (clocked >= minutesOfSheet(run, 'low') / 4) return Math.round(clocked * 10) / 10
  return Math.round((minutesOfSheet(run, 'low') + minutesOfSheet(run, 'high')) / 2)
}

/** What the sheet says that this many items use up, where it knows the price. */
function usedUp(run: Run): number {
  const each = run.sheet.consumables.reduce((sum, one) => sum + one.quantity * (one.pricePerUnit ?? 0), 0)
  return Math.round(each * run.pieces * 100) / 100
}
