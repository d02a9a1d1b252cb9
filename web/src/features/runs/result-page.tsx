import type { Run } from '@fleam/contract/runs'
import { inWords, looksAt } from '@fleam/core/receiving/delivery-check'
import type { JointCostMethod } from '@fleam/core/runs/joint-cost'
import { keptKindOf } from '@fleam/core/walk-in/keeping'
import { useState } from 'react'
import { Link } from 'react-router'
import { useHasRole, useKitchen } from '../../api/queries.ts'
import { dayText, momentText } from '../../ui/days.ts'
import { Choice } from '../../ui/fields.tsx'
import { Caution, Warning, Word } from '../../ui/notes.tsx'
import { percentText, useUnits } from '../../ui/units.ts'
import { RunClaims } from '../claims/claim-form.tsx'
import { Pictures } from '../pictures/pictures.tsx'
import { RunLots } from '../walk-in/run-lots.tsx'
import { BalanceBar } from './balance-bar.tsx'
import { BenchRecord } from './bench-record.tsx'
import { CostLadder } from './cost-ladder.tsx'
import { DefectNotes } from './defect-notes.tsx'
import { Ledger } from './ledger.tsx'
import { OutputCosts } from './output-costs.tsx'
import { PieceYields } from './piece-yields.tsx'
import { PlannedAgainstActual } from './planned-against-actual.tsx'
import { PortionSpread } from './portion-spread.tsx'
import { LeaveOut, PutRight, Reopen } from './put-right.tsx'
import { Recost } from './recost.tsx'
import { methodNames, methodReasons, resultOf } from './result.ts'
import { WithRun } from './with-run.tsx'

export function Page() {
  return <WithRun>{(run) => (run.status === 'turned-away' ? <TurnedAway run={run} /> : <Result run={run} />)}</WithRun>
}

function Result({ run }: { run: Run }) {
  const { money, weight, grams } = useUnits()
  const [method, setMethod] = useState<JointCostMethod>(run.method)
  const result = resultOf(run, method)
  const { portion, test } = result
  const isLead = useHasRole('lead')
  const isCook = useHasRole('cook')
  return (
    <main className="page result">
      <section className="sheet">
        <header className="result-head">
          <div>
            <h1>
              {run.item.name}, run {run.number}
            </h1>
            <p className="under-title">
              {run.cutSheet.name} · {run.cook.name} · {momentText(run.startedAt)}
              {run.supplier && ` · ${run.supplier.name}`}
              {run.lot && ` · lot ${run.lot}`}
            </p>
          </div>
          <div className="actions">
            {run.status === 'open' && (
              <Link className="btn btn-act" to={`/bench/${run.id}`}>
                Back to the bench
              </Link>
            )}
            <a className="btn btn-plain" href={`/api/v1/runs/${run.id}/yield-test.pdf`} target="_blank" rel="noreferrer">
              Sheet for the wall (PDF)
            </a>
          </div>
        </header>
        {run.status === 'open' && <Warning>This run is still open: these figures are not final.</Warning>}
        {run.reopened && (
          <Word>
            Opened again by {run.reopened.by.name}, {momentText(run.reopened.at)}: {run.reopened.reason}
          </Word>
        )}
        {run.leftOut && (
          <Word>
            Its cost stands, but nothing is expected from it. Left out of the yield book by {run.leftOut.by.name},{' '}
            {momentText(run.leftOut.at)}: {run.leftOut.reason}
          </Word>
        )}
        {run.discarded && (
          <Warning>
            It counts nowhere. Discarded by {run.discarded.by.name}, {momentText(run.discarded.at)}: {run.discarded.reason}
          </Warning>
        )}
        <div className="headlines">
          <Headline
            name={portion ? `${portion.name}, cut here` : 'Cut here'}
            value={portion?.makeCost == null ? '–' : money(portion.makeCost)}
          >
            {portion ? `a portion of ${grams(portion.servedGrams)}, ${portion.weights.length} of them` : 'no plate portions were weighed'}
            {portion && portion.sharedCost !== null && money(portion.sharedCost) !== money(portion.makeCost ?? 0) && (
              <>; all else at its value. Its share of the cost below: {money(portion.sharedCost)}</>
            )}
          </Headline>
          <Headline name="Ready-cut" value={portion?.readyCut === undefined ? '–' : money(portion.readyCut)}>
            {run.readyCut ? `${run.readyCut.name}, same usable weight` : 'no ready-cut quote stands against it'}
          </Headline>
          <Headline
            name={portion?.saving != null && portion.saving < 0 ? 'Cutting here loses' : 'Cutting here saves'}
            value={portion?.saving == null ? '–' : money(Math.abs(portion.saving))}
            tone={portion?.saving == null ? undefined : portion.saving < 0 ? 'hot' : 'good'}
          >
            {portion?.saving != null && `a portion, ${money(Math.abs(portion.saving * portion.weights.length))} on this run`}
          </Headline>
        </div>
        <h2>Where the weight went</h2>
        <BalanceBar run={run} />
        <p className="figures-line">
          On plates <b>{percentText(test.yields.mainPct)}</b> usable <b>{percentText(test.yields.usablePct)}</b> waste{' '}
          <b>{percentText(test.yields.wastePct)}</b> unaccounted <b>{percentText(test.yields.unaccountedPct)}</b>
          {run.unaccountedReason && <em>{run.unaccountedReason}</em>}
        </p>
        <div className="result-method">
          <h2>From the invoice to what the portions carry</h2>
          <Choice
            label="How the joint cost is shared"
            value={method}
            onChange={setMethod}
            options={Object.entries(methodNames).map(([value, label]) => ({ value: value as JointCostMethod, label }))}
          />
        </div>
        <p className="field-hint">{methodReasons[method]}</p>
        {result.trouble && <Warning>{result.trouble}</Warning>}
        {test.cost.net < 0 && <Warning>The by-products are worth more than everything cost: what is left to carry is below zero.</Warning>}
        <CostLadder run={run} test={test} method={result.method} />
        <OutputCosts run={run} test={test} />
        <PieceYields run={run} />
        <PlannedAgainstActual run={run} />
        {isCook && run.status === 'finished' && <RunLots runId={run.id} />}
        {isCook && run.status !== 'discarded' && <RunClaims run={run} />}
      </section>
      <div className="result-side">
        {portion?.statistics && <PortionSpread portion={portion} statistics={portion.statistics} />}
        <Recost run={run} method={result.method} />
        <section className="sheet">
          <h2>As it came</h2>
          <dl className="facts">
            <Fact name="Billed" value={weight(run.billed.tenths)} note={`entered ${run.billed.entered}`} />
            <Fact name="Received" value={weight(run.received.tenths)} note={`entered ${run.received.entered}`} />
            <Fact
              name={run.billed.tenths >= run.received.tenths ? 'Short' : 'Long'}
              value={weight(Math.abs(run.billed.tenths - run.received.tenths))}
            />
            {run.coreTempC !== null && <Fact name="Core" value={`${run.coreTempC} °C`} />}
            <UseBy run={run} />
            <Fact name="Knife time" value={run.minutes === null ? 'not yet noted' : `${run.minutes} min`} />
          </dl>
          {run.temperature && (
            <Caution>
              Over the limit of {run.temperature.limitC} °C: {run.temperature.note} Decided by {run.temperature.by.name}.
            </Caution>
          )}
          <LookedAt run={run} />
          <Pictures runId={run.id} about="delivery" of="the delivery" />
          <h2>The tray</h2>
          <Pictures runId={run.id} about="tray" of="the tray" />
          <DefectNotes run={run} />
        </section>
        <BenchRecord run={run} />
        <Ledger run={run} />
        {isLead && <LeaveOut run={run} />}
        {isLead && (run.status === 'open' ? <PutRight run={run} /> : <Reopen run={run} />)}
      </div>
    </main>
  )
}

function Headline({
  name,
  value,
  tone,
  children,
}: {
  name: string
  value: string
  tone?: 'hot' | 'good' | undefined
  children?: React.ReactNode
}) {
  return (
    <div className="headline">
      <span>{name}</span>
      <b className={tone}>{value}</b>
      <small>{children}</small>
    </div>
  )
}

/** Until when what was cut is to be used raw, by how long this house keeps it. */
function UseBy({ run }: { run: Run }) {
  const { kinds } = useKitchen().settings.walkIn.keeping
  const days = kinds[keptKindOf(run.item.animal, 'main', run.item.name)].chilledDays
  const until = new Date(new Date(run.startedAt).getTime() + days * 86_400_000).toISOString()
  const kept = days === 1 ? '1 day kept' : `${days} days kept`
  return <Fact name="Raw, use by" value={dayText(until)} note={`${kept} in this house; local food code comes first`} />
}

function Fact({ name, value, note }: { name: string; value: string; note?: string }) {
  return (
    <div>
      <dt>{name}</dt>
      <dd>
        {value} {note && <small>{note}</small>}
      </dd>
    </div>
  )
}

/** What was looked at when it came, and what was made of it. */
function LookedAt({ run }: { run: Run }) {
  const { weight } = useUnits()
  const { deliveryCheck: check } = run
  if (!check) return null
  const { looked, outcome, note, refused, refusedPieces } = check
  const wrong = inWords(run.item.animal, looked)
  const seen = looksAt(run.item.animal).filter(({ key }) => looked[key] !== undefined)
  return (
    <Word isGood={wrong === ''}>
      {wrong === '' ? `Looked at: ${seen.map(({ asks }) => asks.toLowerCase()).join(', ')}; as it should be.` : `Came with ${wrong}.`}
      {outcome === 'in-part' &&
        refused &&
        ` Sent back: ${weight(refused.tenths)}${refusedPieces === null ? '' : `, ${refusedPieces} ${refusedPieces === 1 ? 'piece' : 'pieces'}`}.`}
      {note !== '' && ` ${note}`}
    </Word>
  )
}

function TurnedAway({ run }: { run: Run }) {
  const { weight } = useUnits()
  return (
    <main className="page">
      <section className="sheet">
        <h1>
          Run {run.number}: {run.item.name}, turned away
        </h1>
        <p>
          {momentText(run.startedAt)} · {run.supplier?.name ?? 'supplier not noted'} · {weight(run.received.tenths)}
          {run.coreTempC !== null && ` · core ${run.coreTempC} °C, limit ${run.temperature?.limitC} °C`}
        </p>
        <p>
          Decided by {run.temperature?.by.name}
          {run.temperature?.note && `: ${run.temperature.note}`}
        </p>
        <LookedAt run={run} />
        <Pictures runId={run.id} about="delivery" of="the delivery" />
        <RunClaims run={run} />
      </section>
    </main>
  )
}
