import { comparisonBody } from '@fleam/contract/compare'
import { cutSheetBody } from '@fleam/contract/cut-sheets'
import { kitchenSettings, readSettings } from '@fleam/contract/kitchen'
import { line } from '@fleam/contract/primitives'
import { type Run, run as runContract } from '@fleam/contract/runs'
import { figuresOfRun } from '@fleam/core/runs/run-record'
import type * as z from 'zod'
import type { Database } from './db/database.ts'
import type { KitchenRecords } from './db/records.ts'
import { findRun } from './features/runs/find-run.ts'
import type { RunRow } from './features/runs/run.model.ts'

/** Something stored that is not as it should be: where, and what. */
export interface Fault {
  kitchen: string
  where: string
  what: string
}

type Tell = (where: string, what: string) => void

const runsAtOnce = 100
/** Figures are computed anew in the same order from the same numbers; what is stored may differ in its last places. */
const closeEnough = 1e-6

/**
 * Reads everything that a database holds and names what does not fit: settings, sheets and runs that are not as their contract
 * says, references to nothing or to another kitchen, ledgers that do not balance, stored figures that the ledger does not give,
 * totals that count other runs than there are. It changes nothing.
 * @param tell called for each fault as it is found
 */
export async function checkDatabase(db: Database, tell: (fault: Fault) => void): Promise<{ kitchens: number; runs: number }> {
  const kitchens = await db.acrossKitchens.kitchens.findAll({ order: ['name'] })
  let runs = 0
  for (const { id, name, settings } of kitchens) {
    const say: Tell = (where, what) => tell({ kitchen: name, where, what })
    const records = db.of(id)
    fits(kitchenSettings, readSettings(settings), 'settings', say)
    await checkLists(records, say)
    runs += await checkRuns(records, say)
    await checkLots(records, say)
    await checkTotals(records, say)
  }
  return { kitchens: kitchens.length, runs }
}

/** What every lot's books add up to is what is said to be left of it; what was put away of a tub is no more than lay in it. */
async function checkLots(records: KitchenRecords, say: Tell): Promise<void> {
  for (let offset = 0; ; offset += runsAtOnce) {
    const lots = await records.lots.findAll({ order: ['id'], limit: runsAtOnce, offset, raw: true })
    const moves = await records.lotMoves.findAll({ attributes: ['lotId', 'tenths'], where: { lotId: lots.map(({ id }) => id) }, raw: true })
    const sums = new Map<string, number>()
    for (const { lotId, tenths } of moves) sums.set(lotId, (sums.get(lotId) ?? 0) + tenths)
    for (const { id, number, leftTenths } of lots) {
      const sum = sums.get(id) ?? 0
      if (sum !== leftTenths) say(`lot ${number}.leftTenths`, `Its books come to ${sum}, not ${leftTenths}.`)
    }
    if (lots.length < runsAtOnce) return
  }
}

function fits(contract: z.ZodType, value: unknown, where: string, say: Tell): void {
  const { error } = contract.safeParse(value)
  for (const { path, message } of error?.issues.slice(0, 5) ?? []) say([where, ...path].join('.'), message)
}

/** Names can be read, and what is kept as JSON is as its contract says. */
async function checkLists(records: KitchenRecords, say: Tell): Promise<void> {
  const named = { attributes: ['id', 'name'], raw: true }
  for (const table of ['people', 'suppliers', 'items'] as const) {
    for (const { id, name } of await records[table].findAll(named)) fits(line(80), name, `${table} ${id}`, say)
  }
  for (const { id, body } of await records.cutSheetVersions.findAll({ raw: true })) fits(cutSheetBody, body, `cut sheet version ${id}`, say)
  for (const { id, body } of await records.comparisons.findAll({ raw: true })) fits(comparisonBody, body, `comparison ${id}`, say)
}

async function checkRuns(records: KitchenRecords, say: Tell): Promise<number> {
  const known = {
    itemId: await idsOf(records.items),
    supplierId: await idsOf(records.suppliers),
    cookId: await idsOf(records.people),
    quoteId: await idsOf(records.quotes),
    cutSheetVersionId: await idsOf(records.cutSheetVersions),
  }
  let count = 0
  for (let offset = 0; ; offset += runsAtOnce) {
    const rows = await records.runs.findAll({ order: ['id'], limit: runsAtOnce, offset, raw: true })
    for (const row of rows) {
      count += 1
      const where = `run ${row.number}`
      for (const [column, ids] of Object.entries(known)) {
        const id = row[column as keyof typeof known]
        if (id !== null && !ids.has(id)) say(`${where}.${column}`, 'This kitchen has no such thing.')
      }
      await checkRun(records, row, where, say)
    }
    if (rows.length < runsAtOnce) return count
  }
}

async function checkRun(records: KitchenRecords, row: RunRow, where: string, say: Tell): Promise<void> {
  let read: Run | undefined
  try {
    read = await findRun(records, row.id)
  } catch (error) {
    return say(where, `It cannot be read: ${(error as Error).message}`)
  }
  if (!read) return say(where, 'It cannot be found.')
  fits(runContract, read, where, say)
  checkLedger(read, where, say)
  if (row.status !== 'finished') return
  const figures = figuresOfRun(read)
  for (const key of ['mainPct', 'usablePct', 'unaccountedPct', 'netCost', 'costPerKg', 'costPerPortion', 'portions'] as const) {
    const [stored, given] = [row[key], figures[key]]
    const isSame =
      stored === given || Math.abs((stored ?? Number.NaN) - (given ?? Number.NaN)) <= closeEnough * Math.max(1, Math.abs(given ?? 0))
    if (!isSame) say(`${where}.${key}`, `${stored} is stored, the ledger gives ${given}.`)
  }
}

/** Every line is in a tub of its run, and takes back at most one weighing, of the same weight, that nothing else takes back. */
function checkLedger({ tubs, weighings }: Run, where: string, say: Tell): void {
  const tubIds = new Set(tubs.map(({ id }) => id))
  const lines = new Map(weighings.map((weighing) => [weighing.id, weighing]))
  const takenBack = new Set<string>()
  for (const { id, tubId, tenths, reversesId } of weighings) {
    const at = `${where}, weighing ${id}`
    if (!tubIds.has(tubId)) say(at, 'It is in a tub of another run.')
    if (reversesId === null) continue
    const first = lines.get(reversesId)
    if (!first || first.reversesId !== null) say(at, 'It takes back what is no weighing of this run.')
    else if (first.tenths !== tenths || first.tubId !== tubId) say(at, 'It takes back another weight than was weighed.')
    if (takenBack.has(reversesId)) say(at, 'It takes back what was taken back already.')
    takenBack.add(reversesId)
  }
}

/** Running totals count as many tests as the log has since they were begun. */
async function checkTotals(records: KitchenRecords, say: Tell): Promise<void> {
  const versions = new Map(
    (await records.cutSheetVersions.findAll({ attributes: ['id', 'cutSheetId'], raw: true })).map(({ id, cutSheetId }) => [id, cutSheetId]),
  )
  const finished = await records.runs.findAll({
    attributes: ['itemId', 'cutSheetVersionId', 'startedAt', 'leftOut'],
    where: { status: 'finished' },
    raw: true,
  })
  for (const { itemId, cutSheetId, tests, since } of await records.cutTotals.findAll({ raw: true })) {
    const counted = finished.filter(
      (run) =>
        run.itemId === itemId &&
        versions.get(run.cutSheetVersionId) === cutSheetId &&
        !run.leftOut &&
        (since === null || run.startedAt >= since),
    ).length
    if (counted !== tests) say(`yield book of item ${itemId} by sheet ${cutSheetId}`, `It counts ${tests} tests, the log ${counted}.`)
  }
}

async function idsOf(table: { findAll(options: object): Promise<{ id: string }[]> }): Promise<Set<string>> {
  return new Set((await table.findAll({ attributes: ['id'], raw: true })).map(({ id }) => id))
}
