import type { Item } from '@fleam/contract/prices'
import type { MakeOrBuy } from '@fleam/core/compare/make-or-buy'
import { memo } from 'react'
import Button from 'react-bootstrap/Button'
import { DataTable } from '../../ui/data-table.tsx'
import { percentText, useUnits } from '../../ui/units.ts'
import type { Sureness } from './words.ts'

/** A quote that can be compared, and how it stands. */
export interface SoundResult {
  quote: Item
  result: MakeOrBuy
  probability: Sureness | undefined
}

/** Every quote that cutting stands against. */
export const QuoteTable = memo(function QuoteTable({
  sound,
  chosenId,
  onChoose,
}: {
  sound: readonly SoundResult[]
  chosenId: string | undefined
  onChoose: (id: string) => void
}) {
  const { money, price } = useUnits()
  return (
    <section className="sheet">
      <h2>Every quote it stands against</h2>
      <DataTable
        label="Every quote it stands against"
        columns={[
          { id: 'quote', heading: 'Ready-cut', kind: 'head', cell: ({ quote }) => quote.name },
          { id: 'quoted', heading: 'quoted', cell: ({ quote }) => quote.latestQuote && price(quote.latestQuote.price) },
          {
            id: 'portion',
            heading: 'a usable portion',
            sortBy: ({ result }) => result.buy.costPerPortion,
            cell: ({ result }) => money(result.buy.costPerPortion),
          },
          {
            id: 'saves',
            heading: 'cutting saves',
            sortBy: ({ result }) => result.savingPerPortion,
            cell: ({ result }) => <span className={result.savingPerPortion < 0 ? 'hot' : 'good'}>{money(result.savingPerPortion)}</span>,
          },
          { id: 'week', heading: 'a week', cell: ({ result }) => money(result.savingPerWeek ?? 0) },
          {
            id: 'sure',
            heading: 'cutting is cheaper on average',
            cell: ({ probability }) => (probability === undefined ? '…' : percentText(probability.onAverage * 100, 0)),
          },
          {
            id: 'show',
            heading: <span className="visually-hidden">Show it above</span>,
            cell: ({ quote }) => (
              <Button variant="plain" aria-pressed={quote.id === chosenId} onClick={() => onChoose(quote.id)}>
                {quote.id === chosenId ? 'Shown above' : 'Show above'}
              </Button>
            ),
          },
        ]}
        rows={sound}
        rowKey={({ quote }) => quote.id}
      />
    </section>
  )
})
