import type { ComparisonBody } from '@fleam/contract/compare'
import { makeOrBuy } from '@fleam/core/compare/make-or-buy'
import { inputOfCase, movedInputs, withSharesAlong } from '@fleam/core/compare/portion-case'
import { tornado } from '@fleam/core/compare/tornado'
import { verdictOf } from '@fleam/core/compare/verdict'
import { memo, useMemo, useState } from 'react'
import { CheckField } from '../../ui/fields.tsx'
import { Warning } from '../../ui/notes.tsx'
import { useUnits } from '../../ui/units.ts'
import { useDraws } from '../../workers/use-draws.ts'
import { Headlines, type Inputs, PortionLadder, WhatMovesIt, WhereItTurns } from './answer-parts.tsx'
import { CostSpread } from './cost-spread.tsx'
import { DrawState } from './draw-state.tsx'
import { MenuPart } from './menu-part.tsx'
import { drawnPortion, draws, type OpenPortion } from './open-portion.ts'
import { QuoteTable } from './quote-table.tsx'
import { outcome, sound } from './sound-result.ts'
import { WeekPart } from './week-part.tsx'
import { howSure, reasonOf, shortName, testsText, verdictNames } from './words.ts'

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

/** What the draws of the other way of counting mains go by. */
const otherId = 'other mains'
