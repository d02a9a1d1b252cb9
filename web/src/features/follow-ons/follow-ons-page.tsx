import type { FollowOn } from '@fleam/contract/follow-ons'
import { followOnCreate } from '@fleam/contract/follow-ons'
import type { Lot } from '@fleam/contract/walk-in'
import { useQuery, useQueryClient } from '@tanstack/react-query'
import { lazy, Suspense, useState } from 'react'
import Button from 'react-bootstrap/Button'
import Form from 'react-bootstrap/Form'
import { Link, useNavigate } from 'react-router'
import { send } from '../../api/http.ts'
import { newId } from '../../api/new-id.ts'
import { followOnsQuery, lotsQuery } from '../../api/queries.ts'
import { dayText, today } from '../../ui/days.ts'
import { CheckField, numberOrNull, SelectField, TextField } from '../../ui/fields.tsx'
import { useHouseFigures } from '../../ui/house-figures.ts'
import { Caution, Empty, Failed, Loading, Warning } from '../../ui/notes.tsx'
import { useRequestForm } from '../../ui/request-form.ts'
import { SidePanel } from '../../ui/side-panel.tsx'
import { percentText, useUnits } from '../../ui/units.ts'
import { amountHint, amountText, tenthsTyped } from '../walk-in/amounts.ts'
import { lotInCode } from '../walk-in/lot-in-code.ts'
import { useLots } from '../walk-in/use-lots.ts'
import '../walk-in/walk-in.scss'
import { WalkInTabs } from '../walk-in/walk-in-tabs.tsx'
import { OpenTile } from './open-tile.tsx'
import { useSheets } from './use-sheets.ts'

const ScanCode = lazy(() => import('../../ui/scan-code.tsx').then((module) => ({ default: module.ScanCode })))

/** What is made of what came off: what simmers, dries and rests, and what it came to. */
export function Page() {
  const made = useQuery(followOnsQuery)
  const [isStarting, setStarting] = useState(false)
  const open = made.data?.filter(({ status }) => status === 'open') ?? []
  const finished = made.data?.filter(({ status }) => status === 'finished') ?? []
  return (
    <main className="page">
      <WalkInTabs />
      <section className="sheet">
        <header className="result-head">
          <h1>Made of what came off</h1>
          <Button variant="act" onClick={() => setStarting(true)}>
            Make something
          </Button>
        </header>
        {made.isPending && <Loading what="what is being made" />}
        {made.error && !made.data && <Failed error={made.error} retry={made.refetch} />}
        {made.data && open.length === 0 && (
          <Empty title="Nothing simmers, dries or rests.">
            <p>Bones become stock, fat is rendered, trim is ground: what it costs goes from the invoice to the last portion.</p>
          </Empty>
        )}
        <div className="run-tiles">
          {open.map((one) => (
            <OpenTile key={one.id} followOn={one} />
          ))}
        </div>
      </section>
      {finished.length > 0 && (
        <section className="sheet">
          <h2>Made last</h2>
          <ul className="last-runs">
            {finished.map((one) => (
              <FinishedLine key={one.id} followOn={one} />
            ))}
          </ul>
        </section>
      )}
      {isStarting && <StartPanel onClose={() => setStarting(false)} />}
    </main>
  )
}

function FinishedLine({ followOn }: { followOn: FollowOn }) {
  const { money } = useUnits()
  const [main] = followOn.outputs
  const perUnit = main?.cost != null ? (main.cost / main.packedTenths) * (main.unit === 'piece' ? 10 : 10_000) : null
  return (
    <li>
      <Link to={`/walk-in/follow-ons/${followOn.id}`}>
        <span>
          <strong>{followOn.name}</strong>
          <small>
            Follow-on {followOn.number} · {dayText(followOn.startedAt)} · {followOn.by.name}
          </small>
        </span>
        <span className="last-figure">
          <small>yield</small>
          {followOn.figures?.yieldPct == null ? '–' : percentText(followOn.figures.yieldPct)}
        </span>
        <span className="last-figure">
          <small>{main?.unit === 'ml' ? 'a litre' : main?.unit === 'piece' ? 'a piece' : 'a kg'}</small>
          {perUnit === null ? '–' : money(perUnit)}
        </span>
      </Link>
    </li>
  )
}

/** What is made, of which lots, and how much of each. */
function StartPanel({ onClose }: { onClose: () => void }) {
  const { lots } = useLots()
  const { offered, sheetOf } = useSheets()
  const house = useHouseFigures()
  const units = useUnits()
  const navigate = useNavigate()
  const queryClient = useQueryClient()
  const [id] = useState(newId)
  // the same press twice takes the same once
  const [moveIds] = useState(() => new Map<string, string>())
  const moveIdOf = ({ id: lotId }: Lot) => {
    const moveId = moveIds.get(lotId) ?? newId()
    moveIds.set(lotId, moveId)
    return moveId
  }
  const [chosen, setChosen] = useState<Record<string, string>>({})
  const [isAll, setAll] = useState(false)
  const usable = (lots ?? []).filter((lot) => !lot.isBlocked && lot.useBy >= today())
  const { submit, field, form, message, busy } = useRequestForm({
    start: { sheet: 'white-stock', name: 'White poultry stock', waitHours: '4' },
    schema: followOnCreate,
    toRequest: ({ sheet, name, waitHours }) => ({
      id,
      sheet,
      name,
      waitHours: numberOrNull(waitHours),
      startedAt: new Date().toISOString(),
      inputs: usable
        .filter((lot) => lot.id in chosen)
        .map((lot) => {
          const text = chosen[lot.id] ?? ''
          return { moveId: moveIdOf(lot), lotId: lot.id, tenths: text.trim() === '' ? null : (tenthsTyped(units, lot.unit, text) ?? 0) }
        }),
    }),
    send: (request) => send<FollowOn>('POST', '/follow-ons', request),
  })
  const sheet = sheetOf(form.watch('sheet'))
  const isOf = ({ kind, animal }: Lot) =>
    (sheet.madeOf.length === 0 || sheet.madeOf.includes(kind)) && (!sheet.animals || animal === null || sheet.animals.includes(animal))
  const fitting = usable.filter((lot) => isAll || lot.id in chosen || isOf(lot))
  async function start(event: React.FormEvent) {
    event.preventDefault()
    const made = await submit()
    if (!made) return
    await Promise.all([lotsQuery, followOnsQuery].map(({ queryKey }) => queryClient.invalidateQueries({ queryKey })))
    navigate(`/walk-in/follow-ons/${made.id}`)
  }
  return (
    <SidePanel title="Make something" onClose={onClose} isWide>
      <Form className="stack" onSubmit={start}>
        <SelectField
          label="What"
          value={form.watch('sheet')}
          onChange={(key) => {
            const other = sheetOf(key)
            form.setValue('sheet', key)
            form.setValue('name', key === 'own' ? '' : other.name)
            form.setValue('waitHours', other.waitHours.high === 0 ? '' : String((other.waitHours.low + other.waitHours.high) / 2))
          }}
          options={offered.map(({ key, name }) => ({ value: key, label: name }))}
        />
        <div className="fields">
          <TextField label="Called" {...field('name')} autoComplete="off" />
          <TextField
            label="Waits, hours"
            {...field('waitHours')}
            inputMode="decimal"
            hint={sheet.waitHours.high > 0 ? `usually ${sheet.waitHours.low} to ${sheet.waitHours.high}` : 'empty where it does not wait'}
          />
        </div>
        {sheet.cautions.map((words) => (
          <Caution key={words}>{house(words)}</Caution>
        ))}
        <h3>Of what</h3>
        <LabelField lots={usable} onLot={(lot) => setChosen({ ...chosen, [lot.id]: chosen[lot.id] ?? '' })} />
        {fitting.length === 0 && <Empty title="Nothing of that kind lies in the walk-in." />}
        <ul className="plain-list">
          {fitting.map((lot) => (
            <li key={lot.id} className="input-line">
              <CheckField
                label={
                  <>
                    <strong>{lot.name}</strong>{' '}
                    <small>
                      lot {lot.number}, {amountText(units, lot.unit, lot.leftTenths)}, use by {dayText(lot.useBy)}
                    </small>
                  </>
                }
                value={lot.id in chosen}
                onChange={(isChosen) => {
                  const { [lot.id]: _gone, ...others } = chosen
                  setChosen(isChosen ? { ...others, [lot.id]: '' } : others)
                }}
              />
              {lot.id in chosen && (
                <TextField
                  label={`How much of lot ${lot.number}`}
                  value={chosen[lot.id] ?? ''}
                  onChange={(text) => setChosen({ ...chosen, [lot.id]: text })}
                  hint={`${amountHint[lot.unit]}; empty takes all of it`}
                  autoComplete="off"
                />
              )}
            </li>
          ))}
        </ul>
        {sheet.madeOf.length > 0 && <CheckField label="Show everything that lies there" value={isAll} onChange={setAll} />}
        {message && <Warning>{message}</Warning>}
        {form.formState.errors && 'inputs' in form.formState.errors && <Warning>Choose what goes in, and how much of it.</Warning>}
        <Button type="submit" variant="act" disabled={busy}>
          Take it and start
        </Button>
      </Form>
    </SidePanel>
  )
}

/** A label read by the camera, by a scanner that types, or a lot's number typed: it goes in. */
function LabelField({ lots, onLot }: { lots: readonly Lot[]; onLot: (lot: Lot) => void }) {
  const [text, setText] = useState('')
  const [trouble, setTrouble] = useState<string>()
  const [isScanning, setScanning] = useState(false)
  function take(code: string): string | undefined {
    const id = lotInCode(code)
    const lot = lots.find((one) => one.id === id || String(one.number) === code.trim())
    if (!lot) return 'No lot of that label lies there that may be used.'
    onLot(lot)
    setText('')
    return undefined
  }
  return (
    <div className="label-field">
      <TextField
        label="Scan a label, or type a lot’s number"
        value={text}
        onChange={setText}
        error={trouble}
        autoComplete="off"
        onEnter={() => setTrouble(take(text))}
      />
      <Button variant="plain" onClick={() => setScanning(true)}>
        By the camera
      </Button>
      {isScanning && (
        <Suspense>
          <ScanCode
            title="Hold the label before the camera"
            of="label"
            onClose={() => setScanning(false)}
            onCode={(code) => {
              const why = take(code)
              if (!why) setScanning(false)
              return why
            }}
          />
        </Suspense>
      )}
    </div>
  )
}
