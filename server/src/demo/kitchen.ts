import { type KitchenSettings, usualIdle, usualLimits, usualPlace, usualWalkIn } from '@fleam/contract/kitchen'
import { secretKindOf } from '@fleam/contract/people'
import { v7 as uuidv7 } from 'uuid'
import type { Database } from '../db/database.ts'
import { withLease } from '../db/lease.ts'
import type { KitchenRecords } from '../db/records.ts'
import { listCutSheets } from '../features/cut-sheets/service.ts'
import { hashSecret } from '../features/people/secrets.ts'
import { priceColumns } from '../features/prices/quotes.ts'
import { createKitchen, needsSetup } from '../features/setup/service.ts'
import { addTests } from '../features/yield-book/totals.ts'
import { found } from '../http/changes.ts'
import { fillDoor } from './door.ts'
import { classmates, demoPeople } from './people.ts'
import { practiseByEye, practiseFortnight } from './practice.ts'
import { demoItems, demoSuppliers, demoWays } from './prices.ts'
import { makeDemoRuns } from './runs.ts'
import { planSaturday } from './saturday.ts'
import { fillSchool, makeClass } from './school.ts'
import { fillToday } from './today.ts'
import { fillWalkIn } from './walk-in.ts'

const settings: KitchenSettings = {
  ...usualPlace,
  currency: 'EUR',
  weightSystem: 'metric',
  labour: { ratePerHour: 19.5, onCostPct: 12 },
  disposalPerKg: 0.18,
  cutting: { setupMinutes: 6, storageLossPct: 1, rejectedPct: 0.5, idleHands: false, priorTests: 3 },
  limits: usualLimits,
  signedOutAfter: usualIdle,
  walkIn: { ...usualWalkIn, keeping: { ...usualWalkIn.keeping, cookedBeginsAnew: true } },
  scales: [],
  printers: [],
}

/** Fills an empty database with the demo kitchen, all of it or none: an estuary hotel and the cookery school next door, all made up. */
export async function loadDemoKitchen(db: Database, today: Date): Promise<void> {
  const hashes = await Promise.all(demoPeople.map((person) => hashSecret(person.secret)))
  await withLease(db, 'set-up', async () => {
    if (!(await needsSetup(db))) return
    await db.acrossKitchens.transaction(async (all) => {
      const name = 'Saltmarsh House, hotel kitchen and cookery school'
      const records = all.of(await createKitchen(all, { name, settings, isDemo: true }))
      await fillKitchen(records, today, hashes)
      await fillToday(records, today, { name, settings })
      await fillWalkIn(records, today, { name, settings })
      await fillDoor(records)
      await planSaturday(records, today)
      await practiseByEye(records, today)
      await practiseFortnight(records, today)
    })
  })
}

/** The supplier whose price list is fetched every day, from the simulated one. */
const fetchedFrom: (typeof demoSuppliers)[number] = 'Tidewater Meats'
const demoFeed = (today: Date) => ({ feed: { address: 'simulated', everyHours: 24 }, nextFetchAt: today })

async function fillKitchen(tx: KitchenRecords, today: Date, secretHashes: readonly string[]): Promise<void> {
  const ofStudent = demoPeople.findIndex(({ role }) => role === 'student')
  const students = classmates.map((name) => ({ name, role: 'student' as const, secretHash: secretHashes[ofStudent] }))
  const known = demoPeople.map(({ name, role }, index) => ({ name, role, secretHash: secretHashes[index] }))
  const people = [...known, ...students].map(({ name, role, secretHash }) => ({
    ...{ id: uuidv7(), name, signInName: name, role, secretHash },
    ...{ secretKind: secretKindOf(role), hasDemoSecret: true },
  }))
  const personIds = new Map(people.map((person) => [person.name, person.id]))
  const suppliers = demoSuppliers.map((name) => ({ id: uuidv7(), name }))
  const supplierIds = new Map<string, string>(suppliers.map((supplier) => [supplier.name, supplier.id]))
  const items = demoItems.map((item) => ({ ...item, id: uuidv7() }))
  const idOf = (name: string | undefined) => items.find((other) => other.name === name)?.id ?? null
  const sheets = await listCutSheets(tx, '', 100)
  const quotes = items.flatMap((item) => item.quotes.map((quote) => ({ ...quote, id: uuidv7(), item: item.name, itemId: item.id })))
  const context = { today, settings, personIds, supplierIds, sheets, items, quotes }
  const runs = makeDemoRuns(context)
  const school = makeClass(context, runs.length)

  await tx.people.bulkCreate(people)
  await tx.suppliers.bulkCreate(suppliers.map((one) => ({ ...one, priceList: null, ...(one.name === fetchedFrom ? demoFeed(today) : {}) })))
  // what others are set against comes first
  const readyCutFirst = [...items].sort((a, b) => (a.kind === b.kind ? 0 : a.kind === 'ready-cut' ? -1 : 1))
  await tx.items.bulkCreate(
    readyCutFirst.map(({ id, name, kind, animal, readyCut, against }) => {
      return { id, name, kind, animal, readyCut: readyCut ?? null, againstId: idOf(against) }
    }),
  )
  await tx.quotes.bulkCreate(
    quotes.map(({ id, itemId, supplier, price, daysAgo }) => {
      const at = daysBefore(today, daysAgo)
      const [supplierId, personId] = [supplierIds.get(supplier) ?? null, personIds.get('Maren Holt') ?? null]
      return { id, itemId, supplierId, ...priceColumns(price), quotedOn: at.toISOString().slice(0, 10), at, personId }
    }),
  )
  await tx.runs.bulkCreate([...runs, ...school.runs].map(({ run }) => run))
  await tx.tubs.bulkCreate([...runs, ...school.runs].flatMap(({ tubs }) => tubs))
  await tx.weighings.bulkCreate([...runs, ...school.runs].flatMap(({ weighings }) => weighings))
  await tx.defects.bulkCreate([...runs, ...school.runs].flatMap(({ defects }) => defects))
  await tx.benchEvents.bulkCreate([...runs, ...school.runs].flatMap(({ benchEvents }) => benchEvents))
  await addTests(
    tx,
    runs.map(({ test }) => test),
  )
  await tx.waysOfCutting.bulkCreate(
    demoWays.map(({ item, sheet, market, own = {} }) => {
      const bought = Object.entries(market).map(([key, name]) => [key, { readyCutId: idOf(name), ownPerKg: null }])
      const valued = Object.entries(own).map(([key, ownPerKg]) => [key, { readyCutId: null, ownPerKg }])
      const cutSheetId = found(sheets.find((other) => other.slug === sheet)).id
      return { itemId: found(idOf(item)), cutSheetId, parts: Object.fromEntries([...bought, ...valued]) }
    }),
  )
  await tx.runNumbers.update({ last: runs.length + school.runs.length }, {})
  await fillSchool(tx, context, school)
}

export function daysBefore(day: Date, days: number): Date {
  return new Date(day.getTime() - days * 86_400_000)
}
