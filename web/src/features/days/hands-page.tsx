import { type DayBody, dayChange, type KitchenDay } from '@fleam/contract/day'
import { crewSkills, placeKinds, stepKinds } from '@fleam/core/day/day-jobs'
import { useQuery, useQueryClient } from '@tanstack/react-query'
import Button from 'react-bootstrap/Button'
import Form from 'react-bootstrap/Form'
import { useParams } from 'react-router'
import { send } from '../../api/http.ts'
import { newId } from '../../api/new-id.ts'
import { dayQuery, daysQuery, itemsQuery, peopleQuery, useHasRole } from '../../api/queries.ts'
import { dayText } from '../../ui/days.ts'
import { numberOf, numberOrNull, TextField } from '../../ui/fields.tsx'
import { Caution, Empty, Failed, Loading, Warning } from '../../ui/notes.tsx'
import { useRequestForm } from '../../ui/request-form.ts'
import { DayTabs } from './day-tabs.tsx'
import { type Column, Rows, type TypedRow } from './rows.tsx'
import './days.scss'

/** Who works, on what benches and in which pots, and how each dish is cooked. */
export function Page() {
  const { id = '' } = useParams()
  const { data, error, refetch } = useQuery(dayQuery(id))
  const people = useQuery(peopleQuery)
  const items = useQuery(itemsQuery)
  if (data && people.data && items.data) return <Hands key={data.version} day={data} people={people.data} items={items.data} />
  const failed = error ?? people.error ?? items.error
  return (
    <main className="page">
      <DayTabs id={id} />
      <section className="sheet">
        <h1>Who and where</h1>
        {failed ? <Failed error={failed} retry={refetch} /> : <Loading what="the day" />}
      </section>
    </main>
  )
}

interface Fields {
  crew: TypedRow[]
  places: TypedRow[]
  arrivals: TypedRow[]
  /** Steps by the id of their dish. */
  steps: Record<string, TypedRow[]>
  benchesPerSorter: string
  tubKg: string
  cleanDownMinutes: string
}

const skillNames: Record<(typeof crewSkills)[number], string> = { cut: 'cuts', sort: 'sorts', cook: 'cooks' }
const placeNames: Record<(typeof placeKinds)[number], string> = {
  bench: 'Bench',
  pot: 'Pot, litres',
  oven: 'Oven, trays',
  shelf: 'Cold shelf, kg',
}
const stepNames: Record<(typeof stepKinds)[number], string> = {
  dry: 'Dry (cold shelf)',
  salt: 'Salt (cold shelf)',
  bond: 'Bond and rest (cold shelf)',
  simmer: 'Simmer (pot)',
  roast: 'Roast (oven)',
  rest: 'Rest',
  finish: 'Carve, finish, plate',
}

const daysBeforeOptions = Array.from({ length: 8 }, (_, days) => ({
  value: String(days),
  label: days === 0 ? 'the day itself' : days === 1 ? 'the day before' : `${days} days before`,
}))

function fieldsOf(body: DayBody, wanted: readonly string[]): Fields {
  const text = (value: number | null) => (value === null ? '' : String(value))
  return {
    crew: body.crew.map(({ id, personId, name, daysBefore, from, to, skills }) => ({
      ...{ id, who: personId ?? '', name, daysBefore: String(daysBefore), from, to, skills: skills.join(' ') },
    })),
    places: body.places.map(({ id, name, kind, room }) => ({ id, name, kind, room: String(room) })),
    // everything that the dishes need comes some time
    arrivals: wanted.map((itemId) => {
      const { daysBefore = 1, at = '07:00', thawHours = 0, orderDays = 1 } = body.arrivals.find((one) => one.itemId === itemId) ?? {}
      return { id: itemId, daysBefore: String(daysBefore), at, thawHours: String(thawHours), orderDays: String(orderDays) }
    }),
    steps: Object.fromEntries(
      body.dishes.map(({ id, steps }) => [
        id,
        steps.map(({ kind, handsMinutes, waitMinutes, perRoom, pullAtC }) => ({
          ...{ id: newId(), kind, handsMinutes: text(handsMinutes), waitMinutes: text(waitMinutes) },
          ...{ perRoom: text(perRoom), pullAtC: text(pullAtC) },
        })),
      ]),
    ),
    ...{
      benchesPerSorter: text(body.benchesPerSorter),
      tubKg: text(body.tubKg),
      cleanDownMinutes: text(body.cleanDownMinutes),
    },
  }
}

function bodyOf(body: DayBody, fields: Fields, nameOf: (personId: string) => string): object {
  return {
    ...body,
    crew: fields.crew.map(({ id, who, name, daysBefore, from, to, skills }) => ({
      ...{ id, personId: who === '' ? null : who, name: who === '' ? name : nameOf(who ?? ''), daysBefore: Number(daysBefore), from, to },
      skills: (skills ?? '').split(' ').filter(Boolean),
    })),
    places: fields.places.map(({ id, name, kind, room }) => ({ id, name, kind, room: kind === 'bench' ? 1 : numberOf(room ?? '') })),
    arrivals: fields.arrivals.map(({ id, daysBefore, at, thawHours, orderDays }) => ({
      ...{ itemId: id, daysBefore: Number(daysBefore), at, thawHours: numberOf(thawHours ?? ''), orderDays: numberOf(orderDays ?? '') },
    })),
    dishes: body.dishes.map((dish) => ({
      ...dish,
      steps: (fields.steps[dish.id] ?? []).map(({ kind, handsMinutes, waitMinutes, perRoom, pullAtC }) => ({
        ...{ kind, handsMinutes: numberOf(handsMinutes ?? ''), waitMinutes: numberOf(waitMinutes ?? '') },
        ...{ perRoom: numberOrNull(perRoom ?? ''), pullAtC: numberOrNull(pullAtC ?? '') },
      })),
    })),
    ...{
      benchesPerSorter: numberOf(fields.benchesPerSorter),
      tubKg: numberOf(fields.tubKg),
      cleanDownMinutes: numberOf(fields.cleanDownMinutes),
    },
  }
}

interface HandsProps {
  day: KitchenDay
  people: readonly { id: string; name: string; active: boolean }[]
  items: readonly { id: string; name: string }[]
}

function Hands({ day, people, items }: HandsProps) {
  const isLead = useHasRole('lead')
  const queryClient = useQueryClient()
  const wanted = [...new Set([...day.body.dishes.map(({ itemId }) => itemId), ...day.body.arrivals.map(({ itemId }) => itemId)])]
  const nameOfItem = (id: string) => items.find((item) => item.id === id)?.name ?? 'something that is gone'
  const nameOfPerson = (id: string) => people.find((person) => person.id === id)?.name ?? ''
  const { submit, form, field, refusalOf, message, busy } = useRequestForm<Fields, KitchenDay>({
    start: fieldsOf(day.body, wanted),
    schema: dayChange,
    toRequest: (fields) => ({
      ...{ version: day.version, name: day.name, date: day.date },
      body: bodyOf(day.body, fields, nameOfPerson),
    }),
    send: (request) => send<KitchenDay>('PUT', `/days/${day.id}`, request),
  })
  const set =
    <Key extends 'crew' | 'places' | 'arrivals' | 'steps'>(key: Key) =>
    (value: Fields[Key]) =>
      form.setValue(key, value as never, { shouldDirty: true })
  const crewColumns: Column[] = [
    {
      ...{ key: 'who', label: 'Who', kind: 'select' },
      options: [
        ...people.filter(({ active }) => active).map(({ id, name }) => ({ value: id, label: name })),
        { value: '', label: 'Somebody else' },
      ],
    },
    { key: 'name', label: 'Called', kind: 'text', isFor: ({ who }) => who === '' },
    { key: 'daysBefore', label: 'On', kind: 'select', options: daysBeforeOptions },
    { key: 'from', label: 'From', kind: 'text' },
    { key: 'to', label: 'To', kind: 'text' },
    { key: 'skills', label: 'Can', kind: 'checks', options: crewSkills.map((value) => ({ value, label: skillNames[value] })) },
  ]
  const stepColumns: Column[] = [
    { key: 'kind', label: 'Step', kind: 'select', options: stepKinds.map((value) => ({ value, label: stepNames[value] })) },
    { key: 'handsMinutes', label: 'Hands, minutes', kind: 'number' },
    { key: 'waitMinutes', label: 'Then waits, minutes', kind: 'number' },
    { key: 'perRoom', label: 'Portions a tray, or kg a litre', kind: 'number', isFor: ({ kind }) => kind === 'roast' || kind === 'simmer' },
    {
      ...{ key: 'pullAtC', label: 'Take out at, °C in the core', kind: 'number' },
      isFor: ({ kind }) => kind === 'roast' || kind === 'simmer',
    },
  ]

  async function keep(event: React.FormEvent) {
    event.preventDefault()
    const kept = await submit()
    if (!kept) return
    queryClient.setQueryData(dayQuery(day.id).queryKey, kept)
    void queryClient.invalidateQueries({ queryKey: daysQuery.queryKey })
  }
  const steps = form.watch('steps')

  return (
    <main className="page">
      <DayTabs id={day.id} />
      <Form className="sheet stack day-form" onSubmit={keep}>
        <header>
          <h1>Who and where</h1>
          <p className="under-title">
            {day.name}, {dayText(day.date)}
          </p>
        </header>
        <fieldset disabled={!isLead} className="stack">
          <h2>Hands</h2>
          <Rows
            columns={crewColumns}
            rows={form.watch('crew')}
            onChange={set('crew')}
            refusalOf={(at, key) => refusalOf(`body.crew.${at}.${key}`)}
            nameOf={(row) => nameOfPerson(row.who ?? '') || row.name || 'this shift'}
            addLabel="Add a shift"
            newRow={() => ({ id: newId(), who: people[0]?.id ?? '', name: '', daysBefore: '0', from: '07:00', to: '15:00', skills: 'cut' })}
          />
          <h2>Benches, pots, ovens, shelves</h2>
          <Rows
            columns={[
              { key: 'name', label: 'Called', kind: 'text' },
              { key: 'kind', label: 'What', kind: 'select', options: placeKinds.map((value) => ({ value, label: placeNames[value] })) },
              { key: 'room', label: 'Takes', kind: 'number', isFor: ({ kind }) => kind !== 'bench' },
            ]}
            rows={form.watch('places')}
            onChange={set('places')}
            refusalOf={(at, key) => refusalOf(`body.places.${at}.${key}`)}
            nameOf={(row) => row.name || 'this place'}
            addLabel="Add a place"
            newRow={() => ({ id: newId(), name: '', kind: 'bench', room: '1' })}
          />
          <div className="fields">
            <TextField
              label="Clean-down of a bench, minutes"
              {...field('cleanDownMinutes')}
              error={refusalOf('body.cleanDownMinutes')}
              inputMode="numeric"
              hint="after raw poultry"
            />
            <TextField
              label="Benches for each sorter"
              {...field('benchesPerSorter')}
              error={refusalOf('body.benchesPerSorter')}
              inputMode="numeric"
              hint="0 where cutters pack"
            />
            <TextField label="A tub takes, kg" {...field('tubKg')} error={refusalOf('body.tubKg')} inputMode="decimal" />
          </div>
          <h2>What comes when</h2>
          {wanted.length === 0 && <p className="field-hint">Write the day’s dishes first: what they need stands here then.</p>}
          <Rows
            columns={[
              { key: 'name', label: 'What', kind: 'words' },
              { key: 'daysBefore', label: 'Comes', kind: 'select', options: daysBeforeOptions },
              { key: 'at', label: 'At', kind: 'text' },
              { key: 'thawHours', label: 'Thaws, hours', kind: 'number' },
              { key: 'orderDays', label: 'Ordered days ahead', kind: 'number' },
            ]}
            rows={form.watch('arrivals').map((row) => ({ ...row, name: nameOfItem(row.id) }))}
            onChange={set('arrivals')}
            refusalOf={(at, key) => refusalOf(`body.arrivals.${at}.${key}`)}
            nameOf={(row) => nameOfItem(row.id)}
            addLabel=""
            newRow={() => ({ id: newId() }) as TypedRow}
            isFixed
          />
          <h2>How each dish is cooked</h2>
          <p className="field-hint">A tray takes about 35 portions and a litre of pot 0.45 kg where nothing is written.</p>
          {day.body.dishes.length === 0 && <Empty title="No dish stands on this day yet." />}
          {day.body.dishes.map((dish, at) => (
            <div key={dish.id} className="arrival">
              <h3>
                {dish.name}
                <small> {day.body.services.find(({ id }) => id === dish.serviceId)?.name}</small>
              </h3>
              <Rows
                columns={stepColumns}
                rows={steps[dish.id] ?? []}
                onChange={(rows) => set('steps')({ ...steps, [dish.id]: rows })}
                refusalOf={(step, key) => refusalOf(`body.dishes.${at}.steps.${step}.${key}`)}
                nameOf={(row) => `${stepNames[row.kind as keyof typeof stepNames]} of ${dish.name}`}
                addLabel={`Add a step to ${dish.name}`}
                newRow={() => ({ id: newId(), kind: 'roast', handsMinutes: '10', waitMinutes: '30', perRoom: '', pullAtC: '' })}
              />
            </div>
          ))}
          <Caution>
            Temperatures are this house’s own and rise a few degrees at rest; breasts and legs reach theirs apart. Your food code comes
            first.
          </Caution>
          {message && <Warning>{message}</Warning>}
          {isLead && (
            <div className="actions">
              <Button type="submit" variant="act" disabled={busy || !form.formState.isDirty}>
                {form.formState.isDirty ? 'Keep who and where' : 'Kept'}
              </Button>
            </div>
          )}
        </fieldset>
      </Form>
    </main>
  )
}
