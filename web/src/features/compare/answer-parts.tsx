import type { Item } from '@fleam/contract/prices'
import type { MakeOrBuy } from '@fleam/core/compare/make-or-buy'
import { quoteInput, shareInput, valueInput } from '@fleam/core/compare/portion-case'
import type { Moved, TornadoBar } from '@fleam/core/compare/tornado'
import { ladderOf } from '@fleam/core/runs/cost-ladder'
import { memo } from 'react'
import { Ladder, ladderNames } from '../../ui/ladder.tsx'
import { Warning } from '../../ui/notes.tsx'
import { percentText, useUnits } from '../../ui/units.ts'
import type { OpenPortion } from './open-portion.ts'
import { Tornado } from './tornado.tsx'
import { shortName, turnsOf } from './words.ts'

export type Inputs = Readonly<Record<string, number>>

/** What a portion costs either way, and what that comes to in a week. */
export const Headlines = memo(function Headlines({ open, inputs, result }: { open: OpenPortion; inputs: Inputs; result: MakeOrBuy }) {
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

/** From the price of the item to what a portion carries. */
export const PortionLadder = memo(function PortionLadder({
  open,
  inputs,
  result,
}: {
  open: OpenPortion
  inputs: Inputs
  result: MakeOrBuy
}) {
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

/** At which price, yield or minutes the other way is the cheaper. */
export const WhereItTurns = memo(function WhereItTurns({
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

const movedNames: Record<Moved, string> = {
  'item-price': 'Price through the year',
  yield: 'Yield',
  minutes: 'Knife time',
  'item-weight': 'Weight of the item',
  'side-cuts': 'What comes off beside',
}

/** Which figure moves the cost most. */
export const WhatMovesIt = memo(function WhatMovesIt({ bars, now }: { bars: readonly TornadoBar[]; now: number }) {
  return (
    <>
      <h2>What moves it most</h2>
      <p className="field-hint">A portion’s cost with each at the low and the high end that eight of ten stay within</p>
      <Tornado bars={bars.map((bar) => ({ name: movedNames[bar.input], atLow: bar.atLow, atHigh: bar.atHigh }))} now={now} />
    </>
  )
})
