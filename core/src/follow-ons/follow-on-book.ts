import { summarise } from '../statistics/sample.ts'
import { type Expectation, expectation, priorOfRange } from '../yield-book/expectation.ts'
import type { FollowOnSheet } from './follow-on-sheets.ts'

/** A finished follow-on, as the book learns from it. Amounts in grams, millilitres or pieces. */
export interface MadeFollowOn {
  inputGrams: number
  addedGrams: number
  minutes: number | null
  outputs: readonly { name: string; amount: number }[]
}

/** What to expect of the next follow-on by a sheet. */
export interface ExpectedFollowOn {
  tests: number
  /** Percent of what `per` of the output says. */
  outputs: { name: string; share: Expectation }[]
  /** Mean hands-on minutes; the sheet's own before the first. */
  minutes: number
}

/**
 * What a kitchen may expect of a follow-on: the sheet's range as the prior, its own follow-ons as the tests, as for cuts (section 7).
 * An output that was not weighed is 0, not absent.
 * @param priorTests how many tests the sheet's range is worth
 * @example expectFollowOn(followOnSheet('confit'), []).outputs[0]?.share.mean // 64
 */
export function expectFollowOn(sheet: FollowOnSheet, made: readonly MadeFollowOn[], priorTests?: number): ExpectedFollowOn {
  const weighed = made.filter(({ inputGrams }) => inputGrams > 0)
  const minutes = made.flatMap((one) => (one.minutes === null ? [] : [one.minutes]))
  return {
    tests: weighed.length,
    outputs: sheet.outputs.map(({ name, yieldPct, per }) => ({
      name,
      share: expectation(
        priorOfRange(yieldPct, priorTests),
        summarise(
          weighed.map(({ inputGrams, addedGrams, outputs }) => {
            const amount = outputs.filter((one) => one.name === name).reduce((sum, one) => sum + one.amount, 0)
            return (amount / (per === 'all' ? inputGrams + addedGrams : inputGrams)) * 100
          }),
        ),
      ),
    })),
    minutes: minutes.length === 0 ? sheet.minutes : minutes.reduce((sum, one) => sum + one, 0) / minutes.length,
  }
}
