import type { Progress } from '@fleam/contract/practice'
import { ladder } from '@fleam/core/practice/screen-piece'
import { useQuery } from '@tanstack/react-query'
import { lazy, Suspense } from 'react'
import { Link } from 'react-router'
import { useSession } from '../../api/queries.ts'
import { counted } from '../../ui/counted.ts'
import { dayText } from '../../ui/days.ts'
import { Empty, Failed, Loading, Word } from '../../ui/notes.tsx'
import { percentText, useUnits } from '../../ui/units.ts'
import './practice.scss'
import { progressQuery } from './queries.ts'
import { SchoolTabs } from './school-tabs.tsx'
import { useWhose } from './whose.tsx'

const YieldChart = lazy(() => import('./progress-charts.tsx').then((module) => ({ default: module.YieldChart })))
const EvennessChart = lazy(() => import('./progress-charts.tsx').then((module) => ({ default: module.EvennessChart })))

const places: Record<Progress['next'][number]['key'], string> = {
  yield: '/school',
  evenness: '/school/cut?rung=loin-sliced',
  marks: '/school/classes',
  eye: '/school/eye',
  questions: '/school',
  screen: '/school/cut',
  minutes: '/school/pace',
}

/** How somebody gets on, and what to practise next. Seen by oneself, leads and one's instructor. */
export function Page() {
  const { person, isOwn, choice } = useWhose()
  const { data, error, refetch } = useQuery(progressQuery(person))
  const { name } = useSession().person
  return (
    <main className="page">
      <SchoolTabs />
      <section className="sheet stack">
        <header className="result-head">
          <div>
            <h1>{isOwn ? 'Your progress' : `Progress of ${data?.name ?? name}`}</h1>
            <p className="under-title">
              Accuracy, then evenness, minutes last. Only {isOwn ? 'you' : 'they'}, leads and the instructor see this.
            </p>
          </div>
          {choice}
        </header>
        {!data && !error && <Loading what="the progress" />}
        {!data && error && <Failed error={error} retry={refetch} />}
        {data && <Shown progress={data} isOwn={isOwn} />}
      </section>
    </main>
  )
}

function Shown({ progress: { runs, eye, practice, screen, marks, exercises, next }, isOwn }: { progress: Progress; isOwn: boolean }) {
  const { money } = useUnits()
  const last = runs.slice(-8)
  const given = last.flatMap(({ giveaway }) => (giveaway === null ? [] : [giveaway]))
  return (
    <>
      {next.length > 0 ? (
        <ol className="next-practice">
          {next.slice(0, 3).map(({ key, what, why }) => (
            <li key={key}>
              {isOwn ? <Link to={places[key]}>{what}</Link> : <strong>{what}</strong>}
              <p>{why}</p>
            </li>
          ))}
        </ol>
      ) : (
        <Word isGood>Nothing presses: yields, portions and practice hold.</Word>
      )}
      <div className="headlines">
        <Headline
          name="Given away lately"
          value={given.length > 0 ? money(given.reduce((sum, one) => sum + one, 0)) : '–'}
          under={given.length > 0 ? `over the target, ${counted(given.length, 'run')}` : 'nothing cut to a weight'}
        />
        <Headline
          name="Eye"
          value={eye ? `± ${percentText(eye.spread?.pct ?? 0, 1)}` : '–'}
          under={eye ? `${eye.bias.pct >= 0 ? '+' : '−'}${percentText(Math.abs(eye.bias.pct), 1)} on average` : 'nothing guessed yet'}
        />
        <Headline
          name="Questions known"
          value={String(practice.known)}
          under={
            practice.asked > 0
              ? `of ${practice.asked} asked; ${counted(practice.days, 'day')} of the last fortnight${practice.rightPct === null ? '' : `, ${percentText(practice.rightPct, 0)} right`}`
              : 'none asked yet'
          }
        />
      </div>
      {runs.length > 1 && (
        <div className="progress-charts">
          <Suspense>
            <YieldChart runs={runs} />
            <EvennessChart runs={runs} />
          </Suspense>
        </div>
      )}
      {runs.length === 0 && <Empty title="No run was finished yet.">What is cut at a bench shows here.</Empty>}
      <div className="progress-lists">
        {screen.length > 0 && (
          <section>
            <h2>Cut on screen</h2>
            <ul>
              {screen.map(({ rung, tries, best, last: score }) => (
                <li key={rung}>
                  {ladder.find(({ key }) => key === rung)?.name}: best {Math.floor(best)}, last {Math.floor(score)},{' '}
                  {counted(tries, 'piece')}
                </li>
              ))}
            </ul>
          </section>
        )}
        {marks.length > 0 && (
          <section>
            <h2>Marks</h2>
            <ul>
              {exercises.map(({ id, name, day, total }) => (
                <li key={id}>
                  <Link to={`/school/classes/${id}`}>{name}</Link>, {dayText(day)}: {Math.round(total)} %
                </li>
              ))}
              {[...marks]
                .sort((a, b) => a.mark - b.mark)
                .map(({ name, mark }) => (
                  <li key={name}>
                    {name}: {mark.toFixed(1)} of 4
                  </li>
                ))}
            </ul>
          </section>
        )}
      </div>
    </>
  )
}

function Headline({ name, value, under }: { name: string; value: string; under: string }) {
  return (
    <div className="headline">
      <span>{name}</span>
      <b>{value}</b>
      <small>{under}</small>
    </div>
  )
}
