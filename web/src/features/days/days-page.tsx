import type { KitchenDay } from '@fleam/contract/day'
import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import Button from 'react-bootstrap/Button'
import { Link, useNavigate } from 'react-router'
import { messageOf, send } from '../../api/http.ts'
import { newId } from '../../api/new-id.ts'
import { daysQuery, useHasRole } from '../../api/queries.ts'
import { counted } from '../../ui/counted.ts'
import { dayText, today } from '../../ui/days.ts'
import { Empty, Failed, Loading, Warning } from '../../ui/notes.tsx'
import { useChange } from '../../ui/use-change.ts'
import './days.scss'

/** A day that comes again is put on so many weeks at once. */
const weeksOn = 4

/** Days that are planned as a whole, the latest first. */
export function Page() {
  const { data, error, isPending, refetch } = useQuery(daysQuery)
  const isLead = useHasRole('lead')
  const queryClient = useQueryClient()
  const navigate = useNavigate()
  const [trouble, setTrouble] = useState<string>()
  const refresh = [daysQuery.queryKey]
  const drop = useChange<KitchenDay>({
    send: ({ id }) => send('POST', `/days/${id}/drop`, { dropped: true }),
    refresh,
    shown: { queryKey: daysQuery.queryKey, as: (known: KitchenDay[], { id }) => known.filter((day) => day.id !== id) },
    said: ({ name }) => `${name} is off the list.`,
    undo: (_answer, { id }) => send('POST', `/days/${id}/drop`, { dropped: false }),
  })

  const repeat = useChange<KitchenDay, { entries: KitchenDay[] }>({
    send: ({ id }) => send('POST', `/days/${id}/repeat`, { weeks: weeksOn }),
    refresh,
    said: ({ name }) => `${name} stands on the next ${weeksOn} weeks too.`,
    undo: ({ entries }) => Promise.all(entries.map(({ id }) => send('POST', `/days/${id}/drop`, { dropped: true }))),
  })

  /** A new day, empty or as a former one was, a week after it. */
  async function begin(from?: KitchenDay) {
    const id = newId()
    // who works and where is as it was last time
    const { crew = [], places = [], servicePct = 90, minutesAvailable = 480, overtimeMinutes = 0 } = data?.[0]?.body ?? {}
    const body = from
      ? copyOf(from.body)
      : { services: [], dishes: [], servicePct, minutesAvailable, overtimeMinutes, crew, places, held: {} }
    try {
      await send<KitchenDay>('POST', '/days', { id, name: from?.name ?? 'A new day', date: from ? weekAfter(from.date) : today(1), body })
      await queryClient.invalidateQueries({ queryKey: daysQuery.queryKey })
      navigate(`/days/${id}`)
    } catch (failed) {
      setTrouble(messageOf(failed))
    }
  }

  return (
    <main className="page">
      <section className="sheet stack">
        <header className="result-head">
          <div>
            <h1>Days</h1>
            <p className="under-title">Who eats, what, and from that what to buy and how to cut it.</p>
          </div>
          {isLead && (
            <Button variant="act" onClick={() => void begin()}>
              Plan a day
            </Button>
          )}
        </header>
        {trouble && <Warning>{trouble}</Warning>}
        {isPending && <Loading what="the days" />}
        {error && !data && <Failed error={error} retry={refetch} />}
        {data?.length === 0 && (
          <Empty title="No day is planned yet.">
            <p>
              Write down Saturday’s services with their guests and dishes; the plan says how many birds, from whom, and which way each is
              cut.
            </p>
          </Empty>
        )}
        <ul className="plain-list day-list">
          {data?.map((day) => (
            <li key={day.id}>
              <Link to={`/days/${day.id}`}>
                <strong>{day.name}</strong>
                <small>
                  {dayText(day.date)} · {counted(guestsOf(day), 'guest')} · {counted(day.body.dishes.length, 'dish', 'dishes')}
                </small>
              </Link>
              {isLead && (
                <span className="actions">
                  <Button variant="plain" onClick={() => void begin(day)} aria-label={`Copy ${day.name}, ${dayText(day.date)}`}>
                    Copy
                  </Button>
                  <Button
                    variant="plain"
                    disabled={repeat.busy}
                    onClick={() => void repeat.change(day)}
                    aria-label={`Repeat ${day.name}, ${dayText(day.date)} weekly`}
                  >
                    Every week, 4 weeks on
                  </Button>
                  <Button
                    variant="plain"
                    onClick={() => void drop.change(day)}
                    aria-label={`Take ${day.name}, ${dayText(day.date)} off the list`}
                  >
                    Take off
                  </Button>
                </span>
              )}
            </li>
          ))}
        </ul>
      </section>
    </main>
  )
}

const guestsOf = ({ body }: KitchenDay) => body.services.reduce((sum, { guests }) => sum + guests, 0)

/** The same services and dishes under ids of their own. */
function copyOf(body: KitchenDay['body']): KitchenDay['body'] {
  const ids = new Map(body.services.map(({ id }) => [id, newId()]))
  return {
    ...body,
    ...{ held: { way: {}, offer: {}, readyCut: {} }, heldJobs: {} },
    services: body.services.map((service) => ({ ...service, id: ids.get(service.id) ?? newId() })),
    dishes: body.dishes.map((dish) => ({ ...dish, id: newId(), serviceId: ids.get(dish.serviceId) ?? dish.serviceId })),
  }
}

function weekAfter(date: string): string {
  return new Date(Date.parse(`${date}T12:00:00Z`) + 7 * 86_400_000).toISOString().slice(0, 10)
}
