import type { PriceMove } from '@fleam/contract/prices'
import { priceMove } from '@fleam/core/prices/price-move'
import type { KitchenRecords } from '../../db/records.ts'
import { recentMoves } from './quotes.sql.ts'
import { findQuotes, toQuote } from './quotes.ts'

const recentDays = 45

/** Quotes of the last weeks that lie off the same supplier's quote before them by more than so many percent, the largest first. */
export async function listPriceMoves(records: KitchenRecords, limitPct: number): Promise<PriceMove[]> {
  // from what stood before the weeks looked at to what stands now, so that several small steps count as one
  const since = new Date(Date.now() - recentDays * 86_400_000).toISOString().slice(0, 10)
  const pairs = await records.select<{ afterId: string; beforeId: string }>(recentMoves, { since })
  const rows = await findQuotes(
    records,
    pairs.flatMap(({ afterId, beforeId }) => [afterId, beforeId]),
  )
  const byId = new Map(rows.map((row) => [row.id, row]))
  const moves = pairs.flatMap(({ afterId, beforeId }): PriceMove[] => {
    const [after, before] = [byId.get(afterId), byId.get(beforeId)]
    if (!after?.item || !before) return []
    const [read, earlier] = [toQuote(after), toQuote(before)]
    const movePct = priceMove(earlier.price, read.price)
    return movePct !== null && Math.abs(movePct) > limitPct
      ? [{ itemId: after.itemId, itemName: after.item.name, before: earlier, after: read, movePct }]
      : []
  })
  return moves.sort((a, b) => Math.abs(b.movePct) - Math.abs(a.movePct))
}
