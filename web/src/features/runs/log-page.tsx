import type { RunSummary, runSorts } from '@fleam/contract/runs'
import { useInfiniteQuery, useQuery } from '@tanstack/react-query'
import { lazy, Suspense, useState } from 'react'
import Button from 'react-bootstrap/Button'
import { Link, useSearchParams } from 'react-router'
import { get } from '../../api/http.ts'
import { itemsQuery, peopleQuery, suppliersQuery, useHasRole } from '../../api/queries.ts'
import { SelectField, TextField } from '../../ui/fields.tsx'
import { Empty, Failed, Loading } from '../../ui/notes.tsx'
import { dayText, percentText, useUnits } from '../../ui/units.ts'
import { LogTabs } from '../yield-book/log-tabs.tsx'

const ImportRuns = lazy(() => import('./import-runs.tsx').then((module) => ({ default: module.ImportRuns })))

const filters = ['itemId', 'cookId', 'supplierId', 'from', 'to', 'sort'] as const
const sorts: Record<(typeof runSorts)[number], string> = {
  newest: 'newest first',
  oldest: 'oldest first',
  'main-yield': 'best main yield',
  'cost-per-kg': 'lowest cost per weight',
  unaccounted: 'most unaccounted',
}

interface LogPage {
  entries: RunSummary[]
  nextCursor: string | null
}

/** Every run that was cut, filtered and sorted, out as CSV or JSON and in as JSON. */
export function Page() {
  const [search, setSearch] = useSearchParams()
  const [importing, setImporting] = useState(false)
  const isManager = useHasRole('manager')
  const chosen = new URLSearchParams(filters.flatMap((name) => (search.get(name) ? [[name, search.get(name) ?? '']] : [])))
  const log = useInfiniteQuery({
    queryKey: ['runs', 'log', chosen.toString()],
    queryFn: ({ pageParam }) => get<LogPage>(`/runs?limit=50&${chosen}${pageParam ? `&cursor=${pageParam}` : ''}`),
    initialPageParam: '',
    getNextPageParam: (page) => page.nextCursor,
  })
  const set = (name: string, value: string) => {
    const next = new URLSearchParams(search)
    if (value) next.set(name, value)
    else next.delete(name)
    setSearch(next, { replace: true })
  }
  const runs = log.data?.pages.flatMap((page) => page.entries) ?? []
  return (
    <main className="page">
      <LogTabs />
      <section className="sheet">
        <header className="result-head">
          <h1>Yield log</h1>
          <div className="actions">
            <a className="btn btn-plain" href={`/api/v1/runs.csv?${chosen}`}>
              CSV
            </a>
            <a className="btn btn-plain" href={`/api/v1/runs.json?${chosen}`}>
              JSON
            </a>
            {isManager && (
              <Button variant="plain" onClick={() => setImporting(true)}>
                Import JSON
              </Button>
            )}
          </div>
        </header>
        <Filters value={(name) => search.get(name) ?? ''} set={set} />
        {log.isPending && <Loading what="the log" />}
        {log.error && <Failed error={log.error} retry={log.refetch} />}
        {log.data && runs.length === 0 && (
          <Empty title={chosen.size > 0 ? 'No run fits these filters.' : 'No runs yet.'}>
            {chosen.size > 0 ? (
              <Button variant="plain" onClick={() => setSearch({})}>
                Show all runs
              </Button>
            ) : (
              <Link to="/receive">Receive and weigh in the first</Link>
            )}
          </Empty>
        )}
        {runs.length > 0 && <LogTable runs={runs} />}
        {log.hasNextPage && (
          <Button variant="plain" disabled={log.isFetchingNextPage} onClick={() => log.fetchNextPage()}>
            {log.isFetchingNextPage ? 'Fetching …' : 'Earlier runs'}
          </Button>
        )}
      </section>
      <Suspense>{importing && <ImportRuns onClose={() => setImporting(false)} />}</Suspense>
    </main>
  )
}

function Filters({ value, set }: { value: (name: string) => string; set: (name: string, value: string) => void }) {
  const items = useQuery(itemsQuery)
  const people = useQuery(peopleQuery)
  const suppliers = useQuery(suppliersQuery)
  const options = (entries: readonly { id: string; name: string }[] | undefined, all: string) => [
    { value: '', label: all },
    ...(entries ?? []).map((entry) => ({ value: entry.id, label: entry.name })),
  ]
  const field = (name: string) => ({ value: value(name), onChange: (next: string) => set(name, next) })
  return (
    <div className="filters">
      <SelectField
        label="Item"
        {...field('itemId')}
        options={options(
          items.data?.filter((item) => item.kind === 'whole'),
          'all items',
        )}
      />
      <SelectField label="Cook" {...field('cookId')} options={options(people.data, 'all cooks')} />
      <SelectField label="Supplier" {...field('supplierId')} options={options(suppliers.data, 'all suppliers')} />
      <TextField label="From" type="date" {...field('from')} />
      <TextField label="To" type="date" {...field('to')} />
      <SelectField
        label="Order"
        value={value('sort') || 'newest'}
        onChange={(next) => set('sort', next === 'newest' ? '' : next)}
        options={Object.entries(sorts).map(([key, label]) => ({ value: key, label }))}
      />
    </div>
  )
}

function LogTable({ runs }: { runs: RunSummary[] }) {
  const { weight, money, fromPerKg, perUnit } = useUnits()
  return (
    // biome-ignore lint/a11y/noNoninteractiveTabindex: a region that scrolls must be reachable by keyboard
    <section className="table-scroll" aria-label="Runs" tabIndex={0}>
      <table className="figures log">
        <thead>
          <tr>
            <th>Run</th>
            <th>Item and cut sheet</th>
            <th>Cook</th>
            <th className="wide-only">Supplier</th>
            <th>Received</th>
            <th>Main yield</th>
            <th>Unacc.</th>
            <th>Cost / {perUnit}</th>
            <th>A portion</th>
          </tr>
        </thead>
        <tbody>
          {runs.map((run) => (
            <tr key={run.id}>
              <th scope="row">
                <Link to={`/runs/${run.id}`} aria-label={`Run ${run.number}, ${run.item.name}, ${dayText(run.startedAt)}`}>
                  {run.number}
                </Link>
                <small>{dayText(run.startedAt)}</small>
              </th>
              <td className="words">
                {run.item.name}
                <small>
                  {run.cutSheet.name}
                  {run.status !== 'finished' && <mark>{run.status === 'open' ? 'still open' : 'turned away'}</mark>}
                  {run.defectCount > 0 && <mark>{run.defectCount} noted</mark>}
                </small>
              </td>
              <td className="words">
                {run.cook.name}
                <small className="narrow-only">{run.supplier?.name}</small>
              </td>
              <td className="words wide-only">{run.supplier?.name ?? '–'}</td>
              <td>{weight(run.received.tenths)}</td>
              <td>{run.figures ? <YieldMark pct={run.figures.mainPct} /> : '–'}</td>
              <td>{run.figures ? percentText(run.figures.unaccountedPct) : '–'}</td>
              <td>{run.figures?.costPerKg == null ? '–' : money(fromPerKg(run.figures.costPerKg))}</td>
              <td>{run.figures?.costPerPortion == null ? '–' : money(run.figures.costPerPortion)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  )
}

function YieldMark({ pct }: { pct: number }) {
  return (
    <span className="yield-mark">
      <i style={{ width: `${Math.max(0, Math.min(100, pct))}%` }} />
      {percentText(pct)}
    </span>
  )
}
