import type { Trace, TraceNode } from '@fleam/contract/follow-ons'
import type { Lot } from '@fleam/contract/walk-in'
import { useQuery } from '@tanstack/react-query'
import { lazy, Suspense, useState } from 'react'
import Button from 'react-bootstrap/Button'
import Form from 'react-bootstrap/Form'
import { Link, useParams, useSearchParams } from 'react-router'
import { get, send } from '../../api/http.ts'
import { lotsQuery, useHasRole } from '../../api/queries.ts'
import { momentText } from '../../ui/days.ts'
import { Choice, TextField } from '../../ui/fields.tsx'
import { Caution, Empty, Failed, Loading, Warning } from '../../ui/notes.tsx'
import { useUnits } from '../../ui/units.ts'
import { useChange } from '../../ui/use-change.ts'
import { amountText } from './amounts.ts'
import './walk-in.scss'
import { WalkInTabs } from './walk-in-tabs.tsx'

const TraceFlow = lazy(() => import('./trace-flow.tsx').then((module) => ({ default: module.TraceFlow })))

/** Where a lot came from and all that it went into; or all that came of a supplier's lot, which can be called back with a tap. */
export function Page() {
  const { lotId } = useParams()
  const [search, setSearch] = useSearchParams()
  const supplierLot = search.get('lot') ?? ''
  const [words, setWords] = useState(supplierLot)
  const path = lotId ? `/lots/${lotId}/trace` : supplierLot ? `/traces?supplierLot=${encodeURIComponent(supplierLot)}` : undefined
  const trace = useQuery({
    queryKey: ['trace', path],
    queryFn: () => get<Trace>(path as string),
    enabled: path !== undefined,
    staleTime: 0,
  })
  const csv = `/api/v1${lotId ? `/lots/${lotId}/trace.csv` : `/traces.csv?supplierLot=${encodeURIComponent(supplierLot)}`}`
  return (
    <main className="page">
      <WalkInTabs />
      <section className="sheet stack">
        <h1>Where it came from, and where it went</h1>
        <Form
          className="walk-in-tools no-print"
          onSubmit={(event) => {
            event.preventDefault()
            setSearch(words.trim() === '' ? {} : { lot: words.trim() })
          }}
        >
          <Form.Control
            type="search"
            aria-label="A supplier’s lot"
            placeholder="A supplier’s lot, as on the box: H132"
            maxLength={40}
            value={words}
            onChange={(event) => setWords(event.target.value)}
          />
          <Button type="submit" variant="act">
            Find it
          </Button>
        </Form>
        {!path && (
          <Empty title="A supplier calls a lot back?">
            <p>Type the lot as it stands on the box. To follow one of your own, open it under What is there.</p>
          </Empty>
        )}
        {path && trace.isPending && <Loading what="the way" />}
        {trace.error && <Failed error={trace.error} retry={trace.refetch} />}
        {trace.data && (
          <>
            <header className="result-head">
              <h2>{trace.data.start}</h2>
              <div className="actions no-print">
                <a className="btn btn-plain" href={csv}>
                  As CSV
                </a>
                <Button variant="plain" onClick={() => window.print()}>
                  Print
                </Button>
              </div>
            </header>
            {trace.data.nodes.length === 0 ? <Empty title="Nothing in this kitchen’s books has that lot." /> : <Found trace={trace.data} />}
          </>
        )}
      </section>
      {!lotId && trace.data && trace.data.nodes.length > 0 && (
        <Recall supplierLot={supplierLot} trace={trace.data} onDone={() => trace.refetch()} />
      )}
    </main>
  )
}

function Found({ trace }: { trace: Trace }) {
  const [by, setBy] = useState<'weight' | 'money'>('weight')
  return (
    <>
      <Choice
        label="Drawn by"
        value={by}
        onChange={setBy}
        options={[
          { value: 'weight', label: 'By weight' },
          { value: 'money', label: 'By money' },
        ]}
      />
      <Suspense fallback={<div className="trace-flow" />}>
        <TraceFlow trace={trace} by={by} />
      </Suspense>
      {stages.map(({ what, title }) => {
        const nodes = trace.nodes.filter((node) => node.what === what)
        if (nodes.length === 0) return null
        return (
          <section key={what}>
            <h3>{title}</h3>
            <ul className="plain-list trace-nodes">
              {nodes.map((node) => (
                <NodeLine key={node.id} node={node} />
              ))}
            </ul>
          </section>
        )
      })}
    </>
  )
}

const stages = [
  { what: 'delivery', title: 'Came from' },
  { what: 'run', title: 'Cut in' },
  { what: 'lot', title: 'Lots' },
  { what: 'follow-on', title: 'Made into' },
  { what: 'taken', title: 'Went to' },
] as const

function NodeLine({ node }: { node: TraceNode }) {
  const units = useUnits()
  const { what, id, name, lot, tenths, unit, cost, at, by } = node
  const to =
    what === 'run' ? `/runs/${id}` : what === 'lot' ? `/walk-in/${id}` : what === 'follow-on' ? `/walk-in/follow-ons/${id}` : undefined
  return (
    <li>
      {to ? <Link to={to}>{name}</Link> : <strong>{name}</strong>}{' '}
      <span>
        {tenths !== null && unit && amountText(units, unit, tenths)}
        {cost !== null && ` · ${units.money(cost)}`}
        {lot && ` · ${lot.leftTenths > 0 ? `${amountText(units, lot.unit, lot.leftTenths)} left in ${lot.place}` : 'nothing left'}`}
        {lot?.isBlocked && <b className="hot"> · blocked</b>}
      </span>
      {at && (
        <small>
          {' '}
          {momentText(at)}
          {by && ` · ${by}`}
        </small>
      )}
    </li>
  )
}

function Recall({ supplierLot, trace, onDone }: { supplierLot: string; trace: Trace; onDone: () => void }) {
  const isLead = useHasRole('lead')
  const units = useUnits()
  const [reason, setReason] = useState('')
  const left = trace.nodes.flatMap(({ lot }) => (lot && lot.leftTenths > 0 && !lot.isBlocked ? [lot] : []))
  const { change, busy, trouble } = useChange({
    send: () => send<{ blocked: Lot[] }>('POST', '/recalls', { supplierLot, reason: reason.trim(), at: new Date().toISOString() }),
    refresh: [lotsQuery.queryKey],
    said: () => 'What is left of it is blocked.',
  })
  return (
    <section className="sheet stack no-print">
      <h2>Call it back</h2>
      {left.length === 0 ? (
        <p>Nothing of it is left that is not blocked.</p>
      ) : (
        <p>
          Left of it:{' '}
          {left.map((lot) => `${amountText(units, lot.unit, lot.leftTenths)} ${lot.name.toLowerCase()} (lot ${lot.number})`).join(', ')}.
        </p>
      )}
      <Caution>
        Blocked lots cannot be picked. What was served already stands above under “Went to”: local food code says whom to tell.
      </Caution>
      {isLead && left.length > 0 && (
        <>
          <TextField label="Why" value={reason} onChange={setReason} autoComplete="off" />
          {trouble && <Warning>{trouble}</Warning>}
          <Button variant="act" disabled={busy || reason.trim() === ''} onClick={() => void change().then((done) => done && onDone())}>
            Block what is left
          </Button>
        </>
      )}
      {!isLead && left.length > 0 && <p className="field-hint">A lead blocks it.</p>}
    </section>
  )
}
