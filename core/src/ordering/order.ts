import type { Tenths } from '../quantities/weight.ts'

export type OrderUnit = 'kg' | 'each' | 'case'

/** What a kitchen asks a supplier for. */
export interface Order {
  /** The kitchen's own number of it, on every paper about it. */
  number: string
  kitchen: string
  supplier: string
  /** Days, `2026-03-14`. */
  orderedOn: string
  wantedOn: string
  /** ISO 4217. */
  currency: string
  note: string
  lines: OrderLine[]
}

export interface OrderLine {
  article: string
  /** The trade item, 14 digits, where it is known. */
  gtin: string | null
  quantity: number
  unit: OrderUnit
  /** Of one unit, as it was quoted; `null` where it was not. */
  price: number | null
}

/** What a supplier says is on its way. */
export interface DeliveryNote {
  number: string
  /** The order's number. */
  order: string
  supplier: string
  kitchen: string
  sentOn: string
  lines: DeliveryLine[]
}

export interface DeliveryLine {
  article: string
  gtin: string | null
  ordered: number
  sent: number
  unit: OrderUnit
  /** Why less is sent than was ordered; empty where it is not. */
  why: string
  boxes: DeliveredBox[]
}

export interface DeliveredBox {
  /** The GS1 element string on it, in brackets. */
  code: string
  tenths: Tenths
  lot: string
  useBy: string | null
}

/** The lines of which less is sent than was ordered.
 * @example shortLines({ number: 'D1', order: 'O1', supplier: 'A', kitchen: 'B', sentOn: '2026-03-14', lines: [] }) // []
 */
export function shortLines({ lines }: DeliveryNote): DeliveryLine[] {
  return lines.filter(({ sent, ordered }) => sent < ordered)
}
