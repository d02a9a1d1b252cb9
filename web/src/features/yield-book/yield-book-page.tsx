import type { CutSheet } from '@fleam/contract/cut-sheets'
import type { Item } from '@fleam/contract/prices'
import type { YieldBookEntry, YieldTestRecord } from '@fleam/contract/yield-book'
import { groupBy } from '@fleam/core/group-by'
import { summarise } from '@fleam/core/statistics/sample'
import { type Expectation, expectation, type Prior, priorOfRange, priorOfShare } from '@fleam/core/yield-book/expectation'
import { expectShare } from '@fleam/core/yield-book/expected-share'
import { learnMinutes, sumMinutes } from '@fleam/core/yield-book/learning'
import { sumRuns, sumShares } from '@fleam/core/yield-book/share-sums'
import { shareTests, sinceChange } from '@fleam/core/yield-book/tested-cut'
import { type SeenTest, unusualShares, unusualTests } from '@fleam/core/yield-book/unusual-tests'
import { useQuery } from '@tanstack/react-query'
import { useMemo } from 'react'
import { Link, useSearchParams } from 'react-router'
import { cutSheetsQuery, itemsQuery, useKitchen, yieldBookQuery, yieldTestsQuery } from '../../api/queries.ts'
import { counted } from '../../ui/counted.ts'
import { dayText } from '../../ui/days.ts'
import { SelectField } from '../../ui/fields.tsx'
import { Empty, Failed, Loading, Word } from '../../ui/notes.tsx'
import { percentText } from '../../ui/units.ts'
import { LogTabs } from './log-tabs.tsx'
import { Narrowing } from './narrowing.tsx'

/** What the kitchen may expect of the next item, and how its tests have taught it. */
export function Page() {
  const [search, setSearch] = useSearchParams()
  const [book, items, sheets] = [useQuery(yieldBookQuery), useQuery(itemsQuery), useQuery(cutSheetsQuery)]
  const failed = [book, items, sheets].find((query) => query.error)
  const entries = [...(book.data ?? [])].sort((a, b) => b.tests - a.tests)
  const chosen = entries.find((entry) => `${entry.itemId} ${entry.cutSheetId}` === search.get('cut')) ?? entries[0]
  const item = items.data?.find((one) => one.id === chosen?.itemId)
  const sheet = sheets.data?.find((one) => one.id === chosen?.cutSheetId)
  const set = (changes: Record<string, string>) => {
    const next = new URLSearchParams(location.search)
    for (const [name, value] of Object.entries(changes)) value ? next.set(name, value) : next.delete(name)
    setSearch(next, { replace: true })
  }
  return (
    <main className="page">
      <LogTabs />
      {failed ? (
        <Failed error={failed.error} retry={failed.refetch} />
      ) : !book.data || !items.data || !sheets.data ? (
        <Loading what="the yield book" />
      ) : !chosen || !item || !sheet ? (
        <section className="sheet">
          <h1>Yield book</h1>
          <Empty title="The book is empty.">
            <p>
              Every finished run is a test. Until there is one, the <Link to="/cut-sheets">cut sheets</Link> say what to expect.
            </p>
          </Empty>
        </section>
      ) : (
        <Cut
          entry={chosen}
          item={item}
          sheet={sheet}
          choice={
            <SelectField
              label="Item and cut sheet"
              value={`${chosen.itemId} ${chosen.cutSheetId}`}
              options={entries.map((entry) => ({
                value: `${entry.itemId} ${entry.cutSheetId}`,
                label: `${items.data.find((one) => one.id === entry.itemId)?.name ?? ''}: ${sheets.data.find((one) => one.id === entry.cutSheetId)?.body.name ?? ''} (${entry.tests})`,
              }))}
              onChange={(cut) => set({ cut, supplier: '', cook: '', version: '' })}
            />
          }
          filter={{ supplier: search.get('supplier') ?? '', cook: search.get('cook') ?? '', version: search.get('version') ?? '' }}
          onFilter={(name, value) => set({ [name]: value })}
        />
      )}
    </main>
  )
}

type Filter = Record<'supplier' | 'cook' | 'version', string>

interface CutProps {
  entry: YieldBookEntry
  item: Item
  sheet: CutSheet
  choice: React.ReactNode
  filter: Filter
  onFilter: (name: keyof Filter, value: string) => void
}

function Cut({ entry, item, sheet, choice, filter, onFilter }: CutProps) {
  const { priorTests } = useKitchen().settings.cutting
  const itemsPerBatch = Math.max(1, Math.round(entry.itemsPerBatch))
  const all = useQuery(yieldTestsQuery(entry.itemId, entry.cutSheetId))
  const fitting = useMemo(() => (all.data ?? []).filter((test) => fits(test, filter)), [all.data, filter])
  const tests = useMemo(() => fitting.filter((test) => test.leftOut === null), [fitting])
  const isNarrowed = Object.values(filter).some((value) => value !== '')
  const changeAt = useMemo(() => placeOfChange(tests, isNarrowed ? undefined : entry.since), [tests, isNarrowed, entry.since])
  const changed = changeAt > 0 ? tests[changeAt] : undefined
  const rows = useMemo(() => rowsOf(sheet, tests, changeAt, itemsPerBatch, priorTests), [sheet, tests, changeAt, itemsPerBatch, priorTests])
  const unusual = rows.flatMap((row) =>
    row.seen.flatMap((one, at) => (one.isUnusual ? [{ row, one, test: row.tests[at] as YieldTestRecord }] : [])),
  )
  return (
    <>
      <section className="sheet">
        <h1>Yield book</h1>
        <p className="under-title">
          {item.name}: what to expect of the next one. The cut sheet’s range counts for {counted(priorTests, 'test')}; the kitchen’s own
          take over.
        </p>
        <div className="fields book-fields">
          {choice}
          {narrowings.map(({ name, label, every, of }) => (
            <SelectField
              key={name}
              label={label}
              value={filter[name]}
              options={[{ value: '', label: every }, ...namesOf(all.data, of)]}
              onChange={(value) => onFilter(name, value)}
            />
          ))}
        </div>
        {all.isPending && <Loading what="the tests" />}
        {all.error && <Failed error={all.error} retry={all.refetch} />}
        {all.data && (
          <>
            <p className="book-legend">
              Band: where nine of ten were expected, before each test. Line: the mean. <span className="legend-test">●</span> a test,{' '}
              <span className="legend-unusual">●</span> one outside 98 of 100.
            </p>
            {changed && (
              <Word>
                Something changed on {dayText(changed.startedAt)}: what came off since then is unlike what came off before. What is expected
                goes by the {counted(tests.length - changeAt, 'test')} since; the {changeAt} before stay in the log.
              </Word>
            )}
            <ul className="book">
              {rows.map((row) => (
                <BookRow key={row.name} row={row} />
              ))}
            </ul>
          </>
        )}
      </section>
      {all.data && (
        <section className="sheet">
          <LeftOut tests={fitting} />
          <h2>Unusual tests</h2>
          {unusual.length === 0 && <p>None of the {tests.length} fell outside what 98 of 100 should.</p>}
          <ul className="plain-list">
            {[...groupBy(unusual, ({ test }) => test).entries()]
              .sort(([a], [b]) => b.startedAt.localeCompare(a.startedAt))
              .map(([test, parts]) => (
                <li key={test.runId}>
                  <Link to={`/runs/${test.runId}`}>
                    Run {test.number}, {dayText(test.startedAt)}
                  </Link>
                  {parts.map(({ row, one }) => (
                    <span key={row.name} className="unusual-part">
                      {row.name} <b className="hot">{row.write(one.value)}</b> against {row.write(one.expected.low)} to{' '}
                      {row.write(one.expected.high)}
                    </span>
                  ))}
                  <small>
                    {test.cook.name}
                    {test.supplier && ` · ${test.supplier.name}`}
                    {test.defects.length > 0
                      ? ` · noted: ${test.defects.map((defect) => defect.note || defect.kind).join('; ')}`
                      : ' · nothing was noted of it'}
                  </small>
                </li>
              ))}
          </ul>
        </section>
      )}
    </>
  )
}

/** Runs that a lead left out of the book, and why. */
function LeftOut({ tests }: { tests: readonly YieldTestRecord[] }) {
  const leftOut = tests.filter((test) => test.leftOut !== null)
  if (leftOut.length === 0) return null
  return (
    <>
      <h2>Left out of the book</h2>
      <ul className="plain-list">
        {leftOut.map((test) => (
          <li key={test.runId}>
            <Link to={`/runs/${test.runId}`}>
              <s>
                Run {test.number}, {dayText(test.startedAt)}
              </s>
            </Link>{' '}
            {test.leftOut} <small>{test.cook.name}</small>
          </li>
        ))}
      </ul>
    </>
  )
}

/** Where the tests begin that are like what comes next: as the book's own sums have it, or as a choice of tests shows it. */
function placeOfChange(tests: readonly YieldTestRecord[], since: string | null | undefined): number {
  if (since === undefined) return tests.length - sinceChange(tests).length
  return since === null
    ? 0
    : Math.max(
        0,
        tests.findIndex((test) => test.startedAt >= since),
      )
}

const fits = (test: YieldTestRecord, { supplier, cook, version }: Filter) =>
  (supplier === '' || test.supplier?.id === supplier) &&
  (cook === '' || test.cook.id === cook) &&
  (version === '' || String(test.sheetNumber) === version)

const narrowings: readonly {
  name: keyof Filter
  label: string
  every: string
  of: (test: YieldTestRecord) => { id: string; name: string } | null
}[] = [
  { name: 'supplier', label: 'Supplier', every: 'every supplier', of: (test) => test.supplier },
  { name: 'cook', label: 'Cook', every: 'every cook', of: (test) => test.cook },
  {
    name: 'version',
    label: 'Version of the sheet',
    every: 'every version',
    of: ({ sheetNumber }) => ({ id: String(sheetNumber), name: `version ${sheetNumber}` }),
  },
]

function namesOf(tests: readonly YieldTestRecord[] | undefined, of: (typeof narrowings)[number]['of']) {
  const names = new Map((tests ?? []).flatMap((test) => of(test) ?? []).map(({ id, name }) => [id, name]))
  return [...names].map(([value, label]) => ({ value, label }))
}

interface Row {
  name: string
  note: string
  role: string | undefined
  prior: Prior
  tests: YieldTestRecord[]
  seen: SeenTest[]
  now: Expectation
  /** The average, as `write` takes it. */
  mean: number
  write: (value: number) => string
}

/**
 * Every output of the sheet, and the minutes, as a series of tests. Minutes are looked at as they are learnt: in logarithms,
 * each run put on the usual batch.
 */
function rowsOf({ body }: CutSheet, tests: readonly YieldTestRecord[], changeAt: number, itemsPerBatch: number, worth: number): Row[] {
  const rowOf = (
    named: Pick<Row, 'name' | 'note' | 'role' | 'write'>,
    range: { low: number; typical: number; high: number },
    figureOf: (test: YieldTestRecord) => number | undefined,
  ): Row => {
    const used = tests.filter((test) => figureOf(test) !== undefined)
    const values = used.map((test) => figureOf(test) as number)
    const prior = priorOfRange(range, worth)
    const now = expectation(prior, summarise(values))
    return { ...named, prior, tests: used, seen: unusualTests(prior, values), now, mean: now.mean }
  }
  const { slope } = learnMinutes(sumMinutes(tests.map(({ pieces, minutes }) => ({ items: pieces, minutes }))))
  const [low, high] = [Math.log(body.minutes.low), Math.log(body.minutes.high)]
  const minutes = rowOf(
    {
      name: itemsPerBatch === 1 ? 'Knife time an item' : `Knife time an item, ${itemsPerBatch} in one go`,
      note: `the sheet: ${body.minutes.low} – ${body.minutes.high} min`,
      role: undefined,
      write: (value) => `${Math.exp(value).toFixed(1)} min`,
    },
    { low, typical: (low + high) / 2, high },
    ({ minutes, pieces }) => (minutes ? Math.log(minutes / pieces) + slope * Math.log(itemsPerBatch / pieces) : undefined),
  )
  return [
    ...body.outputs.map(({ key, name, role, lowPct, typicalPct, highPct }): Row => {
      const used = tests.filter((test) => test.shares[key] !== undefined)
      const values = shareTests(used, key)
      const since = shareTests(tests.slice(changeAt), key)
      const before = values.length - since.length
      const prior = priorOfShare({ low: lowPct, typical: typicalPct, high: highPct }, worth)
      const now = expectShare(prior, sumShares(since), sumRuns(since), { items: 1 }, changeAt > 0)
      return {
        name,
        note: `the sheet: ${lowPct} – ${typicalPct} – ${highPct} %`,
        role,
        write: (value) => percentText(value),
        prior,
        tests: used,
        seen: unusualShares(prior, values, before),
        now,
        mean: now.mean,
      }
    }),
    { ...minutes, mean: minutes.now.mean + minutes.now.sd ** 2 / 2 },
  ]
}

function BookRow({ row }: { row: Row }) {
  const { now, mean, write } = row
  return (
    <li>
      <div>
        <strong>
          {row.role && <span className={`role-dot role-${row.role}`} />} {row.name}
        </strong>
        <small>
          {row.note} · {now.tests === 0 ? 'no test yet' : counted(now.tests, 'test')}
        </small>
      </div>
      <Narrowing name={row.name} seen={row.seen} now={now} write={write} />
      <div className="book-figures">
        <b>{write(mean)}</b>
        <small>
          nine of ten between {write(now.low)} and {write(now.high)}
        </small>
      </div>
    </li>
  )
}
