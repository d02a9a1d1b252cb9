import { v7 as uuidv7 } from 'uuid'
import type { KitchenRecords } from '../db/records.ts'
import { priceColumns } from '../features/prices/quotes.ts'
import { addTests } from '../features/yield-book/totals.ts'
import { demoItems, demoSuppliers } from './prices.ts'
import type { Context, DemoRun } from './runs.ts'

type Goods = Pick<Context, 'supplierIds' | 'items' | 'quotes'>

/** The demo's suppliers, what is bought of them, and a year of its prices, under new ids. */
export function drawGoods(): Goods {
  const items = demoItems.map((item) => ({ ...item, id: uuidv7() }))
  return {
    supplierIds: new Map(demoSuppliers.map((name) => [name, uuidv7()])),
    items,
    quotes: items.flatMap((item) => item.quotes.map((quote) => ({ ...quote, id: uuidv7(), item: item.name, itemId: item.id }))),
  }
}

interface StoredBy {
  today: Date
  /** Who wrote the prices down. */
  personId: string
  /** The supplier whose price list is fetched every day, from the simulated one. */
  fetchedFrom?: (typeof demoSuppliers)[number]
}

export async function storeGoods(tx: KitchenRecords, { supplierIds, items, quotes }: Goods, by: StoredBy): Promise<void> {
  const { today, personId, fetchedFrom } = by
  const feed = { feed: { address: 'simulated', everyHours: 24 }, nextFetchAt: today }
  await tx.suppliers.bulkCreate(
    [...supplierIds].map(([name, id]) => ({ id, name, priceList: null, ...(name === fetchedFrom ? feed : {}) })),
  )
  // what others are set against comes first
  const readyCutFirst = [...items].sort((a, b) => (a.kind === b.kind ? 0 : a.kind === 'ready-cut' ? -1 : 1))
  await tx.items.bulkCreate(
    readyCutFirst.map(({ id, name, kind, animal, readyCut, against }) => {
      return { id, name, kind, animal, readyCut: readyCut ?? null, againstId: items.find((other) => other.name === against)?.id ?? null }
    }),
  )
  await tx.quotes.bulkCreate(
    quotes.map(({ id, itemId, supplier, price, daysAgo }) => {
      const at = daysBefore(today, daysAgo)
      const supplierId = supplierIds.get(supplier) ?? null
      return { id, itemId, supplierId, ...priceColumns(price), quotedOn: at.toISOString().slice(0, 10), at, personId }
    }),
  )
}

/** Runs with all that was weighed in them; those that are `tested` count in the yield book. */
export async function storeRuns(tx: KitchenRecords, runs: readonly DemoRun[], tested = runs): Promise<void> {
  await tx.runs.bulkCreate(runs.map(({ run }) => run))
  await tx.tubs.bulkCreate(runs.flatMap(({ tubs }) => tubs))
  await tx.weighings.bulkCreate(runs.flatMap(({ weighings }) => weighings))
  await tx.defects.bulkCreate(runs.flatMap(({ defects }) => defects))
  await tx.benchEvents.bulkCreate(runs.flatMap(({ benchEvents }) => benchEvents))
  await addTests(
    tx,
    tested.map(({ test }) => test),
  )
  await tx.runNumbers.update({ last: runs.length }, {})
}

export function daysBefore(day: Date, days: number): Date {
  return new Date(day.getTime() - days * 86_400_000)
}
