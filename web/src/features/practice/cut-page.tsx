import type { Attempt, AttemptCreate, Attempts } from '@fleam/contract/practice'
import { drawPiece, ladder, type Rung, scoreCuts } from '@fleam/core/practice/screen-piece'
import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useCallback, useState } from 'react'
import Button from 'react-bootstrap/Button'
import { Lock } from 'react-bootstrap-icons'
import { useSearchParams } from 'react-router'
import { newId } from '../../api/new-id.ts'
import { useSession, usualShapesQuery } from '../../api/queries.ts'
import { counted } from '../../ui/counted.ts'
import { SelectField, TextField } from '../../ui/fields.tsx'
import { Failed, Loading, Warning } from '../../ui/notes.tsx'
import { useKept } from './kept.ts'
import { OnBoard } from './on-board.tsx'
import { opensAt } from './opens-at.ts'
import './practice.scss'
import { attemptsQuery } from './queries.ts'
import { SchoolTabs } from './school-tabs.tsx'

const mostSeed = 1_000_000
const toAttempts = () => '/practice/attempts'

/** A piece drawn at random is cut on screen and held against the best plan of the same piece. */
export function Page() {
  const me = useSession().person.id
  const attempts = useQuery(attemptsQuery(me))
  const { data, error, refetch } = attempts
  return (
    <main className="page">
      <SchoolTabs />
      <section className="sheet stack">
        <header className="result-head">
          <div>
            <h1>Cut on screen</h1>
            <p className="under-title">
              The real thing costs a day’s wage. Here a slip costs a click, and the best plan of the same piece is shown.
            </p>
          </div>
        </header>
        {!data && !error && <Loading what="what you have cut" />}
        {!data && error && <Failed error={error} retry={refetch} />}
        {data && <Ladder known={data} />}
      </section>
    </main>
  )
}

function Ladder({ known }: { known: Attempts }) {
  const [search, setSearch] = useSearchParams()
  const queryClient = useQueryClient()
  const shapes = useQuery(usualShapesQuery)
  const take = useCallback(
    (attempt: Attempt) =>
      queryClient.setQueryData(attemptsQuery(known.personId).queryKey, (before) =>
        before && !before.attempts.some(({ id }) => id === attempt.id) ? { ...before, attempts: [...before.attempts, attempt] } : before,
      ),
    [queryClient, known.personId],
  )
  const kept = useKept<AttemptCreate, Attempt>(`fleam.attempts.${known.personId}`, toAttempts, take)
  const waiting = kept.waiting.map((attempt) => ({
    ...attempt,
    score: scoreCuts(drawPiece(attempt.rung, attempt.seed, attempt.shape), attempt.cutsCm).score,
  }))
  const all = [...known.attempts, ...waiting]
  const bestOf = (rung: string) => all.filter((one) => one.rung === rung).reduce((best, { score }) => Math.max(best, score), -1)
  const open = ladder.findIndex(({ key }) => !all.some((one) => one.rung === key && one.score >= opensAt))
  const opened = open < 0 ? ladder.length - 1 : open
  const rung = ladder.find(({ key }) => key === search.get('rung')) ?? (ladder[opened] as Rung)
  const asked = Number(search.get('seed'))
  const [random, setRandom] = useState(() => Math.floor(Math.random() * mostSeed))
  const seed = Number.isInteger(asked) && asked > 0 && asked <= mostSeed ? asked : random
  const item = search.get('shape') ?? ''
  const shape = rung.kind === 'muscle' ? (shapes.data?.find((entry) => entry.item.id === item)?.shape ?? null) : null
  const set = (changes: Record<string, string>) => {
    const next = new URLSearchParams(search)
    for (const [name, value] of Object.entries(changes)) {
      if (value) next.set(name, value)
      else next.delete(name)
    }
    setSearch(next, { replace: true })
  }
  function another() {
    setRandom(Math.floor(Math.random() * mostSeed))
    set({ seed: '' })
  }
  return (
    <>
      <ol className="ladder-rungs">
        {ladder.map(({ key, name }, at) => (
          <li key={key}>
            <Button
              variant="plain"
              active={key === rung.key}
              aria-pressed={key === rung.key}
              onClick={() => {
                another()
                set({ rung: key, seed: '' })
              }}
            >
              <span>
                {at + 1} · {name} {at > opened && <Lock aria-label="not reached yet" />}
              </span>
              <small>
                {bestOf(key) < 0 ? (at > opened ? `after ${opensAt} at the one before` : 'not tried') : `best ${Math.floor(bestOf(key))}`}
              </small>
            </Button>
          </li>
        ))}
      </ol>
      <OnBoard
        key={`${rung.key} ${seed} ${item}`}
        rung={rung}
        seed={seed}
        shape={shape}
        onDone={(cutsCm) =>
          kept.add({ id: newId(), rung: rung.key, seed, shape, cutsCm: [...cutsCm], exerciseId: null, at: new Date().toISOString() })
        }
        onAnother={another}
      />
      <div className="fields">
        <TextField
          label="Number of the piece, to cut the same as others"
          value={String(seed)}
          onChange={(value) => set({ seed: value.trim() })}
          inputMode="numeric"
        />
        {rung.kind === 'muscle' && (shapes.data?.length ?? 0) > 0 && (
          <SelectField
            label="Of the shape of"
            value={item}
            onChange={(value) => set({ shape: value })}
            options={[
              { value: '', label: 'a usual loin' },
              ...(shapes.data ?? []).map((entry) => ({ value: entry.item.id, label: `our ${entry.item.name}` })),
            ]}
          />
        )}
      </div>
      {kept.waiting.length > 0 && <small>{counted(kept.waiting.length, 'piece')} kept on this tablet until the server has them</small>}
      {kept.trouble && <Warning>{kept.trouble}</Warning>}
    </>
  )
}
