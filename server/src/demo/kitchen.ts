import { type KitchenSettings, usualIdle, usualLimits, usualPlace, usualWalkIn } from '@fleam/contract/kitchen'
import { secretKindOf } from '@fleam/contract/people'
import { v7 as uuidv7 } from 'uuid'
import type { Database } from '../db/database.ts'
import { withLease } from '../db/lease.ts'
import type { KitchenRecords } from '../db/records.ts'
import { listCutSheets } from '../features/cut-sheets/service.ts'
import { hashSecret } from '../features/people/secrets.ts'
import { createKitchen, needsSetup } from '../features/setup/service.ts'
import { found } from '../http/changes.ts'
import { fillDoor } from './door.ts'
import { drawGoods, storeGoods, storeRuns } from './goods.ts'
import { classmates, demoPeople } from './people.ts'
import { practiseByEye, practiseFortnight } from './practice.ts'
import { demoWays } from './prices.ts'
import { makeDemoRuns } from './runs.ts'
import { planSaturday } from './saturday.ts'
import { fillSchool, makeClass } from './school.ts'
import { fillSisters } from './sisters.ts'
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
      const managerId = await fillKitchen(records, today, hashes)
      await fillToday(records, today, { name, settings })
      await fillWalkIn(records, today, { name, settings })
      await fillDoor(records)
      await planSaturday(records, today)
      await practiseByEye(records, today)
      await practiseFortnight(records, today)
      await fillSisters(all, today, settings, managerId)
    })
  })
}

/** @returns the manager's id */
async function fillKitchen(tx: KitchenRecords, today: Date, secretHashes: readonly string[]): Promise<string> {
  const ofStudent = demoPeople.findIndex(({ role }) => role === 'student')
  const students = classmates.map((name) => ({ name, role: 'student' as const, secretHash: secretHashes[ofStudent] }))
  const known = demoPeople.map(({ name, role }, index) => ({ name, role, secretHash: secretHashes[index] }))
  const people = [...known, ...students].map(({ name, role, secretHash }) => ({
    ...{ id: uuidv7(), name, signInName: name, role, secretHash },
    ...{ secretKind: secretKindOf(role), hasDemoSecret: true },
  }))
  const personIds = new Map(people.map((person) => [person.name, person.id]))
  const goods = drawGoods()
  const { items } = goods
  const idOf = (name: string | undefined) => items.find((other) => other.name === name)?.id ?? null
  const sheets = await listCutSheets(tx, '', 100)
  const context = { today, settings, personIds, sheets, ...goods }
  const runs = makeDemoRuns(context)
  const school = makeClass(context, runs.length)

  await tx.people.bulkCreate(people)
  const manager = found(people.find(({ role }) => role === 'manager'))
  await storeGoods(tx, goods, { today, personId: manager.id, fetchedFrom: 'Tidewater Meats' })
  await storeRuns(tx, [...runs, ...school.runs], runs)
  await tx.waysOfCutting.bulkCreate(
    demoWays.map(({ item, sheet, market, own = {} }) => {
      const bought = Object.entries(market).map(([key, name]) => [key, { readyCutId: idOf(name), ownPerKg: null }])
      const valued = Object.entries(own).map(([key, ownPerKg]) => [key, { readyCutId: null, ownPerKg }])
      const cutSheetId = found(sheets.find((other) => other.slug === sheet)).id
      return { itemId: found(idOf(item)), cutSheetId, parts: Object.fromEntries([...bought, ...valued]) }
    }),
  )
  await fillSchool(tx, context, school)
  return manager.id
}
