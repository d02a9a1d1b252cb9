import { type DayBody, type DayDish, dayChange, type KitchenDay } from '@fleam/contract/day'
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
import { numberOf, SelectField, TextField } from '../../ui/fields.tsx'
import { Failed, Loading, Warning } from '../../ui/notes.tsx'
import { useRequestForm } from '../../ui/request-form.ts'
import { DayCounts } from './day-counts.tsx'
import { DayPlan } from './day-plan.tsx'
import { DayTabs } from './day-tabs.tsx'
import { LeaveOut } from './rows.tsx'
import './days.scss'

/** One day: who eats and what, and the plan that follows. */
export function Page() {
  const { id = '' } = useParams()
  const { data, error, refetch } = useQuery(dayQuery(id))
  if (data) return <DayEditor key={data.version} day={data} />
  return <main className="page">{error ? <Failed error={error} retry={refetch} /> : <Loading what="the day" />}</main>
}

/** Numbers as they are typed. */
interface Fields {
  name: string
  date: string
  servicePct: string
  hours: string
  overtimeHours: string
  services: { id: string; name: string; at: string; guests: string; sdPct: string }[]
  dishes: {
    id: string
    serviceId: string
    name: string
    kind: DayDish['portions']['kind']
    amount: string
    of: string
    grams: string
    lossPct: string
    madeBy: string
  }[]
}

function fieldsOf({ name, date, body }: KitchenDay): Fields {
  return {
    ...{
      name,
      date,
      servicePct: String(body.servicePct),
      hours: String(body.minutesAvailable / 60),
      overtimeHours: String(body.overtimeMinutes / 60),
    },
    services: body.services.map((service) => ({ ...service, guests: String(service.guests), sdPct: String(service.sdPct) })),
    dishes: body.dishes.map(({ portions, itemId, outputKey, outputName, gramsPerPortion, lossPct, madeBy, steps: _steps, ...dish }) => ({
      ...dish,
      ...{
        kind: portions.kind,
        amount: String(portions.kind === 'counted' ? portions.count : portions.pct),
        of: [itemId, outputKey, outputName].join(':'),
      },
      ...{ grams: String(gramsPerPortion), lossPct: String(lossPct), madeBy: madeBy ?? '' },
    })),
  }
}

/** The body as typed; who works, and how each dish is cooked, is typed elsewhere and stays. */
function bodyOf(fields: Fields, held: DayBody['held'], known: DayBody): object {
  return {
    ...known,
    services: fields.services.map((service) => ({ ...service, guests: numberOf(service.guests), sdPct: numberOf(service.sdPct) })),
    dishes: fields.dishes.map(({ kind, amount, of, grams, lossPct, madeBy, ...dish }) => {
      const [itemId, outputKey, ...name] = of.split(':')
      const portions = kind === 'counted' ? { kind, count: numberOf(amount) } : { kind, pct: numberOf(amount) }
      return {
        ...dish,
        portions,
        itemId,
        outputKey,
        outputName: name.join(':'),
        gramsPerPortion: numberOf(grams),
        lossPct: numberOf(lossPct),
        madeBy: madeBy === '' ? null : madeBy,
        steps: known.dishes.find(({ id }) => id === dish.id)?.steps ?? [],
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
  const setServices = (next: Fields['services']) => form.setValue('services', next, { shouldDirty: true })
  const setDishes = (next: Fields['dishes']) => form.setValue('dishes', next, { shouldDirty: true })
  const changeService = (at: number, part: Partial<Fields['services'][number]>) =>
    setServices(services.map((service, index) => (index === at ? { ...service, ...part } : service)))
  const changeDish = (at: number, part: Partial<Fields['dishes'][number]>) =>
    setDishes(dishes.map((dish, index) => (index === at ? { ...dish, ...part } : dish)))

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
          <div className="day-rows" style={{ '--columns': 4 } as React.CSSProperties}>
            {services.map((service, at) => (
              <div key={service.id} className="day-row">
                <TextField
                  label="Service"
                  value={service.name}
                  onChange={(name) => changeService(at, { name })}
                  error={refusalOf(`body.services.${at}.name`)}
                />
                <TextField
                  label="At"
                  value={service.at}
                  onChange={(value) => changeService(at, { at: value })}
                  error={refusalOf(`body.services.${at}.at`)}
                />
                <TextField
                  label="Guests"
                  value={service.guests}
                  onChange={(guests) => changeService(at, { guests })}
                  error={refusalOf(`body.services.${at}.guests`)}
                  inputMode="numeric"
                />
                <TextField
                  label="May be off by, %"
                  value={service.sdPct}
                  onChange={(sdPct) => changeService(at, { sdPct })}
                  error={refusalOf(`body.services.${at}.sdPct`)}
                  inputMode="decimal"
                />
                <LeaveOut
                  name={service.name || 'this service'}
                  onClick={() => {
                    setServices(services.filter((_, index) => index !== at))
                    setDishes(dishes.filter(({ serviceId }) => serviceId !== service.id))
                  }}
                />
              </div>
            ))}
          </div>
          <Button
            variant="plain"
            className="add-row"
            onClick={() => setServices([...services, { id: newId(), name: 'Dinner', at: '19:00', guests: '40', sdPct: '5' }])}
          >
            Add a service
          </Button>
          <h2>Dishes</h2>
          <div className="day-rows dish-rows">
            {dishes.map((dish, at) => (
              <div key={dish.id} className="day-row">
                <SelectField
                  label="Service"
                  value={dish.serviceId}
                  onChange={(serviceId) => changeDish(at, { serviceId })}
                  options={services.map(({ id, name }) => ({ value: id, label: name }))}
                />
                <TextField
                  label="Dish"
                  value={dish.name}
                  onChange={(name) => changeDish(at, { name })}
                  error={refusalOf(`body.dishes.${at}.name`)}
                />
                <SelectField
                  label="Made of"
                  value={dish.of}
                  onChange={(of) => changeDish(at, { of })}
                  options={products}
                  error={refusalOf(`body.dishes.${at}.outputKey`) ?? refusalOf(`body.dishes.${at}.itemId`)}
                />
                <SelectField
                  label="Made by"
                  value={dish.madeBy}
                  onChange={(madeBy) => changeDish(at, { madeBy })}
                  options={makings}
                  error={refusalOf(`body.dishes.${at}.madeBy`)}
                />
                <TextField
                  label={dish.madeBy === '' ? 'Portion, g' : 'Portion, g or ml'}
                  value={dish.grams}
                  onChange={(grams) => changeDish(at, { grams })}
                  error={refusalOf(`body.dishes.${at}.gramsPerPortion`)}
                  inputMode="decimal"
                />
                <TextField
                  label="Pan loss, %"
                  value={dish.lossPct}
                  onChange={(lossPct) => changeDish(at, { lossPct })}
                  error={refusalOf(`body.dishes.${at}.lossPct`)}
                  inputMode="decimal"
                />
                <SelectField
                  label="Portions"
                  value={dish.kind}
                  onChange={(kind) => changeDish(at, { kind: kind as Fields['dishes'][number]['kind'] })}
                  options={[
                    { value: 'of-guests', label: '% of guests' },
                    { value: 'counted', label: 'counted' },
                  ]}
                />
                <TextField
                  label={dish.kind === 'counted' ? 'How many' : 'Take it, %'}
                  value={dish.amount}
                  onChange={(amount) => changeDish(at, { amount })}
                  error={refusalOf(`body.dishes.${at}.portions.${dish.kind === 'counted' ? 'count' : 'pct'}`)}
                  inputMode="numeric"
                />
                <LeaveOut name={dish.name || 'this dish'} onClick={() => setDishes(dishes.filter((_, index) => index !== at))} />
              </div>
            ))}
          </div>
          <Button
            variant="plain"
            className="add-row"
            disabled={services.length === 0 || products.length === 0}
            onClick={() =>
              setDishes([
                ...dishes,
                {
                  ...{ id: newId(), serviceId: services[0]?.id ?? '', name: '', kind: 'of-guests' as const, amount: '50' },
                  ...{ of: products[0]?.value ?? '', grams: '180', lossPct: '0', madeBy: '' },
                },
              ])
            }
          >
            Add a dish
          </Button>
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
