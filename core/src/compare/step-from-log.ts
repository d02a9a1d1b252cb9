import { type BlockedValue, blockedDifference, type Difference } from '../statistics/blocked-difference.ts'
import type { TestRecord } from '../yield-book/tested-cut.ts'

export interface StepFromLog {
  withStep: number
  without: number
  /** Cooks whose runs were compared: those who cut both with and without. */
  cooks: number
  /** Grams of the output that the step frees of an item; `undefined` where nobody has cut both with and without. */
  grams: Difference | undefined
  /** Minutes that it takes an item. */
  minutes: Difference | undefined
  /** What an item with the step is worth more than one without, its minutes paid. */
  worth: Difference | undefined
}

/** A test, with who cut it. */
export type StepTest = TestRecord & { cook: { id: string } }

/**
 * What a step does, by the runs that have it and those that left it out: 90 % intervals of the differences, each cook
 * against their own, so that a practised hand does not pass for a step's work. Shares are put on one item weight, for the same
 * reason.
 *
 * @param perMinute cost of a minute's work
 */
export function stepFromLog(given: {
  withStep: readonly StepTest[]
  without: readonly StepTest[]
  outputKey: string
  itemGrams: number
  valuePerKg: number
  perMinute: number
}): StepFromLog {
  const { outputKey, itemGrams, valuePerKg, perMinute } = given
  const gramsOf = (test: TestRecord) => ((test.shares[outputKey] as number) / 100) * itemGrams
  const minutesOf = (test: TestRecord) => (test.minutes as number) / test.pieces
  const weighed = (tests: readonly StepTest[]) => tests.filter((test) => test.shares[outputKey] !== undefined)
  const timed = (tests: readonly StepTest[]) => tests.filter((test) => test.minutes !== null && test.minutes > 0)
  const differ = (pick: (tests: readonly StepTest[]) => readonly StepTest[], value: (test: TestRecord) => number) => {
    const valued = (tests: readonly StepTest[]): BlockedValue[] => pick(tests).map((test) => ({ value: value(test), block: test.cook.id }))
    return blockedDifference(valued(given.withStep), valued(given.without))
  }
  const without = new Set(given.without.map(({ cook }) => cook.id))
  return {
    withStep: given.withStep.length,
    without: given.without.length,
    cooks: new Set(given.withStep.flatMap(({ cook }) => (without.has(cook.id) ? cook.id : []))).size,
    grams: differ(weighed, gramsOf),
    minutes: differ(timed, minutesOf),
    worth: differ(
      (tests) => timed(weighed(tests)),
      (test) => (gramsOf(test) / 1000) * valuePerKg - minutesOf(test) * perMinute,
    ),
  }
}
