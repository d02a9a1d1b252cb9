import { summarise } from '../statistics/sample.ts'
import type { TestedCut } from './expected-cut.ts'
import { findChange } from './find-change.ts'
import { sumMinutes } from './learning.ts'
import { type ShareTest, sumRuns, sumShares } from './share-sums.ts'

/** One finished run as a test: tenths of a gram received, items, minutes, shares in percent by output key. */
export interface TestRecord {
  startedAt?: string
  receivedTenths: number
  pieces: number
  minutes: number | null
  shares: Readonly<Record<string, number>>
  /** What portions weighed over their target, by output key. */
  servedRatios?: Readonly<Record<string, number>>
}

/**
 * What a choice of tests gives, in the form that expectations are made from; after a change the tests since.
 * @param mainKeys keys of the outputs that are mains
 * @example testedCutOf([{ receivedTenths: 30_000, pieces: 1, minutes: null, shares: { steak: 40 } }], ['steak']).tests === 1
 */
export function testedCutOf(all: readonly TestRecord[], mainKeys: readonly string[]): TestedCut {
  const tests = sinceChange(all)
  const keys = new Set(tests.flatMap((test) => Object.keys(test.shares)))
  return {
    tests: tests.length,
    since: tests.length < all.length ? (tests[0]?.startedAt ?? '') : null,
    itemGrams: summarise(tests.map((test) => test.receivedTenths / 10 / test.pieces)),
    minutes: sumMinutes(tests.map((test) => ({ items: test.pieces, minutes: test.minutes }))),
    runs: sumRuns(tests.map(sizeOf)),
    mains: sumShares(tests.map((test) => ({ ...sizeOf(test), pct: mainsOf(test, mainKeys) }))),
    outputs: [...keys].map((key) => {
      const served = summarise(tests.flatMap((test) => test.servedRatios?.[key] ?? []))
      const share = sumShares(shareTests(tests, key))
      return { key, share, servedRatio: served.n > 0 ? served.mean : null }
    }),
  }
}

/**
 * The tests since the last change that shows in any share, of all that every test has; all of them where none does. Oldest first.
 * @example sinceChange([{ receivedTenths: 30_000, pieces: 1, minutes: null, shares: { steak: 40 } }]).length === 1
 */
export function sinceChange<Test extends TestRecord>(tests: readonly Test[]): readonly Test[] {
  const keys = Object.keys(tests[0]?.shares ?? {}).filter((key) => tests.every(({ shares }) => shares[key] !== undefined))
  return tests.slice(findChange(keys.map((key) => tests.map(({ shares }) => shares[key] as number))))
}

/** Items of a test, and grams of one of them. */
function sizeOf({ pieces, receivedTenths }: TestRecord): Omit<ShareTest, 'pct'> {
  return { items: pieces, grams: receivedTenths / 10 / pieces }
}

/**
 * The tests of one output's share, without those whose sheet did not have it.
 * @example shareTests([{ receivedTenths: 60_000, pieces: 2, minutes: null, shares: { steak: 40 } }], 'steak') // [{ items: 2, grams: 3000, pct: 40 }]
 */
export function shareTests(tests: readonly TestRecord[], key: string): ShareTest[] {
  return tests.flatMap((test) => {
    const pct = test.shares[key]
    return pct === undefined ? [] : [{ ...sizeOf(test), pct }]
  })
}

/**
 * All mains of a test together, percent.
 * @example mainsOf({ shares: { steak: 40, head: 20, fat: 9 } }, ['steak', 'head']) === 60
 */
export function mainsOf({ shares }: Pick<TestRecord, 'shares'>, mainKeys: readonly string[]): number {
  return mainKeys.reduce((sum, key) => sum + (shares[key] ?? 0), 0)
}
