import type { Price } from '../quantities/price.ts'
import { perUnit } from './price-move.ts'

const dayMs = 86_400_000

/**
 * What an item cost through a year: the 10th and 90th percentile of the quote in force day by day, today's price in it,
 * as an amount in the unit of `now`. `undefined` where fewer than two quotes compare with it.
 *
 * @param quotes in any order; `quotedOn` a calendar day such as 2026-03-14
 */
export function priceOfYear(
  quotes: readonly { price: Price; quotedOn: string }[],
  now: Price,
  today: string,
): { low: number; high: number } | undefined {
  const unit = perUnit(now)
  const ground = unit.perKg !== undefined ? 'perKg' : 'perPiece'
  const inOrder = quotes
    .flatMap(({ price, quotedOn }) => {
      const found = perUnit(price)[ground]
      return found === undefined ? [] : [{ at: Date.parse(quotedOn), amount: (found / (unit[ground] as number)) * now.amount }]
    })
    .sort((a, b) => a.at - b.at)
  const end = Date.parse(today)
  const days: number[] = []
  for (let at = end - 364 * dayMs; at <= end; at += dayMs) {
    const standing = inOrder.findLast((quote) => quote.at <= at)
    if (standing) days.push(standing.amount)
  }
  if (inOrder.length < 2 || days.length < 2) return undefined
  days.sort((a, b) => a - b)
  const at = (share: number) => days[Math.round(share * (days.length - 1))] as number
  return { low: Math.min(at(0.1), now.amount), high: Math.max(at(0.9), now.amount) }
}
