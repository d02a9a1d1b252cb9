import type { CutSheet } from '@fleam/contract/cut-sheets'
import { type DishNeed, dishNeedCreate } from '@fleam/contract/dishes'
import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import Button from 'react-bootstrap/Button'
import Form from 'react-bootstrap/Form'
import { send } from '../../api/http.ts'
import { newId } from '../../api/new-id.ts'
import { cutSheetsQuery, dishNeedsQuery, useHasRole } from '../../api/queries.ts'
import { DateField } from '../../ui/date-field.tsx'
import { dayText, today } from '../../ui/days.ts'
import { SelectField, TextField, WeightField } from '../../ui/fields.tsx'
import { Caution, Empty, Failed, Loading, Warning } from '../../ui/notes.tsx'
import { useRequestForm } from '../../ui/request-form.ts'
import { useUnits } from '../../ui/units.ts'
import { useChange } from '../../ui/use-change.ts'
import { KitchenTabs } from '../kitchen/kitchen-tabs.tsx'

/** Dishes that need a second product by a day: the bench shows what each run brings of it. */
export function Page() {
  const needs = useQuery(dishNeedsQuery)
  const sheets = useQuery(cutSheetsQuery)
  const isLead = useHasRole('lead')
  const products = productsOf(sheets.data ?? [])
  return (
    <main className="page">
      <KitchenTabs />
      <section className="sheet">
        <h1>Dishes that need a second product</h1>
        {needs.isPending && <Loading what="dishes" />}
        {needs.error && <Failed error={needs.error} retry={needs.refetch} />}
        {needs.data?.length === 0 && (
          <Empty title="No dish is waiting.">
            <p>Write down what Saturday’s skewers, the confit or the stock still need, and the bench says what each run brings of it.</p>
          </Empty>
        )}
        <ul className="dishes">
          {needs.data?.map((need) => (
            <NeedLine
              key={need.id}
              need={need}
              productName={products.find((one) => one.value === productValue(need))?.label ?? need.product}
            />
          ))}
        </ul>
        {isLead && products.length > 0 && <NeedForm products={products} />}
        {!isLead && <Caution>A lead can add dishes and take them off.</Caution>}
      </section>
    </main>
  )
}

interface Product {
  value: string
  label: string
}

const productValue = ({ animal, product }: { animal: string; product: string }) => `${animal} ${product}`

/** Everything that some cut sheet brings, once, by animal. */
function productsOf(sheets: readonly CutSheet[]): Product[] {
  const products = new Map<string, string>()
  for (const { body, retired } of sheets) {
    for (const output of body.outputs) {
      const value = productValue({ animal: body.animal, product: output.key })
      if (!retired && output.role !== 'waste' && !products.has(value)) products.set(value, `${output.name} (${body.animal})`)
    }
  }
  return [...products].map(([value, label]) => ({ value, label })).sort((a, b) => a.label.localeCompare(b.label))
}

function NeedLine({ need, productName }: { need: DishNeed; productName: string }) {
  const { weight } = useUnits()
  const isLead = useHasRole('lead')
  const missing = need.need.tenths - need.collectedTenths
  const mark = (version: number, closed: boolean) => send<DishNeed>('POST', `/dish-needs/${need.id}/close`, { version, closed })
  const { change, trouble, busy } = useChange({
    send: () => mark(need.version, true),
    refresh: [dishNeedsQuery.queryKey],
    shown: { queryKey: dishNeedsQuery.queryKey, as: (known: DishNeed[]) => known.filter((one) => one.id !== need.id) },
    said: () => `${need.dish} is off the list.`,
    undo: ({ version }) => mark(version, false),
  })

  return (
    <li>
      <strong>{need.dish}</strong>
      <span>
        {weight(need.need.tenths)} {productName.toLowerCase()} by {dayText(need.dueOn)}
      </span>
      <span className={missing > 0 ? 'hot' : 'good'}>{missing > 0 ? `${weight(missing)} missing` : 'all there'}</span>
      {isLead && (
        <Button variant="plain" disabled={busy} onClick={() => change()} aria-label={`Take ${need.dish} off the list`}>
          Take off
        </Button>
      )}
      {trouble && <Warning>{trouble}</Warning>}
    </li>
  )
}

function NeedForm({ products }: { products: readonly Product[] }) {
  const { withUnit } = useUnits()
  const queryClient = useQueryClient()
  const [id, setId] = useState(newId)
  const { submit, field, message, busy } = useRequestForm({
    start: { dish: '', product: products[0]?.value ?? '', need: '', dueOn: today() },
    schema: dishNeedCreate,
    keepAs: 'dish',
    toRequest: ({ dish, product, need, dueOn }) => {
      const [animal, key] = product.split(' ')
      return { id, dish, animal, product: key, need: withUnit(need), dueOn }
    },
    send: (request) => send<DishNeed>('POST', '/dish-needs', request),
    next: (sent) => ({ ...sent, dish: '', need: '' }),
  })

  async function add(event: React.FormEvent) {
    event.preventDefault()
    if (!(await submit())) return
    setId(newId())
    await queryClient.invalidateQueries({ queryKey: dishNeedsQuery.queryKey })
  }

  return (
    <Form className="stack" onSubmit={add}>
      <h2>Add a dish</h2>
      <div className="fields">
        <TextField label="Dish" {...field('dish')} autoComplete="off" />
        <SelectField label="What it needs" {...field('product')} options={products} />
        <WeightField label="How much" {...field('need')} />
        <DateField label="By" {...field('dueOn')} />
      </div>
      {message && <Warning>{message}</Warning>}
      <Button type="submit" variant="act" disabled={busy}>
        Add the dish
      </Button>
    </Form>
  )
}
