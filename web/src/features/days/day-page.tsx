import { type DayBody, dayChange, type KitchenDay } from '@fleam/contract/day'
import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import Button from 'react-bootstrap/Button'
import Form from 'react-bootstrap/Form'
import { Link, useParams } from 'react-router'
import { send } from '../../api/http.ts'
import { newId } from '../../api/new-id.ts'
import {
  cutSheetsQuery,
  dayQuery,
  daysQuery,
  followOnSheetsQuery,
  itemsQuery,
  useHasRole,
  waysQuery,
  yieldBookQuery,
} from '../../api/queries.ts'
import { DateField } from '../../ui/date-field.tsx'
import { numberOf, TextField } from '../../ui/fields.tsx'
import { Failed, Loading, Warning } from '../../ui/notes.tsx'
import { useRequestForm } from '../../ui/request-form.ts'
import { DayCounts } from './day-counts.tsx'
import { DayPlan } from './day-plan.tsx'
import { DayTabs } from './day-tabs.tsx'
import { type Column, Rows, type TypedRow } from './rows.tsx'
import './days.scss'

/** One day: who eats and what, and the plan that follows. */
export function Page() {
  const { id = '' } = useParams()
  const { data, error, refetch } = useQuery(dayQuery(id))
  if (data) return <DayEditor key={data.version} day={data} />
  return <main className="page">{error ? <Failed error={error} retry={refetch} /> : <Loading what="the day" />}</main>
}

const serviceColumns: Column[] = [
  { key: 'name', label: 'Service', kind: 'text' },
  { key: 'at', label: 'At', kind: 'text' },
  { key: 'guests', label: 'Guests', kind: 'number' },
  { key: 'sdPct', label: 'May be off by, %', kind: 'number' },
]
const portionKinds = [
  { value: 'of-guests', label: '% of guests' },
  { value: 'counted', label: 'counted' },
]

/** Numbers as they are typed. */
interface Fields {
  name: string
  date: string
  servicePct: string
  hours: string
  overtimeHours: string
  services: TypedRow[]
  dishes: TypedRow[]
}

function fieldsOf({ name, date, body }: KitchenDay): Fields {
  return {
    ...{ name, date, servicePct: String(body.servicePct), hours: String(body.minutesAvailable / 60) },
    overtimeHours: String(body.overtimeMinutes / 60),
    services: body.services.map((service) => ({ ...service, guests: String(service.guests), sdPct: String(service.sdPct) })),
    dishes: body.dishes.map(({ id, serviceId, name: dish, portions, itemId, outputKey, outputName, gramsPerPortion, lossPct, madeBy }) => ({
      ...{ id, serviceId, name: dish, kind: portions.kind, of: [itemId, outputKey, outputName].join(':'), madeBy: madeBy ?? '' },
      amount: String(portions.kind === 'counted' ? portions.count : portions.pct),
      ...{ grams: String(gramsPerPortion), lossPct: String(lossPct) },
    })),
  }
}

/** The body as typed; who works, and how each dish is cooked, is typed elsewhere and stays. */
function bodyOf(fields: Fields, held: DayBody['held'], known: DayBody): object {
  return {
    ...known,
    services: fields.services.map(({ guests = '', sdPct = '', ...service }) => ({
      ...service,
      ...{ guests: numberOf(guests), sdPct: numberOf(sdPct) },
    })),
    dishes: fields.dishes.map(({ id, serviceId, name, kind, amount = '', of = '', grams = '', lossPct = '', madeBy }) => {
      const [itemId, outputKey, ...outputName] = of.split(':')
      return {
        ...{ id, serviceId, name, itemId, outputKey, outputName: outputName.join(':') },
        portions: kind === 'counted' ? { kind, count: numberOf(amount) } : { kind, pct: numberOf(amount) },
        ...{ gramsPerPortion: numberOf(grams), lossPct: numberOf(lossPct), madeBy: madeBy || null },
        steps: known.dishes.find((dish) => dish.id === id)?.steps ?? [],
      }
    }),
    servicePct: numberOf(fields.servicePct),
    minutesAvailable: numberOf(fields.hours) * 60,
    overtimeMinutes: numberOf(fields.overtimeHours) * 60,
    held,
  }
}

function DayEditor({ day }: { day: KitchenDay }) {
  const isLead = useHasRole('lead')
  const queryClient = useQueryClient()
  const [held, setHeld] = useState(day.body.held)
  const [limits, setLimits] = useState(day.body.limits)
  const products = useProducts()
  const makings = useMakings()
  const { submit, form, field, refusalOf, message, busy } = useRequestForm<Fields, KitchenDay>({
    start: fieldsOf(day),
    schema: dayChange,
    toRequest: (fields) => ({
      version: day.version,
      name: fields.name,
      date: fields.date,
      body: bodyOf(fields, held, { ...day.body, limits }),
    }),
    send: (request) => send<KitchenDay>('PUT', `/days/${day.id}`, request),
  })
  const services = form.watch('services')
  const dishes = form.watch('dishes')
  const isChanged = form.formState.isDirty || held !== day.body.held || limits !== day.body.limits
  const dishColumns: Column[] = [
    { key: 'serviceId', label: 'Service', kind: 'select', options: services.map(({ id, name = '' }) => ({ value: id, label: name })) },
    { key: 'name', label: 'Dish', kind: 'text' },
    { key: 'of', label: 'Made of', kind: 'select', options: products },
    { key: 'madeBy', label: 'Made by', kind: 'select', options: makings },
    { key: 'grams', label: 'Portion, g or ml', kind: 'number' },
    { key: 'lossPct', label: 'Pan loss, %', kind: 'number' },
    { key: 'kind', label: 'Portions', kind: 'select', options: portionKinds },
    { key: 'amount', label: 'How many', kind: 'number' },
  ]
  /** Where the request has what a field of a dish holds. */
  const placesOf: Record<string, string[]> = {
    ...{ grams: ['gramsPerPortion'], of: ['outputKey', 'itemId'], amount: ['portions.count', 'portions.pct'] },
  }
  const dishRefusal = (at: number, key: string) =>
    (placesOf[key] ?? [key]).map((place) => refusalOf(`body.dishes.${at}.${place}`)).find((words) => words !== undefined)

  async function keep(event?: React.FormEvent) {
    event?.preventDefault()
    const kept = await submit()
    if (!kept) return
    queryClient.setQueryData(dayQuery(day.id).queryKey, kept)
    void queryClient.invalidateQueries({ queryKey: daysQuery.queryKey })
  }

  return (
    <main className="page">
      <DayTabs id={day.id} />
      <Form className="sheet stack day-form" onSubmit={keep}>
        <p className="under-title">
          <Link to="/days">All days</Link>
        </p>
        <h1>{day.name}</h1>
        <fieldset disabled={!isLead} className="stack">
          <div className="fields">
            <TextField label="Day" {...field('name')} />
            <DateField label="On" {...field('date')} />
            <TextField
              label="Enough, % of such days"
              value={form.watch('servicePct')}
              onChange={(value) => form.setValue('servicePct', value, { shouldDirty: true })}
              error={refusalOf('body.servicePct')}
              inputMode="decimal"
              hint="90 is nine in ten"
            />
            <TextField
              label="Hours of hands"
              {...field('hours')}
              error={refusalOf('body.minutesAvailable')}
              inputMode="decimal"
              hint="all cutters together"
            />
            <TextField
              label="Overtime, hours at most"
              {...field('overtimeHours')}
              error={refusalOf('body.overtimeMinutes')}
              inputMode="decimal"
            />
          </div>
          <h2>Services</h2>
          <Rows
            columns={serviceColumns}
            rows={services}
            onChange={(rows) => {
              form.setValue('services', rows, { shouldDirty: true })
              // the dishes of a service that is left out go with it
              const left = dishes.filter(({ serviceId }) => rows.some(({ id }) => id === serviceId))
              if (left.length < dishes.length) form.setValue('dishes', left, { shouldDirty: true })
            }}
            refusalOf={(at, key) => refusalOf(`body.services.${at}.${key}`)}
            nameOf={({ name }) => name || 'this service'}
            addLabel="Add a service"
            newRow={() => ({ id: newId(), name: 'Dinner', at: '19:00', guests: '40', sdPct: '5' })}
          />
          <h2>Dishes</h2>
          <Rows
            className="dish-rows"
            columns={dishColumns}
            rows={dishes}
            onChange={(rows) => form.setValue('dishes', rows, { shouldDirty: true })}
            refusalOf={dishRefusal}
            nameOf={({ name }) => name || 'this dish'}
            addLabel="Add a dish"
            canAdd={services.length > 0 && products.length > 0}
            newRow={() => ({
              ...{ id: newId(), serviceId: services[0]?.id ?? '', name: '', kind: 'of-guests', amount: '50' },
              ...{ of: products[0]?.value ?? '', grams: '180', lossPct: '0', madeBy: '' },
            })}
          />
          {message && <Warning>{message}</Warning>}
          {isLead && (
            <div className="actions">
              <Button type="submit" variant="act" disabled={busy || !isChanged}>
                {isChanged ? 'Keep the day' : 'Kept'}
              </Button>
            </div>
          )}
        </fieldset>
      </Form>
      {isLead && <DayCounts day={day} />}
      <DayPlan
        day={day}
        isChanged={isChanged}
        held={held}
        onHold={
          isLead
            ? (kind, id, count) => {
                const { [id]: _before, ...others } = held[kind]
                setHeld({ ...held, [kind]: count === null ? others : { ...others, [id]: count } })
              }
            : undefined
        }
        limits={limits}
        onLimit={isLead ? (offer, limit) => setLimits({ ...limits, [offer]: limit }) : undefined}
        onKeep={keep}
      />
    </main>
  )
}

/** Every output that the kitchen gets off something it buys whole, by what it is tested or looked at for. */
function useProducts(): { value: string; label: string }[] {
  const [items, sheets, book, ways] = [useQuery(itemsQuery), useQuery(cutSheetsQuery), useQuery(yieldBookQuery), useQuery(waysQuery)]
  const products = new Map<string, string>()
  for (const item of items.data ?? []) {
    if (item.kind !== 'whole') continue
    const known = new Set(
      [...(book.data ?? []), ...(ways.data ?? [])].filter(({ itemId }) => itemId === item.id).map(({ cutSheetId }) => cutSheetId),
    )
    for (const { id, body, retired } of sheets.data ?? []) {
      if (retired || !known.has(id)) continue
      for (const { key, name, role } of body.outputs)
        if (role !== 'waste') products.set([item.id, key, name].join(':'), `${name}, ${item.name}`)
    }
  }
  return [...products].map(([value, label]) => ({ value, label })).sort((a, b) => a.label.localeCompare(b.label))
}

/** The ways of making something of what was cut; first of all as it is. */
function useMakings(): { value: string; label: string }[] {
  const { data } = useQuery(followOnSheetsQuery)
  const ways = (data ?? []).filter(
    ({ isRetired, body }) => !isRetired && body.outputs.some(({ role, unit }) => role === 'main' && unit !== 'piece'),
  )
  return [{ value: '', label: 'as it is cut' }, ...ways.map(({ key, body }) => ({ value: key, label: body.name }))]
}
