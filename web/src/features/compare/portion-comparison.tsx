import type { Comparison, ComparisonBody } from '@fleam/contract/comparisons'
import type { Item } from '@fleam/contract/prices'
import { type MakeOrBuy, makeOrBuy } from '@fleam/core/compare/make-or-buy'
import { inputOfCase, movedInputs, quoteInput, shareInput, valueInput } from '@fleam/core/compare/portion-case'
import { type Moved, type TornadoBar, tornado } from '@fleam/core/compare/tornado'
import { verdictOf } from '@fleam/core/compare/verdict'
import { InputError } from '@fleam/core/input-error'
import { priceOfYear } from '@fleam/core/prices/price-of-year'
import { ladderOf } from '@fleam/core/runs/cost-ladder'
import { testedCutOf } from '@fleam/core/yield-book/tested-cut'
import { useQuery } from '@tanstack/react-query'
import { useCallback, useMemo, useRef, useState } from 'react'
import { quotesQuery, yieldTestsQuery } from '../../api/queries.ts'
import { Ladder, ladderNames } from '../../ui/ladder.tsx'
import { Warning } from '../../ui/notes.tsx'
import { percentText, today, useUnits } from '../../ui/units.ts'
import type { Drawn } from '../../workers/draw-worker.ts'
import { useDraws } from '../../workers/use-draws.ts'
import { ChoosePortion } from './choose-portion.tsx'
import { CompareTabs } from './compare-tabs.tsx'
import { CostSpread } from './cost-spread.tsx'
import { KeepComparison } from './keep-comparison.tsx'
import { MenuPart } from './menu-part.tsx'
import { drawnPortion, draws, type OpenPortion, openPortion, type Sources } from './open-portion.ts'
import { TryInput } from './try-input.tsx'
import { groupsOf } from './try-inputs.ts'
import { WeekPart } from './week-part.tsx'
import { howSure, reasonOf, shortName, testsText, turnsOf, verdictNames } from './words.ts'

interface Props {
  sources: Sources
  body: ComparisonBody
  kept?: Comparison | undefined
  onChange: (body: ComparisonBody) => void
}

/** One portion, cut here and bought, with everything that decides between them. */
export function PortionComparison({ sources, body, kept, onChange }: Props) {
  const tests = useQuery(yieldTestsQuery(body.itemId, body.cutSheetId))
  const quotes = useQuery(quotesQuery(body.itemId))
  const [isChoosing, setChoosing] = useState(body.readyCutIds.length === 0)
  const chosenTests = useMemo(
    () =>
      tests.data?.filter(
        (test) =>
          (body.supplierId === null || test.supplier?.id === body.supplierId) && (body.cookId === null || test.cook.id === body.cookId),
      ),
    [tests.data, body.supplierId, body.cookId],
  )
  const price = body.supplierId === null ? undefined : quotes.data?.find((quote) => quote.supplier?.id === body.supplierId)?.price
  const tested = useMemo(() => chosenTests && testedCutOf(chosenTests), [chosenTests])
  const open = useMemo(() => openPortion(sources, body, tested, price), [sources, body, tested, price])
  const choice = isChoosing && (
    <ChoosePortion sources={sources} body={body} tests={tests.data ?? []} onChange={onChange} onClose={() => setChoosing(false)} />
  )
  if ('missing' in open) {
    return (
      <section className="sheet">
        <Warning>{open.missing}</Warning>
        <button type="button" className="btn btn-plain" onClick={() => setChoosing(true)}>
          Compare something else
        </button>
        {choice}
      </section>
    )
  }
  const year = priceOfYear(
    (quotes.data ?? []).filter((quote) => body.supplierId === null || quote.supplier?.id === body.supplierId),
    open.portionCase.price,
    today(),
  )
  const shares = chosenTests?.flatMap((test) => test.shares[body.outputKey] ?? [])
  return (
    <>
      <Compared
        key={`${body.itemId} ${body.cutSheetId} ${body.outputKey}`}
        open={open}
        body={body}
        kept={kept}
        onChange={onChange}
        shares={shares}
        year={year}
        onChoose={() => setChoosing(true)}
      />
      {choice}
    </>
  )
}

const movedNames: Record<Moved, string> = {
  'item-price': 'Price through the year',
  yield: 'Yield',
  minutes: 'Knife time',
  'item-weight': 'Weight of the item',
  'side-cuts': 'What comes off beside',
}

interface ComparedProps {
  open: OpenPortion
  body: ComparisonBody
  kept: Comparison | undefined
  onChange: (body: ComparisonBody) => void
  shares: readonly number[] | undefined
  year: { low: number; high: number } | undefined
  onChoose: () => void
}

function Compared({ open, body, kept, onChange, shares, year, onChoose }: ComparedProps) {
  const units = useUnits()
  const { money, grams } = units
  const { portionCase } = open
  const base = useMemo(() => ({ ...portionCase.inputs, ...packsOf(open) }), [portionCase.inputs, open])
  const inputs = useMemo(() => ({ ...base, ...body.changed }), [base, body.changed])
  const results = open.quotes.map((quote) => ({
    quote,
    ...outcome(() => makeOrBuy(inputOfCase(portionCase, inputs, quote.id, body.idleHands))),
  }))
  const drawn = drawnPortion(open, inputs, body, body.pricesMove ? year : undefined)
  const { answers, progress, isCancelled, cancel, again } = useDraws(drawn ? [drawn] : [])
  const answer = answers?.[drawn?.id ?? '']
  const spread = answer && 'bins' in answer ? answer : undefined
  const sound = results.flatMap(({ quote, result }, at) => (result ? [{ quote, result, probability: spread?.probabilities[at] }] : []))
  const [chosenId, setChosenId] = useState<string>()
  const cheapest = [...sound].sort((a, b) => a.result.buy.costPerPortion - b.result.buy.costPerPortion)[0]
  const chosen = sound.find(({ quote }) => quote.id === chosenId) ?? cheapest
  const refusal = results.find(({ trouble }) => trouble)?.trouble
  const share = open.expected.shares.get(open.output.key)
  const latest = useRef({ body, onChange })
  latest.current = { body, onChange }
  const change = useCallback((name: string, value: number | undefined) => {
    const { [name]: _before, ...others } = latest.current.body.changed
    latest.current.onChange({ ...latest.current.body, changed: value === undefined ? others : { ...others, [name]: value } })
  }, [])
  const groups = useMemo(() => groupsOf(portionCase, open.quotes, base), [portionCase, open.quotes, base])
  const changedCount = Object.keys(body.changed).length
  const basis = testsText(open.expected.tests)
  const verdict = chosen?.probability === undefined ? undefined : verdictOf(chosen.probability)

  return (
    <>
      <div className="compare-bar">
        <CompareTabs />
        <div className="actions">
          <button type="button" className="btn btn-plain" onClick={onChoose}>
            What is compared
          </button>
          <KeepComparison body={body} kept={kept} suggestion={`${shortName(open.item.name)}, ${open.output.name.toLowerCase()}`} />
          <button type="button" className="btn btn-plain" onClick={() => print()}>
            Print
          </button>
        </div>
      </div>
      <div className="result compare">
        <section className="sheet">
          <header className="result-head">
            <div>
              <h1>
                {kept && <span className="kept-name">{kept.name}: </span>}
                {shortName(open.item.name)}: {open.output.name}, {grams(inputs.portionGrams ?? 0)} on the plate
              </h1>
              <p className="under-title">
                {open.sheet.body.name}, {basis}
                {chosen && ` · against ${chosen.quote.name}`}
              </p>
            </div>
          </header>
          {refusal && <Warning>{refusal}</Warning>}
          {!chosen && !refusal && <Warning>Nothing ready-cut stands against it yet: choose a quote under “What is compared”.</Warning>}
          {chosen && (
            <>
              <Headlines open={open} inputs={inputs} result={chosen.result} />
              <PortionLadder open={open} inputs={inputs} result={chosen.result} />
              <div className="spread-head">
                <h2>
                  Cost of a portion, {open.expected.tests > 0 ? `${basis} and ` : ''}
                  {draws.toLocaleString('en')} draws
                </h2>
                <DrawState spread={spread} progress={progress} isCancelled={isCancelled} onCancel={cancel} onAgain={again} />
              </div>
              {answer && 'refusal' in answer && <Warning>{answer.refusal}</Warning>}
              {spread ? (
                <CostSpread
                  drawn={spread}
                  quotes={sound.map(({ quote, result }) => ({
                    name: quote.name,
                    cost: result.buy.costPerPortion,
                    isChosen: quote.id === chosen.quote.id,
                  }))}
                />
              ) : (
                <div className="cost-spread-empty" />
              )}
              <label className="check no-print">
                <input
                  type="checkbox"
                  checked={body.pricesMove}
                  disabled={!year}
                  onChange={() => onChange({ ...body, pricesMove: !body.pricesMove })}
                />
                {year
                  ? `Let the price move as it did this year, ${money(year.low)} to ${money(year.high)}`
                  : 'The price had one quote only this year: it cannot be moved'}
              </label>
            </>
          )}
        </section>
        <div className="result-side">
          <section className="sheet">
            {chosen && verdict && share && (
              <div className={`verdict verdict-${verdict}`}>
                <b>
                  {verdictNames[verdict]}, {howSure(verdict, chosen.probability ?? 0)}.
                </b>{' '}
                {reasonOf({
                  verdict,
                  result: chosen.result,
                  itemName: open.item.name,
                  priceRisePct:
                    chosen.result.breakEven.itemPrice === null || !inputs.itemPrice
                      ? null
                      : (chosen.result.breakEven.itemPrice / inputs.itemPrice - 1) * 100,
                  share: { ...share, mean: inputs.yieldPct ?? share.mean },
                  shares,
                  money,
                })}
              </div>
            )}
            {chosen && <WhereItTurns open={open} inputs={inputs} quote={chosen.quote} result={chosen.result} basis={basis} />}
            {chosen && (
              <WhatMovesIt
                bars={
                  outcome(() =>
                    tornado(inputOfCase(portionCase, inputs, chosen.quote.id, body.idleHands), movedInputs(portionCase, inputs, year)),
                  ).result ?? []
                }
              />
            )}
          </section>
        </div>
      </div>
      {sound.length > 1 && <QuoteTable sound={sound} chosenId={chosen?.quote.id} onChoose={setChosenId} />}
      <div className="compare-lower">
        {chosen && (
          <WeekPart inputs={inputs} open={open} result={chosen.result} quoteId={chosen.quote.id} body={body} onChange={onChange} />
        )}
        {chosen && (
          <MenuPart
            inputs={inputs}
            open={open}
            result={chosen.result}
            onChange={change}
            idleHands={body.idleHands}
            quoteId={chosen.quote.id}
          />
        )}
      </div>
      <section className="sheet try-out">
        <header className="result-head">
          <div>
            <h2>Try it out</h2>
            <p className="under-title">
              {changedCount === 0
                ? 'Every figure is the kitchen’s own. Move a slider or type a figure: nothing is kept until you say so.'
                : `${changedCount} ${changedCount === 1 ? 'figure is' : 'figures are'} not the kitchen’s own.`}
            </p>
          </div>
          <div className="actions">
            <label className="check">
              <input type="checkbox" checked={body.idleHands} onChange={() => onChange({ ...body, idleHands: !body.idleHands })} />
              The hands are idle: their time costs nothing
            </label>
            {changedCount > 0 && (
              <button type="button" className="btn btn-plain" onClick={() => onChange({ ...body, changed: {} })}>
                Put all back
              </button>
            )}
          </div>
        </header>
        <Learned open={open} />
        {groups.map((group, at) => (
          <details key={group.title} open={at === 0}>
            <summary>
              {group.title}
              {group.inputs.some(({ name }) => name in body.changed) && <em> changed</em>}
            </summary>
            <div className="try-grid">
              {group.inputs.map((spec) => (
                <TryInput key={spec.name} spec={spec} base={base[spec.name] ?? 0} changed={body.changed[spec.name]} onChange={change} />
              ))}
            </div>
          </details>
        ))}
        <Byproducts body={body} onChange={onChange} />
      </section>
    </>
  )
}

function outcome<Result>(work: () => Result): { result?: Result; trouble?: string } {
  try {
    return { result: work() }
  } catch (error) {
    if (error instanceof InputError) return { trouble: error.message }
    throw error
  }
}

/** How the two sides come: in cases, boxes, or singly. */
function packsOf({ portionCase, quotes }: OpenPortion): Record<string, number> {
  return {
    makePerPack: portionCase.price.per === 'case' ? (portionCase.price.count ?? 1) : 1,
    makeMinimum: 0,
    buyPerPack: quotes[0]?.latestQuote?.price.count ?? 1,
    buyMinimum: 0,
    sidesCost: 0,
    menuPrice: 0,
    priceMovePct: 0,
  }
}

function DrawState({
  spread,
  progress,
  isCancelled,
  onCancel,
  onAgain,
}: {
  spread: Drawn | undefined
  progress: number | undefined
  isCancelled: boolean
  onCancel: () => void
  onAgain: () => void
}) {
  const { money } = useUnits()
  if (progress !== undefined) {
    return (
      <span className="drawing" role="status">
        Drawing … {Math.round(progress * 100)} %
        <button type="button" className="btn btn-plain" onClick={onCancel}>
          Stop
        </button>
      </span>
    )
  }
  if (isCancelled) {
    return (
      <span className="drawing">
        Stopped.
        <button type="button" className="btn btn-plain" onClick={onAgain}>
          Draw again
        </button>
      </span>
    )
  }
  return spread ? (
    <span className="drawing">
      middle 90 %: {money(spread.p5)} – {money(spread.p95)}
    </span>
  ) : null
}

type Inputs = Readonly<Record<string, number>>

function Headlines({ open, inputs, result }: { open: OpenPortion; inputs: Inputs; result: MakeOrBuy }) {
  const { money, grams } = useUnits()
  const saves = result.savingPerPortion >= 0
  const week = result.savingPerWeek ?? 0
  return (
    <div className="headlines">
      <div className="headline">
        <span>Cut here</span>
        <b>{money(result.make.costPerPortion)}</b>
        <small>
          {result.make.portionsPerItem.toFixed(1)} portions from {grams(Math.round(inputs.itemGrams ?? 0))} of{' '}
          {shortName(open.item.name).toLowerCase()}
        </small>
      </div>
      <div className="headline">
        <span>Ready-cut</span>
        <b>{money(result.buy.costPerPortion)}</b>
        <small>a usable portion of the same weight, fee and losses in</small>
      </div>
      <div className="headline">
        <span>{saves ? 'Cutting here saves' : 'Cutting here loses'}</span>
        <b className={saves ? 'good' : 'hot'}>{money(Math.abs(result.savingPerPortion))}</b>
        <small>
          a portion · {money(Math.abs(week))} a week at {inputs.portionsPerWeek}, {money(Math.abs(week) * 52)} a year
        </small>
      </div>
    </div>
  )
}

function PortionLadder({ open, inputs, result }: { open: OpenPortion; inputs: Inputs; result: MakeOrBuy }) {
  const { decimals } = useUnits()
  const { make } = result
  const minutes = (inputs.minutesPerItem ?? 0) + (inputs.setupMinutes ?? 0) / (inputs.itemsPerBatch ?? 1)
  const credits = open.portionCase.sideCuts.map((part) => ({
    part,
    amount: ((inputs[shareInput(part.key)] ?? 0) / 100) * ((inputs.itemGrams ?? 0) / 1000) * (inputs[valueInput(part.key)] ?? 0),
  }))
  const { steps, net } = ladderOf(
    [
      { kind: 'purchase', amount: make.purchase },
      { kind: 'labour', amount: make.labour },
      { kind: 'consumables', amount: make.consumables },
      { kind: 'disposal', amount: make.disposal },
      ...credits.map(({ part, amount }) => ({ kind: 'credit' as const, outputId: part.key, amount: -amount })),
    ],
    decimals,
  )
  const named = steps.map((step) => {
    const part = credits.find((credit) => credit.part.key === step.outputId)?.part
    if (step.kind === 'credit')
      return { ...step, name: `less ${part?.name ?? ''}`, role: part?.role === 'main' ? ('coproduct' as const) : part?.role }
    return { ...step, name: step.kind === 'labour' ? `Labour, ${minutes.toFixed(1)} min` : ladderNames[step.kind] }
  })
  return (
    <>
      <Ladder steps={named} net={net} netName="Left for the portions" />
      {net < 0 && <Warning>What comes off beside it is worth more than everything cost: the portions carry less than nothing.</Warning>}
    </>
  )
}

function WhereItTurns({
  open,
  inputs,
  quote,
  result,
  basis,
}: {
  open: OpenPortion
  inputs: Inputs
  quote: Item
  result: MakeOrBuy
  basis: string
}) {
  const { price } = useUnits()
  const buyPrice = quote.latestQuote?.price
  const turns = turnsOf({
    result,
    itemName: open.item.name,
    itemPrice: (amount) => price({ ...open.portionCase.price, amount }),
    buyPrice: (amount) => (buyPrice ? price({ ...buyPrice, amount }) : ''),
    today: {
      itemPrice: inputs.itemPrice ?? 0,
      buyPrice: inputs[quoteInput(quote.id, 'amount')] ?? 0,
      yieldPct: inputs.yieldPct ?? 0,
      minutes: inputs.minutesPerItem ?? 0,
    },
    basis,
  })
  return (
    <>
      <h2>Where the answer turns</h2>
      <p className="field-hint">Each alone, the rest as it stands</p>
      <ul className="turns">
        {turns.map((turn) => (
          <li key={turn.label}>
            <span>
              {turn.label}
              <small>{turn.today}</small>
            </span>
            <b>{turn.value}</b>
          </li>
        ))}
      </ul>
    </>
  )
}

function WhatMovesIt({ bars }: { bars: readonly TornadoBar[] }) {
  const { money } = useUnits()
  const ends = bars.flatMap((bar) => [bar.atLow, bar.atHigh])
  const [low, high] = [Math.min(...ends), Math.max(...ends)]
  const place = (value: number) => ((value - low) / Math.max(high - low, 1e-9)) * 100
  return (
    <>
      <h2>What moves it most</h2>
      <p className="field-hint">A portion’s cost with each at the low and the high end that eight of ten stay within</p>
      <ul className="tornado">
        {bars.map((bar) => {
          const [left, right] = [Math.min(bar.atLow, bar.atHigh), Math.max(bar.atLow, bar.atHigh)]
          return (
            <li key={bar.input}>
              <span>{movedNames[bar.input]}</span>
              <span className="tornado-track">
                <i style={{ left: `${place(left)}%`, width: `${Math.max(0.6, place(right) - place(left))}%` }} />
              </span>
              <small>
                {money(left)} – {money(right)}
              </small>
            </li>
          )
        })}
      </ul>
    </>
  )
}

interface SoundResult {
  quote: Item
  result: MakeOrBuy
  probability: number | undefined
}

function QuoteTable({
  sound,
  chosenId,
  onChoose,
}: {
  sound: readonly SoundResult[]
  chosenId: string | undefined
  onChoose: (id: string) => void
}) {
  const { money, price } = useUnits()
  return (
    <section className="sheet">
      <h2>Every quote it stands against</h2>
      <div className="table-scroll">
        <table className="figures">
          <thead>
            <tr>
              <th>Ready-cut</th>
              <th>quoted</th>
              <th>a usable portion</th>
              <th>cutting saves</th>
              <th>a week</th>
              <th>cutting is cheaper</th>
              <th aria-label="Show it above" />
            </tr>
          </thead>
          <tbody>
            {sound.map(({ quote, result, probability }) => (
              <tr key={quote.id}>
                <th>{quote.name}</th>
                <td>{quote.latestQuote && price(quote.latestQuote.price)}</td>
                <td>{money(result.buy.costPerPortion)}</td>
                <td className={result.savingPerPortion < 0 ? 'hot' : 'good'}>{money(result.savingPerPortion)}</td>
                <td>{money(result.savingPerWeek ?? 0)}</td>
                <td>{probability === undefined ? '…' : percentText(probability * 100, 0)}</td>
                <td>
                  <button type="button" className="btn btn-plain" aria-pressed={quote.id === chosenId} onClick={() => onChoose(quote.id)}>
                    {quote.id === chosenId ? 'Shown above' : 'Show above'}
                  </button>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </section>
  )
}

/** What the log says of minutes falling with the count. */
function Learned({ open }: { open: OpenPortion }) {
  const { measured, perDoubling } = open.expected.learning
  if (!measured) return <p className="field-hint">Minutes per item at another count: the log has too few different counts to learn from.</p>
  return (
    <p className="field-hint">
      {perDoubling < 1
        ? `Measured in ${measured.runs} runs: doing twice as many takes ${percentText((1 - perDoubling) * 100, 0)} off the minutes of each. The knife time is that of ${open.itemsPerBatch} in a batch.`
        : `Over ${measured.runs} runs the minutes of each do not fall with the count for certain: counted as the same.`}
    </p>
  )
}

const byproductNames = { market: 'At market price', own: 'At own value', nothing: 'At nothing' } as const

function Byproducts({ body, onChange }: { body: ComparisonBody; onChange: (body: ComparisonBody) => void }) {
  return (
    <fieldset className="byproducts">
      <legend>By-products count</legend>
      {Object.entries(byproductNames).map(([value, label]) => (
        <label key={value} className="check">
          <input
            type="radio"
            name="byproducts"
            checked={body.byproducts === value}
            onChange={() => onChange({ ...body, byproducts: value as ComparisonBody['byproducts'] })}
          />
          {label}
        </label>
      ))}
    </fieldset>
  )
}
