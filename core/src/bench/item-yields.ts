import { gramsOf, type Tenths } from '../quantities/weight.ts'
import { type LedgerLine, standing } from '../runs/ledger.ts'

export interface ItemLine extends LedgerLine {
  item: number | null
}

export interface ItemYield {
  item: number
  grams: number
  gramsByTub: ReadonlyMap<string, number>
}

/**
 * What each item of a run gave, tub by tub, in the order of the items; lines that belong to no item are left out.
 * @example itemYields([{ id: 'w', tubId: 'a', tenths: 710, item: 1, reversesId: null }]).map(({ item, grams }) => [item, grams]) // [[1, 71]]
 */
export function itemYields(lines: readonly ItemLine[]): ItemYield[] {
  const items = new Map<number, Map<string, Tenths>>()
  for (const { item, tubId, tenths } of standing(lines)) {
    if (item === null) continue
    const tubs = items.get(item) ?? new Map<string, Tenths>()
    items.set(item, tubs.set(tubId, (tubs.get(tubId) ?? 0) + tenths))
  }
  return [...items]
    .sort(([a], [b]) => a - b)
    .map(([item, tubs]) => ({
      item,
      grams: gramsOf([...tubs.values()].reduce((sum, tenths) => sum + tenths, 0)),
      gramsByTub: new Map([...tubs].map(([tubId, tenths]) => [tubId, gramsOf(tenths)])),
    }))
}
