import type { Sample } from '../statistics/sample.ts'

export interface ReceivedWeights {
  billedGrams: number
  receivedGrams: number
  pieces: number
}

/** How far an item may lie from those that came before, or from the range of its sheet, before it is asked about. */
const oddBelow = 0.6
const oddAbove = 1.6
/** How far invoice and scale may lie apart before it is asked whether one of them was mistyped. */
const furthestApart = 1.25

/**
 * What is odd about the weights of a delivery: a sentence that asks, or `undefined` where they look like what they say.
 * A mistyped weight is praised by every figure that follows from it.
 *
 * @param delivered grams of one item as they came so far
 * @param sheetKg the range that the cut sheet is fit for, asked where none came yet
 * @param write a weight in grams as the kitchen writes it
 * @example questionedWeights({ billedGrams: 8000, receivedGrams: 7950, pieces: 1 }, noSample, { low: 5, high: 10 }, String) === undefined
 */
export function questionedWeights(
  { billedGrams, receivedGrams, pieces }: ReceivedWeights,
  delivered: Sample,
  sheetKg: { low: number; high: number },
  write: (grams: number) => string,
): string | undefined {
  const each = receivedGrams / pieces
  const [low, high] = delivered.n > 0 ? [delivered.mean * oddBelow, delivered.mean * oddAbove] : [sheetKg.low * 500, sheetKg.high * 1500]
  if (each < low || each > high) {
    const usual =
      delivered.n > 0 ? `${write(delivered.mean)} is usual` : `${write(sheetKg.low * 1000)} to ${write(sheetKg.high * 1000)} is usual`
    return pieces === 1
      ? `An item of ${write(each)}, where ${usual}: are weight and count right?`
      : `${pieces} items of ${write(each)} each, where ${usual}: are weight and count right?`
  }
  const apart = Math.max(billedGrams, receivedGrams) / Math.min(billedGrams, receivedGrams)
  if (apart > furthestApart) return `Billed ${write(billedGrams)} and received ${write(receivedGrams)}: was one of them mistyped?`
  return undefined
}
