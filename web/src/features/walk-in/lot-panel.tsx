import type { Lot, LotMove, LotWithMoves } from '@fleam/contract/walk-in'
import type { LotHappening, TakenFor } from '@fleam/core/walk-in/lot'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import Button from 'react-bootstrap/Button'
import Form from 'react-bootstrap/Form'
import { Link } from 'react-router'
import { get } from '../../api/http.ts'
import { newId } from '../../api/new-id.ts'
import { dishNeedsQuery, useHasRole, useKitchen } from '../../api/queries.ts'
import { useOutbox } from '../../outbox/tablet-outbox.ts'
import { DateField } from '../../ui/date-field.tsx'
import { dayText, momentText, today } from '../../ui/days.ts'
import { Choice, numberOf, SelectField, TextField } from '../../ui/fields.tsx'
import { Caution, Empty, Loading, Warning } from '../../ui/notes.tsx'
import { SidePanel } from '../../ui/side-panel.tsx'
import { useUnits } from '../../ui/units.ts'
import { amountHint, amountText, moneyLeft, portionsText, tenthsTyped } from './amounts.ts'
import { Labels, WaitingLabels } from './labels.tsx'
import { useMoves, withWaitingMoves } from './use-lots.ts'

type Move = (what: LotHappening, words: string) => void

/** One lot: take of it, move it, freeze it, count it; its books, and what they can be taken back by. */
export function LotPanel({ id, lots, onClose }: { id: string; lots: readonly Lot[]; onClose: () => void }) {
  const { data } = useQuery({ queryKey: ['lot', id], queryFn: () => get<LotWithMoves>(`/lots/${id}`), staleTime: 0 })
  const { lines } = useOutbox()
  const { keeping } = useKitchen().settings.walkIn
  const [stored] = data ? withWaitingMoves([data], lines, today(), keeping) : []
  const lot = lots.find((one) => one.id === id) ?? stored
  const { move, undo } = useMoves()
  if (!lot)
    return (
      <SidePanel title="Lot" onClose={onClose}>
        <Loading what="the lot" />
      </SidePanel>
    )
  const happen: Move = (what, words) => move(lot, what, words)
  return (
    <SidePanel title={lot.name} onClose={onClose}>
      <div className="stack">
        <Facts lot={lot} />
        {lot.leftTenths > 0 ? (
          <>
            <TakeForm key={`take ${lot.leftTenths}`} lot={lot} happen={happen} />
            <PlaceForm lot={lot} happen={happen} />
            <CountForm key={`count ${lot.leftTenths}`} lot={lot} happen={happen} />
            <LeadForms lot={lot} happen={happen} />
          </>
        ) : (
          <Empty title="Nothing is left of it." />
        )}
        {data && <Books lot={lot} moves={data.moves} onUndo={(moveId) => undo(lot, moveId)} />}
      </div>
    </SidePanel>
  )
}

function Facts({ lot }: { lot: Lot }) {
  const units = useUnits()
  const worth = moneyLeft(lot)
  const isPast = lot.useBy < today()
  return (
    <>
      {lot.isBlocked && <Warning>Called back: it is not to be used. It can be thrown away.</Warning>}
      {isPast && <Warning>Its date was {dayText(lot.useBy)}: throw it away, or a lead keeps it with a reason.</Warning>}
      {lot.isFormed && (
        <Caution>
          Bonded, rolled or stuffed: what was outside is inside. Cook it through as ground meat; local food code comes first.
        </Caution>
      )}
      <dl className="lot-facts">
        <div>
          <dt>Left</dt>
          <dd>
            {amountText(units, lot.unit, lot.leftTenths)}
            {lot.leftPortions !== null && `, ${portionsText(lot.leftPortions)}`}
          </dd>
        </div>
        <div>
          <dt>Use by</dt>
          <dd className={isPast ? 'hot' : ''}>
            {dayText(lot.useBy)}
            {lot.state !== 'chilled' && `, ${lot.state}`}
          </dd>
        </div>
        <div>
          <dt>Lies in</dt>
          <dd>{lot.place}</dd>
        </div>
        <div>
          <dt>Worth</dt>
          <dd>{worth === undefined ? 'known when its run is finished' : units.money(worth)}</dd>
        </div>
        <div>
          <dt>Lot</dt>
          <dd>
            {lot.number}, packed {dayText(lot.packedOn)} by {lot.by.name}
            {lot.supplierLot && `, supplier’s lot ${lot.supplierLot}`}
          </dd>
        </div>
        {lot.allergens.length > 0 && (
          <div>
            <dt>Allergens</dt>
            <dd>{lot.allergens.join(', ')}</dd>
          </div>
        )}
      </dl>
      <div className="actions">
        <Link className="btn btn-plain" to={`/walk-in/trace/${lot.id}`}>
          Where from, where to
        </Link>
        {lot.whole && lot.leftTenths > 0 && (
          <Link className="btn btn-act" to={`/receive?lot=${lot.id}`}>
            Cut it
          </Link>
        )}
        {lot.run && (
          <Link className="btn btn-plain" to={`/runs/${lot.run.id}`}>
            Run {lot.run.number}
          </Link>
        )}
      </div>
      <Labels lots={[lot]} />
      <WaitingLabels />
    </>
  )
}

const uses = [
  { value: 'dish', label: 'For a dish' },
  { value: 'staff', label: 'Staff' },
  { value: 'thrown away', label: 'Thrown away' },
] as const satisfies readonly { value: TakenFor; label: string }[]
const reasons = ['past its date', 'dried out', 'smells off', 'dropped', 'left over from service']

function TakeForm({ lot, happen }: { lot: Lot; happen: Move }) {
  const units = useUnits()
  const cannotPick = lot.isBlocked || lot.useBy < today()
  const [takenFor, setTakenFor] = useState<(typeof uses)[number]['value']>(cannotPick ? 'thrown away' : 'dish')
  const [amount, setAmount] = useState('')
  const [portions, setPortions] = useState(0)
  const [note, setNote] = useState('')
  const dishes = useQuery(dishNeedsQuery)
  const isThrown = takenFor === 'thrown away'
  const tenths = tenthsTyped(units, lot.unit, amount)
  const isTyped = amount.trim() !== ''
  const some = isTyped
    ? tenths === undefined
      ? 'unread'
      : amountText(units, lot.unit, tenths)
    : portions > 0
      ? portionsText(portions)
      : 'all of it'
  const isTooMuch = tenths !== undefined && tenths > lot.leftTenths
  const isFrozenDish = takenFor === 'dish' && lot.state === 'frozen'
  const cannot =
    (isTyped && (tenths === undefined || isTooMuch)) || (isThrown && note.trim() === '') || (cannotPick && !isThrown) || isFrozenDish
  function take(event: React.FormEvent) {
    event.preventDefault()
    if (cannot) return
    const what = {
      kind: 'take' as const,
      tenths: isTyped ? (tenths ?? null) : null,
      portions: !isTyped && portions > 0 ? portions : null,
      takenFor,
      note: note.trim(),
    }
    happen(what, `${lot.name}: ${some} ${isThrown ? 'thrown away' : 'taken'}.`)
  }
  return (
    <Form className="stack lot-part" onSubmit={take}>
      <Choice label="What it is taken for" value={takenFor} onChange={setTakenFor} options={uses} />
      {lot.leftPortions !== null && lot.leftPortions > 0 && (
        <div className="portion-steps">
          <Button variant="plain" aria-label="One portion less" disabled={portions === 0} onClick={() => setPortions(portions - 1)}>
            −
          </Button>
          <b>{portions === 0 ? 'All' : portions}</b>
          <Button
            variant="plain"
            aria-label="One portion more"
            disabled={portions >= lot.leftPortions}
            onClick={() => setPortions(portions + 1)}
          >
            +
          </Button>
          <span>{portions === 0 ? `${portionsText(lot.leftPortions)}` : `of ${portionsText(lot.leftPortions)}`}</span>
        </div>
      )}
      <div className="fields">
        <TextField
          label="Or how much"
          value={amount}
          onChange={setAmount}
          hint={`${amountHint[lot.unit]}; empty takes ${portions > 0 ? portionsText(portions) : 'all of it'}`}
          error={isTooMuch ? `Only ${amountText(units, lot.unit, lot.leftTenths)} are left.` : undefined}
          autoComplete="off"
        />
        <TextField
          label={isThrown ? 'Why' : 'Which dish'}
          value={note}
          onChange={setNote}
          autoComplete="off"
          hint={isThrown ? 'it counts in what is thrown away' : 'so that it can be found again'}
        />
      </div>
      <div className="chips">
        {(isThrown ? reasons : (dishes.data ?? []).map(({ dish }) => dish).slice(0, 4)).map((words) => (
          <Button key={words} variant="plain" aria-pressed={note === words} onClick={() => setNote(words)}>
            {words}
          </Button>
        ))}
      </div>
      {isFrozenDish && <p className="field-hint">It is frozen: thaw it first.</p>}
      <Button type="submit" variant={isThrown ? 'hot' : 'act'} disabled={cannot}>
        {isThrown ? 'Throw away' : 'Take'} {some}
      </Button>
    </Form>
  )
}

function PlaceForm({ lot, happen }: { lot: Lot; happen: Move }) {
  const { places } = useKitchen().settings.walkIn
  const [place, setPlace] = useState(lot.place)
  const [packs, setPacks] = useState('2')
  const cold = places.find((one) => /freez/i.test(one)) ?? place
  const count = numberOf(packs)
  const isCount = Number.isInteger(count) && count >= 2 && count <= 40
  function split() {
    // the packs that go; what stays is the last
    for (let pack = count; pack > 1; pack -= 1) {
      const isCounted = lot.leftPortions !== null && lot.leftPortions >= count
      const even = { tenths: Math.floor(lot.leftTenths / count), portions: null }
      const byPortions = { tenths: null, portions: Math.floor((lot.leftPortions ?? 0) / count) }
      happen({ kind: 'split', lotId: newId(), place, ...(isCounted ? byPortions : even) }, `${lot.name}: a pack of its own.`)
    }
  }
  return (
    <div className="stack lot-part">
      <SelectField
        label="Place"
        value={place}
        onChange={setPlace}
        options={[...new Set([lot.place, ...places])].map((one) => ({ value: one, label: one }))}
      />
      <div className="actions">
        <Button
          variant="plain"
          disabled={place === lot.place}
          onClick={() => happen({ kind: 'put', place }, `${lot.name} lies in ${place}.`)}
        >
          Move it there
        </Button>
        {lot.state === 'chilled' && lot.useBy >= today() && (
          <Button
            variant="plain"
            onClick={() =>
              happen({ kind: 'freeze', place: place === lot.place ? cold : place }, `${lot.name} is frozen: its clock stands.`)
            }
          >
            Freeze
          </Button>
        )}
        {lot.state === 'frozen' && (
          <Button
            variant="plain"
            onClick={() =>
              happen(
                { kind: 'thaw', place: place === lot.place ? (places[0] ?? place) : place },
                `${lot.name} thaws, in the cold, about a day for 2 kg.`,
              )
            }
          >
            Thaw
          </Button>
        )}
      </div>
      <div className="actions">
        <Button variant="plain" disabled={!isCount} onClick={split}>
          Split into packs:
        </Button>
        <Form.Control
          className="pack-count"
          inputMode="numeric"
          aria-label="How many packs"
          value={packs}
          onChange={(event) => setPacks(event.target.value)}
        />
      </div>
    </div>
  )
}

function CountForm({ lot, happen }: { lot: Lot; happen: Move }) {
  const units = useUnits()
  const [amount, setAmount] = useState('')
  const [portions, setPortions] = useState(lot.leftPortions === null ? '' : String(lot.leftPortions))
  const [note, setNote] = useState('')
  const tenths = tenthsTyped(units, lot.unit, amount)
  const counted = lot.leftPortions === null ? null : numberOf(portions)
  const cannot = tenths === undefined || note.trim() === '' || (counted !== null && !(Number.isInteger(counted) && counted >= 0))
  function count(event: React.FormEvent) {
    event.preventDefault()
    if (cannot) return
    happen(
      { kind: 'count', tenths, portions: counted, note: note.trim() },
      `${lot.name}: ${amountText(units, lot.unit, tenths)} are there.`,
    )
  }
  return (
    <details className="lot-part">
      <summary>Count what is really there</summary>
      <Form className="stack" onSubmit={count}>
        <div className="fields">
          <TextField label="There is" value={amount} onChange={setAmount} hint={amountHint[lot.unit]} autoComplete="off" />
          {lot.leftPortions !== null && (
            <TextField label="Portions" value={portions} onChange={setPortions} inputMode="numeric" autoComplete="off" />
          )}
        </div>
        <TextField label="Why it differs" value={note} onChange={setNote} autoComplete="off" hint="stays in its books" />
        <Button type="submit" variant="plain" disabled={cannot}>
          Put it down
        </Button>
      </Form>
    </details>
  )
}

function LeadForms({ lot, happen }: { lot: Lot; happen: Move }) {
  const isLead = useHasRole('lead')
  const [note, setNote] = useState('')
  const [useBy, setUseBy] = useState(today())
  if (!isLead) return null
  const reason = note.trim()
  return (
    <details className="lot-part">
      <summary>For a lead: keep it longer, or block it</summary>
      <div className="stack">
        <Caution>A longer date is this kitchen’s own decision, kept with who made it. Local food code comes first.</Caution>
        <TextField label="Reason" value={note} onChange={setNote} autoComplete="off" />
        {lot.state !== 'frozen' && <DateField label="Keep until" value={useBy} onChange={setUseBy} />}
        <div className="actions">
          {lot.state !== 'frozen' && (
            <Button
              variant="plain"
              disabled={reason === '' || useBy < today()}
              onClick={() => happen({ kind: 'keep', useBy, note: reason }, `${lot.name} is kept until ${dayText(useBy)}.`)}
            >
              Keep it
            </Button>
          )}
          <Button
            variant="plain"
            disabled={reason === ''}
            onClick={() =>
              happen(
                { kind: lot.isBlocked ? 'release' : 'block', note: reason },
                `${lot.name} is ${lot.isBlocked ? 'released' : 'blocked'}.`,
              )
            }
          >
            {lot.isBlocked ? 'Release it' : 'Block it'}
          </Button>
        </div>
      </div>
    </details>
  )
}

const moveWords: Record<LotMove['kind'], string> = {
  packed: 'Put away',
  take: 'Taken',
  put: 'Moved to',
  freeze: 'Frozen',
  thaw: 'Thawed',
  count: 'Counted',
  split: 'Split off',
  keep: 'Kept longer',
  block: 'Blocked',
  release: 'Released',
  undo: 'Taken back',
}

function Books({ lot, moves, onUndo }: { lot: Lot; moves: readonly LotMove[]; onUndo: (moveId: string) => void }) {
  const units = useUnits()
  const undone = new Set(moves.map(({ undoesId }) => undoesId))
  return (
    <section>
      <h3>Its books</h3>
      <ul className="trail">
        {moves.toReversed().map((move) => (
          <li key={move.id} className={undone.has(move.id) ? 'inactive' : ''}>
            <strong>{moveWords[move.kind]}</strong> {move.takenFor === 'thrown away' ? '(thrown away) ' : ''}
            {move.note}{' '}
            {move.tenths !== 0 && (
              <b>
                {move.tenths > 0 ? '+' : '−'}
                {amountText(units, lot.unit, Math.abs(move.tenths))}
              </b>
            )}
            <small>
              {momentText(move.at)} · {move.by.name}
            </small>
            {!undone.has(move.id) && !['packed', 'undo', 'split'].includes(move.kind) && (
              <Button
                variant="plain"
                size="sm"
                onClick={() => onUndo(move.id)}
                aria-label={`Take back: ${moveWords[move.kind]} ${move.note}`}
              >
                Take back
              </Button>
            )}
          </li>
        ))}
      </ul>
    </section>
  )
}
