import type { TrainedEye } from '@fleam/contract/practice'
import type { parseWeight } from '@fleam/core/quantities/parse-weight'
import { useQuery } from '@tanstack/react-query'
import { lazy, Suspense, useState } from 'react'
import Button from 'react-bootstrap/Button'
import Form from 'react-bootstrap/Form'
import { newId } from '../../api/new-id.ts'
import { counted } from '../../ui/counted.ts'
import { TextField, WeightField } from '../../ui/fields.tsx'
import { Empty, Failed, Loading, Warning, Word } from '../../ui/notes.tsx'
import { percentText, useUnits } from '../../ui/units.ts'
import { useLatestReading } from '../scales/latest-reading.ts'
import { useScale } from '../scales/use-scale.ts'
import { offText } from './off-text.ts'
import { eyeQuery } from './queries.ts'
import { SchoolTabs } from './school-tabs.tsx'
import { useGuesses } from './use-guesses.ts'
import { useWhose } from './whose.tsx'
import './practice.scss'

const EyeChart = lazy(() => import('./eye-chart.tsx').then((module) => ({ default: module.EyeChart })))

/** A weight is said before the scale says it: how far off one is, and whether it gets better. */
export function Page() {
  const { person, isOwn, choice } = useWhose()
  const { data, error, refetch } = useQuery(eyeQuery(person))
  return (
    <main className="page">
      <SchoolTabs />
      <section className="sheet stack">
        <header className="result-head">
          <div>
            <h1>By eye</h1>
            <p className="under-title">Say what it weighs before the scale does. A trained eye is within 5 %.</p>
          </div>
          {choice}
        </header>
        {isOwn && <Drill personId={person} />}
      </section>
      <section className="sheet stack">
        <h2>{data && !isOwn ? `${data.name}’s eye` : 'Your eye'}</h2>
        {!data && !error && <Loading what="the guesses" />}
        {error && !data && <Failed error={error} retry={refetch} />}
        {data && <Shown eye={data} />}
      </section>
    </main>
  )
}

function Drill({ personId }: { personId: string }) {
  const { weight, read } = useUnits()
  const scale = useScale(() => undefined)
  const reading = useLatestReading(scale.latest)
  const { add, waiting, trouble } = useGuesses(personId)
  const [said, setSaid] = useState('')
  const [what, setWhat] = useState('')
  const [typed, setTyped] = useState('')
  const [told, setTold] = useState<{ said: number; weighed: number }>()
  const hasScale = scale.state.kind === 'reading'
  const onPan = reading?.state === 'steady' && reading.tenths > 0 ? reading.tenths : undefined
  const parsed = said.trim() === '' ? undefined : read(said)
  const weighed = hasScale ? onPan : typed.trim() === '' ? undefined : tenthsOf(read(typed))
  const isReady = parsed?.ok === true && parsed.tenths > 0 && weighed !== undefined && weighed > 0

  function say(event: React.FormEvent) {
    event.preventDefault()
    if (!parsed?.ok || weighed === undefined) return
    add({ id: newId(), said: parsed.tenths, weighed, what: what.trim(), at: new Date().toISOString() })
    setTold({ said: parsed.tenths, weighed })
    setSaid('')
    setTyped('')
  }

  return (
    <Form className="stack" onSubmit={say}>
      {hasScale ? (
        <p role="status">
          {onPan === undefined
            ? 'Lay a piece on the pan. What the scale says stays hidden until you have said it.'
            : 'Something lies still on the pan.'}
        </p>
      ) : (
        <p>No scale is connected: say a weight, weigh it anywhere, and type what that scale said.</p>
      )}
      <div className="fields">
        <TextField label="What it is, if you like" value={what} onChange={setWhat} placeholder="a steak, a breast …" />
        <WeightField label="You say" value={said} onChange={setSaid} />
        {!hasScale && <WeightField label="The scale says" value={typed} onChange={setTyped} />}
      </div>
      <div className="actions">
        <Button type="submit" variant="act" disabled={!isReady}>
          Show what it weighs
        </Button>
        {waiting.length > 0 && <small>{counted(waiting.length, 'guess', 'guesses')} kept on this tablet until the server has them</small>}
      </div>
      {trouble && <Warning>{trouble}</Warning>}
      {told && (
        <p className="told" role="status">
          <b>{weight(told.weighed)}</b> You said {weight(told.said)}: {offText(told)}.
        </p>
      )}
    </Form>
  )
}

const tenthsOf = (parsed: ReturnType<typeof parseWeight>) => (parsed.ok ? parsed.tenths : undefined)

function Shown({ eye: { eye, guesses } }: { eye: TrainedEye }) {
  if (!eye) return <Empty title="Nothing was guessed yet." />
  const { bias, spread, isImproving } = eye
  const side =
    bias.low > 0
      ? 'The guesses run high, beyond chance.'
      : bias.high < 0
        ? 'The guesses run low, beyond chance.'
        : 'They run neither high nor low for sure.'
  return (
    <>
      <div className="headlines">
        <div className="headline">
          <span>Off on average</span>
          <b>{signed(bias.pct)}</b>
          <small>{eye.guesses > 1 ? `${signed(bias.low)} to ${signed(bias.high)}, nine in ten` : 'one guess so far'}</small>
        </div>
        <div className="headline">
          <span>Apart from each other</span>
          <b>{spread ? `± ${percentText(spread.pct, 1)}` : '–'}</b>
          <small>{spread ? `${percentText(spread.low, 1)} to ${percentText(spread.high, 1)}, nine in ten` : 'two guesses tell'}</small>
        </div>
        <div className="headline">
          <span>Guesses</span>
          <b>{eye.guesses}</b>
          <small>{isImproving === null ? 'eight tell whether it gets better' : isImproving ? 'getting better' : 'no trend is sure'}</small>
        </div>
      </div>
      {eye.guesses > 1 && <Word>{side}</Word>}
      <Suspense>
        <EyeChart guesses={guesses} />
      </Suspense>
    </>
  )
}

const signed = (pct: number) => `${pct > 0 ? '+' : pct < 0 ? '−' : ''}${percentText(Math.abs(pct), 1)}`
