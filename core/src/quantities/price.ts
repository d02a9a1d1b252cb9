import { InputError } from '../input-error.ts'
import { gramsPerPound } from './weight.ts'

/** A price as it was quoted. `count` (pieces) or `grams` describe one case. Amounts are in the kitchen's currency. */
export interface Price {
  amount: number
  per: 'kg' | 'lb' | 'each' | 'case'
  count?: number | undefined
  grams?: number | undefined
}

/** What is paid for: a weight in grams and a number of pieces. */
export interface Bought {
  grams: number
  pieces: number
}

/**
 * What a purchase costs at a quoted price: by weight, by the piece, or as a share of a case (by its count where it
 * has one, else by its weight). Linear in the amount, which the break-evens rely on.
 *
 * @throws InputError on `price` where a case has neither count nor weight
 * @example costOfPurchase({ amount: 46.5, per: 'case', count: 5 }, { grams: 2210, pieces: 1 }) === 9.3
 */
export function costOfPurchase(price: Price, bought: Bought): number {
  switch (price.per) {
    case 'kg':
      return (price.amount * bought.grams) / 1000
    case 'lb':
      return (price.amount * bought.grams) / gramsPerPound
    case 'each':
      return price.amount * bought.pieces
    case 'case':
      if (price.count) return (price.amount / price.count) * bought.pieces
      if (price.grams) return (price.amount / price.grams) * bought.grams
      throw new InputError('price', 'A case needs the number of pieces in it, or its weight.')
  }
}
