import { randomUUID } from 'node:crypto'
import type { CutSheet } from '@fleam/contract/cut-sheets'
import { catalogSheet } from '@fleam/contract/cut-sheets'
import { usualCutting, usualIdle, usualLimits, usualPlace, usualWalkIn } from '@fleam/contract/kitchen'
import type { Item } from '@fleam/contract/prices'
import type { YieldBookEntry } from '@fleam/contract/yield-book'
import type { Price } from '@fleam/core/quantities/price'
import { sumMinutes } from '@fleam/core/yield-book/learning'
import { sumRuns, sumShares } from '@fleam/core/yield-book/share-sums'
import { catalog } from '../../catalog/sheets.ts'
import type { Sources } from '../src/features/compare/open-portion.ts'

const at = '2026-03-01T09:00:00.000Z'

export function sheetOf(slug: string): CutSheet {
  const found = catalog.find((entry) => (entry as { slug: string }).slug === slug)
  const { body } = catalogSheet.parse(found)
  return { id: randomUUID(), slug, versionId: randomUUID(), number: 1, source: 'catalog', basedOnId: null, retired: false, body }
}

export function itemOf(name: string, animal: Item['animal'], price: Price | null, changes: Partial<Item> = {}): Item {
  const id = randomUUID()
  return {
    id,
    name,
    kind: 'whole',
    animal,
    readyCut: null,
    againstId: null,
    latestQuote: price && { id: randomUUID(), itemId: id, supplier: null, price, quotedOn: '2026-03-01', at },
    version: 1,
    ...changes,
  }
}

export function readyCutOf(name: string, animal: Item['animal'], grams: number, price: Price): Item {
  const readyCut = {
    portionTenths: grams * 10,
    portionEntered: `${grams} g`,
    trimPct: 0,
    lossPct: 0,
    feePerOrder: 0,
    portionsPerOrder: null,
  }
  return itemOf(name, animal, price, { kind: 'ready-cut', readyCut })
}

/** So many tests of an item by a sheet, each giving the sheet's typical shares but for those named. */
export function entryOf(item: Item, sheet: CutSheet, tests: number, shares: Record<string, number> = {}, grams = 2000): YieldBookEntry {
  const pieces = 4
  const shareOf = (key: string, typical: number) => shares[key] ?? typical
  const mains = sheet.body.outputs.filter((output) => output.role === 'main')
  const sizes = Array.from({ length: tests }, (_, index) => ({ items: pieces, grams: grams + (index % 2 ? 20 : -20) }))
  const sharesOf = (pct: number) =>
    sumShares(sizes.map((size, index) => ({ ...size, pct: pct + (index === tests - 1 && tests % 2 ? 0 : index % 2 ? 1 : -1) })))
  return {
    itemId: item.id,
    cutSheetId: sheet.id,
    tests,
    lastTestAt: at,
    itemGrams: { n: tests, mean: grams, variance: 400 },
    minutes: sumMinutes(Array.from({ length: tests }, () => ({ items: pieces, minutes: pieces * sheet.body.minutes.low }))),
    since: null,
    mains: sharesOf(mains.reduce((sum, { key, typicalPct }) => sum + shareOf(key, typicalPct), 0)),
    runs: sumRuns(sizes),
    itemsPerBatch: pieces,
    itemsPerWeek: 10,
    consumablesPerItem: 0.1,
    outputs: sheet.body.outputs.map(({ key, typicalPct }) => ({
      key,
      share: sharesOf(shareOf(key, typicalPct)),
      servedRatio: null,
      lastValuePerKg: key === 'fat' ? 1.4 : null,
    })),
  }
}

export function sourcesOf(given: Partial<Sources>): Sources {
  return {
    items: [],
    sheets: [],
    book: [],
    ways: [],
    settings: {
      ...usualPlace,
      currency: 'EUR',
      weightSystem: 'metric',
      labour: { ratePerHour: 20, onCostPct: 10 },
      disposalPerKg: 0.2,
      cutting: usualCutting,
      limits: usualLimits,
      signedOutAfter: usualIdle,
      walkIn: usualWalkIn,
      scales: [],
      printers: [],
    },
    ...given,
  }
}
