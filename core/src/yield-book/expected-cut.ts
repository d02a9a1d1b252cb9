import type { Role } from '../runs/output.ts'
import { noSample, type Sample } from '../statistics/sample.ts'
import { type Expectation, expectation, type Prior, priorOfRange, priorOfShare, priorWorth } from './expectation.ts'
import { expectMinutes } from './expected-minutes.ts'
import { expectShare, type NextTest } from './expected-share.ts'
import { type Learning, learnMinutes, type MinutesSums, noMinutes } from './learning.ts'
import type { RunSums, ShareSums } from './share-sums.ts'

/** What the kitchen's own tests of an item by a cut sheet have given; shares in percent of the received weight. */
export interface TestedCut {
  tests: number
  /** Grams of one item as received. */
  itemGrams: Sample
  minutes: MinutesSums
  runs: RunSums
  /** All mains together. */
  mains: ShareSums
  /** `servedRatio`: what its portions weigh over their target, on average; `null` where none were weighed to one. */
  outputs: readonly { key: string; share: ShareSums; servedRatio: number | null }[]
  /** Something changed then and the tests are those since: what the sheet says counts for less. */
  since?: string | null | undefined
}

/** What the cut sheet says for a start. */
export interface SheetRanges {
  weightKg: { low: number; high: number }
  minutes: { low: number; high: number }
  outputs: readonly { key: string; role: Role; lowPct: number; typicalPct: number; highPct: number }[]
}

export interface ExpectedCut {
  tests: number
  itemGrams: Expectation
  /** Of one item where so many are done in one go, set-up left out. */
  minutesPerItem: Expectation
  learning: Learning
  /** All mains together, percent of the received weight. */
  mains: Expectation
  /** Percent of the received weight, by output key. */
  shares: ReadonlyMap<string, Expectation>
}

/**
 * What to expect of the next item cut by a sheet: its starting figures, brought up to date by the kitchen's tests.
 * @param worth tests that the sheet's figures count for
 * @param next how many items the shares are asked of, and what one weighs where that is known
 */
export function expectCut(
  sheet: SheetRanges,
  tested: TestedCut | undefined,
  itemsPerBatch = 1,
  worth = priorWorth,
  next: NextTest = { items: 1 },
): ExpectedCut {
  const shareOf = (prior: Prior, share: ShareSums | undefined) => expectShare(prior, share, tested?.runs, next, tested?.since != null)
  return {
    tests: tested?.tests ?? 0,
    itemGrams: expectedGrams(sheet.weightKg, tested?.itemGrams ?? noSample),
    minutesPerItem: expectMinutes(sheet.minutes, tested?.minutes, itemsPerBatch, worth),
    learning: learnMinutes(tested?.minutes ?? noMinutes),
    mains: shareOf(priorOfMains(sheet, worth), tested?.mains),
    shares: new Map(
      sheet.outputs.map(({ key, lowPct, typicalPct, highPct }) => {
        const share = tested?.outputs.find((output) => output.key === key)?.share
        return [key, shareOf(priorOfShare({ low: lowPct, typical: typicalPct, high: highPct }, worth), share)]
      }),
    ),
  }
}

/** How much items of one kind usually differ in weight from each other, before there are deliveries to tell. */
const usualSpread = 0.075

/**
 * The weight of the next item: what has been delivered, beside one delivery's worth of the item's usual weight. The range
 * that a sheet is fit for says which animals it suits, not what this kitchen buys: it stands only where nothing came yet.
 */
function expectedGrams({ low, high }: SheetRanges['weightKg'], delivered: Sample): Expectation {
  if (delivered.n === 0) return expectation(priorOfRange({ low: low * 1000, typical: (low + high) * 500, high: high * 1000 }, 1), noSample)
  return expectation({ mean: delivered.mean, sd: delivered.mean * usualSpread, worth: 1 }, delivered)
}

/** The mains' typical shares add up; their ranges do so as spreads that know nothing of each other. */
function priorOfMains({ outputs }: SheetRanges, worth: number): Prior {
  const mains = outputs.filter((output) => output.role === 'main')
  const typical = mains.reduce((sum, output) => sum + output.typicalPct, 0)
  const half = Math.hypot(...mains.map((output) => (output.highPct - output.lowPct) / 2))
  return priorOfShare({ low: typical - half, typical, high: typical + half }, worth)
}
