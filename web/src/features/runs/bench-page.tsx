import type { Run, Tub, Weighing } from '@fleam/contract/runs'
import { standing } from '@fleam/core/runs/ledger'
import { portionTub } from '@fleam/core/runs/run-record'
import { lazy, Suspense, useLayoutEffect, useState } from 'react'
import { flushSync } from 'react-dom'
import { Link, useNavigate } from 'react-router'
import { Caution } from '../../ui/notes.tsx'
import { useUnits } from '../../ui/units.ts'
import { BalancePanel } from './balance-panel.tsx'
import { Keypad } from './keypad.tsx'
import { Readout } from './readout.tsx'
import { StepBar, stepsOf } from './step-bar.tsx'
import { Tray } from './tray.tsx'
import { useWeighing } from './use-run.ts'
import { WithRun } from './with-run.tsx'

const AddTub = lazy(() => import('./add-tub.tsx').then((module) => ({ default: module.AddTub })))
const WeighingList = lazy(() => import('./weighing-list.tsx').then((module) => ({ default: module.WeighingList })))
const BenchKeys = lazy(() => import('./bench-keys.tsx').then((module) => ({ default: module.BenchKeys })))

export function Page() {
  return <WithRun>{(run) => (run.status === 'open' ? <Bench run={run} /> : <Closed run={run} />)}</WithRun>
}

function Closed({ run }: { run: Run }) {
  const who = run.finishedBy ? `${run.finishedBy.name} finished it.` : 'It was turned away at the door.'
  return (
    <main className="page">
      <section className="sheet">
        <h1>Run {run.number} is closed</h1>
        <p>{who} A lead can open it again from its result.</p>
        <Link className="btn btn-act" to={`/runs/${run.id}`}>
          See the result
        </Link>
      </section>
    </main>
  )
}

type Panel = 'add-tub' | 'weighings' | 'keys' | null

function Bench({ run }: { run: Run }) {
  const { read, weight } = useUnits()
  const navigate = useNavigate()
  const { weighIn, takeBack } = useWeighing(run)
  const [entry, setEntry] = useState('')
  const [refusal, setRefusal] = useState<string>()
  const [selectedId, setSelectedId] = useState(portionTub(run.tubs)?.id ?? run.tubs[0]?.id ?? '')
  const [flash, setFlash] = useState<{ tubId: string; at: number }>()
  const [said, setSaid] = useState('')
  const [panel, setPanel] = useState<Panel>(null)
  const [stepAt, setStepAt] = useRemembered(`fleam.step.${run.id}`, 0)
  const steps = stepsOf(run)
  const selected = run.tubs.find((tub) => tub.id === selectedId) ?? run.tubs[0]
  const last = standing(run.weighings).at(-1)

  function type(next: string) {
    setRefusal(undefined)
    setEntry(next.slice(0, 40))
  }

  function put(tub: Tub | undefined) {
    if (!tub) return
    setSelectedId(tub.id)
    if (entry.trim() === '') return
    const parsed = read(entry)
    if (!parsed.ok) return setRefusal(parsed.message)
    if (parsed.tenths > run.received.tenths)
      return setRefusal(`That is more than the ${weight(run.received.tenths)} received: check the figure.`)
    weighIn(tub.id, parsed)
    setEntry('')
    setRefusal(undefined)
    setStepAt(
      Math.max(
        stepAt,
        steps.findIndex((step) => tub.key !== null && step.outputs.includes(tub.key)),
      ),
    )
    setFlash({ tubId: tub.id, at: Date.now() })
    setSaid(`${weight(parsed.tenths)} into ${tub.name}`)
  }

  function takeLastBack(line: Weighing | undefined = last) {
    if (!line) return
    takeBack(line)
    setSaid(`Took back ${weight(line.tenths)} from ${run.tubs.find((tub) => tub.id === line.tubId)?.name ?? 'its tub'}`)
  }

  function move(step: number) {
    const at = run.tubs.findIndex((tub) => tub.id === selected?.id)
    setSelectedId(run.tubs[(at + step + run.tubs.length) % run.tubs.length]?.id ?? selectedId)
  }

  function onKey(event: KeyboardEvent) {
    if (panel !== null || event.ctrlKey || event.metaKey || isControl(event)) return
    const digit = /^Digit([1-9])$/.exec(event.code)?.[1]
    if (event.altKey && digit) put(run.tubs[Number(digit) - 1])
    else if (event.altKey) return
    else if (/^[0-9.,a-z]$/i.test(event.key) && event.key !== '?') type(entry + event.key.toLowerCase())
    else if (event.key === ' ' && entry !== '') type(`${entry} `)
    else if (event.key === 'Enter') put(selected)
    else if (event.key === 'Backspace' && entry !== '') type(entry.slice(0, -1))
    else if (event.key === 'Backspace') takeLastBack()
    else if (event.key === 'Escape') type('')
    else if (event.key === 'ArrowRight' || event.key === 'ArrowDown') move(1)
    else if (event.key === 'ArrowLeft' || event.key === 'ArrowUp') move(-1)
    else if (event.key === 'PageDown') setStepAt(Math.min(stepAt + 1, steps.length - 1))
    else if (event.key === 'PageUp') setStepAt(Math.max(stepAt - 1, 0))
    else if (event.key === '?') setPanel('keys')
    else return
    event.preventDefault()
  }

  useLayoutEffect(() => {
    // keys can come faster than the page is drawn: each must see what the one before has typed
    const now = (event: KeyboardEvent) => flushSync(() => onKey(event))
    addEventListener('keydown', now)
    return () => removeEventListener('keydown', now)
  })

  const close = () => setPanel(null)
  return (
    <main className="bench">
      <h1 className="visually-hidden">
        Bench: run {run.number}, {run.item.name}
      </h1>
      <section className="scale sheet" aria-label="Weigh in">
        <Readout run={run} tub={selected} entry={entry} refusal={refusal} said={said} />
        <Keypad
          entry={entry}
          onType={type}
          onPut={() => put(selected)}
          onTakeBack={() => takeLastBack()}
          canTakeBack={last !== undefined}
          putLabel={selected ? `Into ${selected.name}` : 'Put it in'}
        />
      </section>
      <Tray run={run} selectedId={selected?.id} flash={flash} onTub={put} onAdd={() => setPanel('add-tub')} />
      <BalancePanel
        run={run}
        onFinish={() => navigate(`/runs/${run.id}/finish`)}
        onWeighings={() => setPanel('weighings')}
        onKeys={() => setPanel('keys')}
      />
      {steps.length > 0 ? (
        <StepBar steps={steps} at={Math.min(stepAt, steps.length - 1)} onMove={setStepAt} />
      ) : (
        <Caution>{run.sheet.cautions[0] ?? 'Local food code and licensed practice come first.'}</Caution>
      )}
      <Suspense>
        {panel === 'add-tub' && <AddTub run={run} onClose={close} onAdded={(tub) => setSelectedId(tub.id)} />}
        {panel === 'weighings' && <WeighingList run={run} onClose={close} onTakeBack={takeLastBack} />}
        {panel === 'keys' && <BenchKeys cautions={run.sheet.cautions} onClose={close} />}
      </Suspense>
    </main>
  )
}

/** A number that this tablet keeps through a reload. */
function useRemembered(key: string, first: number): [number, (value: number) => void] {
  const [value, setValue] = useState(() => Number(localStorage.getItem(key) ?? first))
  return [
    value,
    (next) => {
      localStorage.setItem(key, String(next))
      setValue(next)
    },
  ]
}

/** Keys pressed on a button, link or field do what they do there. */
function isControl(event: KeyboardEvent): boolean {
  const target = event.target as HTMLElement
  if (target.closest('input, select, textarea')) return true
  return target.closest('button, a') !== null && (event.key === 'Enter' || event.key === ' ')
}
