import { summarise } from '../statistics/sample.ts'
import type { TestedCut } from './expected-cut.ts'
import { sumMinutes } from './learning.ts'

/** One finished run as a test: tenths of a gram received, items, minutes, shares in percent by output key. */
export interface TestRecord {
  receivedTenths: number
  pieces: number
  minutes: number | null
  shares: Readonly<Record<string, number>>
  /** What portions weighed over their target, by output key. */
  servedRatios?: Readonly<Record<string, number>>
}

/**
 * What a choice of tests gives, in the form that expectations are made from.
 * @param mainKeys keys of the outputs that are mains
 */
export function testedCutOf(tests: readonly TestRecord[], mainKeys: readonly string[]): TestedCut {
  const keys = new Set(tests.flatMap((test) => Object.keys(test.shares)))
  return {
    tests: tests.length,
    itemGrams: summarise(tests.map((test) => test.receivedTenths / 10 / test.pieces)),
    minutes: sumMinutes(tests.map((test) => ({ items: test.pieces, minutes: test.minutes }))),
    mains: summarise(tests.map((test) => mainsOf(test, mainKeys))),
    outputs: [...keys].map((key) => {
      const served = summarise(tests.flatMap((test) => test.servedRatios?.[key] ?? []))
      const share = summarise(tests.flatMap((test) => test.shares[key] ?? []))
      return { key, share, servedRatio: served.n > 0 ? served.mean : null }
    }),
  }
}

/** All mains of a test together, percent. */
export function mainsOf({ shares }: Pick<TestRecord, 'shares'>, mainKeys: readonly string[]): number {
  return mainKeys.reduce((sum, key) => sum + (shares[key] ?? 0), 0)
}
