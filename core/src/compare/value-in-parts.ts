import { InputError } from '../input-error.ts'
import { labourCost } from '../quantities/labour.ts'
import { costOfPurchase, type Price } from '../quantities/price.ts'
import type { Role } from '../runs/output.ts'

export const byproductValues = ['market', 'own', 'nothing'] as const
export type ByproductValue = (typeof byproductValues)[number]

/** A part as a share of the item's weight, with what a kg of it costs ready-cut and what the kitchen says it is worth. */
export interface Part {
  key: string
  role: Role
  pct: number
  marketPerKg: number | null
  ownPerKg: number | null
}

export interface ValuedPart extends Part {
  grams: number
  /** `null` where nothing says what it is worth. */
  valuePerKg: number | null
  value: number
  /** Where the value comes from. */
  source: ByproductValue | 'unknown'
}

export interface ValueInParts {
  parts: ValuedPart[]
  /** What the parts would cost bought one by one. */
  value: number
  purchase: number
  labour: number
  consumables: number
  disposal: number
  cost: number
  /** Value of the parts less what the whole costs, cut. */
  gain: number
}

/**
 * What an item's parts are worth beside what the whole costs, cut: mains and co-products at what they cost ready-cut
 * (else at the kitchen's own value), by-products as chosen. Waste is worth nothing and costs its haulage.
 *
 * @throws InputError naming the field
 */
export function valueInParts(given: {
  item: { grams: number; price: Price }
  parts: readonly Part[]
  byproducts: ByproductValue
  labour: { minutesPerItem: number; setupMinutes: number; itemsPerBatch: number; ratePerHour: number; onCostPct: number }
  consumables: number
  disposalPerKg: number
}): ValueInParts {
  const { item, labour } = given
  if (!(item.grams > 0)) throw new InputError('item.grams', 'This must be over 0.')
  const parts = given.parts.map((part): ValuedPart => {
    const grams = (part.pct / 100) * item.grams
    const { valuePerKg, source } = valuePart(part, given.byproducts)
    return { ...part, grams, valuePerKg, source, value: ((valuePerKg ?? 0) * grams) / 1000 }
  })
  const value = parts.reduce((sum, part) => sum + part.value, 0)
  const wasteGrams = parts.reduce((sum, part) => sum + (part.role === 'waste' ? part.grams : 0), 0)
  const purchase = costOfPurchase(item.price, { grams: item.grams, pieces: 1 })
  const minutes = labour.minutesPerItem + labour.setupMinutes / labour.itemsPerBatch
  const labourTotal = labourCost({ minutes, ratePerHour: labour.ratePerHour, onCostPct: labour.onCostPct })
  const disposal = (given.disposalPerKg * wasteGrams) / 1000
  const cost = purchase + labourTotal + given.consumables + disposal
  return { parts, value, purchase, labour: labourTotal, consumables: given.consumables, disposal, cost, gain: value - cost }
}

/**
 * What a kg of a part is worth, and by what.
 * @example valuePart({ key: 'fat', name: 'Fat', role: 'byproduct', pct: 9, marketPerKg: null, ownPerKg: 1.4 }, 'own') // { valuePerKg: 1.4, source: 'own' }
 */
export function valuePart({ role, marketPerKg, ownPerKg }: Part, byproducts: ByproductValue): Pick<ValuedPart, 'valuePerKg' | 'source'> {
  if (role === 'waste' || (role === 'byproduct' && byproducts === 'nothing')) return { valuePerKg: 0, source: 'nothing' }
  const market = { valuePerKg: marketPerKg, source: 'market' as const }
  const own = { valuePerKg: ownPerKg, source: 'own' as const }
  const order = role === 'byproduct' && byproducts === 'own' ? [own, market] : [market, own]
  return order.find((one) => one.valuePerKg !== null) ?? { valuePerKg: null, source: 'unknown' }
}
