import type { KitchenDay, PlannedDay } from '@fleam/contract/day'
import { useQuery, useQueryClient } from '@tanstack/react-query'
import { lazy, memo, Suspense, useDeferredValue, useState } from 'react'
import Button from 'react-bootstrap/Button'
import Form from 'react-bootstrap/Form'
import Table from 'react-bootstrap/Table'
import { get, send } from '../../api/http.ts'
import { counted } from '../../ui/counted.ts'
import { Caution, Empty, Failed, Warning, Word } from '../../ui/notes.tsx'
import { Progress } from '../../ui/progress.tsx'
import { percentText, useUnits } from '../../ui/units.ts'
import { DayOrders } from '../orders/day-orders.tsx'

const DayFlow = lazy(() => import('./day-flow.tsx').then((module) => ({ default: module.DayFlow })))

type Held = KitchenDay['body']['held']
type Limits = KitchenDay['body']['limits']

interface DayPlanProps {
  day: KitchenDay
  /** Something is typed that the plan does not know yet. */
  isChanged: boolean
  held: Held
  /** Absent for who may not. */
  onHold: ((kind: keyof Held, id: string, count: number | null) => void) | undefined
  limits: Limits
  /** Absent for who may not. */
  onLimit: ((offer: string, limit: Limits[string]) => void) | undefined
  onKeep: () => void
}

const planMs = 60_000

/** What to buy, how to cut it, and what it costs; planned anew whenever the day was kept. */
export function DayPlan({ day, isChanged, held, onHold, limits, onLimit, onKeep }: DayPlanProps) {
  const hasDishes = day.body.dishes.length > 0
  const queryClient = useQueryClient()
  const queryKey = ['day-plan', day.id, day.version]
  const [isStopped, setIsStopped] = useState(false)
  const { data, error, isFetching, refetch } = useQuery({
    queryKey,
    queryFn: ({ signal }) => send<PlannedDay>('POST', `/days/${day.id}/plan`, {}, planMs, signal),
    enabled: hasDishes && !isStopped,
    staleTime: 60_000,
    retry: false,
  })
  // a new plan is drawn beside what else the page does
  const shown = useDeferredValue(data)
  if (!hasDishes) return null
  return (
    <section className="sheet stack" aria-live="polite">
      <header className="result-head">
        <h2>The plan</h2>
        <span className="actions no-print">
          {data && (
            <Button
              variant="plain"
              disabled={isFetching}
              onClick={() => {
                setIsStopped(false)
                void refetch()
              }}
            >
              Plan it again
            </Button>
          )}
          {data && (
            <Button variant="plain" onClick={() => print()}>
              Print
            </Button>
          )}
        </span>
      </header>
      {isFetching && (
        <Planning
          dayId={day.id}
          onStop={() => {
            setIsStopped(true)
            void queryClient.cancelQueries({ queryKey })
          }}
        />
      )}
      {isStopped && !isFetching && !data && (
        <Empty title="Planning was stopped.">
          <Button variant="plain" onClick={() => setIsStopped(false)}>
            Plan it
          </Button>
        </Empty>
      )}
      {error && !isFetching && <Failed error={error} retry={refetch} />}
      {isChanged && data && (
        <Warning>
          What was changed is not in this plan yet.{' '}
          <Button variant="line" onClick={onKeep}>
            Keep the day and plan it again
          </Button>
        </Warning>
      )}
      {shown && <Planned day={day} planned={shown} servicePct={day.body.servicePct} {...{ held, onHold, limits, onLimit }} />}
    </section>
  )
}

/** How far the plan is, and a way to stop it. */
function Planning({ dayId, onStop }: { dayId: string; onStop: () => void }) {
  const { data } = useQuery({
    queryKey: ['day-planning', dayId],
    queryFn: () => get<{ done: number }>(`/days/${dayId}/planning`),
    refetchInterval: 400,
    retry: false,
    gcTime: 0,
  })
  const percent = Math.round((data?.done ?? 0) * 100)
  return (
    <div className="planning" role="status">
      <p>Planning: which animals, from whom, which way each is cut …</p>
      <Progress now={percent} name="How far the plan is" />
      <Button variant="plain" onClick={onStop}>
        Stop planning
      </Button>
    </div>
  )
}

type PlannedProps = { day: KitchenDay; planned: PlannedDay; servicePct: number } & Pick<
  DayPlanProps,
  'held' | 'onHold' | 'limits' | 'onLimit'
>

/** It is large: drawn again only where something of it changed. */
const Planned = memo(function Planned({ day, planned, servicePct, held, onHold, limits, onLimit }: PlannedProps) {
  const { money, grams } = useUnits()
  const { plan, names, itemOf, flow, troubles, nextBest, hourSaves, safetyCosts, binds, leftTo } = planned
  const amountOf = (product: string) => (value: number) =>
    planned.liquids.includes(product) ? `${(value / 1000).toFixed(1)} l` : grams(Math.round(value))
  if (plan.status === 'infeasible') {
    return (
      <>
        <Warning>
          <p>The day cannot be met as it stands.</p>
          <ul>
            {plan.short.map(({ product, grams: missing }) => (
              <li key={product}>
                At least {amountOf(product)(missing)} of {names.product[product]?.toLowerCase()} are short.
              </li>
            ))}
          </ul>
          <Moves planned={planned} />
        </Warning>
        <OfferLimits names={names} limits={limits} onLimit={onLimit} isOpen />
        {troubles.map((words) => (
          <Warning key={words}>{words}</Warning>
        ))}
      </>
    )
  }
  const saves = plan.allReadyCutCost === null ? null : plan.allReadyCutCost - plan.cost
  return (
    <>
      {troubles.map((words) => (
        <Warning key={words}>{words}</Warning>
      ))}
      <div className="headlines">
        <div className="headline">
          <span>The day costs</span>
          <b>{money(plan.cost)}</b>
          <small>purchases and hands, less what is left over at its worth</small>
        </div>
        <div className="headline">
          <span>All of it ready-cut</span>
          <b>{plan.allReadyCutCost === null ? '–' : money(plan.allReadyCutCost)}</b>
          <small>
            {saves === null
              ? 'not everything can be had so'
              : saves >= 0
                ? `cutting saves ${money(saves)}`
                : `cutting loses ${money(-saves)}`}
          </small>
        </div>
        <div className="headline">
          <span>Hands</span>
          <b>{(plan.minutes / 60).toFixed(1)} h</b>
          <small>
            {plan.overtimeMinutes > 0 ? `${(plan.overtimeMinutes / 60).toFixed(1)} h of it overtime` : 'no overtime'}
            {hourSaves > 0.005 && `; one hour more would save ${money(hourSaves)}`}
          </small>
        </div>
      </div>
      <Word>
        {safetyCosts > 0.005 && `Being enough ${percentText(servicePct)} of the time costs ${money(safetyCosts)}. `}
        {nextBest &&
          `The next best plan does without “${names.way[nextBest.without]}” for ${itemOf[nextBest.without]?.toLowerCase()} and costs ${money(nextBest.cost)} more. `}
        {binds.map(({ offer, limit, saves }) =>
          limit === 'most'
            ? `All that ${names.offer[offer]} has is taken: a pack more would save ${money(saves)}. `
            : `The least order of ${names.offer[offer]} costs ${money(saves)}. `,
        )}
        {plan.gap > 0.0005 && `It lies within ${percentText(plan.gap * 100, 1)} of the best there can be.`}
      </Word>
      <h3>Buy</h3>
      <Table className="figures">
        <thead>
          <tr>
            <th scope="col">From</th>
            <th scope="col">How many</th>
            <th scope="col">Costs</th>
            {onHold && <th scope="col">Decided by hand</th>}
          </tr>
        </thead>
        <tbody>
          {plan.buy.map(({ offer, items, cost }) => (
            <tr key={offer}>
              <th scope="row">{names.offer[offer]}</th>
              <td>{items}</td>
              <td>{money(cost)}</td>
              {onHold && <HoldCell kind="offer" id={offer} name={names.offer[offer] ?? ''} held={held} onHold={onHold} />}
            </tr>
          ))}
          {plan.readyCut.map(({ id, packs, cost }) => (
            <tr key={id}>
              <th scope="row">{names.readyCut[id]}</th>
              <td>{counted(packs, 'pack')}</td>
              <td>{money(cost)}</td>
              {onHold && <HoldCell kind="readyCut" id={id} name={names.readyCut[id] ?? ''} held={held} onHold={onHold} />}
            </tr>
          ))}
        </tbody>
      </Table>
      <OfferLimits names={names} limits={limits} onLimit={onLimit} />
      <DayOrders day={day} planned={planned} />
      <h3>Cut</h3>
      <Table className="figures">
        <thead>
          <tr>
            <th scope="col">What</th>
            <th scope="col" className="words">
              By
            </th>
            <th scope="col">How many</th>
            {onHold && <th scope="col">Decided by hand</th>}
          </tr>
        </thead>
        <tbody>
          {Object.keys(names.way)
            .map((way) => ({ way, items: plan.cut.find((one) => one.way === way)?.items ?? 0 }))
            .filter(({ way, items }) => items > 0 || onHold !== undefined || way in held.way)
            .map(({ way, items }) => (
              <tr key={way}>
                <th scope="row">{itemOf[way]}</th>
                <td className="words">{names.way[way]}</td>
                <td>{items}</td>
                {onHold && <HoldCell kind="way" id={way} name={`${itemOf[way]}, ${names.way[way]}`} held={held} onHold={onHold} />}
              </tr>
            ))}
        </tbody>
      </Table>
      {plan.make.length > 0 && (
        <>
          <h3>Make</h3>
          <ul className="plain-list">
            {plan.make.map(({ followOn, batches }) => (
              <li key={followOn}>
                <b>{names.followOn[followOn]}</b> of {batches} kg {names.product[followOn.slice(followOn.indexOf('>') + 1)]?.toLowerCase()}
              </li>
            ))}
          </ul>
        </>
      )}
      <h3>What comes from where</h3>
      <Suspense>
        <DayFlow planned={planned} />
      </Suspense>
      <div className="table-scroll">
        <Table className="figures flow-table">
          <thead>
            <tr>
              <th scope="col">Product</th>
              <th scope="col">Needed</th>
              <th scope="col">To be sure</th>
              <th scope="col" className="words">
                Comes from
              </th>
              <th scope="col">Left over</th>
              <th scope="col">Enough</th>
            </tr>
          </thead>
          <tbody>
            {flow.map(({ product, needed, margin, left, from }) => {
              const met = plan.met.find((one) => one.product === product)
              const weight = amountOf(product)
              return (
                <tr key={product}>
                  <th scope="row">{names.product[product]}</th>
                  <td>{needed > 0 ? weight(needed) : '–'}</td>
                  <td>{margin > 0 ? weight(margin) : '–'}</td>
                  <td className="words">
                    {from.map(({ kind, id, grams: part }) => (
                      <div key={`${kind} ${id}`}>
                        {weight(part)} {sourceText(names, kind, id)}
                      </div>
                    ))}
                  </td>
                  <td>
                    {left > 0.5 ? weight(left) : '–'}
                    {left > 0.5 && leftTo[product] && <small> for {leftTo[product]}</small>}
                  </td>
                  <td>
                    {met && needed > 0 && (
                      <>
                        <b>{percentText(met.probability * 100)}</b>
                        {met.shortGrams > 0.5 && (
                          <small>
                            {' '}
                            else {weight(met.shortGrams)} short{nearestText(planned, product)}
                          </small>
                        )}
                      </>
                    )}
                  </td>
                </tr>
              )
            })}
          </tbody>
        </Table>
      </div>
      <Caution>
        Poultry is cut last on a shared board, or the board is cleaned down before anything else. What is left over keeps the dates of what
        it came from; local food code comes first.
      </Caution>
    </>
  )
})

function sourceText(names: PlannedDay['names'], kind: PlannedDay['flow'][number]['from'][number]['kind'], id: string): string {
  if (kind === 'way') return names.way[id]?.toLowerCase() ?? ''
  if (kind === 'readyCut') return names.readyCut[id] ?? ''
  if (kind === 'made') return `made as ${names.followOn[id]?.toLowerCase()}`
  return 'in the walk-in'
}

function nearestText({ nearest, names }: PlannedDay, product: string): string {
  const near = nearest[product]
  return near ? `: ${counted(near.packs, 'pack')} of ${names.readyCut[near.readyCut]?.toLowerCase()} is nearest` : ''
}

/** Which limit to move, and by how much. */
function Moves({ planned: { moves, names } }: { planned: PlannedDay }) {
  if (moves.length === 0)
    return <p>No single limit would do: another offer, a ready-cut item that stands for it, or fewer portions would.</p>
  return (
    <>
      <p>Any one of these would let it be met:</p>
      <ul>
        {moves.map((move) => (
          <li key={move.limit}>
            {move.limit === 'hands' && `${(move.minutes / 60).toFixed(1)} h more of hands.`}
            {move.limit === 'held' && 'Letting go of what was decided by hand.'}
            {move.limit === 'offers' &&
              `More to be had: ${move.items.map(({ offer, items }) => `${items} of ${names.offer[offer]}`).join(', ')}.`}
          </li>
        ))}
      </ul>
    </>
  )
}

const limitFields = [
  { key: 'pack', label: 'In packs of' },
  { key: 'least', label: 'At least' },
  { key: 'most', label: 'At most' },
] as const

interface OfferLimitsProps {
  names: PlannedDay['names']
  limits: Limits
  onLimit: DayPlanProps['onLimit']
  isOpen?: boolean
}

/** How each offer can be had, where its quote does not say: packs, least orders, and all that there is. */
function OfferLimits({ names, limits, onLimit, isOpen = false }: OfferLimitsProps) {
  if (!onLimit) return null
  return (
    <details className="no-print" open={isOpen || Object.keys(limits).length > 0}>
      <summary>Packs, least orders, and how many there are</summary>
      <Table className="figures">
        <thead>
          <tr>
            <th scope="col">From</th>
            {limitFields.map(({ key, label }) => (
              <th key={key} scope="col">
                {label}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {[...Object.keys(names.offer), ...Object.keys(names.readyCut)].map((offer) => {
            const name = names.offer[offer] ?? names.readyCut[offer] ?? ''
            return (
              <tr key={offer}>
                <th scope="row">{name}</th>
                {limitFields.map(({ key, label }) =>
                  offer in names.readyCut && key !== 'least' ? (
                    <td key={key} />
                  ) : (
                    <CountCell
                      key={key}
                      label={`${name}, ${label.toLowerCase()}`}
                      value={limits[offer]?.[key]}
                      onChange={(count) => {
                        const { [key]: _before, ...others } = limits[offer] ?? {}
                        onLimit(offer, count === null ? others : { ...others, [key]: count })
                      }}
                    />
                  ),
                )}
              </tr>
            )
          })}
        </tbody>
      </Table>
    </details>
  )
}

interface CountCellProps {
  label: string
  value: number | undefined
  onChange: (count: number | null) => void
}

/** A whole number, or none. */
function CountCell({ label, value, onChange }: CountCellProps) {
  return (
    <td>
      <Form.Control
        className="hold"
        aria-label={label}
        inputMode="numeric"
        placeholder="–"
        value={value ?? ''}
        onChange={(event) => {
          const text = event.target.value.trim()
          const count = Number(text)
          if (text === '') onChange(null)
          else if (Number.isInteger(count) && count >= 0 && count <= 10_000) onChange(count)
        }}
      />
    </td>
  )
}

interface HoldCellProps {
  kind: keyof Held
  id: string
  name: string
  held: Held
  onHold: NonNullable<DayPlanProps['onHold']>
}

/** A number that is decided by hand; empty leaves it to the plan. */
function HoldCell({ kind, id, name, held, onHold }: HoldCellProps) {
  return <CountCell label={`${name}, decided by hand`} value={held[kind][id]} onChange={(count) => onHold(kind, id, count)} />
}
