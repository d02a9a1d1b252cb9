import { summarise } from './sample.ts'
import { studentTQuantile } from './student-t.ts'

/** Difference of two means with its interval. */
export interface Difference {
  mean: number
  low: number
  high: number
  degreesOfFreedom: number
}

/** A value, and who or what else made a difference to it. */
export interface BlockedValue {
  value: number
  block: string
}

/**
 * Difference of two treatments, a − b, compared within each block alone, so that a block's own level does not pass for it:
 * means of a block differ, and count by how much a block tells; blocks with one treatment only help to know the spread.
 * `undefined` where no block has both.
 *
 * Source: two-way analysis of variance without interaction, unequal numbers, blocks fixed.
 * @param level of the interval, 0–1
 * @example blockedDifference([{ value: 3, block: 'x' }, { value: 9, block: 'y' }], [{ value: 2, block: 'x' }, { value: 8, block: 'y' }])?.mean === 1
 */
export function blockedDifference(a: readonly BlockedValue[], b: readonly BlockedValue[], level = 0.9): Difference | undefined {
  const blocks = [...new Set([...a, ...b].map(({ block }) => block))]
  let [weight, weighted] = [0, 0]
  const offsets = new Map<string, { meanA: number; meanB: number; nA: number; nB: number }>()
  for (const block of blocks) {
    const [inA, inB] = [a, b].map((values) => summarise(values.flatMap((one) => (one.block === block ? one.value : []))))
    const [nA, nB] = [inA?.n ?? 0, inB?.n ?? 0]
    offsets.set(block, { meanA: inA?.mean ?? 0, meanB: inB?.mean ?? 0, nA, nB })
    if (nA === 0 || nB === 0) continue
    const tells = (nA * nB) / (nA + nB)
    weight += tells
    weighted += tells * ((inA?.mean ?? 0) - (inB?.mean ?? 0))
  }
  const degreesOfFreedom = a.length + b.length - blocks.length - 1
  if (weight === 0 || degreesOfFreedom < 1) return undefined
  const mean = weighted / weight
  // what is left once each block has its level and the treatment its difference
  const levelOf = ({ meanA, meanB, nA, nB }: { meanA: number; meanB: number; nA: number; nB: number }) =>
    (nA * (meanA - mean) + nB * meanB) / (nA + nB)
  const left = [...a.map(({ value, block }) => ({ value: value - mean, block })), ...b].reduce(
    (sum, { value, block }) => sum + (value - levelOf(offsets.get(block) as Parameters<typeof levelOf>[0])) ** 2,
    0,
  )
  const half = studentTQuantile((1 + level) / 2, degreesOfFreedom) * Math.sqrt(left / degreesOfFreedom / weight)
  return { mean, low: mean - half, high: mean + half, degreesOfFreedom }
}
