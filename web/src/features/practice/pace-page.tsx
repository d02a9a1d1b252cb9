import type { Pace } from '@fleam/contract/practice'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import Button from 'react-bootstrap/Button'
import Table from 'react-bootstrap/Table'
import { counted } from '../../ui/counted.ts'
import { SelectField } from '../../ui/fields.tsx'
import { useHouseFigures } from '../../ui/house-figures.ts'
import { Caution, Empty, Failed, Loading, Word } from '../../ui/notes.tsx'
import { useRemembered } from '../../ui/remembered.ts'
import './practice.scss'
import { paceQuery, progressQuery } from './queries.ts'
import { SchoolTabs } from './school-tabs.tsx'
import { useWhose } from './whose.tsx'

/** Minutes by step against one's own best and the house; shown once the cautions of the sheet were read. */
export function Page() {
  const { person, isOwn, choice } = useWhose()
  const [sheet, setSheet] = useState('')
  const { data, error, refetch } = useQuery(paceQuery(person, sheet))
  return (
    <main className="page">
      <SchoolTabs />
      <section className="sheet stack">
        <header className="result-head">
          <div>
            <h1>{isOwn ? 'Your pace' : `Pace of ${data?.name ?? 'somebody'}`}</h1>
            <p className="under-title">Accuracy first, then evenness; minutes come last, and nobody hurries raw hands.</p>
          </div>
          {choice}
        </header>
        {!data && !error && <Loading what="the pace" />}
        {!data && error && <Failed error={error} retry={refetch} />}
        {data && data.sheet === null && <Empty title="No run was finished yet.">What is cut at a bench shows here, step by step.</Empty>}
        {data?.sheet && (
          <>
            <div className="wide-field">
              <SelectField
                label="Cut sheet"
                value={data.sheet.id}
                onChange={setSheet}
                options={data.sheets.map(({ id, name, runs }) => ({ value: id, label: `${name} (${counted(runs, 'run')})` }))}
              />
            </div>
            <Guarded key={`${person} ${data.sheet.versionId}`} pace={data} sheet={data.sheet} />
          </>
        )}
      </section>
    </main>
  )
}

/** Keeps the pace back until the cautions of the sheet, as it is now, were read here. */
function Guarded({ pace, sheet }: { pace: Pace; sheet: NonNullable<Pace['sheet']> }) {
  const withFigures = useHouseFigures()
  const [hasRead, setRead] = useRemembered(`fleam.cautions-read.${pace.personId}.${sheet.versionId}`, false)
  if (hasRead) return <Steps pace={pace} />
  return (
    <>
      <h2>Before any pace is shown</h2>
      {sheet.cautions.map((caution) => (
        <Caution key={caution}>{withFigures(caution)}</Caution>
      ))}
      <div className="actions">
        <Button variant="act" onClick={() => setRead(true)}>
          Read: show the pace
        </Button>
      </div>
    </>
  )
}

function Steps({ pace: { personId, steps, ownRuns, houseRuns } }: { pace: Pace }) {
  const { data: progress } = useQuery(progressQuery(personId))
  const [first] = (progress?.next ?? []).filter(({ key }) => key === 'yield' || key === 'evenness')
  const sum = (of: 'last' | 'best' | 'house') => steps.reduce((total, step) => total + (step[of] ?? 0), 0)
  return (
    <>
      {first ? (
        <Word>Not the minutes yet. {first.why}</Word>
      ) : (
        <Word isGood>Yields and portions hold: now the minutes may come down, step by step.</Word>
      )}
      <Table responsive className="pace-steps">
        <caption>
          Minutes an item: {counted(ownRuns, 'run')} of one’s own, {counted(houseRuns, 'run')} of the house.
        </caption>
        <thead>
          <tr>
            <th scope="col">Step</th>
            <th scope="col">Last time</th>
            <th scope="col">Own best</th>
            <th scope="col">The house</th>
          </tr>
        </thead>
        <tbody>
          {steps.map(({ step, last, best, house }) => (
            <tr key={step}>
              <th scope="row">{step}</th>
              <td>{written(last)}</td>
              <td>{written(best)}</td>
              <td>{written(house)}</td>
            </tr>
          ))}
        </tbody>
        <tfoot>
          <tr>
            <th scope="row">All</th>
            <td>{written(sum('last'))}</td>
            <td>{written(sum('best'))}</td>
            <td>{written(sum('house'))}</td>
          </tr>
        </tfoot>
      </Table>
    </>
  )
}

const written = (minutes: number | null) => (minutes === null ? '–' : minutes.toFixed(1))
