import type { PriceMove, Quote } from '@fleam/contract/prices'
import { groupBy } from '@fleam/core/group-by'
import { priceMove } from '@fleam/core/prices/price-move'
import type { Queries } from '../../db/database.ts'
import { type QuoteColumns, toQuote } from './quote-row.ts'

const recentDays = 45

/** Quotes of the last weeks that lie off the same supplier's quote before them by more than so many percent, the largest first. */
export async function listPriceMoves(db: Queries, kitchenId: string, limitPct: number): Promise<PriceMove[]> {
  const rows = await db.rows<QuoteColumns & { item_id: string; item_name: string }>(
    `SELECT q.id, q.item_id, i.name AS item_name, q.supplier_id, s.name AS supplier_name, q.amount, q.per, q.case_count, q.case_grams,
       q.quoted_on, q.at
     FROM quotes q JOIN items i ON i.id = q.item_id LEFT JOIN suppliers s ON s.id = q.supplier_id
     WHERE q.kitchen_id = :kitchenId AND q.item_id IN (
       SELECT item_id FROM quotes WHERE kitchen_id = :kitchenId AND quoted_on >= UTC_DATE() - INTERVAL ${recentDays} DAY)
     ORDER BY q.item_id, q.quoted_on, q.at, q.id`,
    { kitchenId },
  )
  const since = new Date(Date.now() - recentDays * 86_400_000).toISOString().slice(0, 10)
  const bySupplier = groupBy(rows, (row) => `${row.item_id} ${row.supplier_id ?? ''}`)
  const moves = [...bySupplier.values()].flatMap((quotes) => {
    const itemId = quotes[0]?.item_id ?? ''
    const read = quotes.map((row) => toQuote(itemId, row) as Quote)
    // from what stood before the weeks looked at to what stands now, so that several small steps count as one
    const before = read.findLast((quote) => quote.quotedOn < since)
    const after = read.at(-1)
    if (!before || !after || after.quotedOn < since) return []
    const movePct = priceMove(before.price, after.price)
    return movePct !== null && Math.abs(movePct) > limitPct
      ? [{ itemId, itemName: quotes[0]?.item_name ?? '', before, after, movePct }]
      : []
  })
  return moves.sort((a, b) => Math.abs(b.movePct) - Math.abs(a.movePct))
}
