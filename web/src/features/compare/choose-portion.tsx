import type { ComparisonBody } from '@fleam/contract/compare'
import type { Item } from '@fleam/contract/prices'
import type { YieldTestRecord } from '@fleam/contract/yield-book'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import Button from 'react-bootstrap/Button'
import { suppliersQuery, useHasRole } from '../../api/queries.ts'
import { counted } from '../../ui/counted.ts'
import { CheckField, SelectField } from '../../ui/fields.tsx'
import { SidePanel } from '../../ui/side-panel.tsx'
import { useUnits } from '../../ui/units.ts'
import { ItemForm } from '../prices/item-form.tsx'
import { QuotePanel } from '../prices/quote-panel.tsx'
import { entryOf, firstBody, quotesFor, type Sources, sheetsFor } from './open-portion.ts'

interface Props {
  sources: Sources
  body: ComparisonBody
  tests: readonly YieldTestRecord[]
  onChange: (body: ComparisonBody) => void
  onClose: () => void
}

/** Which portion of what, by which sheet, from whose tests, against which quotes. */
export function ChoosePortion({ sources, body, tests, onChange, onClose }: Props) {
  const { price } = useUnits()
  const isManager = useHasRole('manager')
  const suppliers = useQuery(suppliersQuery)
  const [isAdding, setAdding] = useState(false)
  const [added, setAdded] = useState<Item>()
  const items = sources.items.filter((item) => item.kind === 'whole')
  const item = items.find((one) => one.id === body.itemId) ?? items[0]
  const sheet = sources.sheets.find((one) => one.id === body.cutSheetId)
  if (!item) return null
  const known = new Set(sheetsFor(sources, item).map((one) => one.id))
  const sheets = sources.sheets
    .filter((one) => one.body.animal === item.animal)
    .sort((a, b) => Number(known.has(b.id)) - Number(known.has(a.id)) || a.body.name.localeCompare(b.body.name))
  const outputs = sheet?.body.outputs.filter((output) => output.role === 'main' || output.role === 'coproduct') ?? []
  const quotes = sheet ? quotesFor(sources, item, sheet, body.outputKey) : []
  const start = (next: ComparisonBody | undefined) => next && onChange({ ...next, byproducts: body.byproducts, idleHands: body.idleHands })
  const toggle = (id: string) =>
    onChange({
      ...body,
      readyCutIds: body.readyCutIds.includes(id) ? body.readyCutIds.filter((other) => other !== id) : [...body.readyCutIds, id],
    })
  const named = (list: readonly ({ id: string; name: string } | null)[]) => [
    ...new Map(list.flatMap((one) => (one ? [[one.id, one.name] as const] : []))).entries(),
  ]
  return (
    <SidePanel title="What is compared" onClose={onClose}>
      <div className="stack">
        <SelectField
          label="Bought whole"
          value={item.id}
          options={items.map((one) => ({ value: one.id, label: one.name }))}
          onChange={(id) => {
            const next = items.find((one) => one.id === id)
            const of = next && sources.sheets.find((one) => one.body.animal === next.animal)
            start(next && (firstBody(sources, next) ?? firstBody(sources, next, of)))
          }}
        />
        <SelectField
          label="Cut sheet"
          value={body.cutSheetId}
          options={sheets.map((one) => ({
            value: one.id,
            label: `${one.body.name}${known.has(one.id) ? '' : ' (not tried yet)'}`,
          }))}
          hint={`${counted(entryOf(sources, item.id, body.cutSheetId)?.tests ?? 0, 'test')} of it so far`}
          onChange={(id) =>
            start(
              firstBody(
                sources,
                item,
                sources.sheets.find((one) => one.id === id),
              ),
            )
          }
        />
        <SelectField
          label="Portion"
          value={body.outputKey}
          options={outputs.map((output) => ({ value: output.key, label: output.name }))}
          onChange={(key) => start(firstBody(sources, item, sheet, key))}
        />
        <SelectField
          label="Tests and price of"
          value={body.supplierId ?? ''}
          options={[
            { value: '', label: 'every supplier' },
            ...named(tests.map((test) => test.supplier)).map(([value, label]) => ({ value, label })),
          ]}
          onChange={(id) => onChange({ ...body, supplierId: id || null })}
        />
        <SelectField
          label="Tests by"
          value={body.cookId ?? ''}
          options={[
            { value: '', label: 'every cook' },
            ...named(tests.map((test) => test.cook)).map(([value, label]) => ({ value, label })),
          ]}
          onChange={(id) => onChange({ ...body, cookId: id || null })}
        />
        <fieldset>
          <legend className="legend">Against these quotes</legend>
          {quotes.length === 0 && (
            <p>No ready-cut item of this animal has a price yet{isManager ? '.' : ': a manager adds it under Kitchen, Prices.'}</p>
          )}
          {quotes.map((quote) => (
            <CheckField
              key={quote.id}
              label={
                <>
                  {quote.name}
                  {quote.latestQuote && <small> {price(quote.latestQuote.price)}</small>}
                </>
              }
              value={body.readyCutIds.includes(quote.id)}
              onChange={() => toggle(quote.id)}
            />
          ))}
        </fieldset>
        {isManager && (
          <Button variant="plain" onClick={() => setAdding(true)}>
            Add a ready-cut item
          </Button>
        )}
        {isAdding && (
          <ItemForm
            item={undefined}
            kind="ready-cut"
            of={item.animal}
            all={sources.items}
            onClose={() => setAdding(false)}
            onKept={setAdded}
          />
        )}
        {added && <QuotePanel item={added} suppliers={suppliers.data ?? []} onClose={() => setAdded(undefined)} />}
      </div>
    </SidePanel>
  )
}
