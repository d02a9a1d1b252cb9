import type { MakeOrBuy } from '@fleam/core/compare/make-or-buy'
import { furtherTests, sureFrom, type Verdict } from '@fleam/core/compare/verdict'
import { studentTQuantile } from '@fleam/core/statistics/student-t'
import type { Expectation } from '@fleam/core/yield-book/expectation'
import { counted } from '../../ui/counted.ts'
import { percentText } from '../../ui/units.ts'

export const verdictNames: Record<Verdict, string> = {
  'cut-here': 'Cut it here',
  buy: 'Buy it ready-cut',
  'too-close': 'Too close to call',
}

/** The short name of an item: what stands before the first comma. */
export const shortName = (name: string) => name.split(',')[0] ?? name

/** How sure an answer is: that cutting costs less, for the next item and on average. */
export interface Sureness {
  next: number
  onAverage: number
}

/** How sure the answer is on average, and how it stands with the next item, in words. `noun`: what the next item is called. */
export function howSure(verdict: Verdict, { next, onAverage }: Sureness, noun: string): string {
  const of10 = Math.round((verdict === 'buy' ? 1 - next : next) * 10)
  const nextOne = `the next ${noun.toLowerCase()}: ${of10}\u00a0of\u00a010`
  if (verdict === 'too-close') return `${Math.round(onAverage * 100)} % sure that cutting is cheaper on average; ${nextOne}`
  const sure = verdict === 'buy' ? 1 - onAverage : onAverage
  return `on average, sure to ${sure > 0.995 ? 'over 99' : Math.floor(sure * 100)} %; ${nextOne}`
}

/** Why the answer is what it is, as a cook would say it. `shares`: what the tests gave, where they are at hand. */
export function reasonOf(given: {
  verdict: Verdict
  result: MakeOrBuy
  itemName: string
  priceRisePct: number | null
  share: Expectation
  /** How far the average cost may lie from the truth: see `Drawn`. */
  averageHalf: number
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
    const tests = below === 0 ? `none of ${counted(shares.length, 'test')} fell` : `${below} of ${counted(shares.length, 'test')} fell`
    return `${rise ? `${rise}, and ` : ''}${tests} below the ${percentText(turn)} at which the answer turns.${noTests}`
  }
  if (verdict === 'buy') {
    if (turn === null) return `No yield would make cutting cheaper at these prices.${noTests}`
    const best =
      shares && shares.length > 0
        ? `the best of ${counted(shares.length, 'test')} gave ${percentText(Math.max(...shares))}`
        : `${percentText(share.mean)} is expected`
    return `Cutting would need a yield of ${percentText(turn)}; ${best}.${noTests}`
  }
  return `On average ${result.savingPerPortion >= 0 ? 'cutting' : 'buying'} is ${money(Math.abs(result.savingPerPortion))} a portion cheaper. ${settling(share, result.savingPerPortion, given.averageHalf)}${noTests}`
}

function settling({ weight, degreesOfFreedom }: Expectation, saving: number, averageHalf: number): string {
  const sd = averageHalf / studentTQuantile(sureFrom, degreesOfFreedom)
  const more = furtherTests({ mean: saving, sd, weight, degreesOfFreedom })
  if (more === null) return 'The two cost the same for all that can be known: choose by what is easier.'
  const atLeast = Math.max(1, more)
  return `About ${atLeast} more ${atLeast === 1 ? 'test' : 'tests'} like these would settle it.`
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
