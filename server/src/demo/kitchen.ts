import { type KitchenSettings, usualLimits } from '@fleam/contract/kitchen'
import { v7 as uuidv7 } from 'uuid'
import type { Database, Values } from '../db/database.ts'
import { listCutSheets } from '../features/cut-sheets/service.ts'
import { hashSecret } from '../features/people/secrets.ts'
import { createKitchen } from '../features/setup/service.ts'
import { demoPeople } from './people.ts'
import { demoItems, demoSuppliers, demoWays } from './prices.ts'
import { type DemoRun, makeDemoRuns } from './runs.ts'

const settings: KitchenSettings = {
  currency: 'EUR',
  weightSystem: 'metric',
  labour: { ratePerHour: 19.5, onCostPct: 12 },
  disposalPerKg: 0.18,
  cutting: { setupMinutes: 6, storageLossPct: 1, rejectedPct: 0.5, idleHands: false, priorTests: 3 },
  limits: usualLimits,
  scales: [],
}

/** Fills an empty database with the demo kitchen: an estuary hotel and the cookery school next door, all made up. */
export async function loadDemoKitchen(db: Database, today: Date): Promise<void> {
  const hashes = await Promise.all(demoPeople.map((person) => hashSecret(person.secret)))
  const kitchenId = await createKitchen(db, { name: 'Saltmarsh House, hotel kitchen and cookery school', settings, isDemo: true })
  const people = demoPeople.map((person, index) => ({
    id: uuidv7(),
    kitchen_id: kitchenId,
    name: person.name,
    sign_in_name: person.name,
    role: person.role,
    secret_hash: hashes[index],
    has_demo_secret: 1,
  }))
  const personIds = new Map(people.map((person) => [person.name, person.id]))
  const suppliers = demoSuppliers.map((name) => ({ id: uuidv7(), kitchen_id: kitchenId, name }))
  const supplierIds = new Map(suppliers.map((supplier) => [supplier.name, supplier.id]))
  const items = demoItems.map((item) => ({ ...item, id: uuidv7() }))
  const sheets = await listCutSheets(db, kitchenId, '', 100)
  const quotes = items.flatMap((item) =>
    item.quotes.map((quote) => ({
      id: uuidv7(),
      kitchen_id: kitchenId,
      item_id: item.id,
      supplier_id: supplierIds.get(quote.supplier),
      amount: quote.price.amount,
      per: quote.price.per,
      case_count: quote.price.count ?? null,
      case_grams: quote.price.grams ?? null,
      quoted_on: daysBefore(today, quote.daysAgo).toISOString().slice(0, 10),
      at: daysBefore(today, quote.daysAgo),
      person_id: personIds.get('Maren Holt'),
      supplier: quote.supplier,
      daysAgo: quote.daysAgo,
      item: item.name,
      price: quote.price,
    })),
  )
  const runs = makeDemoRuns({ today, kitchenId, settings, personIds, supplierIds, sheets, items, quotes })
  await db.transaction(async (tx) => {
    await tx.insertMany('people', people)
    await tx.insertMany('suppliers', suppliers)
    const byKind = [...items].sort((a, b) => (a.kind === b.kind ? 0 : a.kind === 'ready-cut' ? -1 : 1))
    for (const item of byKind) await tx.insertMany('items', [itemColumns(item, kitchenId, items)])
    await tx.insertMany(
      'quotes',
      quotes.map(({ supplier, daysAgo, item, price, ...columns }) => columns),
    )
    for (const table of ['runs', ...tablesOfRuns] as const)
      await tx.insertMany(
        table,
        runs.flatMap((run) => rowsOf(run, table)),
      )
    await tx.insertMany(
      'ways_of_cutting',
      demoWays.map((way) => wayColumns(way, kitchenId, items, sheets)),
    )
    await tx.run('UPDATE kitchens SET last_run_number = :count WHERE id = :kitchenId', { count: runs.length, kitchenId })
  })
}

const tablesOfRuns = ['tubs', 'weighings', 'defects', 'bench_events', 'run_outputs'] as const

function rowsOf(run: DemoRun, table: 'runs' | (typeof tablesOfRuns)[number]): Values[] {
  return table === 'runs' ? [run.run] : run[table]
}

function itemColumns(item: (typeof demoItems)[number] & { id: string }, kitchenId: string, all: { id: string; name: string }[]) {
  return {
    id: item.id,
    kitchen_id: kitchenId,
    name: item.name,
    kind: item.kind,
    animal: item.animal,
    ready_cut: item.readyCut ? JSON.stringify(item.readyCut) : null,
    against_id: all.find((other) => other.name === item.against)?.id ?? null,
  }
}

function wayColumns(
  { item, sheet, market, own = {} }: (typeof demoWays)[number],
  kitchenId: string,
  items: readonly { id: string; name: string }[],
  sheets: readonly { id: string; slug: string }[],
) {
  const idOf = (name: string) => items.find((other) => other.name === name)?.id ?? null
  const bought = Object.entries(market).map(([key, name]) => [key, { readyCutId: idOf(name), ownPerKg: null }])
  const valued = Object.entries(own).map(([key, ownPerKg]) => [key, { readyCutId: null, ownPerKg }])
  return {
    item_id: idOf(item),
    cut_sheet_id: sheets.find((other) => other.slug === sheet)?.id,
    kitchen_id: kitchenId,
    parts: JSON.stringify(Object.fromEntries([...bought, ...valued])),
  }
}

export function daysBefore(day: Date, days: number): Date {
  return new Date(day.getTime() - days * 86_400_000)
}
