import { summarise } from '../statistics/sample.ts'
import { type Difference, welchDifference } from '../statistics/welch.ts'
import type { TestRecord } from '../yield-book/tested-cut.ts'

export interface StepFromLog {
  withStep: number
  without: number
  /** Grams of the output that the step frees of an item; `undefined` where either side has fewer than two runs. */
  grams: Difference | undefined
  /** Minutes that it takes an item. */
  minutes: Difference | undefined
  /** What an item with the step is worth more than one without, its minutes paid. */
  worth: Difference | undefined
}

/**
 * What a step does, by the runs that have it and those that left it out: 90 % intervals of the differences (Welch).
 * Shares are put on one item weight, so that heavier items on one side do not pass for a step's work.
 *
 * @param perMinute cost of a minute's work
 */
export function stepFromLog(given: {
  withStep: readonly TestRecord[]
  without: readonly TestRecord[]
  outputKey: string
  itemGrams: number
  valuePerKg: number
  perMinute: number
}): StepFromLog {
  const { outputKey, itemGrams, valuePerKg, perMinute } = given
  const gramsOf = (test: TestRecord) => ((test.shares[outputKey] as number) / 100) * itemGrams
  const minutesOf = (test: TestRecord) => (test.minutes as number) / test.pieces
  const weighed = (tests: readonly TestRecord[]) => tests.filter((test) => test.shares[outputKey] !== undefined)
  const timed = (tests: readonly TestRecord[]) => tests.filter((test) => test.minutes !== null && test.minutes > 0)
  const differ = (pick: (tests: readonly TestRecord[]) => readonly TestRecord[], value: (test: TestRecord) => number) =>
    welchDifference(summarise(pick(given.withStep).map(value)), summarise(pick(given.without).map(value)))
  return {
    withStep: given.withStep.length,
    without: given.without.length,
    grams: differ(weighed, gramsOf),
    minutes: differ(timed, minutesOf),
    worth: differ(
      (tests) => timed(weighed(tests)),
      (test) => (gramsOf(test) / 1000) * valuePerKg - minutesOf(test) * perMinute,
    ),
  }
}
