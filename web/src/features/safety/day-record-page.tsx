import { type SafetyLine, type SafetyRecord, safetyNoteCreate, safetyNoteKinds } from '@fleam/contract/safety'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import Button from 'react-bootstrap/Button'
import Form from 'react-bootstrap/Form'
import Table from 'react-bootstrap/Table'
import { useNavigate, useParams } from 'react-router'
import { get, send } from '../../api/http.ts'
import { newId } from '../../api/new-id.ts'
import { useKitchen } from '../../api/queries.ts'
import { DateField } from '../../ui/date-field.tsx'
import { dayText, timeText, today } from '../../ui/days.ts'
import { Choice, numberOrNull, TextField } from '../../ui/fields.tsx'
import { Caution, Empty, Failed, Loading, Warning } from '../../ui/notes.tsx'
import { useRequestForm } from '../../ui/request-form.ts'
import { LogTabs } from '../yield-book/log-tabs.tsx'

const recordQuery = (day: string) => ({
  queryKey: ['safety-record', day],
  queryFn: () => get<SafetyRecord>(`/safety-record?day=${day}`),
})

/** The food-safety record of one day, as one sheet. */
export function Page() {
  const { day = today() } = useParams()
  const navigate = useNavigate()
  const { name } = useKitchen()
  const { data, isPending, error, refetch } = useQuery(recordQuery(day))
  const out = data?.lines.filter(({ isOut }) => isOut) ?? []
  return (
    <main className="page">
      <LogTabs />
      <section className="sheet">
        <header className="result-head">
          <div>
            <h1>Food-safety record</h1>
            <p className="under-title">
              {name}, {dayText(day)}
            </p>
          </div>
          <div className="actions no-print">
            <DateField label="Day" value={day} onChange={(chosen) => chosen && navigate(`/log/day/${chosen}`)} />
          </div>
        </header>
        <div className="stack">
          <Caution>Local food code and licensed practice come first; limits are this house’s own, as they were at that moment.</Caution>
          {out.length > 0 && (
            <Warning>
              {out.length} out of limits
              {out.some(({ action }) => action === '') && ', and nothing is said of what was done about some of them'}.
            </Warning>
          )}
        </div>
        {isPending && <Loading what="the day’s record" />}
        {error && !data && <Failed error={error} retry={refetch} />}
        {data && (
          <>
            {data.lines.length === 0 ? <Empty title="Nothing is on record of this day." /> : <Lines lines={data.lines} />}
            <div className="actions no-print">
              <Button variant="plain" onClick={() => print()}>
                Print the sheet
              </Button>
              <a className="btn btn-plain" href={`/api/v1/safety-record.csv?day=${day}`}>
                As CSV
              </a>
            </div>
          </>
        )}
      </section>
      {day === today() && <PutDown onPut={refetch} />}
    </main>
  )
}

function Lines({ lines }: { lines: readonly SafetyLine[] }) {
  return (
    <div className="table-scroll">
      <Table className="safety-lines" size="sm">
        <thead>
          <tr>
            {['At', 'What', 'About', 'Found', 'Limit', 'Done about it', 'Who'].map((heading) => (
              <th key={heading} scope="col">
                {heading}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {lines.map((line, at) => (
            <tr key={at} className={line.isOut ? 'safety-out' : ''}>
              <td>{timeText(line.at)}</td>
              <td>{line.what}</td>
              <td>{line.about}</td>
              <td>{line.isOut ? <b className="hot">{line.found}, out of limit</b> : line.found}</td>
              <td>{line.limit}</td>
              <td>{line.action || (line.isOut ? 'nothing said' : '')}</td>
              <td>{line.by}</td>
            </tr>
          ))}
        </tbody>
      </Table>
    </div>
  )
}

const kindWords = { 'cold store': 'A cold store', 'clean-down': 'A clean-down', other: 'Something else' }
const aboutWords = { 'cold store': 'Which', 'clean-down': 'What was cleaned', other: 'What' }

/** What no run and no follow-on knows of: a cold store's temperature, a clean-down. */
function PutDown({ onPut }: { onPut: () => void }) {
  const { receiveMaxC } = useKitchen().settings.limits
  const [id, setId] = useState(newId)
  const { submit, field, form, message, busy } = useRequestForm({
    start: { kind: 'cold store' as (typeof safetyNoteKinds)[number], about: 'Walk-in', celsius: '', action: '' },
    schema: safetyNoteCreate.refine(
      ({ kind, celsius, action }) => kind !== 'cold store' || celsius === null || celsius <= receiveMaxC || action !== '',
      { path: ['action'], message: 'It is over the house limit: say what was done.' },
    ),
    toRequest: ({ kind, about, celsius, action }) => ({
      ...{ id, kind, about, action: action.trim() },
      celsius: kind === 'clean-down' ? null : numberOrNull(celsius),
      at: new Date().toISOString(),
    }),
    send: (request) => send<SafetyLine>('POST', '/safety-notes', request),
    next: (sent) => ({ ...sent, celsius: '', action: '' }),
  })
  const { kind } = form.watch()
  async function put(event: React.FormEvent) {
    event.preventDefault()
    if (!(await submit())) return
    setId(newId())
    onPut()
  }
  return (
    <Form className="sheet stack no-print" onSubmit={put}>
      <h2>Put something down</h2>
      <Choice label="What" {...field('kind')} options={safetyNoteKinds.map((value) => ({ value, label: kindWords[value] }))} />
      <div className="fields">
        <TextField label={aboutWords[kind]} {...field('about')} autoComplete="off" />
        {kind !== 'clean-down' && (
          <TextField
            label="Temperature, °C"
            {...field('celsius')}
            inputMode="decimal"
            autoComplete="off"
            hint={kind === 'cold store' ? `house limit ${receiveMaxC} °C` : 'where one was taken'}
          />
        )}
        <TextField label="What was done" {...field('action')} autoComplete="off" />
      </div>
      {message && <Warning>{message}</Warning>}
      <Button type="submit" variant="act" disabled={busy}>
        Put it down
      </Button>
    </Form>
  )
}
