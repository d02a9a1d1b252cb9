import type { FollowOnSheetEntry } from '@fleam/contract/follow-ons'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import Button from 'react-bootstrap/Button'
import { send } from '../../api/http.ts'
import { followOnSheetsQuery, useHasRole } from '../../api/queries.ts'
import { counted } from '../../ui/counted.ts'
import { useHouseFigures } from '../../ui/house-figures.ts'
import { Caution, Failed, Loading } from '../../ui/notes.tsx'
import { percentText } from '../../ui/units.ts'
import { useChange } from '../../ui/use-change.ts'
import '../walk-in/walk-in.scss'
import { WalkInTabs } from '../walk-in/walk-in-tabs.tsx'
import { SheetForm } from './sheet-form.tsx'

/** Ways of making something of what came off: what to expect, here and usually, and how it is done. */
export function Page() {
  const { data: entries, error, refetch } = useQuery(followOnSheetsQuery)
  const isLead = useHasRole('lead')
  const [edited, setEdited] = useState<{ entry?: FollowOnSheetEntry; isCopy?: boolean }>()
  const sheets = (entries ?? []).filter(({ key }) => key !== 'own').sort((a, b) => Number(a.isRetired) - Number(b.isRetired))
  return (
    <main className="page">
      <WalkInTabs />
      <section className="sheet">
        <header className="result-head">
          <h1>Ways of making</h1>
          {isLead && (
            <Button variant="act" onClick={() => setEdited({})}>
              Write one of our own
            </Button>
          )}
        </header>
        {!entries && !error && <Loading what="the ways of making" />}
        {!entries && error && <Failed error={error} retry={refetch} />}
        {sheets.map((entry) => (
          <Sheet
            key={entry.key}
            entry={entry}
            onChange={isLead && entry.id !== null ? () => setEdited({ entry }) : undefined}
            onCopy={isLead ? () => setEdited({ entry, isCopy: true }) : undefined}
          />
        ))}
      </section>
      {edited && <SheetForm {...edited} onClose={() => setEdited(undefined)} />}
    </main>
  )
}

const dayHours = 24
const waitText = (low: number, high: number) => (low >= 2 * dayHours ? `${low / dayHours}–${high / dayHours} days` : `${low}–${high} h`)

interface SheetProps {
  entry: FollowOnSheetEntry
  onChange: (() => void) | undefined
  onCopy: (() => void) | undefined
}

function Sheet({ entry, onChange, onCopy }: SheetProps) {
  const { id, version, body, book, isRetired } = entry
  const house = useHouseFigures()
  const { change: retire } = useChange({
    send: () => send('PUT', `/follow-on-sheets/${id}`, { version, body, isRetired: !isRetired }),
    refresh: [followOnSheetsQuery.queryKey],
    said: () => (isRetired ? `${body.name} is offered again.` : `${body.name} is put away.`),
  })
  const { low, high } = body.waitHours
  return (
    <details className="lot-part">
      <summary>
        <span>
          {body.name}{' '}
          <small>
            {id === null ? '' : isRetired ? 'our own, put away · ' : 'our own · '}
            {Math.round(book.minutes)} min{high > 0 && `, waits ${waitText(low, high)}`}
            {book.tests > 0 && ` · made here ${counted(book.tests, 'time')}`}
          </small>
        </span>
      </summary>
      <div className="stack">
        {body.cautions.map((words) => (
          <Caution key={words}>{house(words)}</Caution>
        ))}
        <ul className="plain-list">
          {body.outputs.map(({ name, unit, per, yieldPct }) => {
            const share = book.outputs.find((one) => one.name === name)?.share
            const text = (value: number) =>
              unit === 'g' ? percentText(value, 0) : `${(value / 10).toFixed(1)} ${unit === 'ml' ? 'l' : 'pieces'} a kg`
            return (
              <li key={name}>
                <b>{name}</b>: usually {text(yieldPct.low)} to {text(yieldPct.high)} of{' '}
                {per === 'all' ? 'all that goes in' : 'what it is made of'}
                {share && share.tests > 0 && (
                  <>
                    ; here <b>{text(share.mean)}</b>, nine in ten from {text(Math.max(0, share.low))} to {text(share.high)}
                  </>
                )}
              </li>
            )
          })}
        </ul>
        {body.added.length > 0 && (
          <p>
            Added: {body.added.map(({ name, pctOfInput }) => (pctOfInput ? `${name} ${Number(pctOfInput.toFixed(2))} %` : name)).join(', ')}
          </p>
        )}
        <ol className="follow-on-steps">
          {body.steps.map((step) => (
            <li key={step}>{house(step)}</li>
          ))}
        </ol>
        {body.checks.length > 0 && <p className="field-hint">Look at: {body.checks.join(' · ')}</p>}
        <div className="actions">
          {onChange && (
            <Button variant="plain" onClick={onChange}>
              Change it
            </Button>
          )}
          {onChange && (
            <Button variant="plain" onClick={() => void retire()}>
              {isRetired ? 'Offer it again' : 'Put it away'}
            </Button>
          )}
          {onCopy && (
            <Button variant="plain" onClick={onCopy}>
              Make our own of it
            </Button>
          )}
        </div>
      </div>
    </details>
  )
}
