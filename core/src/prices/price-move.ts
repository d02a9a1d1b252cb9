import type { Price } from '../quantities/price.ts'
import { gramsPerPound } from '../quantities/weight.ts'

/**
 * How far a price has moved, in percent of the earlier one; `null` where the two were quoted on grounds that do not
 * compare (by weight and by the piece) or the earlier one was nothing.
 *
 * @example priceMove({ amount: 5, per: 'kg' }, { amount: 6, per: 'kg' }) === 20
 */
export function priceMove(before: Price, after: Price): number | null {
  const [was, is] = [perUnit(before), perUnit(after)]
  const shared = (['perKg', 'perPiece'] as const).find((ground) => was[ground] !== undefined && is[ground] !== undefined)
  if (!shared) return null
  const [from, to] = [was[shared] as number, is[shared] as number]
  return from > 0 ? ((to - from) / from) * 100 : null
}

/**
 * A price by weight and by the piece, as far as the quote says.
 * @example perUnit({ amount: 60, per: 'case', count: 5 }) // { perPiece: 12 }
 */
export function perUnit(price: Price): { perKg?: number; perPiece?: number } {
  switch (price.per) {
    case 'kg':
      return { perKg: price.amount }
    case 'lb':
      return { perKg: (price.amount / gramsPerPound) * 1000 }
    case 'each':
      return { perPiece: price.amount }
    case 'case':
      return {
        ...(price.count ? { perPiece: price.amount / price.count } : {}),
        ...(price.grams ? { perKg: (price.amount / price.grams) * 1000 } : {}),
      }
  }
}
