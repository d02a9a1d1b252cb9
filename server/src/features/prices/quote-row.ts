import type { Quote } from '@fleam/contract/prices'

/** The columns of a quote as they come from a join; all `null` where there is none. */
export interface QuoteColumns {
  id: string | null
  supplier_id: string | null
  supplier_name: string | null
  amount: number
  per: Quote['price']['per']
  case_count: number | null
  case_grams: number | null
  quoted_on: Date
  at: Date
}

export function toQuote(itemId: string, row: QuoteColumns): Quote | null {
  if (row.id === null) return null
  return {
    id: row.id,
    itemId,
    supplier: row.supplier_id === null ? null : { id: row.supplier_id, name: row.supplier_name ?? '' },
    price: toPrice(row),
    quotedOn: dayOf(row.quoted_on),
    at: row.at.toISOString(),
  }
}

export function toPrice(row: Pick<QuoteColumns, 'amount' | 'per' | 'case_count' | 'case_grams'>): Quote['price'] {
  return {
    amount: row.amount,
    per: row.per,
    ...(row.case_count === null ? {} : { count: row.case_count }),
    ...(row.case_grams === null ? {} : { grams: row.case_grams }),
  }
}

/** A DATE column as its calendar day. */
export function dayOf(date: Date): string {
  return date.toISOString().slice(0, 10)
}
