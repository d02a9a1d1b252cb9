import type { YieldTestRecord } from '@fleam/contract/yield-book'
import { type Interval, surenessOfRanking, testsToTell, type WhichContender } from '@fleam/core/contenders/which-contender'
import { labourCost } from '@fleam/core/quantities/labour'
import { summarise } from '@fleam/core/statistics/sample'
import { mainsOf, sinceChange } from '@fleam/core/yield-book/tested-cut'
import { useQuery } from '@tanstack/react-query'
import { useMemo } from 'react'
import Table from 'react-bootstrap/Table'
import { useSearchParams } from 'react-router'
import { claimsQuery, quotesQuery, yieldTestsQuery } from '../../api/queries.ts'
import { counted } from '../../ui/counted.ts'
import { dayText } from '../../ui/days.ts'
import { Choice, SelectField } from '../../ui/fields.tsx'
import { Empty, Failed, Loading, Warning, Word } from '../../ui/notes.tsx'
import { percentText, useUnits } from '../../ui/units.ts'
import { usePlan } from '../../workers/use-plan.ts'
import { CompareTabs } from './compare-tabs.tsx'
import { type ContenderKind, contenderKinds, contendersOf, mainsByMonth, type NamedContender } from './contenders.ts'
import { mainKeysOf, type Sources } from './open-portion.ts'
import './suppliers.scss'
import { lazyChart } from '../../ui/charts/lazy-chart.tsx'
import type { MonthsProps } from './months-chart.tsx'
import { WithSources } from './with-sources.tsx'

const Months = lazyChart<MonthsProps>(async () => (await import('./months-chart.tsx')).MonthsChart, 190)

const draws = 2000
const seed = 7
const quarterMs = 91 * 86_400_000

/** Which supplier is really cheaper: price, short weight, yield and work together, with what is not known of it. */
export function Page() {
  return (
    <main className="page">
      <CompareTabs />
      <WithSources>{(sources) => <Cuts sources={sources} />}</WithSources>
    </main>
  )
}

const kindWords: Record<ContenderKind, { label: string; one: string; many: string; delivery: string }> = {
  supplier: { label: 'Suppliers', one: 'supplier', many: 'suppliers', delivery: 'delivery' },
  cook: { label: 'Cooks', one: 'cook', many: 'cooks', delivery: 'run' },
  version: { label: 'Versions of the sheet', one: 'version', many: 'versions', delivery: 'run' },
}

function Cuts({ sources }: { sources: Sources }) {
  const [search, setSearch] = useSearchParams()
  const cuts = sources.book
    .flatMap((entry) => {
      const item = sources.items.find(({ id }) => id === entry.itemId)
      const sheet = sources.sheets.find(({ id }) => id === entry.cutSheetId)
      return item && sheet ? [{ entry, item, sheet, key: `${entry.itemId} ${entry.cutSheetId}` }] : []
    })
    .sort((a, b) => b.entry.tests - a.entry.tests)
  const chosen = cuts.find(({ key }) => key === search.get('cut')) ?? cuts[0]
  const kind = contenderKinds.find((one) => one === search.get('by')) ?? 'supplier'
  const set = (name: string, value: string) => {
    const next = new URLSearchParams(search)
    next.set(name, value)
    setSearch(next, { replace: true })
  }
  if (!chosen)
    return (
      <section className="sheet">
        <h1>Which supplier</h1>
        <Empty title="Nothing has been cut yet.">
          <p>Every finished run is a test of who it came from: price, short weight, yield and minutes together.</p>
        </Empty>
      </section>
    )
  return (
    <>
      <section className="sheet stack no-print">
        <SelectField
          label="Cut"
          value={chosen.key}
          onChange={(key) => set('cut', key)}
          options={cuts.map(({ key, item, sheet }) => ({ value: key, label: `${item.name}: ${sheet.body.name}` }))}
        />
        <Choice
          label="Between"
          value={kind}
          onChange={(value) => set('by', value)}
          options={contenderKinds.map((value) => ({ value, label: kindWords[value].label }))}
        />
      </section>
      <Compared key={`${chosen.key} ${kind}`} sources={sources} kind={kind} entry={chosen.entry} item={chosen.item} sheet={chosen.sheet} />
    </>
  )
}

type Cut = { entry: Sources['book'][number]; item: Sources['items'][number]; sheet: Sources['sheets'][number] }

function Compared({ sources, kind, entry, item, sheet }: { sources: Sources; kind: ContenderKind } & Cut) {
  const tests = useQuery(yieldTestsQuery(item.id, sheet.id))
  const quotes = useQuery(quotesQuery(item.id))
  const claims = useQuery(claimsQuery)
  const failed = [tests, quotes, claims].find(({ error }) => error)
  const mainKeys = mainKeysOf(sheet)
  const price = item.latestQuote?.price
  const contenders = useMemo(
    () =>
      tests.data && quotes.data && claims.data && price
        ? contendersOf({
            ...{ kind, price, mainKeys },
            tests: tests.data,
            quotes: quotes.data,
            claims: claims.data,
            itemGrams: entry.itemGrams.mean,
            worthOf: (key) => entry.outputs.find((output) => output.key === key)?.lastValuePerKg ?? 0,
          })
        : undefined,
    [tests.data, quotes.data, claims.data, price, kind, sheet, entry],
  )
  const { labour } = sources.settings
  const hourCost = labourCost({ minutes: 60, ...labour })
  const planned = usePlan('whichContender', contenders && { contenders, hourCost, draws, seed })
  if (failed) return <Failed error={failed.error} retry={failed.refetch} />
  if (!price) return <Empty title="It has no price yet." />
  if (!contenders || !tests.data) return <Loading what="the tests" />
  const isOld = planned.busy || !planned.answer
  return (
    <>
      <section className="sheet stack">
        <h1>
          {kindWords[kind].label}: {item.name}
        </h1>
        {planned.refusal && <Warning>{planned.refusal}</Warning>}
        {isOld ? (
          <Loading what="the draws" />
        ) : (
          planned.answer && <Answer kind={kind} answer={planned.answer} contenders={contenders} tests={tests.data} mainKeys={mainKeys} />
        )}
      </section>
      <Drift tests={tests.data.filter(({ leftOut }) => leftOut === null)} mainKeys={mainKeys} kind={kind} contenders={contenders} />
    </>
  )
}

interface AnswerProps {
  kind: ContenderKind
  answer: WhichContender
  contenders: readonly NamedContender[]
  tests: readonly YieldTestRecord[]
  mainKeys: readonly string[]
}

function Answer({ kind, answer, contenders, tests, mainKeys }: AnswerProps) {
  const { money, perUnit, fromPerKg } = useUnits()
  const words = kindWords[kind]
  const nameOf = new Map(contenders.map(({ id, name }) => [id, name]))
  const perWeight = (value: number) => money(fromPerKg(value))
  const { contenders: found, best, dearerPerKg } = answer
  const order = [...found.keys()].sort((a, b) => (found[a]?.costPerKg.mean ?? 0) - (found[b]?.costPerKg.mean ?? 0))
  const winner = found[best]
  const isSure = winner !== undefined && winner.cheapest >= surenessOfRanking
  const few = found.filter((one) => one.tests < 3).map((one) => nameOf.get(one.id))
  const interval = (of: Interval, write: (value: number) => string) => (
    <>
      <b>{write(of.mean)}</b>
      <small>
        {write(of.low)} – {write(of.high)}
      </small>
    </>
  )
  // below nine in ten nobody is put before another: names stand in their own order
  const rows = isSure
    ? order
    : [...order].sort((a, b) => (nameOf.get(found[a]?.id ?? '') ?? '').localeCompare(nameOf.get(found[b]?.id ?? '') ?? ''))
  return (
    <>
      {found.length < 2 ? (
        <Word>Only one {words.one} has been tested on this cut: there is nothing to set it against.</Word>
      ) : (
        <Word isGood={isSure}>{sentence()}</Word>
      )}
      {kind === 'supplier' && isSure && <Saved answer={answer} tests={tests} mainKeys={mainKeys} />}
      <div className="table-scroll">
        <Table className="contenders">
          <thead>
            <tr>
              <th scope="col">{words.label}</th>
              <th scope="col">tests</th>
              {kind === 'supplier' && <th scope="col">price, {perUnit}</th>}
              {kind === 'supplier' && <th scope="col">short weight</th>}
              <th scope="col">mains</th>
              <th scope="col">minutes, {perUnit}</th>
              <th scope="col">mains cost, {perUnit}</th>
              {isSure && <th scope="col">cheapest</th>}
            </tr>
          </thead>
          <tbody>
            {rows.map((at) => {
              const one = found[at]
              if (!one) return null
              return (
                <tr key={one.id}>
                  <th scope="row">{nameOf.get(one.id)}</th>
                  <td>{one.tests}</td>
                  {kind === 'supplier' && <td>{perWeight(contenders.find(({ id }) => id === one.id)?.pricePerKg ?? 0)}</td>}
                  {kind === 'supplier' && <td>{interval(one.shortPct, (value) => percentText(value))}</td>}
                  <td>{interval(one.mainPct, (value) => percentText(value))}</td>
                  <td>{interval(one.minutesPerKg, (value) => fromPerKg(value).toFixed(1))}</td>
                  <td>{interval(one.costPerKg, perWeight)}</td>
                  {isSure && <td>{sureness(one.cheapest)}</td>}
                </tr>
              )
            })}
          </tbody>
        </Table>
      </div>
      <p className="field-hint">
        Below each figure stands what nine in ten of what is likely lie between. By-products are credited at their last value, work at this
        kitchen’s wage.
        {few.length > 0 && ` ${few.join(', ')} ${few.length === 1 ? 'has' : 'have'} few tests: drawn toward the mean of all.`}
      </p>
    </>
  )

  function sentence(): string {
    if (!winner) return ''
    const name = nameOf.get(winner.id)
    const next = order.find((at) => at !== best)
    const dearer = next === undefined ? undefined : dearerPerKg[next]
    const rival = next === undefined ? undefined : found[next]
    if (!dearer || !rival) return ''
    if (isSure)
      return `${name}: mains cost ${perWeight(winner.costPerKg.mean)}, ${perWeight(dearer.mean)} less a ${perUnit} than with ${nameOf.get(rival.id)} (nine in ten: ${perWeight(dearer.low)} to ${perWeight(dearer.high)}). That it is the cheapest holds with ${sureness(winner.cheapest)}.`
    const sd = ((dearer.high - dearer.low) / 3.29) * Math.sqrt(1 / (1 / winner.tests + 1 / rival.tests))
    const more = testsToTell({ difference: dearer.mean, sd, tests: [winner.tests, rival.tests] })
    return `The ${words.many} cannot be told apart by their cost yet: the likeliest, ${name}, holds with ${sureness(winner.cheapest)}, and below ${percentText(surenessOfRanking * 100, 0)} there is no ranking. ${more === undefined ? 'They seem alike.' : `If they are as far apart as they seem, ${counted(more, words.delivery, words.delivery === 'delivery' ? 'deliveries' : 'runs')} more of each would tell.`}`
  }
}

/** Draws never show that something is certain. */
const sureness = (share: number) => (share > 0.99 ? 'over 99 %' : share < 0.01 ? 'under 1 %' : percentText(share * 100, 0))

/** What buying all of the last quarter from the cheapest would have saved. */
function Saved({ answer, tests, mainKeys }: { answer: WhichContender; tests: readonly YieldTestRecord[]; mainKeys: readonly string[] }) {
  const { money } = useUnits()
  const since = Date.now() - quarterMs
  const dearer = new Map(answer.contenders.map(({ id }, at) => [id, answer.dearerPerKg[at]?.mean ?? 0]))
  const saved = tests
    .filter((test) => new Date(test.startedAt).getTime() >= since)
    .reduce(
      (sum, test) => sum + (dearer.get(test.supplier?.id ?? '') ?? 0) * (test.receivedTenths / 10_000) * (mainsOf(test, mainKeys) / 100),
      0,
    )
  if (saved < 0.5) return null
  return (
    <p>
      Bought from there alone, the last quarter’s would have cost <b>{money(saved)}</b> less.
    </p>
  )
}

interface DriftProps {
  tests: readonly YieldTestRecord[]
  mainKeys: readonly string[]
  kind: ContenderKind
  contenders: readonly NamedContender[]
}

/** Mains by month, and since when something is another. */
function Drift({ tests, mainKeys, kind, contenders }: DriftProps) {
  const groups =
    kind === 'supplier'
      ? contenders.map(({ id, name }) => ({ name, own: tests.filter(({ supplier }) => (supplier?.id ?? '') === id) }))
      : [{ name: '', own: tests }]
  return (
    <section className="sheet">
      <h2>Mains by month</h2>
      {groups.map(({ name, own }) => {
        const since = sinceChange(own)
        const before = own.slice(0, own.length - since.length)
        const mean = (some: readonly YieldTestRecord[]) => summarise(some.map((test) => mainsOf(test, mainKeys))).mean
        const moved = before.length > 0 ? mean(since) - mean(before.slice(-since.length)) : 0
        return (
          <div key={name} className="drift">
            {name && <h3>{name}</h3>}
            {before.length > 0 && since[0] && (
              <Warning>
                Since {dayText(since[0].startedAt)} {Math.abs(moved).toFixed(1)} points {moved < 0 ? 'lower' : 'higher'}:{' '}
                {moved < 0 ? 'a silent change of trim, size or animal? Ask.' : 'something has changed for the better.'}
              </Warning>
            )}
            {own.length > 1 ? (
              <Months name={name || 'All'} months={mainsByMonth(own, mainKeys)} />
            ) : (
              <Empty title="One test says nothing of change." />
            )}
          </div>
        )
      })}
    </section>
  )
}
