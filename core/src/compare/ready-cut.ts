import { InputError } from '../input-error.ts'
import { costOfPurchase, type Price } from '../quantities/price.ts'

/** A ready-cut portion as quoted. Grams, percent 0–100; the fee is shared by the portions of one order. */
export interface ReadyCut {
  price: Price
  portionGrams: number
  trimPct?: number | undefined
  lossPct?: number | undefined
  /** What it loses in the pan, where the weight served is meant cooked. */
  panLossPct?: number | undefined
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
  const { price, portionGrams, feePerOrder = 0, portionsPerOrder } = readyCut
  if ([readyCut.trimPct, readyCut.lossPct, readyCut.panLossPct].some((loss = 0) => loss >= 100))
    throw new InputError('buy.trimPct', 'Trim and losses are each under 100 %.')
  if (feePerOrder > 0 && !portionsPerOrder) {
    throw new InputError('buy.portionsPerOrder', 'Say how many portions an order has, to share its fee.')
  }
  const piece = costOfPurchase(price, { grams: portionGrams, pieces: 1 })
  const each = piece + (portionsPerOrder ? feePerOrder / portionsPerOrder : 0)
  return (each * servedGrams) / usableGramsOf(readyCut)
}

/**
 * Grams of a quoted piece that come to the plate, after trimming, storage and the pan.
 * @example usableGramsOf({ portionGrams: 200, trimPct: 10, panLossPct: 20 }) // 144
 */
export function usableGramsOf({
  portionGrams,
  trimPct = 0,
  lossPct = 0,
  panLossPct = 0,
}: Pick<ReadyCut, 'portionGrams' | 'trimPct' | 'lossPct' | 'panLossPct'>): number {
  return portionGrams * (1 - trimPct / 100) * (1 - lossPct / 100) * (1 - panLossPct / 100)
}
