import type { Exercise, OwnResult } from '@fleam/contract/classes'
import type { Attempt, AttemptCreate } from '@fleam/contract/practice'
import type { Run } from '@fleam/contract/runs'
import { ladder, type Rung } from '@fleam/core/practice/screen-piece'
import { useQuery, useQueryClient } from '@tanstack/react-query'
import { lazy, Suspense, useState } from 'react'
import Button from 'react-bootstrap/Button'
import Form from 'react-bootstrap/Form'
import { Link, useNavigate } from 'react-router'
import { send } from '../../api/http.ts'
import { newId } from '../../api/new-id.ts'
import { runQuery, useKitchen, useSession } from '../../api/queries.ts'
import { dayText } from '../../ui/days.ts'
import { numberOrNull, TextField, WeightField } from '../../ui/fields.tsx'
import { Caution, Failed, Loading, Warning, Word } from '../../ui/notes.tsx'
import { useUnits } from '../../ui/units.ts'
import { useChange } from '../../ui/use-change.ts'
import { OnBoard } from '../practice/on-board.tsx'
import { attemptsQuery } from '../practice/queries.ts'
import { useLatestReading } from '../scales/latest-reading.ts'
import { useScale } from '../scales/use-scale.ts'
import { exerciseQuery, exercisesQuery, ownResultQuery } from './queries.ts'

const SpreadChart = lazy(() => import('./spread-chart.tsx').then((module) => ({ default: module.SpreadChart })))

/** What a student is to do, is doing, or has been handed back. */
export function OwnExercise({ exercise }: { exercise: Exercise }) {
  return (
    <section className="sheet stack">
      <header className="result-head">
        <div>
          <h1>{exercise.name}</h1>
          <p className="under-title">
            {dayText(exercise.day)} · {exercise.group.name} · {exercise.instructor.name}
          </p>
        </div>
      </header>
      {exercise.handedBackAt !== null && <HandedBack exercise={exercise} />}
      {exercise.task.kind === 'screen' ? <OnScreen exercise={exercise} task={exercise.task} /> : <AtBench exercise={exercise} />}
    </section>
  )
}

function AtBench({ exercise }: { exercise: Exercise }) {
  const { ownRunId } = exercise
  return ownRunId === null ? <Begin exercise={exercise} /> : <OwnRun runId={ownRunId} />
}

function OwnRun({ runId }: { runId: string }) {
  const { data, error, refetch } = useQuery(runQuery(runId))
  if (!data) return error ? <Failed error={error} retry={refetch} /> : <Loading what="your run" />
  const isOpen = data.status === 'open'
  return (
    <div className="actions">
      <Link className={isOpen ? 'btn btn-act' : 'btn btn-plain'} to={isOpen ? `/bench/${runId}` : `/runs/${runId}`}>
        {isOpen ? 'To your bench' : 'See your run'}
      </Link>
    </div>
  )
}

/** Weighs in what is to be cut, and goes to the bench. */
function Begin({ exercise }: { exercise: Exercise }) {
  const { read, weight } = useUnits()
  const { receiveMaxC } = useKitchen().settings.limits
  const queryClient = useQueryClient()
  const navigate = useNavigate()
  const reading = useLatestReading(useScale(() => undefined).latest)
  const [id] = useState(newId)
  const [typed, setTyped] = useState('')
  const [celsius, setCelsius] = useState('')
  const onPan = reading?.state === 'steady' && reading.tenths > 0 ? reading.tenths : undefined
  const parsed = read(typed)
  const received = typed.trim() === '' ? onPan && `${onPan / 10} g` : parsed.ok ? parsed.entered : undefined
  const { change, trouble, busy } = useChange<void, Run>({
    send: () =>
      send<Run>('POST', `/exercises/${exercise.id}/run`, { id, received, coreTempC: numberOrNull(celsius), weightsChecked: true }),
    refresh: [exerciseQuery(exercise.id).queryKey, exercisesQuery.queryKey],
  })
  const { task } = exercise
  async function begin(event: React.FormEvent) {
    event.preventDefault()
    const run = await change()
    if (!run) return
    queryClient.setQueryData(runQuery(run.id).queryKey, run)
    navigate(`/bench/${run.id}`)
  }
  return (
    <Form className="stack" onSubmit={begin}>
      <p>
        {exercise.itemName}: {exercise.sheetName}
        {task.kind === 'bench' && task.target && `, ${weight(task.target.tenths)} a portion`}
      </p>
      {task.kind === 'bench' && <p>Looked at: {task.rubric.map(({ name }) => name.toLowerCase()).join(', ')}.</p>}
      <Caution>
        Accuracy first, then evenness, minutes last. Holding hand behind the blade, dry board on its mat; over {receiveMaxC} °C at the core,
        call your instructor before you cut.
      </Caution>
      <div className="fields">
        <WeightField
          label="Your piece weighs"
          value={typed}
          onChange={setTyped}
          hint={onPan === undefined ? 'or lay it on the scale' : `the scale says ${weight(onPan)}`}
          error={typed.trim() !== '' && !parsed.ok ? parsed.message : undefined}
        />
        <TextField label="Core, °C" value={celsius} onChange={setCelsius} inputMode="decimal" />
      </div>
      {trouble && <Warning>{trouble}</Warning>}
      <div className="actions">
        <Button type="submit" variant="act" disabled={busy || received === undefined}>
          Begin at your bench
        </Button>
        {task.kind === 'bench' && (
          <Link className="btn btn-plain" to={`/cut-sheets/${task.cutSheetId}`}>
            Read the sheet
          </Link>
        )}
      </div>
    </Form>
  )
}

function OnScreen({ exercise, task }: { exercise: Exercise; task: Extract<Exercise['task'], { kind: 'screen' }> }) {
  const rung = ladder.find(({ key }) => key === task.rung) ?? (ladder[0] as Rung)
  const [turn, setTurn] = useState(0)
  const { change, trouble } = useChange<AttemptCreate, Attempt>({
    send: (attempt) => send<Attempt>('POST', '/practice/attempts', attempt),
    refresh: [exerciseQuery(exercise.id).queryKey, attemptsQuery(useSession().person.id).queryKey],
    said: () => 'Kept. Your first try is the one that counts.',
  })
  return (
    <>
      {trouble && <Warning>{trouble}</Warning>}
      <OnBoard
        key={turn}
        rung={rung}
        seed={task.seed}
        shape={task.shape}
        onDone={(cutsCm) => {
          const attempt = { id: newId(), rung: rung.key, seed: task.seed, shape: task.shape, cutsCm: [...cutsCm], exerciseId: exercise.id }
          void change({ ...attempt, at: new Date().toISOString() })
        }}
        onAnother={() => setTurn(turn + 1)}
      />
    </>
  )
}

function HandedBack({ exercise }: { exercise: Exercise }) {
  const { data, error, refetch } = useQuery(ownResultQuery(exercise.id))
  if (!data) return error ? <Failed error={error} retry={refetch} /> : <Loading what="your marks" />
  return <Marks own={data} />
}

function Marks({ own: { exercise, result, spread } }: { own: OwnResult }) {
  const { given, computed, total, score, student } = result
  const value = total ?? score
  const word = given['']?.word
  return (
    <>
      <div className="handed-back">
        <div className="headline">
          <span>{total === null ? 'Score on screen' : 'Your marks'}</span>
          <b>{value === null ? '–' : `${Math.round(value)} %`}</b>
          <small>{total === null ? 'of the best plan' : 'of what could be had'}</small>
        </div>
        <Suspense>
          <SpreadChart spread={spread} own={value} />
        </Suspense>
      </div>
      {word && <Word>“{word}”</Word>}
      {exercise.task.kind === 'bench' && (
        <ul className="computed-marks own-marks">
          {exercise.task.rubric.map(({ key, name }) => (
            <li key={key}>
              <b>{given[key]?.mark ?? '–'}</b> {name}
              <small>{given[key]?.word}</small>
            </li>
          ))}
          {computed.map(({ key, name, mark, why }) => (
            <li key={key}>
              <b>{mark}</b> {name}, from the scale
              <small>{why}</small>
            </li>
          ))}
        </ul>
      )}
      <div className="actions">
        <a
          className="btn btn-plain"
          href={`/api/v1/exercises/${exercise.id}/students/${student.id}/page.pdf`}
          target="_blank"
          rel="noreferrer"
        >
          One page (PDF)
        </a>
      </div>
    </>
  )
}
