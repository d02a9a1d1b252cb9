import type { MakeOrBuy } from '@fleam/core/compare/make-or-buy'
import { furtherTests, type Verdict } from '@fleam/core/compare/verdict'
import type { Expectation } from '@fleam/core/yield-book/expectation'
import { percentText } from '../../ui/units.ts'

export const verdictNames: Record<Verdict, string> = {
  'cut-here': 'Cut it here',
  buy: 'Buy it ready-cut',
  'too-close': 'Too close to call',
}

/** The short name of an item: what stands before the first comma. */
export const shortName = (name: string) => name.split(',')[0] ?? name

/** How sure the answer is, in words. */
export function howSure(verdict: Verdict, probability: number): string {
  const sure = verdict === 'buy' ? 1 - probability : probability
  if (verdict === 'too-close') return `cutting is cheaper in ${Math.round(probability * 100)} of 100 draws`
  return sure > 0.995 ? 'sure to over 99 %' : `sure to ${Math.floor(sure * 100)} %`
}

/** Why the answer is what it is, as a cook would say it. `shares`: what the tests gave, where they are at hand. */
export function reasonOf(given: {
  verdict: Verdict
  result: MakeOrBuy
  itemName: string
  priceRisePct: number | null
  share: Expectation
  shares: readonly number[] | undefined
  money: (amount: number) => string
}): string {
  const { verdict, result, itemName, share, shares, money } = given
  const turn = result.breakEven.yieldPct
  const noTests = share.tests === 0 ? ' There is no test of it yet: this rests on the cut sheet’s range.' : ''
  if (result.make.netCost < 0) return `What comes off beside it is worth more than everything costs: the portions come free.${noTests}`
  if (verdict === 'cut-here') {
    const rise =
      given.priceRisePct === null ? '' : `${shortName(itemName)} can rise ${Math.floor(given.priceRisePct)} % before ready-cut is cheaper`
    const below = turn === null ? undefined : shares?.filter((one) => one < turn).length
    if (turn === null || below === undefined || !shares)
      return `${rise || `Cutting saves ${money(result.savingPerPortion)} a portion`}.${noTests}`
    const tests = below === 0 ? `none of the ${shares.length} tests fell` : `${below} of the ${shares.length} tests fell`
    return `${rise ? `${rise}, and ` : ''}${tests} below the ${percentText(turn)} at which the answer turns.${noTests}`
  }
  if (verdict === 'buy') {
    if (turn === null) return `No yield would make cutting cheaper at these prices.${noTests}`
    const best =
      shares && shares.length > 0
        ? `the best of ${shares.length} tests gave ${percentText(Math.max(...shares))}`
        : `${percentText(share.mean)} is expected`
    return `Cutting would need a yield of ${percentText(turn)}; ${best}.${noTests}`
  }
  return `On average ${result.savingPerPortion >= 0 ? 'cutting' : 'buying'} is ${money(Math.abs(result.savingPerPortion))} a portion cheaper. ${settling(share, turn)}${noTests}`
}

function settling(share: Expectation, turn: number | null): string {
  if (turn === null) return 'No yield turns it; minutes and weight decide.'
  const more = furtherTests(share, turn)
  if (more === null) return 'The two cost the same for all that can be known: choose by what is easier.'
  if (more === 0) return 'The average yield is settled; one item just differs from the next by more than that.'
  return `About ${more} more ${more === 1 ? 'test' : 'tests'} would settle on which side of ${percentText(turn)} the average yield lies.`
}

export interface Turn {
  label: string
  /** Where it turns, written out; a sentence where nothing does. */
  value: string
  today: string
}

/** Where the answer turns, each input alone. */
export function turnsOf(given: {
  result: MakeOrBuy
  itemName: string
  itemPrice: (amount: number) => string
  buyPrice: (amount: number) => string
  today: { itemPrice: number; buyPrice: number; yieldPct: number; minutes: number }
  basis: string
}): Turn[] {
  const { result, today, basis } = given
  const { breakEven } = result
  const isCut = result.savingPerPortion >= 0
  const noun = shortName(given.itemName)
  const minutes = (value: number) => `${value < 10 ? value.toFixed(1) : Math.round(value)} min`
  return [
    turn(
      isCut ? `${noun} dearer than` : `${noun} cheaper than`,
      breakEven.itemPrice,
      given.itemPrice,
      `today ${given.itemPrice(today.itemPrice)}`,
    ),
    turn(
      isCut ? 'Ready-cut cheaper than' : 'Ready-cut dearer than',
      breakEven.buyPrice,
      given.buyPrice,
      `today ${given.buyPrice(today.buyPrice)}`,
    ),
    turn(isCut ? 'Yield under' : 'Yield over', breakEven.yieldPct, (pct) => percentText(pct), `${percentText(today.yieldPct)}, ${basis}`),
    turn(isCut ? 'Knife time over' : 'Knife time under', breakEven.minutesPerItem, minutes, `${minutes(today.minutes)} an item, ${basis}`),
  ]
}

function turn(label: string, value: number | null, write: (value: number) => string, today: string): Turn {
  return { label, value: value === null ? 'turns nothing' : write(value), today }
}

export const testsText = (tests: number) =>
  tests === 0 ? 'by the cut sheet, no test yet' : tests === 1 ? 'from 1 test' : `from ${tests} tests`
