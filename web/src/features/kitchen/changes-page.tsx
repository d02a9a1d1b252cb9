import type { AuditEntry } from '@fleam/contract/kitchen'
import { useInfiniteQuery } from '@tanstack/react-query'
import Button from 'react-bootstrap/Button'
import { Link } from 'react-router'
import { get } from '../../api/http.ts'
import { momentText } from '../../ui/days.ts'
import { Empty, Failed, Loading } from '../../ui/notes.tsx'
import { KitchenTabs } from './kitchen-tabs.tsx'

/** The audit trail: who changed what, and when. */
export function Page() {
  const trail = useInfiniteQuery({
    queryKey: ['audit-trail'],
    queryFn: ({ pageParam }) =>
      get<{ entries: AuditEntry[]; nextCursor: string | null }>(`/audit-trail?limit=50${pageParam ? `&cursor=${pageParam}` : ''}`),
    initialPageParam: '',
    getNextPageParam: (page) => page.nextCursor,
    staleTime: 0,
  })
  const entries = trail.data?.pages.flatMap((page) => page.entries) ?? []
  return (
    <main className="page">
      <KitchenTabs />
      <section className="sheet">
        <h1>What was changed</h1>
        {trail.isPending && <Loading what="the trail" />}
        {trail.error && <Failed error={trail.error} retry={trail.refetch} />}
        {trail.data && entries.length === 0 && <Empty title="Nothing has been changed yet." />}
        <ul className="trail">
          {entries.map((entry) => (
            <li key={entry.id}>
              <p>
                <strong>{entry.by}</strong> {entry.action} <Subject entry={entry} /> <small>{momentText(entry.at)}</small>
              </p>
              <Differences before={entry.before} after={entry.after} />
            </li>
          ))}
        </ul>
        {trail.hasNextPage && (
          <Button variant="plain" onClick={() => trail.fetchNextPage()}>
            Earlier changes
          </Button>
        )}
      </section>
    </main>
  )
}

function Subject({ entry }: { entry: AuditEntry }) {
  if (entry.subject === 'run' && entry.about) return <Link to={`/runs/${entry.subjectId}`}>{entry.about}</Link>
  const kind = subjectNames[entry.subject] ?? `a ${entry.subject}`
  return (
    <>
      {kind}
      {entry.about && `: ${entry.about}`}
    </>
  )
}

/** What a change was of, where “a” and its name would not read well. */
const subjectNames: Record<string, string> = {
  quote: 'a price',
  'way-of-cutting': 'what parts are worth',
  item: 'an item',
  'follow-on-sheet': 'a way of making',
  group: 'a group of students',
  exercise: 'an exercise',
}

function Differences({ before, after }: { before: unknown; after: unknown }) {
  const was = flatten(before)
  const is = flatten(after)
  const keys = [...new Set([...was.keys(), ...is.keys()])].filter(
    (key) => was.get(key) !== is.get(key) && !/(^|\.)(id|version|at|itemId|supplierId)$/i.test(key),
  )
  return (
    <dl className="differences">
      {keys.slice(0, 12).map((key) => (
        <div key={key}>
          <dt>{wordsOf(key)}</dt>
          <dd>{was.has(key) && is.has(key) ? `${was.get(key)} → ${is.get(key)}` : (is.get(key) ?? `was ${was.get(key)}`)}</dd>
        </div>
      ))}
    </dl>
  )
}

/** The path of a value as words: `settings.labour.ratePerHour` is “labour: rate per hour”. */
function wordsOf(path: string): string {
  return path
    .replace(/^settings\./, '')
    .split('.')
    .map((part) => part.replace(/([a-z])([A-Z])/g, (_, a, b) => `${a} ${b.toLowerCase()}`))
    .join(': ')
}

function flatten(value: unknown, path = '', into = new Map<string, string>()): Map<string, string> {
  if (value !== null && typeof value === 'object') {
    for (const [key, inner] of Object.entries(value)) flatten(inner, path ? `${path}.${key}` : key, into)
  } else if (value !== null && value !== undefined) into.set(path, String(value))
  return into
}
