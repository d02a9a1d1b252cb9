import { type SecurityEvent, type Tablet, tabletCreate } from '@fleam/contract/people'
import { queryOptions, useInfiniteQuery, useQuery, useQueryClient } from '@tanstack/react-query'
import Button from 'react-bootstrap/Button'
import Form from 'react-bootstrap/Form'
import { get, send } from '../../api/http.ts'
import { newId } from '../../api/new-id.ts'
import { sessionQuery, useSession } from '../../api/queries.ts'
import { type Column, DataTable } from '../../ui/data-table.tsx'
import { momentText } from '../../ui/days.ts'
import { TextField } from '../../ui/fields.tsx'
import { Empty, Failed, Loading, Warning } from '../../ui/notes.tsx'
import { useRequestForm } from '../../ui/request-form.ts'
import { useChange } from '../../ui/use-change.ts'
import { KitchenTabs } from './kitchen-tabs.tsx'

const tabletsQuery = queryOptions({
  queryKey: ['tablets'],
  queryFn: async () => (await get<{ entries: Tablet[] }>('/tablets')).entries,
  staleTime: 0,
})

const eventsKey = ['security-events']
const changedByEnrolling = [tabletsQuery.queryKey, sessionQuery.queryKey, eventsKey]

/** The kitchen's own tablets, and who came in on them and elsewhere. */
export function Page() {
  return (
    <main className="page">
      <KitchenTabs />
      <Tablets />
      <Events />
    </main>
  )
}

function Tablets() {
  const tablets = useQuery(tabletsQuery)
  const { tablet } = useSession()
  const { change, busy, trouble } = useChange({
    send: (id: string) => send<void>('DELETE', `/tablets/${id}`),
    refresh: changedByEnrolling,
    said: () => 'That tablet is let go.',
  })
  return (
    <section className="sheet stack">
      <h1>Tablets</h1>
      <p className="field-hint">PINs open on these alone, and people are tapped on them rather than typed.</p>
      {!isSecureContext && (
        <Warning>
          This address is plain HTTP: the browser keeps no pages for such an address, so that without the network Fleam does not open here.
          How to have HTTPS stands in the README.
        </Warning>
      )}
      {tablets.isPending && <Loading what="the tablets" />}
      {tablets.error && <Failed error={tablets.error} retry={tablets.refetch} />}
      {trouble && <Warning>{trouble}</Warning>}
      {tablets.data?.length === 0 && <Empty title="No tablet is the kitchen’s own yet." />}
      <ul className="people">
        {tablets.data?.map((one) => (
          <li key={one.id}>
            <strong>{one.name}</strong>
            <span>
              {one.isThis && 'this one · '}last used {momentText(one.usedAt)} · enrolled by {one.by}
            </span>
            <Button variant="plain" disabled={busy} aria-label={`Let ${one.name} go`} onClick={() => change(one.id)}>
              Let it go
            </Button>
          </li>
        ))}
      </ul>
      {!tablet && <EnrolForm />}
    </section>
  )
}

function EnrolForm() {
  const queryClient = useQueryClient()
  const { submit, field, message, busy } = useRequestForm({
    start: { name: '', id: newId() },
    schema: tabletCreate,
    toRequest: (fields) => fields,
    send: (request) => send<Tablet>('POST', '/tablets', request),
    next: () => ({ name: '', id: newId() }),
  })
  async function enrol(event: React.FormEvent) {
    event.preventDefault()
    if (!(await submit())) return
    await Promise.all(changedByEnrolling.map((queryKey) => queryClient.invalidateQueries({ queryKey })))
  }
  return (
    <Form className="stack" onSubmit={enrol}>
      <h2>Make this device a tablet of the kitchen</h2>
      <div className="fields">
        <TextField label="What it is called" {...field('name')} hint="such as Fish bench" autoComplete="off" />
      </div>
      {message && <Warning>{message}</Warning>}
      <Button type="submit" variant="act" disabled={busy}>
        Enrol this device
      </Button>
    </Form>
  )
}

const columns: Column<SecurityEvent>[] = [
  { id: 'at', heading: 'When', kind: 'head', cell: ({ at }) => momentText(at) },
  { id: 'kind', heading: 'What', kind: 'words', cell: ({ kind, about }) => (about ? `${kind}: ${about}` : kind) },
  { id: 'by', heading: 'Who', kind: 'words', cell: ({ by }) => by ?? 'nobody known' },
  { id: 'address', heading: 'From', kind: 'words', cell: ({ address }) => address },
]

function Events() {
  const events = useInfiniteQuery({
    queryKey: eventsKey,
    queryFn: ({ pageParam }) =>
      get<{ entries: SecurityEvent[]; nextCursor: string | null }>(`/security-events?limit=25${pageParam ? `&cursor=${pageParam}` : ''}`),
    initialPageParam: '',
    getNextPageParam: (page) => page.nextCursor,
    staleTime: 0,
  })
  const entries = events.data?.pages.flatMap((page) => page.entries) ?? []
  return (
    <section className="sheet">
      <h2>Who came in, and what was taken out</h2>
      {events.isPending && <Loading what="who came in" />}
      {events.error && <Failed error={events.error} retry={events.refetch} />}
      {entries.length > 0 && <DataTable label="Who came in" columns={columns} rows={entries} rowKey={({ id }) => id} />}
      {events.hasNextPage && (
        <Button variant="plain" onClick={() => events.fetchNextPage()}>
          Earlier
        </Button>
      )}
    </section>
  )
}
