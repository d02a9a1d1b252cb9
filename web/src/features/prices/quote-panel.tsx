import { type Item, type Quote, quoteCreate, type Supplier } from '@fleam/contract/prices'
import { gramsOf } from '@fleam/core/quantities/weight'
import { useQuery, useQueryClient } from '@tanstack/react-query'
import { lazy, Suspense, useState } from 'react'
import Button from 'react-bootstrap/Button'
import Form from 'react-bootstrap/Form'
import { send } from '../../api/http.ts'
import { newId } from '../../api/new-id.ts'
import { itemsQuery, quotesQuery, useHasRole } from '../../api/queries.ts'
import { DateField } from '../../ui/date-field.tsx'
import { dayText, today } from '../../ui/days.ts'
import { numberOf, numberOrNull, SelectField, TextField, WeightField } from '../../ui/fields.tsx'
import { Empty, Failed, Loading, Warning } from '../../ui/notes.tsx'
import { useRequestForm } from '../../ui/request-form.ts'
import { SidePanel } from '../../ui/side-panel.tsx'
import { useUnits } from '../../ui/units.ts'

const QuoteChart = lazy(() => import('./quote-chart.tsx').then((module) => ({ default: module.QuoteChart })))

/** The quotes of an item, newest first, and a new one; old quotes stay with their dates. */
export function QuotePanel({ item, suppliers, onClose }: { item: Item; suppliers: Supplier[]; onClose: () => void }) {
  const { price } = useUnits()
  const isManager = useHasRole('manager')
  const quotes = useQuery(quotesQuery(item.id))
  return (
    <SidePanel title={item.name} onClose={onClose}>
      {isManager && <QuoteForm item={item} suppliers={suppliers} />}
      <h3>Quotes so far</h3>
      {quotes.data && (
        <Suspense fallback={<div className="quote-chart" />}>
          <QuoteChart quotes={quotes.data} />
        </Suspense>
      )}
      {quotes.isPending && <Loading what="quotes" />}
      {quotes.error && <Failed error={quotes.error} retry={quotes.refetch} />}
      {quotes.data?.length === 0 && <Empty title="No price yet." />}
      <ul className="quotes">
        {quotes.data?.map((quote) => (
          <li key={quote.id}>
            <b>{price(quote.price)}</b>
            <small>
              {dayText(quote.quotedOn)}
              {quote.supplier && ` · ${quote.supplier.name}`}
            </small>
          </li>
        ))}
      </ul>
    </SidePanel>
  )
}

const units = [
  { value: 'kg', label: 'per kg' },
  { value: 'lb', label: 'per lb' },
  { value: 'each', label: 'each' },
  { value: 'case', label: 'per case' },
]

function QuoteForm({ item, suppliers }: { item: Item; suppliers: Supplier[] }) {
  const { currency, read, weightSystem } = useUnits()
  const queryClient = useQueryClient()
  const [id, setId] = useState(newId)
  const last = item.latestQuote
  const { submit, field, form, message, busy } = useRequestForm({
    start: {
      price: {
        amount: '',
        per: last?.price.per ?? (weightSystem === 'metric' ? 'kg' : ('lb' as string)),
        count: String(last?.price.count ?? ''),
        grams: last?.price.grams ? `${last.price.grams} g` : '',
      },
      supplierId: last?.supplier?.id ?? suppliers[0]?.id ?? '',
      quotedOn: today(),
    },
    schema: quoteCreate,
    toRequest: ({ price, supplierId, quotedOn }) => {
      const isCase = price.per === 'case'
      const caseWeight = price.grams.trim() === '' ? undefined : read(price.grams)
      const count = numberOrNull(price.count)
      return {
        id,
        supplierId: supplierId || null,
        quotedOn,
        price: {
          amount: numberOf(price.amount),
          per: price.per,
          ...(isCase && count !== null ? { count } : {}),
          ...(isCase && caseWeight ? { grams: caseWeight.ok ? gramsOf(caseWeight.tenths) : Number.NaN } : {}),
        },
      }
    },
    send: (request) => send<Quote>('POST', `/items/${item.id}/quotes`, request),
    next: (sent) => ({ ...sent, price: { ...sent.price, amount: '' } }),
  })
  const isCase = form.watch('price.per') === 'case'

  async function add(event: React.FormEvent) {
    event.preventDefault()
    if (!(await submit())) return
    setId(newId())
    await Promise.all([
      queryClient.invalidateQueries({ queryKey: ['quotes', item.id] }),
      queryClient.invalidateQueries({ queryKey: itemsQuery.queryKey }),
    ])
  }

  return (
    <Form className="stack" onSubmit={add}>
      <h3>New quote</h3>
      <div className="fields fields-two">
        <TextField label={`Price, ${currency}`} {...field('price.amount')} inputMode="decimal" autoFocus />
        <SelectField label="Quoted" {...field('price.per')} options={units} />
      </div>
      {isCase && (
        <div className="fields fields-two">
          <TextField label="Pieces in the case" {...field('price.count')} inputMode="numeric" />
          <WeightField label="or its weight" {...field('price.grams')} />
        </div>
      )}
      <SelectField
        label="Supplier"
        {...field('supplierId')}
        options={[...suppliers.map((entry) => ({ value: entry.id, label: entry.name })), { value: '', label: 'not noted' }]}
      />
      <DateField label="Quoted on" {...field('quotedOn')} />
      {message && <Warning>{message}</Warning>}
      <Button type="submit" variant="act" disabled={busy}>
        Add this quote
      </Button>
    </Form>
  )
}
