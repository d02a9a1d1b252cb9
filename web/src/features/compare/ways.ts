import type { CutSheet } from '@fleam/contract/cut-sheets'
import type { Item } from '@fleam/contract/prices'
import { type ByproductValue, type ValueInParts, valueInParts } from '@fleam/core/compare/value-in-parts'
import { type ExpectedCut, expectCut } from '@fleam/core/yield-book/expected-cut'
import { entryOf, type NamedPart, partsOf, type Sources, sheetsFor } from './open-portion.ts'

/** An item cut in one of its ways, and what its parts are worth. */
export interface WayInParts {
  item: Item
  sheet: CutSheet
  expected: ExpectedCut
  parts: NamedPart[]
  value: ValueInParts
  minutes: number
  perCase: number
  perWeek: number
}

/** Each way that an item is cut in, the one that leaves most first; none for an item without a price. */
export function waysInParts(sources: Sources, item: Item, byproducts: ByproductValue): WayInParts[] {
  const price = item.latestQuote?.price
  if (!price) return []
  const { labour, cutting, disposalPerKg } = sources.settings
  const sheets = sheetsFor(sources, item)
  const week = sheets.reduce((sum, sheet) => sum + (entryOf(sources, item.id, sheet.id)?.itemsPerWeek ?? 0), 0)
  const tested = sheets.flatMap((sheet) => entryOf(sources, item.id, sheet.id) ?? [])
  const batch = Math.max(1, Math.round(tested[0]?.itemsPerBatch ?? 1))
  // one weight for all, so that ways differ by what is cut and not by the items that came
  const tests = tested.reduce((sum, entry) => sum + entry.tests, 0)
  const grams = tested.reduce((sum, entry) => sum + entry.itemGrams.mean * entry.tests, 0) / tests
  return sheets
    .map((sheet) => {
      const entry = entryOf(sources, item.id, sheet.id)
      const expected = expectCut(sheet.body, entry, batch, cutting.priorTests)
      const parts = partsOf(sources, item, sheet, expected)
      const minutes = expected.minutesPerItem.mean
      const value = valueInParts({
        item: { grams: tests > 0 ? grams : expected.itemGrams.mean, price },
        parts,
        byproducts,
        labour: {
          minutesPerItem: minutes,
          setupMinutes: cutting.setupMinutes,
          itemsPerBatch: batch,
          ratePerHour: cutting.idleHands ? 0 : labour.ratePerHour,
          onCostPct: labour.onCostPct,
        },
        consumables: entry?.consumablesPerItem ?? tested[0]?.consumablesPerItem ?? 0,
        disposalPerKg,
      })
      return { item, sheet, expected, parts, value, minutes, perCase: value.gain * (price.count ?? 1), perWeek: value.gain * week }
    })
    .sort((a, b) => b.value.gain - a.value.gain)
}
