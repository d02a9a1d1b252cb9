import type { ComparisonBody } from '@fleam/contract/comparisons'
import type { Item } from '@fleam/contract/prices'
import { type MakeOrBuy, makeOrBuy } from '@fleam/core/compare/make-or-buy'
import { inputOfCase, movedInputs, quoteInput, shareInput, valueInput, withSharesAlong } from '@fleam/core/compare/portion-case'
import { type Moved, type TornadoBar, tornado } from '@fleam/core/compare/tornado'
import { verdictOf } from '@fleam/core/compare/verdict'
import { InputError } from '@fleam/core/input-error'
import { ladderOf } from '@fleam/core/runs/cost-ladder'
import { memo, useMemo, useState } from 'react'
import Button from 'react-bootstrap/Button'
import { DataTable } from '../../ui/data-table.tsx'
import { CheckField } from '../../ui/fields.tsx'
import { Ladder, ladderNames } from '../../ui/ladder.tsx'
import { Warning } from '../../ui/notes.tsx'
import { percentText, useUnits } from '../../ui/units.ts'
import type { Drawn } from '../../workers/draw-worker.ts'
import { useDraws } from '../../workers/use-draws.ts'
import { CostSpread } from './cost-spread.tsx'
import { MenuPart } from './menu-part.tsx'
import { drawnPortion, draws, type OpenPortion } from './open-portion.ts'
import { Tornado } from './tornado.tsx'
import { WeekPart } from './week-part.tsx'
import { howSure, reasonOf, type Sureness, shortName, testsText, turnsOf, verdictNames } from './words.ts'

const movedNames: Record<Moved, string> = {
  'item-price': 'Price through the year',
  yield: 'Yield',
  minutes: 'Knife time',
  'item-weight': 'Weight of the item',
  'side-cuts': 'What comes off beside',
}

interface AnswerProps {
  open: OpenPortion
  /** The same with the mains of other kinds counted the other way, where there are any. */
  other: OpenPortion | undefined
  /** The kitchen's own inputs, and those changed put over them. */
  base: Inputs
  body: ComparisonBody
  name: string | undefined
  shares: readonly number[] | undefined
  year: { low: number; high: number } | undefined
  onChange: (change: Partial<ComparisonBody>) => void
  onInput: (name: string, value: number | undefined) => void
}

/** What a portion costs both ways, how sure that is, where it turns, and what it comes to in a week and on the menu. */
export const Answer = memo(function Answer({ open, other, base, body, name, shares, year, onChange, onInput }: AnswerProps) {
  const { money, grams, weightSystem } = useUnits()
  const { portionCase } = open
  const inputs = useMemo(() => withSharesAlong(portionCase, { ...base, ...body.changed }), [portionCase, base, body.changed])
  const results = useMemo(
    () => open.quotes.map((quote) => ({ quote, ...outcome(() => makeOrBuy(inputOfCase(portionCase, inputs, quote.id, body.idleHands))) })),
    [open.quotes, portionCase, inputs, body.idleHands],
  )
  const asked = useMemo(() => {
    const itemPrice = body.pricesMove ? year : undefined
    const { yieldPct: _ofThisWay, ...changed } = body.changed
    const drawn = sound(() => drawnPortion(open, inputs, body, itemPrice))
    const ofOther = other && sound(() => drawnPortion(other, { ...other.portionCase.inputs, ...changed }, body, itemPrice))
    return [drawn, ofOther && { ...ofOther, id: otherId }].filter((one) => one !== undefined)
  }, [open, other, inputs, body, year])
  const { answers, progress, isCancelled, cancel, again } = useDraws(asked)
  const answer = answers?.[asked[0]?.id ?? '']
  const spread = answer && 'bins' in answer ? answer : undefined
  const answerOfOther = answers?.[otherId]
  const outcomes = results.flatMap(({ quote, result }, at) => (result ? [{ quote, result, probability: spread?.probabilities[at] }] : []))
  const [chosenId, setChosenId] = useState<string>()
  const cheapest = [...outcomes].sort((a, b) => a.result.buy.costPerPortion - b.result.buy.costPerPortion)[0]
  const chosen = outcomes.find(({ quote }) => quote.id === chosenId) ?? cheapest
  const quoteId = chosen?.quote.id
  const bars = useMemo(() => {
    if (quoteId === undefined) return []
    const moves = () => tornado(inputOfCase(portionCase, inputs, quoteId, body.idleHands), movedInputs(portionCase, inputs, year))
    return outcome(moves).result ?? []
  }, [portionCase, inputs, quoteId, body.idleHands, year])
  const refusal = results.find(({ trouble }) => trouble)?.trouble
  const share = portionCase.yieldExpected
  const basis = testsText(open.expected.tests)
  const at = results.findIndex(({ quote }) => quote.id === quoteId)
  const ofOther = answerOfOther && 'bins' in answerOfOther ? answerOfOther.probabilities[at] : undefined
  const verdict = chosen?.probability === undefined ? undefined : verdictOf(chosen.probability.onAverage)

  return (
    <>
      <div className="result compare">
        <section className="sheet">
          <header className="result-head">
            <div>
              <h1>
                {name !== undefined && <span className="kept-name">{name}: </span>}
                {shortName(open.item.name)}: {open.name}, {grams(Math.round(inputs.portionGrams ?? 0))} on the plate
              </h1>
              <p className="under-title">
                {open.sheet.body.name}, {basis}
                {chosen && ` · against ${chosen.quote.name}`}
              </p>
            </div>
          </header>
          {refusal && <Warning>{refusal}</Warning>}
          {!inputs.ratePerHour && !body.idleHands && (
            <Warning>
              An hour’s wage is nothing: cutting looks cheaper than it is. A manager sets it under Kitchen, Units, labour, limits.
            </Warning>
          )}
          {open.unvalued.length > 0 && (
            <Warning>
              {open.unvalued.join(', ')}: nothing says what a {weightSystem === 'metric' ? 'kilo' : 'pound'} is worth, so the cost is
              carried by weight with these portions. Say it under Value in parts.
            </Warning>
          )}
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
                  quotes={outcomes.map(({ quote, result }) => ({
                    name: quote.name,
                    cost: result.buy.costPerPortion,
                    isChosen: quote.id === chosen.quote.id,
                  }))}
                />
              ) : (
                <div className="cost-spread-empty" />
              )}
              <div className="no-print">
                <CheckField
                  label={
                    year
                      ? `Let the price move as it did this year, ${money(year.low)} to ${money(year.high)}`
                      : 'The price had one quote only this year: it cannot be moved'
                  }
                  value={body.pricesMove}
                  isDisabled={!year}
                  onChange={(pricesMove) => onChange({ pricesMove })}
                />
              </div>
            </>
          )}
        </section>
        <div className="result-side">
          <section className="sheet">
            {chosen?.probability && verdict && spread && (
              <div className={`verdict verdict-${verdict}`}>
                {ofOther && verdictOf(ofOther.onAverage) !== verdict && (
                  <p>
                    {body.mains === 'credited'
                      ? 'With all mains carrying the cost together by weight'
                      : 'With the other mains credited at their value'}{' '}
                    the answer would be “{verdictNames[verdictOf(ofOther.onAverage)]}”.
                  </p>
                )}
                <b>
                  {verdictNames[verdict]}, {howSure(verdict, chosen.probability, shortName(open.item.name))}.
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
                  averageHalf: spread.averageHalf,
                  shares,
                  money,
                })}
              </div>
            )}
            {chosen && <WhereItTurns open={open} inputs={inputs} quote={chosen.quote} result={chosen.result} basis={basis} />}
            {chosen && <WhatMovesIt now={chosen.result.make.costPerPortion} bars={bars} />}
          </section>
        </div>
      </div>
      {outcomes.length > 1 && <QuoteTable sound={outcomes} chosenId={chosen?.quote.id} onChoose={setChosenId} />}
      <div className="compare-lower">
        {chosen && (
          <WeekPart inputs={inputs} open={open} result={chosen.result} quoteId={chosen.quote.id} body={body} onChange={onChange} />
        )}
        {chosen && (
          <MenuPart
            inputs={inputs}
            open={open}
            result={chosen.result}
            onChange={onInput}
            idleHands={body.idleHands}
            quoteId={chosen.quote.id}
          />
        )}
      </div>
    </>
  )
})

/** What the comparison's fields are called on this page. */
const inputNames: Record<string, string> = {
  'item.grams': 'Weight of an item',
  yieldPct: 'Yield of these portions',
  portionGrams: 'Served weight',
  overServedPct: 'Cut over that weight',
  lossPct: 'Lost in storage, and refused',
  'labour.itemsPerBatch': 'Items in a batch',
  'buy.portionGrams': 'Portion as quoted',
  'buy.trimPct': 'Trimmed off the ready-cut',
  'buy.portionsPerOrder': 'Portions an order',
}

/** What the draws of the other way of counting mains go by. */
const otherId = 'other mains'

/** What can be worked out; nothing where the figures are refused, which is said elsewhere. */
function sound<Result>(work: () => Result): Result | undefined {
  return outcome(work).result
}

function outcome<Result>(work: () => Result): { result?: Result; trouble?: string } {
  try {
    return { result: work() }
  } catch (error) {
    if (error instanceof InputError) return { trouble: `${inputNames[error.field] ?? error.field}: ${error.message}` }
    throw error
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
        <Button variant="plain" onClick={onCancel}>
          Stop
        </Button>
      </span>
    )
  }
  if (isCancelled) {
    return (
      <span className="drawing">
        Stopped.
        <Button variant="plain" onClick={onAgain}>
          Draw again
        </Button>
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

const Headlines = memo(function Headlines({ open, inputs, result }: { open: OpenPortion; inputs: Inputs; result: MakeOrBuy }) {
  const { money, grams } = useUnits()
  const saves = result.savingPerPortion >= 0
  const over = inputs.overServedPct ?? 0
  const week = result.savingPerWeek ?? 0
  return (
    <div className="headlines">
      <div className="headline">
        <span>Cut here</span>
        <b>{money(result.make.costPerPortion)}</b>
        <small>
          {(result.make.portionsPerItem * open.portionCase.portionShare).toFixed(1)} portions from{' '}
          {grams(Math.round(inputs.itemGrams ?? 0))} of {shortName(open.item.name).toLowerCase()}
          {Math.abs(over) >= 0.05 && `, each ${percentText(Math.abs(over))} ${over > 0 ? 'over' : 'under'} its weight`}
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
})

const PortionLadder = memo(function PortionLadder({ open, inputs, result }: { open: OpenPortion; inputs: Inputs; result: MakeOrBuy }) {
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
})

const WhereItTurns = memo(function WhereItTurns({
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
})

const WhatMovesIt = memo(function WhatMovesIt({ bars, now }: { bars: readonly TornadoBar[]; now: number }) {
  return (
    <>
      <h2>What moves it most</h2>
      <p className="field-hint">A portion’s cost with each at the low and the high end that eight of ten stay within</p>
      <Tornado bars={bars.map((bar) => ({ name: movedNames[bar.input], atLow: bar.atLow, atHigh: bar.atHigh }))} now={now} />
    </>
  )
})

interface SoundResult {
  quote: Item
  result: MakeOrBuy
  probability: Sureness | undefined
}

const QuoteTable = memo(function QuoteTable({
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
      <DataTable
        label="Every quote it stands against"
        columns={[
          { id: 'quote', heading: 'Ready-cut', kind: 'head', cell: ({ quote }) => quote.name },
          { id: 'quoted', heading: 'quoted', cell: ({ quote }) => quote.latestQuote && price(quote.latestQuote.price) },
          {
            id: 'portion',
            heading: 'a usable portion',
            sortBy: ({ result }) => result.buy.costPerPortion,
            cell: ({ result }) => money(result.buy.costPerPortion),
          },
          {
            id: 'saves',
            heading: 'cutting saves',
            sortBy: ({ result }) => result.savingPerPortion,
            cell: ({ result }) => <span className={result.savingPerPortion < 0 ? 'hot' : 'good'}>{money(result.savingPerPortion)}</span>,
          },
          { id: 'week', heading: 'a week', cell: ({ result }) => money(result.savingPerWeek ?? 0) },
          {
            id: 'sure',
            heading: 'cutting is cheaper on average',
            cell: ({ probability }) => (probability === undefined ? '…' : percentText(probability.onAverage * 100, 0)),
          },
          {
            id: 'show',
            heading: <span className="visually-hidden">Show it above</span>,
            cell: ({ quote }) => (
              <Button variant="plain" aria-pressed={quote.id === chosenId} onClick={() => onChoose(quote.id)}>
                {quote.id === chosenId ? 'Shown above' : 'Show above'}
              </Button>
            ),
          },
        ]}
        rows={sound}
        rowKey={({ quote }) => quote.id}
      />
    </section>
  )
})
