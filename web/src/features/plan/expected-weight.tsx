import { expectCut } from '@fleam/core/yield-book/expected-cut'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import Button from 'react-bootstrap/Button'
import { cutSheetsQuery, itemsQuery, useKitchen, yieldBookQuery } from '../../api/queries.ts'
import { numberOf, SelectField, TextField } from '../../ui/fields.tsx'

/** What the kitchen's own tests lead one to expect of an item before it is trimmed: a weight to plan with. */
export function ExpectedWeight({ onTake }: { onTake: (grams: number) => void }) {
  const { settings } = useKitchen()
  const [book, items, sheets] = [useQuery(yieldBookQuery), useQuery(itemsQuery), useQuery(cutSheetsQuery)]
  const [cut, setCut] = useState('')
  const [received, setReceived] = useState('')
  const cuts = (book.data ?? []).flatMap((entry) => {
    const item = items.data?.find((one) => one.id === entry.itemId)
    const sheet = sheets.data?.find((one) => one.id === entry.cutSheetId)
    return item && sheet && item.animal !== 'bird' ? [{ key: `${item.id} ${sheet.id}`, entry, item, sheet }] : []
  })
  if (cuts.length === 0) return null
  const chosen = cuts.find(({ key }) => key === cut)
  const expected = chosen && expectCut(chosen.sheet.body, chosen.entry, 1, settings.cutting.priorTests)
  const mains = chosen?.sheet.body.outputs.filter((output) => output.role === 'main') ?? []
  const share = mains.reduce((sum, { key }) => sum + (expected?.shares.get(key)?.mean ?? 0), 0)
  const grams = received === '' ? (expected?.itemGrams.mean ?? 0) : numberOf(received)
  const trimmed = Math.round((grams * share) / 100)
  return (
    <details className="expected-weight">
      <summary>Not trimmed yet: expect it from the yield book</summary>
      <div className="stack">
        <SelectField
          label="Item and cut sheet"
          value={cut}
          options={[
            { value: '', label: 'choose' },
            ...cuts.map(({ key, item, sheet, entry }) => ({
              value: key,
              label: `${item.name}: ${sheet.body.name} (${entry.tests} tests)`,
            })),
          ]}
          onChange={setCut}
        />
        {chosen && expected && (
          <>
            <TextField
              label="Weight as received, g"
              inputMode="decimal"
              value={received}
              placeholder={String(Math.round(expected.itemGrams.mean))}
              onChange={setReceived}
            />
            <Button variant="plain" disabled={!(trimmed > 0)} onClick={() => onTake(trimmed)}>
              Plan with {trimmed > 0 ? trimmed : '–'} g: {mains.map((output) => output.name.toLowerCase()).join(' and ')},{' '}
              {share.toFixed(1)} %
            </Button>
          </>
        )}
      </div>
    </details>
  )
}
