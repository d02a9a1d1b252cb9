import type { Rest } from '@fleam/contract/plan'
import type { Item } from '@fleam/contract/prices'
import type { RunSummary } from '@fleam/contract/runs'
import { useQuery } from '@tanstack/react-query'
import { lazy, Suspense } from 'react'
import { Link } from 'react-router'
import { get } from '../../api/http.ts'
import { followOnsQuery, itemsQuery, peopleQuery, useHasRole, useKitchen } from '../../api/queries.ts'
import { dayText, momentText } from '../../ui/days.ts'
import { Empty, Failed, Loading } from '../../ui/notes.tsx'
import { percentText, useUnits } from '../../ui/units.ts'
import { OpenTile } from '../follow-ons/open-tile.tsx'
import { DishesShort } from './dishes-short.tsx'
import { UseFirst } from './use-first.tsx'

const PrepLists = lazy(() => import('../days/prep-list.tsx').then((module) => ({ default: module.PrepLists })))
const MovedPrices = lazy(() => import('../compare/moved-prices.tsx').then((module) => ({ default: module.MovedPrices })))

type Page = { entries: RunSummary[] }

/** Today: what is open, what was cut last, what needs doing first in a new kitchen. */
export function Page() {
  const kitchen = useKitchen()
  const open = useQuery({ queryKey: ['runs', 'open'], queryFn: () => get<Page>('/runs?status=open&limit=12') })
  const recent = useQuery({ queryKey: ['runs', 'recent'], queryFn: () => get<Page>('/runs?status=finished&limit=6') })
  const items = useQuery(itemsQuery)
  const { weight } = useUnits()
  const isNew = open.data?.entries.length === 0 && recent.data?.entries.length === 0
  return (
    <main className="page board">
      <div className="board-column">
        <section className="sheet">
          <p className="over">{kitchen.name}</p>
          <h1>On the bench</h1>
          {open.isPending && <Loading what="open runs" />}
          {open.error && <Failed error={open.error} retry={open.refetch} />}
          {open.data?.entries.length === 0 && <Empty title="Nothing is being cut." />}
          <div className="run-tiles">
            {open.data?.entries.map((run) => (
              <Link key={run.id} className="run-tile" to={`/bench/${run.id}`}>
                <strong>{run.item.name}</strong>
                <span>
                  Run {run.number} · {run.cook.name}
                  {run.lot && ` · lot ${run.lot}`} · {weight(run.received.tenths)} received {momentText(run.startedAt)}
                </span>
                <b>Go on cutting</b>
              </Link>
            ))}
          </div>
          <Rests />
          {isNew && items.data && <FirstSteps items={items.data} />}
          {items.data && items.data.length > 0 && (
            <Link className="btn btn-act btn-large" to="/receive">
              Receive and weigh in
            </Link>
          )}
          <Waiting />
        </section>
        <Suspense>
          <MovedPrices />
        </Suspense>
      </div>
      <div className="board-column">
        <Suspense>
          <PrepLists />
        </Suspense>
        <UseFirst />
        <DishesShort />
        <section className="sheet">
          <h2>Cut last</h2>
          {recent.data?.entries.length === 0 && <Empty title="No finished runs yet. The first one will stand here." />}
          <ul className="last-runs">
            {recent.data?.entries.map((run) => (
              <LastRun key={run.id} run={run} />
            ))}
          </ul>
          <Link to="/log">All runs in the yield log</Link>
        </section>
      </div>
    </main>
  )
}

/** What was bonded or tied and rests: when it can be cut, and until when it should be. */
function Rests() {
  const { data } = useQuery({ queryKey: ['rests'], queryFn: async () => (await get<{ entries: Rest[] }>('/rests')).entries })
  if (!data || data.length === 0) return null
  return (
    <>
      <h2>Resting</h2>
      <ul className="plain-list">
        {data.map((rest) => (
          <li key={rest.id}>
            <b className={Date.now() >= new Date(rest.readyAt).getTime() ? 'good' : ''}>
              {Date.now() >= new Date(rest.readyAt).getTime() ? 'Ready to cut' : `Can be cut from ${momentText(rest.readyAt)}`}
            </b>{' '}
            {rest.what}
            <small>
              Run {rest.runNumber} · {rest.by} · cut by {momentText(rest.bestBy)}
            </small>
          </li>
        ))}
      </ul>
    </>
  )
}

/** What simmers, dries or rests on its way to something else. */
function Waiting() {
  const { data } = useQuery(followOnsQuery)
  const open = data?.filter(({ status }) => status === 'open') ?? []
  if (open.length === 0) return null
  return (
    <>
      <h2>Being made</h2>
      <div className="run-tiles">
        {open.map((one) => (
          <OpenTile key={one.id} followOn={one} />
        ))}
      </div>
    </>
  )
}

function LastRun({ run }: { run: RunSummary }) {
  const { money } = useUnits()
  const { figures } = run
  return (
    <li>
      <Link to={`/runs/${run.id}`}>
        <span>
          <strong>{run.item.name}</strong>
          <small>
            Run {run.number} · {dayText(run.startedAt)} · {run.cook.name}
            {run.supplier && ` · ${run.supplier.name}`}
          </small>
        </span>
        {figures && (
          <>
            <span className="last-figure">
              <small>main yield</small>
              {percentText(figures.mainPct)}
            </span>
            <span className="last-figure">
              <small>a portion</small>
              {figures.costPerPortion === null ? '–' : money(figures.costPerPortion)}
            </span>
          </>
        )}
      </Link>
    </li>
  )
}

/** What a new kitchen does before its first run; each is ticked once it is done. */
function FirstSteps({ items }: { items: readonly Item[] }) {
  const kitchen = useKitchen()
  const isManager = useHasRole('manager')
  const people = useQuery({ ...peopleQuery, enabled: isManager })
  const isPriced = items.some((item) => item.kind === 'whole' && item.latestQuote)
  const steps = [
    { to: '/kitchen/limits', name: 'Say what an hour costs, and your limits', isDone: kitchen.version > 1 },
    { to: '/kitchen/prices', name: 'Add what you buy whole, and its price', isDone: isPriced },
    { to: '/kitchen/people', name: 'Add the people who cut', isDone: (people.data?.length ?? 0) > 1 },
  ]
  return (
    <ol className="first-steps">
      {steps.map(({ to, name, isDone }) => (
        <li key={to}>
          <Link to={to}>{name}</Link> {isDone && <b className="good">✓ done</b>}
        </li>
      ))}
    </ol>
  )
}
