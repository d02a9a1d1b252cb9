import type { Price } from '../quantities/price.ts'
import { type Expectation, predictiveQuantile } from '../yield-book/expectation.ts'
import type { ExpectedCut } from '../yield-book/expected-cut.ts'
import type { MakeOrBuyInput } from './make-or-buy.ts'
import type { ReadyCut } from './ready-cut.ts'
import type { MovedInput } from './tornado.ts'
import type { Spreads } from './uncertainty.ts'
import { type ByproductValue, type Part, valuePart } from './value-in-parts.ts'

/** The inputs of a comparison that a person may try out, by name, each a number. Those of a side cut or a quote carry its key. */
export type CaseInputs = Readonly<Record<string, number>>

/** What a portion is made of and set against, as the kitchen's own figures have it. */
export interface PortionCase {
  outputKey: string
  price: Price
  /** Everything else that is cut from the item. */
  sideCuts: readonly (Part & { name: string })[]
  quotes: readonly { id: string; readyCut: ReadyCut }[]
  inputs: CaseInputs
  expected: ExpectedCut
  /** What is expected of the yield that the portions come from. */
  yieldExpected: Expectation
}

/** How the mains beside the portion looked at count. */
export const mainsSharings = ['together', 'credited'] as const
export type MainsSharing = (typeof mainsSharings)[number]

export interface CaseOf {
  outputKey: string
  price: Price
  servedGrams: number
  /** Every output of the sheet but waste that this portion is not. */
  sideCuts: readonly (Omit<Part, 'pct'> & { name: string })[]
  wasteKeys: readonly string[]
  quotes: readonly { id: string; readyCut: ReadyCut }[]
  byproducts: ByproductValue
  /** Whether all mains carry the cost together by weight, or the others are credited at their value. */
  mains: MainsSharing
  expected: ExpectedCut
  labour: { setupMinutes: number; itemsPerBatch: number; ratePerHour: number; onCostPct: number }
  storageLossPct: number
  rejectedPct: number
  consumablesPerItem: number
  disposalPerKg: number
  portionsPerWeek: number
}

export const shareInput = (key: string) => `share ${key}`
export const valueInput = (key: string) => `value ${key}`
export const quoteInput = (id: string, what: 'amount' | 'trim' | 'loss' | 'fee' | 'order' | 'grams') => `quote ${id} ${what}`

/** The kitchen's own figures for a portion, as named inputs. */
export function openCase(given: CaseOf): PortionCase {
  const meanOf = (key: string) => given.expected.shares.get(key)?.mean ?? 0
  const isTogether = given.mains === 'together'
  const sideCuts = given.sideCuts
    .filter((part) => !(isTogether && part.role === 'main'))
    .map((part) => ({ ...part, pct: meanOf(part.key) }))
  const yieldExpected = isTogether ? given.expected.mains : (given.expected.shares.get(given.outputKey) as Expectation)
  const inputs: Record<string, number> = {
    itemGrams: given.expected.itemGrams.mean,
    itemPrice: given.price.amount,
    yieldPct: yieldExpected.mean,
    portionGrams: given.servedGrams,
    storageLossPct: given.storageLossPct,
    rejectedPct: given.rejectedPct,
    minutesPerItem: given.expected.minutesPerItem.mean,
    setupMinutes: given.labour.setupMinutes,
    itemsPerBatch: given.labour.itemsPerBatch,
    ratePerHour: given.labour.ratePerHour,
    onCostPct: given.labour.onCostPct,
    consumablesPerItem: given.consumablesPerItem,
    wastePct: given.wasteKeys.reduce((sum, key) => sum + meanOf(key), 0),
    disposalPerKg: given.disposalPerKg,
    portionsPerWeek: given.portionsPerWeek,
  }
  for (const part of sideCuts) {
    inputs[shareInput(part.key)] = part.pct
    inputs[valueInput(part.key)] = valuePart(part, given.byproducts).valuePerKg ?? 0
  }
  for (const { id, readyCut } of given.quotes) {
    inputs[quoteInput(id, 'amount')] = readyCut.price.amount
    inputs[quoteInput(id, 'grams')] = readyCut.portionGrams
    inputs[quoteInput(id, 'trim')] = readyCut.trimPct ?? 0
    inputs[quoteInput(id, 'loss')] = readyCut.lossPct ?? 0
    inputs[quoteInput(id, 'fee')] = readyCut.feePerOrder ?? 0
    inputs[quoteInput(id, 'order')] = readyCut.portionsPerOrder ?? 1
  }
  const { outputKey, price, quotes, expected } = given
  return { outputKey, price, sideCuts, quotes, inputs, expected, yieldExpected }
}

/** The quote of a case with its inputs, in the form that the comparison takes. */
export function quoteOf({ quotes }: PortionCase, inputs: CaseInputs, id: string): ReadyCut {
  const { readyCut } = quotes.find((quote) => quote.id === id) as PortionCase['quotes'][number]
  const read = (what: Parameters<typeof quoteInput>[1]) => inputs[quoteInput(id, what)] ?? 0
  return {
    price: { ...readyCut.price, amount: read('amount') },
    portionGrams: read('grams'),
    trimPct: read('trim'),
    lossPct: read('loss'),
    feePerOrder: read('fee'),
    portionsPerOrder: read('order'),
  }
}

/** The comparison's input for one quote. Stored and refused portions are both lost to the plate. `idleHands`: labour costs nothing. */
export function inputOfCase(portionCase: PortionCase, inputs: CaseInputs, quoteId: string, idleHands: boolean): MakeOrBuyInput {
  const read = (name: string) => inputs[name] ?? 0
  return {
    item: { grams: read('itemGrams'), price: { ...portionCase.price, amount: read('itemPrice') } },
    yieldPct: read('yieldPct'),
    portionGrams: read('portionGrams'),
    lossPct: 100 * (1 - (1 - read('storageLossPct') / 100) * (1 - read('rejectedPct') / 100)),
    byproducts: portionCase.sideCuts.map(({ key }) => ({ pct: read(shareInput(key)), valuePerKg: read(valueInput(key)) })),
    wastePct: read('wastePct'),
    disposalPerKg: read('disposalPerKg'),
    labour: {
      minutesPerItem: read('minutesPerItem'),
      setupMinutes: read('setupMinutes'),
      itemsPerBatch: read('itemsPerBatch'),
      ratePerHour: idleHands ? 0 : read('ratePerHour'),
      onCostPct: read('onCostPct'),
    },
    consumablesPerItem: read('consumablesPerItem'),
    buy: quoteOf(portionCase, inputs, quoteId),
    portionsPerWeek: read('portionsPerWeek'),
  }
}

/** How far the case's yield, minutes and weight spread, from the yield book. */
export function spreadsOfCase({ expected, yieldExpected }: PortionCase): Spreads {
  return {
    yieldSdPct: yieldExpected.predictiveSd,
    minutesSd: expected.minutesPerItem.predictiveSd,
    itemGramsSd: expected.itemGrams.predictiveSd,
    degreesOfFreedom: yieldExpected.degreesOfFreedom,
  }
}

/** What may move the cost of a portion, at its 10th and 90th percentile; the price where its year is known. */
export function movedInputs(
  { expected, yieldExpected, sideCuts }: PortionCase,
  inputs: CaseInputs,
  priceOfYear: { low: number; high: number } | undefined,
): MovedInput[] {
  const read = (name: string) => inputs[name] ?? 0
  // a changed input moves the middle, not the spread
  const about = (input: MovedInput['input'], middle: number, expectation: Expectation): MovedInput => ({
    input,
    low: middle + predictiveQuantile(expectation, 0.1) - expectation.mean,
    high: middle + predictiveQuantile(expectation, 0.9) - expectation.mean,
  })
  const credit = sideCuts.reduce(
    (sum, { key }) => sum + (read(shareInput(key)) / 100) * read('itemGrams') * (read(valueInput(key)) / 1000),
    0,
  )
  const creditSd = Math.sqrt(
    sideCuts.reduce(
      (sum, { key }) =>
        sum + ((((expected.shares.get(key)?.predictiveSd ?? 0) / 100) * read('itemGrams') * read(valueInput(key))) / 1000) ** 2,
      0,
    ),
  )
  const tenth = 1.2815515655446004 * creditSd
  return [
    ...(priceOfYear && priceOfYear.high > priceOfYear.low ? [{ input: 'item-price' as const, ...priceOfYear }] : []),
    about('yield', read('yieldPct'), yieldExpected),
    about('minutes', read('minutesPerItem'), expected.minutesPerItem),
    about('item-weight', read('itemGrams'), expected.itemGrams),
    ...(creditSd > 0 ? [{ input: 'side-cuts' as const, low: credit - tenth, high: credit + tenth }] : []),
  ]
}
