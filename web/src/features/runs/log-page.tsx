import type { RunSummary, runSorts } from '@fleam/contract/runs'
import { useInfiniteQuery, useQuery } from '@tanstack/react-query'
import { lazy, Suspense, useMemo, useState } from 'react'
import Button from 'react-bootstrap/Button'
import { Link, useSearchParams } from 'react-router'
import { get } from '../../api/http.ts'
import { itemsQuery, peopleQuery, suppliersQuery, useHasRole } from '../../api/queries.ts'
import { type Column, DataTable } from '../../ui/data-table.tsx'
import { DateField } from '../../ui/date-field.tsx'
import { dayText } from '../../ui/days.ts'
import { SelectField } from '../../ui/fields.tsx'
import { Empty, Failed, Loading } from '../../ui/notes.tsx'
import { percentText, useUnits } from '../../ui/units.ts'
import { LogTabs } from '../yield-book/log-tabs.tsx'

const ImportRuns = lazy(() => import('./import-runs.tsx').then((module) => ({ default: module.ImportRuns })))

const filters = ['itemId', 'cookId', 'supplierId', 'from', 'to', 'sort'] as const
type Sort = (typeof runSorts)[number]

interface LogPage {
  entries: RunSummary[]
  nextCursor: string | null
}

const statusWords: Record<RunSummary['status'], string> = {
  open: 'still open',
  finished: '',
  'turned-away': 'turned away',
  discarded: 'discarded',
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
    // from the address, not from what is drawn: of two quick choices the second must not lose the first
    const next = new URLSearchParams(location.search)
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
            <a className="btn btn-plain" href={`/api/v1/runs.csv?${chosen}${chosen.size > 0 ? '&' : ''}names=no`}>
              CSV without names
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
        {runs.length > 0 && (
          <LogTable
            runs={runs}
            sort={(search.get('sort') ?? 'newest') as Sort}
            onSort={(sort) => set('sort', sort === 'newest' ? '' : sort)}
          />
        )}
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
      <DateField label="From" mayBeEmpty {...field('from')} />
      <DateField label="To" mayBeEmpty {...field('to')} />
    </div>
  )
}

const orderOf: Partial<Record<string, { first: Sort; second?: Sort }>> = {
  run: { first: 'newest', second: 'oldest' },
  main: { first: 'main-yield' },
  unaccounted: { first: 'unaccounted' },
  cost: { first: 'cost-per-kg' },
}

/** The log's rows; the server orders them, a tap on a heading says by what. */
function LogTable({ runs, sort, onSort }: { runs: RunSummary[]; sort: Sort; onSort: (sort: Sort) => void }) {
  const { weight, money, fromPerKg, perUnit } = useUnits()
  const columns = useMemo(
    (): Column<RunSummary>[] => [
      {
        id: 'run',
        heading: 'Run',
        kind: 'head',
        sortBy: (run) => run.startedAt,
        cell: (run) => (
          <>
            <Link to={`/runs/${run.id}`} aria-label={`Run ${run.number}, ${run.item.name}, ${dayText(run.startedAt)}`}>
              {run.number}
            </Link>
            <small>{dayText(run.startedAt)}</small>
          </>
        ),
      },
      {
        id: 'item',
        heading: 'Item and cut sheet',
        kind: 'words',
        cell: (run) => (
          <>
            {run.status === 'discarded' ? <s>{run.item.name}</s> : run.item.name}
            <small>
              {run.cutSheet.name}
              {run.status !== 'finished' && <mark>{statusWords[run.status]}</mark>}
              {run.leftOut && <mark>left out of the book</mark>}
              {run.defectCount > 0 && <mark>{run.defectCount} noted</mark>}
            </small>
          </>
        ),
      },
      {
        id: 'cook',
        heading: 'Cook and supplier',
        kind: 'words',
        mayHide: true,
        onlyWide: true,
        cell: (run) => (
          <>
            {run.cook.name}
            <small>{run.supplier?.name ?? '–'}</small>
          </>
        ),
      },
      { id: 'received', heading: 'Received', mayHide: true, onlyWide: true, cell: (run) => weight(run.received.tenths) },
      {
        id: 'main',
        heading: 'Main yield',
        sortBy: (run) => run.figures?.mainPct,
        cell: (run) => (run.figures ? <YieldMark pct={run.figures.mainPct} /> : '–'),
      },
      {
        id: 'unaccounted',
        heading: 'Unaccounted',
        mayHide: true,
        onlyWide: true,
        sortBy: (run) => run.figures?.unaccountedPct,
        cell: (run) => (run.figures ? percentText(run.figures.unaccountedPct) : '–'),
      },
      {
        id: 'cost',
        heading: `Cost / ${perUnit}`,
        mayHide: true,
        onlyWide: true,
        sortBy: (run) => run.figures?.costPerKg,
        cell: (run) => (run.figures?.costPerKg == null ? '–' : money(fromPerKg(run.figures.costPerKg))),
      },
      {
        id: 'portion',
        heading: 'A portion',
        mayHide: true,
        cell: (run) => (run.figures?.costPerPortion == null ? '–' : money(run.figures.costPerPortion)),
      },
    ],
    [weight, money, fromPerKg, perUnit],
  )
  const [id, asked] = Object.entries(orderOf).find(([, order]) => order?.first === sort || order?.second === sort) ?? []
  const isDescending = sort !== 'oldest' && sort !== 'cost-per-kg'
  return (
    <DataTable
      label="Runs"
      className="log"
      keepAs="log"
      columns={columns}
      rows={runs}
      rowKey={(run) => run.id}
      order={{
        sorting: id === undefined ? undefined : { id, isDescending },
        onSort: (next) => {
          const order = orderOf[next]
          if (order) onSort(next === id && asked?.first === sort ? (order.second ?? 'newest') : order.first)
        },
      }}
    />
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
