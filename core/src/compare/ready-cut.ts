import { InputError } from '../input-error.ts'
import { costOfPurchase, type Price } from '../quantities/price.ts'

/** A ready-cut portion as quoted. Grams, percent 0–100; the fee is shared by the portions of one order. */
export interface ReadyCut {
  price: Price
  portionGrams: number
  trimPct?: number | undefined
  lossPct?: number | undefined
  feePerOrder?: number | undefined
  portionsPerOrder?: number | undefined
}

/**
 * What a usable portion of `servedGrams` costs when it is bought ready-cut: the quoted piece with its share of the
 * delivery fee, after trimming and storage loss, scaled to the weight served.
 *
 * @throws InputError naming the field under `buy`
 * @example readyCutCost({ price: { amount: 10.9, per: 'each' }, portionGrams: 180 }, 180) === 10.9
 */
export function readyCutCost(readyCut: ReadyCut, servedGrams: number): number {
  const { price, portionGrams, trimPct = 0, lossPct = 0, feePerOrder = 0, portionsPerOrder } = readyCut
  if (trimPct >= 100 || lossPct >= 100) throw new InputError('buy.trimPct', 'Trim and loss are each under 100 %.')
  if (feePerOrder > 0 && !portionsPerOrder) {
    throw new InputError('buy.portionsPerOrder', 'Say how many portions an order has, to share its fee.')
  }
  const piece = costOfPurchase(price, { grams: portionGrams, pieces: 1 })
  const each = piece + (portionsPerOrder ? feePerOrder / portionsPerOrder : 0)
  const usableGrams = portionGrams * (1 - trimPct / 100) * (1 - lossPct / 100)
  return (each * servedGrams) / usableGrams
}
