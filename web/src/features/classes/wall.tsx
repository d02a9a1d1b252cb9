import type { Exercise, StudentResult } from '@fleam/contract/classes'
import type { Run } from '@fleam/contract/runs'
import { atGlance } from '@fleam/core/bench/at-glance'
import { useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import Button from 'react-bootstrap/Button'
import ProgressBar from 'react-bootstrap/ProgressBar'
import { send } from '../../api/http.ts'
import { counted } from '../../ui/counted.ts'
import { dayText } from '../../ui/days.ts'
import { Empty, Failed, Loading, Warning } from '../../ui/notes.tsx'
import { useUnits } from '../../ui/units.ts'
import { useChange } from '../../ui/use-change.ts'
import { presentSteps, stepsOf } from '../runs/bench/steps.ts'
import { useNow } from '../runs/bench/use-now.ts'
import { MarkPanel } from './mark-panel.tsx'
import { exerciseQuery, exercisesQuery } from './queries.ts'
import { useMarks } from './use-marks.ts'
import { useWall } from './use-wall.ts'

/** So many minutes without a weighing are said. */
const quietMinutes = 5
const tellMs = 1000

/** Every bench of an exercise at once, as it is this second; a tap on one opens its marks. */
export function Wall({ exercise }: { exercise: Exercise }) {
  const { results, runs, state } = useWall(exercise.id)
  const marks = useMarks(exercise.id)
  const now = useNow(tellMs)
  const [marking, setMarking] = useState<string>()
  const { data, error, refetch } = results
  const shown = data ? marks.withWaiting(data.results) : []
  const chosen = shown.find(({ student }) => student.id === marking)
  const open = shown.filter(({ runStatus }) => runStatus === 'open').length
  return (
    <section className="sheet stack">
      <header className="result-head">
        <div>
          <h1>{exercise.name}</h1>
          <p className="under-title">
            {dayText(exercise.day)} · {exercise.group.name} ·{' '}
            {exercise.task.kind === 'bench' ? `${exercise.itemName}: ${exercise.sheetName}` : `piece ${exercise.task.seed} on screen`}
          </p>
        </div>
        <HandBack exercise={exercise} />
      </header>
      {state === 'away' && <Warning>The server is away: the benches stand as they were last seen. Marks are kept on this tablet.</Warning>}
      {marks.waiting > 0 && <small>{counted(marks.waiting, 'mark')} kept on this tablet until the server has them</small>}
      {marks.trouble && <Warning>{marks.trouble}</Warning>}
      {!data && !error && <Loading what="the benches" />}
      {!data && error && <Failed error={error} retry={refetch} />}
      {data?.results.length === 0 && <Empty title="Nobody is in this group any more." />}
      {exercise.task.kind === 'bench' && data && data.results.length > 0 && (
        <p role="status">
          {counted(open, 'bench', 'benches')} at work, {shown.filter(({ runStatus }) => runStatus === 'finished').length} done,{' '}
          {shown.filter(({ runId }) => runId === null).length} not begun.
        </p>
      )}
      <ul className="wall">
        {shown.map((result) => (
          <li key={result.student.id}>
            <WallBench
              result={result}
              run={runs.get(result.runId ?? '')}
              now={now}
              criteria={exercise.task.kind === 'bench' ? exercise.task.rubric.length : 0}
              onOpen={() => setMarking(result.student.id)}
            />
          </li>
        ))}
      </ul>
      {chosen && (
        <MarkPanel key={chosen.student.id} exercise={exercise} result={chosen} onMark={marks.give} onClose={() => setMarking(undefined)} />
      )}
    </section>
  )
}

interface WallBenchProps {
  result: StudentResult
  run: Run | undefined
  now: number
  criteria: number
  onOpen: () => void
}

/** One student's bench from across the room. */
function WallBench({ result, run, now, criteria, onOpen }: WallBenchProps) {
  const { student, marked, total, score } = result
  const isOpen = run?.status === 'open'
  const glance = run && atGlance(run, now)
  const quiet = glance && isOpen && glance.silentMinutes >= quietMinutes
  return (
    <Button variant="plain" className={`wall-bench ${quiet ? 'wall-quiet' : ''} ${run ? '' : 'wall-empty'}`} onClick={onOpen}>
      <strong>{student.name}</strong>
      {!run && <span>{score === null ? 'Not begun' : `${Math.floor(score * 10) / 10} on screen`}</span>}
      {run && glance && <BenchGlance run={run} glance={glance} />}
      {quiet && <b className="wall-word">Nothing weighed for {Math.floor(glance.silentMinutes)} min</b>}
      {criteria > 0 && (
        <small>
          {marked === 0 ? 'no marks yet' : `${marked} of ${criteria} marked`}
          {total !== null && ` · ${Math.round(total)} %`}
        </small>
      )}
    </Button>
  )
}

function BenchGlance({ run, glance }: { run: Run; glance: ReturnType<typeof atGlance> }) {
  const { within, over, under } = glance.portions
  const steps = stepsOf(run)
  const at = presentSteps(run.events).get(run.cook.id)?.step ?? 0
  const reading = run.events.findLast(({ what }) => what.kind === 'temperature' && what.of === 'product')?.what
  const { weight } = useUnits()
  return (
    <>
      <span>{run.status === 'open' ? `${Math.min(at + 1, steps.length)} of ${steps.length} · ${steps[at]?.title ?? ''}` : 'Done'}</span>
      <ProgressBar now={Math.min(100, glance.weighedPct)} aria-hidden />
      <span className="wall-figures">
        {Math.round(glance.weighedPct)} % of {weight(run.received.tenths)}
      </span>
      {within + over + under > 0 && (
        <span className="wall-figures">
          {within} right{over > 0 && `, ${over} over`}
          {under > 0 && `, ${under} under`}
        </span>
      )}
      {reading?.kind === 'temperature' && <span>product {reading.celsius} °C</span>}
    </>
  )
}

/** Shows the students their marks, or takes that back. */
function HandBack({ exercise }: { exercise: Exercise }) {
  const queryClient = useQueryClient()
  const { change, trouble, busy } = useChange<boolean, Exercise>({
    send: (handedBack) => send<Exercise>('POST', `/exercises/${exercise.id}/hand-back`, { version: exercise.version, handedBack }),
    refresh: [exerciseQuery(exercise.id).queryKey, exercisesQuery.queryKey],
    said: (handedBack) => (handedBack ? 'Handed back: each student sees their own marks.' : 'The students no longer see their marks.'),
    undo: async (answer, handedBack) => {
      await send('POST', `/exercises/${exercise.id}/hand-back`, { version: answer.version, handedBack: !handedBack })
      await queryClient.invalidateQueries({ queryKey: exercisesQuery.queryKey })
    },
  })
  const isBack = exercise.handedBackAt !== null
  return (
    <div className="stack">
      <Button variant={isBack ? 'plain' : 'act'} disabled={busy} onClick={() => void change(!isBack)}>
        {isBack ? 'Take the marks back' : 'Hand the marks back'}
      </Button>
      {trouble && <Warning>{trouble}</Warning>}
    </div>
  )
}
