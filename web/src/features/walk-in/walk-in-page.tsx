import type { Lot } from '@fleam/contract/walk-in'
import { groupBy } from '@fleam/core/group-by'
import { daysBetween } from '@fleam/core/walk-in/use-by'
import { lazy, Suspense, useState } from 'react'
import Button from 'react-bootstrap/Button'
import Form from 'react-bootstrap/Form'
import { Snow2, UpcScan } from 'react-bootstrap-icons'
import { Link, useNavigate, useParams } from 'react-router'
import { dayText, today } from '../../ui/days.ts'
import { Choice } from '../../ui/fields.tsx'
import { Empty, Failed, Loading } from '../../ui/notes.tsx'
import { useRemembered } from '../../ui/remembered.ts'
import { useUnits } from '../../ui/units.ts'
import { amountText, moneyLeft, portionsText } from './amounts.ts'
import { Labels, WaitingLabels } from './labels.tsx'
import { lotInCode } from './lot-in-code.ts'
import { LotPanel } from './lot-panel.tsx'
import { ThrownAwayChart } from './thrown-away.tsx'
import { useLots } from './use-lots.ts'
import './walk-in.scss'
import { WalkInTabs } from './walk-in-tabs.tsx'

const ScanCode = lazy(() => import('../../ui/scan-code.tsx').then((module) => ({ default: module.ScanCode })))

const orders = [
  { value: 'date', label: 'Use first' },
  { value: 'kind', label: 'What it is' },
  { value: 'place', label: 'Where it lies' },
] as const
type Order = (typeof orders)[number]['value']

/** What lies in the cold: what must be used first, what it is, where it is, and what it is worth. */
export function Page() {
  const { lots, isPending, error, refetch } = useLots()
  const [order, setOrder] = useRemembered<Order>('walk-in-order', 'date')
  const [words, setWords] = useState('')
  const navigate = useNavigate()
  const { lotId } = useParams()
  const [isScanning, setScanning] = useState(false)
  const shown = (lots ?? []).filter((lot) => matches(lot, words))
  return (
    <main className="page">
      <WalkInTabs />
      <section className="sheet">
        <header className="result-head">
          <h1>Walk-in</h1>
          {lots && lots.length > 0 && <Totals lots={lots} />}
        </header>
        {isPending && <Loading what="the walk-in" />}
        {error && !lots && <Failed error={error} retry={refetch} />}
        {lots?.length === 0 && (
          <Empty title="Nothing lies in the walk-in.">
            <p>When a run is finished, what came off is put away here, with its date, its cost and where it came from.</p>
          </Empty>
        )}
        {lots && lots.length > 0 && (
          <>
            <div className="walk-in-tools">
              <Form.Control
                type="search"
                aria-label="Find a lot"
                placeholder="Find: two letters, or a lot’s number"
                value={words}
                onChange={(event) => {
                  // a scanner that types writes the label's whole address
                  const scanned = lotInCode(event.target.value)
                  if (scanned) navigate(`/walk-in/${scanned}`)
                  setWords(scanned ? '' : event.target.value)
                }}
              />
              <Button variant="plain" onClick={() => setScanning(true)}>
                <UpcScan aria-hidden /> Scan a label
              </Button>
              <Choice label="In order of" value={order} onChange={setOrder} options={orders} />
            </div>
            <Labels lots={shown} />
            <WaitingLabels />
            {shown.length === 0 && <Empty title={`Nothing here is called “${words}”.`} />}
            {groupsOf(shown, order).map(([title, group]) => (
              <section key={title} className="lot-group">
                <h2 className={title === 'Past its date' || title === 'Today' ? 'hot' : ''}>{title}</h2>
                <ul className="lots">
                  {group.map((lot) => (
                    <LotRow key={lot.id} lot={lot} />
                  ))}
                </ul>
              </section>
            ))}
          </>
        )}
      </section>
      <ThrownAwayChart />
      {isScanning && (
        <Suspense>
          <ScanCode
            title="Hold the label before the camera"
            of="label"
            onClose={() => setScanning(false)}
            onCode={(code) => {
              const scanned = lotInCode(code)
              if (!scanned) return 'That is no label of Fleam: it says something else.'
              setScanning(false)
              navigate(`/walk-in/${scanned}`)
              return undefined
            }}
          />
        </Suspense>
      )}
      {lotId && <LotPanel id={lotId} lots={lots ?? []} onClose={() => navigate('/walk-in')} />}
    </main>
  )
}

function Totals({ lots }: { lots: readonly Lot[] }) {
  const units = useUnits()
  const tenths = lots.filter(({ unit }) => unit === 'g').reduce((sum, { leftTenths }) => sum + leftTenths, 0)
  const portions = lots.reduce((sum, { leftPortions }) => sum + (leftPortions ?? 0), 0)
  const worth = lots.reduce((sum, lot) => sum + (moneyLeft(lot) ?? 0), 0)
  return (
    <p className="totals-line">
      <span>
        <b>{units.weightSystem === 'metric' ? `${(tenths / 10_000).toFixed(1)} kg` : units.weight(tenths)}</b> there
      </span>
      <span>
        <b>{portions}</b> portions
      </span>
      <span>
        <b>{units.money(worth)}</b> on the shelves
      </span>
    </p>
  )
}

function LotRow({ lot }: { lot: Lot }) {
  const units = useUnits()
  const worth = moneyLeft(lot)
  const days = daysBetween(today(), lot.useBy)
  return (
    <li className={lot.isBlocked ? 'lot-blocked' : ''}>
      <Link to={`/walk-in/${lot.id}`}>
        <span className="lot-name">
          <strong>
            {lot.state === 'frozen' && <Snow2 aria-label="frozen" />} {lot.name}
          </strong>
          <small>
            Lot {lot.number}
            {lot.run && ` · ${lot.run.item}, run ${lot.run.number}`}
            {lot.followOn && ` · follow-on ${lot.followOn.number}`}
            {lot.isFormed && ' · formed'}
            {lot.isBlocked && ' · called back'}
          </small>
        </span>
        <span className="lot-amount">
          <b>{amountText(units, lot.unit, lot.leftTenths)}</b>
          {lot.leftPortions !== null && <small>{portionsText(lot.leftPortions)}</small>}
        </span>
        <span>
          {lot.place}
          {lot.state === 'thawed' && <small>thawed</small>}
        </span>
        <span className={days <= 0 ? 'hot' : days === 1 ? 'lot-soon' : ''}>
          {dayText(lot.useBy)}
          <small>{dateWords(days, lot.state)}</small>
        </span>
        <span className="lot-amount">{worth === undefined ? <small>run open</small> : units.money(worth)}</span>
      </Link>
    </li>
  )
}

function dateWords(days: number, state: Lot['state']): string {
  if (days < 0) return 'past its date'
  if (state === 'frozen') return 'frozen date'
  return days === 0 ? 'use today' : days === 1 ? 'use by tomorrow' : `${days} days left`
}

/** Two letters of what it is, where it lies or what it came from, or its number. */
function matches(lot: Lot, words: string): boolean {
  const wanted = words.trim().toLowerCase()
  if (wanted === '') return true
  const [, number] = /^(?:lot\s*)?(\d{1,9})$/.exec(wanted) ?? []
  if (number) return String(lot.number) === number
  return `${lot.name} ${lot.run?.item ?? ''} ${lot.place} ${lot.kind} ${lot.supplierLot} ${lot.animal ?? ''}`.toLowerCase().includes(wanted)
}

function groupsOf(lots: readonly Lot[], order: Order): [string, Lot[]][] {
  const now = today()
  const title = (lot: Lot): string => {
    if (order === 'kind') return lot.kind.charAt(0).toUpperCase() + lot.kind.slice(1)
    if (order === 'place') return lot.place
    const days = daysBetween(now, lot.useBy)
    if (days < 0) return 'Past its date'
    if (lot.state === 'frozen') return 'Frozen'
    return days === 0 ? 'Today' : days === 1 ? 'Tomorrow' : days <= 7 ? 'This week' : 'Later'
  }
  const groups = [...groupBy(lots, title)]
  const byDate = ['Past its date', 'Today', 'Tomorrow', 'This week', 'Later', 'Frozen']
  return groups.sort(([a], [b]) => (order === 'date' ? byDate.indexOf(a) - byDate.indexOf(b) : a.localeCompare(b)))
}
