import type { FetchedList, Item, Supplier } from '@fleam/contract/prices'
import { useQuery } from '@tanstack/react-query'
import { lazy, Suspense, useState } from 'react'
import Button from 'react-bootstrap/Button'
import { itemsQuery, suppliersQuery, useHasRole } from '../../api/queries.ts'
import { dayText } from '../../ui/days.ts'
import { Empty, Failed, Loading } from '../../ui/notes.tsx'
import { useUnits } from '../../ui/units.ts'
import { KitchenTabs } from '../kitchen/kitchen-tabs.tsx'
import { FetchedLists } from './fetched-lists.tsx'
import { ItemForm } from './item-form.tsx'
import { QuotePanel } from './quote-panel.tsx'
import { SupplierForm } from './supplier-form.tsx'

const ImportPriceList = lazy(() => import('./import-price-list.tsx').then((module) => ({ default: module.ImportPriceList })))

type Open =
  | { kind: 'item'; item?: Item; asKind?: Item['kind'] }
  | { kind: 'quotes'; item: Item }
  | { kind: 'supplier'; supplier?: Supplier }
  | { kind: 'list'; fetched?: FetchedList }

/** What the kitchen buys whole, and what it could buy ready-cut. */
export function Page() {
  const items = useQuery(itemsQuery)
  const suppliers = useQuery(suppliersQuery)
  const isManager = useHasRole('manager')
  const { currency } = useUnits()
  const [open, setOpen] = useState<Open>()
  const close = () => setOpen(undefined)
  const parts = [
    { kind: 'whole' as const, title: 'Bought whole', empty: 'Nothing bought whole yet.' },
    { kind: 'ready-cut' as const, title: 'What could be bought ready-cut', empty: 'Nothing ready-cut yet: add it to compare with.' },
  ]
  return (
    <main className="page">
      <KitchenTabs />
      <h1 className="visually-hidden">Prices</h1>
      <div className="actions">
        {isManager && (
          <Button variant="plain" onClick={() => setOpen({ kind: 'list' })}>
            Read in a price list
          </Button>
        )}
        <a className="btn btn-plain" href="/api/v1/quotes.csv">
          All quotes as CSV
        </a>
      </div>
      {isManager && items.data && (
        <FetchedLists suppliers={suppliers.data ?? []} onShow={(fetched) => setOpen({ kind: 'list', fetched })} />
      )}
      {items.isPending && <Loading what="prices" />}
      {items.error && <Failed error={items.error} retry={items.refetch} />}
      {items.data &&
        parts.map((part) => {
          const shown = items.data.filter((item) => item.kind === part.kind)
          return (
            <section key={part.kind} className="sheet">
              <header className="result-head">
                <h2>{part.title}</h2>
                {isManager && (
                  <Button variant="plain" onClick={() => setOpen({ kind: 'item', asKind: part.kind })}>
                    Add an item {part.kind === 'whole' ? 'bought whole' : 'ready-cut'}
                  </Button>
                )}
              </header>
              {shown.length === 0 && <Empty title={part.empty} />}
              <ul className="items">
                {shown.map((item) => (
                  <ItemRow
                    key={item.id}
                    item={item}
                    all={items.data}
                    onQuotes={() => setOpen({ kind: 'quotes', item })}
                    onChange={isManager ? () => setOpen({ kind: 'item', item }) : undefined}
                  />
                ))}
              </ul>
            </section>
          )
        })}
      {/* not before what stands above it is there, or it would jump from under the finger */}
      {!items.isPending && (
        <section className="sheet">
          <header className="result-head">
            <h2>Suppliers</h2>
            {isManager && (
              <Button variant="plain" onClick={() => setOpen({ kind: 'supplier' })}>
                Add a supplier
              </Button>
            )}
          </header>
          {suppliers.data?.length === 0 && <Empty title="No suppliers yet." />}
          <ul className="people">
            {suppliers.data?.map((supplier) => (
              <li key={supplier.id}>
                <strong>{supplier.name}</strong>
                <span>
                  {supplier.feed && (
                    <small>
                      price list from {supplier.feed.address === 'simulated' ? 'the simulated supplier' : supplier.feed.address}
                    </small>
                  )}
                </span>
                {isManager && (
                  <Button variant="plain" aria-label={`Change ${supplier.name}`} onClick={() => setOpen({ kind: 'supplier', supplier })}>
                    Change
                  </Button>
                )}
              </li>
            ))}
          </ul>
          <p className="field-hint">Prices are in {currency}, without tax.</p>
        </section>
      )}
      {open?.kind === 'item' && (
        <ItemForm item={open.item} kind={open.item?.kind ?? open.asKind ?? 'whole'} all={items.data ?? []} onClose={close} />
      )}
      {open?.kind === 'quotes' && <QuotePanel item={open.item} suppliers={suppliers.data ?? []} onClose={close} />}
      {open?.kind === 'list' && (
        <Suspense fallback={<Loading what="the page" />}>
          <ImportPriceList suppliers={suppliers.data ?? []} items={items.data ?? []} fetched={open.fetched} onClose={close} />
        </Suspense>
      )}
      {open?.kind === 'supplier' && <SupplierForm supplier={open.supplier} onClose={close} />}
    </main>
  )
}

function ItemRow({ item, all, onQuotes, onChange }: { item: Item; all: Item[]; onQuotes: () => void; onChange: (() => void) | undefined }) {
  const { price, weight, money } = useUnits()
  const against = all.find((other) => other.id === item.againstId)
  const { latestQuote: quote, readyCut } = item
  return (
    <li>
      <span className="item-name">
        <strong>{item.name}</strong>
        <small>
          {item.animal}
          {readyCut && ` · portion ${weight(readyCut.portionTenths)}`}
          {readyCut && readyCut.trimPct + readyCut.lossPct > 0 && ` · ${readyCut.trimPct + readyCut.lossPct} % trim and loss`}
          {readyCut && readyCut.feePerOrder > 0 && ` · ${money(readyCut.feePerOrder)} an order of ${readyCut.portionsPerOrder}`}
          {against && ` · set against ${against.name}`}
        </small>
      </span>
      <span className="item-price">
        <b>{quote ? price(quote.price) : 'no price yet'}</b>
        {quote && (
          <small>
            {dayText(quote.quotedOn)}
            {quote.supplier && ` · ${quote.supplier.name}`}
          </small>
        )}
      </span>
      <span className="item-actions">
        <Button variant="plain" aria-label={`Quotes of ${item.name}`} onClick={onQuotes}>
          Quotes
        </Button>
        {onChange && (
          <Button variant="plain" aria-label={`Change ${item.name}`} onClick={onChange}>
            Change
          </Button>
        )}
      </span>
    </li>
  )
}
