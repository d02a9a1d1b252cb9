import { InputError } from '../input-error.ts'
import type { Price } from '../quantities/price.ts'
import { type Expectation, predictiveQuantile, sdOfMean, together } from '../yield-book/expectation.ts'
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
  /** What is expected of the yield that carries the cost with the portions: theirs and that of mains that share by weight. */
  yieldExpected: Expectation
  /** How much of that yield the portions themselves are, 0–1. */
  portionShare: number
  /** An item makes so many portions however heavy it is: they are pieces, not cut to weight. */
  isCounted: boolean
}

/** How the mains of other kinds beside the portion looked at count. */
export const mainsSharings = ['together', 'credited'] as const

export interface CaseOf {
  outputKey: string
  price: Price
  servedGrams: number
  /** How much over the served weight the kitchen's portions really are, percent. */
  overServedPct: number
  /** Outputs that the portions are of: several where a plate has several pieces. */
  portionKeys: readonly string[]
  isCounted: boolean
  /** The portions' outputs and the mains that share the cost with it by weight. */
  yieldKeys: readonly string[]
  /** Every output of the sheet but waste that is credited. */
  sideCuts: readonly (Omit<Part, 'pct'> & { name: string })[]
  wasteKeys: readonly string[]
  quotes: readonly { id: string; readyCut: ReadyCut }[]
  byproducts: ByproductValue
  expected: ExpectedCut
  labour: { setupMinutes: number; itemsPerBatch: number; ratePerHour: number; onCostPct: number }
  storageLossPct: number
  rejectedPct: number
  consumablesPerItem: number
  disposalPerKg: number
  portionsPerWeek: number
}

/** @example shareInput('tips') === 'share tips' */
export const shareInput = (key: string) => `share ${key}`
/** @example valueInput('tips') === 'value tips' */
export const valueInput = (key: string) => `value ${key}`
/** @example quoteInput('q1', 'fee') === 'quote q1 fee' */
export const quoteInput = (id: string, what: 'amount' | 'trim' | 'loss' | 'pan' | 'fee' | 'order' | 'grams') => `quote ${id} ${what}`

/** The kitchen's own figures for a portion, as named inputs. */
export function openCase(given: CaseOf): PortionCase {
  const meanOf = (key: string) => given.expected.shares.get(key)?.mean ?? 0
  const sideCuts = given.sideCuts.map((part) => ({ ...part, pct: meanOf(part.key) }))
  const yieldExpected = together(given.yieldKeys.flatMap((key) => given.expected.shares.get(key) ?? []))
  const portionShare = given.portionKeys.reduce((sum, key) => sum + meanOf(key), 0) / yieldExpected.mean
  const inputs: Record<string, number> = {
    itemGrams: given.expected.itemGrams.mean,
    itemPrice: given.price.amount,
    yieldPct: yieldExpected.mean,
    portionGrams: given.servedGrams,
    overServedPct: given.overServedPct,
    panLossPct: 0,
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
    inputs[quoteInput(id, 'pan')] = 0
    inputs[quoteInput(id, 'fee')] = readyCut.feePerOrder ?? 0
    inputs[quoteInput(id, 'order')] = readyCut.portionsPerOrder ?? 1
  }
  const { outputKey, price, quotes, expected, isCounted } = given
  return { outputKey, price, sideCuts, quotes, inputs, expected, yieldExpected, portionShare, isCounted }
}

/**
 * A yield that is tried out takes the other shares along: where more becomes portions, less comes off beside them, each in
 * proportion; portions that are pieces are heavier or lighter with it. What was changed itself stays as it was typed.
 */
export function withSharesAlong(portionCase: PortionCase, typed: CaseInputs): CaseInputs {
  const { inputs: own, sideCuts } = portionCase
  const inputs = withPiecesAlong(portionCase, typed)
  const [before, now] = [own.yieldPct ?? 0, inputs.yieldPct ?? 0]
  if (now === before || !(before < 100) || now > 100) return inputs
  const shares = ['wastePct', ...sideCuts.map(({ key }) => shareInput(key))].filter((name) => inputs[name] === own[name])
  const moved = shares.map((name) => [name, ((inputs[name] ?? 0) * (100 - now)) / (100 - before)])
  return { ...inputs, ...Object.fromEntries(moved) }
}

function withPiecesAlong({ inputs: own, isCounted }: PortionCase, inputs: CaseInputs): CaseInputs {
  if (!isCounted || inputs.portionGrams !== own.portionGrams) return inputs
  const grams = (of: CaseInputs) => (of.itemGrams ?? 0) * (of.yieldPct ?? 0)
  return { ...inputs, portionGrams: ((own.portionGrams ?? 0) * grams(inputs)) / grams(own) }
}

/** All shares together, percent of the item. */
function wholeOf({ sideCuts }: PortionCase, inputs: CaseInputs): number {
  return ['yieldPct', 'wastePct', ...sideCuts.map(({ key }) => shareInput(key))].reduce((sum, name) => sum + (inputs[name] ?? 0), 0)
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
    panLossPct: read('pan'),
    feePerOrder: read('fee'),
    portionsPerOrder: read('order'),
  }
}

/**
 * The comparison's input for one quote. Stored and refused portions are both lost to the plate. `idleHands`: labour costs
 * nothing.
 * @throws InputError where shares that were changed come to more than the item
 */
export function inputOfCase(portionCase: PortionCase, inputs: CaseInputs, quoteId: string, idleHands: boolean): MakeOrBuyInput {
  const read = (name: string) => inputs[name] ?? 0
  const whole = wholeOf(portionCase, inputs)
  // the kitchen's own averages may come to a little over the whole by themselves
  if (whole > Math.max(100, wholeOf(portionCase, portionCase.inputs)) + 0.05)
    throw new InputError('yieldPct', `With what comes off beside it that is ${whole.toFixed(1)} % of the item: more than all of it.`)
  return {
    item: { grams: read('itemGrams'), price: { ...portionCase.price, amount: read('itemPrice') } },
    yieldPct: read('yieldPct'),
    portionGrams: read('portionGrams'),
    overServedPct: read('overServedPct'),
    panLossPct: read('panLossPct'),
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

/** How far the yield, minutes and weight of the next item spread, from the yield book. */
export function spreadsOfCase({ expected, yieldExpected }: PortionCase): Spreads {
  return {
    yieldSdPct: yieldExpected.predictiveSd,
    minutesSd: expected.minutesPerItem.predictiveSd,
    itemGramsSd: expected.itemGrams.predictiveSd,
    degreesOfFreedom: yieldExpected.degreesOfFreedom,
  }
}

/** How far their averages may lie from the truth. */
export function spreadsOfAverage({ expected, yieldExpected }: PortionCase): Spreads {
  return {
    yieldSdPct: sdOfMean(yieldExpected),
    minutesSd: sdOfMean(expected.minutesPerItem),
    itemGramsSd: sdOfMean(expected.itemGrams),
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
