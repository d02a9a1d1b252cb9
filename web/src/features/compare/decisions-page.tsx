import type { Comparison } from '@fleam/contract/compare'
import { makeOrBuy } from '@fleam/core/compare/make-or-buy'
import { inputOfCase } from '@fleam/core/compare/portion-case'
import { type Verdict, verdictOf } from '@fleam/core/compare/verdict'
import { useQuery } from '@tanstack/react-query'
import { useMemo } from 'react'
import Button from 'react-bootstrap/Button'
import { Link } from 'react-router'
import { send } from '../../api/http.ts'
import { comparisonsQuery } from '../../api/queries.ts'
import { dayText } from '../../ui/days.ts'
import { Empty, Warning } from '../../ui/notes.tsx'
import { useUnits } from '../../ui/units.ts'
import { useChange } from '../../ui/use-change.ts'
import type { Drawn } from '../../workers/draw-worker.ts'
import { useDraws } from '../../workers/use-draws.ts'
import { linkTo } from './body-link.ts'
import { CompareTabs } from './compare-tabs.tsx'
import { SpreadStrip } from './cost-spread.tsx'
import { drawnPortion, firstBody, type OpenPortion, openPortion, type Sources } from './open-portion.ts'
import { WithSources } from './with-sources.tsx'
import { howSure, reasonOf, shortName, testsText, verdictNames } from './words.ts'

/** What the kitchen decides: everything it cuts, and whether cutting it beats buying it ready-cut today. */
export function Page() {
  return (
    <main className="page">
      <CompareTabs />
      <WithSources>{(sources) => <Decisions sources={sources} />}</WithSources>
      <Kept />
    </main>
  )
}

function Decisions({ sources }: { sources: Sources }) {
  const opened = useMemo(() => openAll(sources), [sources])
  const { answers, progress } = useDraws(opened.portions.flatMap(({ drawn }) => drawn ?? []))
  const cards = opened.portions
    .map((portion) => ({ ...portion, answer: answers?.[portion.drawn?.id ?? ''] }))
    .sort((a, b) => Math.abs(b.result.savingPerWeek ?? 0) - Math.abs(a.result.savingPerWeek ?? 0))
  return (
    <section className="sheet">
      <header className="result-head">
        <div>
          <h1>Cut here or buy ready-cut</h1>
          <p className="under-title">
            Today’s prices, the kitchen’s own tests, the same served weight; most money a week first, tax left out. The bar holds nine of
            ten draws of a portion cut here, the orange line is ready-cut.
          </p>
        </div>
        {progress !== undefined && (
          <span className="drawing" role="status">
            Drawing … {Math.round(progress * 100)} %
          </span>
        )}
      </header>
      {cards.length === 0 && (
        <Empty title="Nothing can be set side by side yet.">
          <p>
            It takes something bought whole with a price, cut by a sheet at least once, and a ready-cut item with a price that it is set
            against. <Link to="/kitchen/prices">Prices</Link> has both.
          </p>
        </Empty>
      )}
      <ul className="decisions">
        {cards.map((card) => (
          <Decision key={card.body.itemId} {...card} />
        ))}
      </ul>
      {opened.missing.length > 0 && (
        <details className="decisions-missing">
          <summary>Not set against anything: {opened.missing.length}</summary>
          <ul className="plain-list">
            {opened.missing.map(({ name, why }) => (
              <li key={name}>
                <b>{name}</b> {why}
              </li>
            ))}
          </ul>
        </details>
      )}
    </section>
  )
}

type Card = ReturnType<typeof openAll>['portions'][number] & { answer: Drawn | { refusal: string } | undefined }

function Decision({ open, body, result, answer }: Card) {
  const { money, grams } = useUnits()
  const drawn = answer && 'bins' in answer ? answer : undefined
  const probability = drawn?.probabilities[0]
  const verdict: Verdict | undefined = probability === undefined ? undefined : verdictOf(probability.onAverage)
  const share = open.portionCase.yieldExpected
  const { itemPrice } = result.breakEven
  const today = open.portionCase.price.amount
  return (
    <li>
      <Link to={linkTo(body)} className={`decision-card ${verdict ? `decision-${verdict}` : ''}`}>
        <span className="decision-what">
          <strong>
            {shortName(open.item.name)}: {open.name}, {grams(Math.round(open.portionCase.inputs.portionGrams ?? 0))}
          </strong>
          <small>
            {open.sheet.body.name}, {testsText(open.expected.tests)} · against {open.quotes[0]?.name}
          </small>
        </span>
        <span className="decision-verdict">
          <b>{verdict ? verdictNames[verdict] : answer && 'refusal' in answer ? answer.refusal : '…'}</b>
          <small>{verdict && probability !== undefined && howSure(verdict, probability, shortName(open.item.name))}</small>
        </span>
        <span className="decision-figures">
          <span>
            <small>cut here</small>
            <b>{money(result.make.costPerPortion)}</b>
          </span>
          <span>
            <small>ready-cut</small>
            <b>{money(result.buy.costPerPortion)}</b>
          </span>
          <span>
            <small>{(result.savingPerWeek ?? 0) >= 0 ? 'cutting saves a week' : 'cutting loses a week'}</small>
            <b className={(result.savingPerWeek ?? 0) >= 0 ? 'good' : 'hot'}>{money(Math.abs(result.savingPerWeek ?? 0))}</b>
          </span>
        </span>
        {drawn && <SpreadStrip drawn={drawn} cost={result.buy.costPerPortion} />}
        {verdict && drawn && (
          <span className="decision-why">
            {reasonOf({
              verdict,
              result,
              itemName: open.item.name,
              priceRisePct: itemPrice === null || today === 0 ? null : (itemPrice / today - 1) * 100,
              share,
              averageHalf: drawn.averageHalf,
              shares: undefined,
              money,
            })}
          </span>
        )}
      </Link>
    </li>
  )
}

/** Every item bought whole with its most tested portion, and why some of them cannot be compared. */
function openAll(sources: Sources) {
  const missing: { name: string; why: string }[] = []
  const portions = sources.items
    .filter((item) => item.kind === 'whole')
    .flatMap((item) => {
      const body = firstBody(sources, item)
      if (!body) {
        missing.push({ name: item.name, why: 'has not been cut by any sheet yet.' })
        return []
      }
      const open = openPortion(sources, body)
      if ('missing' in open) {
        missing.push({ name: item.name, why: open.missing })
        return []
      }
      const [quote] = open.quotes
      if (!quote) {
        missing.push({ name: item.name, why: 'is set against no ready-cut item that has a price.' })
        return []
      }
      const { inputs } = open.portionCase
      const result = makeOrBuy(inputOfCase(open.portionCase, inputs, quote.id, body.idleHands))
      return [{ open: open as OpenPortion, body, result, drawn: drawnPortion(open, inputs, body) }]
    })
  return { portions, missing }
}

/** Comparisons that were kept by name. */
function Kept() {
  const { data } = useQuery(comparisonsQuery)
  const mark = (id: string, version: number, dropped: boolean) => send<Comparison>('POST', `/comparisons/${id}/drop`, { version, dropped })
  const { change, trouble } = useChange({
    send: (one: Comparison) => mark(one.id, one.version, true),
    refresh: [comparisonsQuery.queryKey],
    shown: { queryKey: comparisonsQuery.queryKey, as: (known: Comparison[], { id }: Comparison) => known.filter((one) => one.id !== id) },
    said: ({ name }) => `${name} is off the list.`,
    undo: ({ id, version }) => mark(id, version, false),
  })
  if (!data || (data.length === 0 && !trouble)) return null
  return (
    <section className="sheet">
      <h2>Kept by name</h2>
      {trouble && <Warning>{trouble}</Warning>}
      <ul className="people">
        {data.map((one) => (
          <li key={one.id}>
            <Link to={`/compare/kept/${one.id}`}>
              <strong>{one.name}</strong>
            </Link>
            <small>
              {one.by} · {dayText(one.at)}
              {Object.keys(one.body.changed).length > 0 && ` · ${Object.keys(one.body.changed).length} inputs changed`}
            </small>
            <Button variant="plain" aria-label={`Take ${one.name} off the list`} onClick={() => change(one)}>
              Take off the list
            </Button>
          </li>
        ))}
      </ul>
    </section>
  )
}
