import type { FollowOn } from '@fleam/contract/follow-ons'
import type { FollowOnSheet } from '@fleam/core/follow-ons/follow-on-sheets'
import { weighedOut } from '@fleam/core/follow-ons/weighed-out'
import { lazy, Suspense } from 'react'
import { Link, useParams } from 'react-router'
import { dayText, momentText } from '../../ui/days.ts'
import { useHouseFigures } from '../../ui/house-figures.ts'
import { Caution, Failed, Loading, Warning } from '../../ui/notes.tsx'
import { percentText, useUnits } from '../../ui/units.ts'
import { amountText, portionsText } from '../walk-in/amounts.ts'
import { Labels, WaitingLabels } from '../walk-in/labels.tsx'
import '../walk-in/walk-in.scss'
import { WalkInTabs } from '../walk-in/walk-in-tabs.tsx'
import { Checks } from './checks.tsx'
import { FinishForm } from './finish-form.tsx'
import { FollowOnBench } from './follow-on-bench.tsx'
import { gramsIn } from './outcomes.ts'
import { useFollowOn } from './use-follow-on.ts'
import { useSheets } from './use-sheets.ts'

const DryingChart = lazy(() => import('./drying-chart.tsx').then((module) => ({ default: module.DryingChart })))

/** One follow-on: what went in, what is done with it, what came out and what that costs. */
export function Page() {
  const { id = '' } = useParams()
  const { followOn, isPending, error, refetch } = useFollowOn(id)
  return (
    <main className="page">
      <WalkInTabs />
      {isPending && <Loading what="the follow-on" />}
      {error && !followOn && <Failed error={error} retry={refetch} />}
      {followOn && <Shown key={`${followOn.id} ${followOn.status}`} followOn={followOn} />}
    </main>
  )
}

function Shown({ followOn }: { followOn: FollowOn }) {
  const { sheetOf, bookOf } = useSheets()
  const house = useHouseFigures()
  const sheet = sheetOf(followOn.sheet)
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
                <Caution key={words}>{house(words)}</Caution>
              ))}
            </div>
            {sheet.steps.length > 0 && (
              <ol className="follow-on-steps">
                {sheet.steps.map((step) => (
                  <li key={step}>{house(step)}</li>
                ))}
              </ol>
            )}
          </>
        )}
      </section>
      {isOpen && <FollowOnBench followOn={followOn} sheet={sheet} book={bookOf(sheet.key)} />}
      <OnTheWay followOn={followOn} sheet={sheet} />
      <Checks followOn={followOn} sheet={sheet} />
      {isOpen ? (
        <FinishForm followOn={followOn} sheet={sheet} book={bookOf(sheet.key)} />
      ) : (
        followOn.status === 'finished' && <Result followOn={followOn} />
      )}
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

/** What it weighed on the way, against where it should end. */
function OnTheWay({ followOn, sheet }: { followOn: FollowOn; sheet: FollowOnSheet }) {
  const start = gramsIn(followOn)
  const { between } = weighedOut(followOn.body.weighings)
  const last = between.at(-1)
  if (!last || start === 0) return null
  const lost = (1 - last.tenths / 10 / start) * 100
  return (
    <section className="sheet stack">
      <h2>On the way</h2>
      <p>
        It has lost <b>{percentText(lost)}</b> of its weight
        {sheet.doneAtLossPct !== undefined &&
          (lost >= sheet.doneAtLossPct ? ': done.' : `; done at ${percentText(sheet.doneAtLossPct, 0)}.`)}
      </p>
      <Suspense fallback={<div className="waste-chart" />}>
        <DryingChart followOn={followOn} weighings={between} startGrams={start} doneAtLossPct={sheet.doneAtLossPct} />
      </Suspense>
    </section>
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
      <Labels lots={followOn.outputs} />
      <WaitingLabels />
      {followOn.outputs[0] && <Link to={`/walk-in/trace/${followOn.outputs[0].id}`}>From the invoice to here</Link>}
    </section>
  )
}
