import type { RunQuery, RunSummary, runFilter } from '@fleam/contract/runs'
import { startOfDay } from '@fleam/core/quantities/house-day'
import { col, fn, IndexHints, Op } from 'sequelize'
import * as z from 'zod'
import type { KitchenRecords } from '../../db/records.ts'
import { found } from '../../http/changes.ts'
import type { Cursor } from '../../http/paging.ts'
import type { RunRow } from './run.model.ts'

/** A filter of the log; its days are those of the kitchen's own zone. */
export type LogQuery = z.infer<typeof runFilter> & { sort: RunQuery['sort']; timeZone: string }

interface Order {
  column: 'startedAt' | 'mainPct' | 'costPerKg' | 'unaccountedPct'
  descending: boolean
  /** Index of a figure, which only finished runs have; orders by day take the index of their narrowest filter. */
  index?: string
}

const orders: Record<RunQuery['sort'], Order> = {
  newest: { column: 'startedAt', descending: true },
  oldest: { column: 'startedAt', descending: false },
  'main-yield': { column: 'mainPct', descending: true, index: 'runs_by_main' },
  'cost-per-kg': { column: 'costPerKg', descending: false, index: 'runs_by_cost' },
  unaccounted: { column: 'unaccountedPct', descending: true, index: 'runs_by_unaccounted' },
}

/** What a summary shows of a run; the page of the log reads no more, and as plain rows. */
const summaryColumns = [
  'id',
  'number',
  'version',
  'status',
  'leftOut',
  'cookId',
  'lot',
  'billedTenths',
  'billedEntered',
  'receivedTenths',
  'receivedEntered',
  'minutes',
  'startedAt',
  'finishedAt',
  'mainPct',
  'usablePct',
  'unaccountedPct',
  'netCost',
  'costPerKg',
  'costPerPortion',
  'portions',
]

/** What a summary shows of other tables. */
export const namesOfRun = [
  { association: 'item', attributes: ['id', 'name', 'animal'] },
  { association: 'cutSheetVersion', attributes: ['id', 'cutSheetId', 'name', 'number'] },
  { association: 'supplier', attributes: ['id', 'name'] },
  { association: 'cook', attributes: ['id', 'name'] },
]

/**
 * One page of the yield log. Its ids are read off one index in their order, and only those rows are fetched and joined.
 * Sorting by a figure shows finished runs only.
 */
export async function listRuns(records: KitchenRecords, query: LogQuery, cursor: Cursor | undefined, limit: number): Promise<RunSummary[]> {
  const { column, descending, index } = orders[query.sort]
  const direction = descending ? 'DESC' : 'ASC'
  const page = await records.runs.findAll({
    attributes: ['id'],
    where: whereOf(query, cursor),
    indexHints: [{ type: IndexHints.FORCE, values: [index ?? indexByDay(query)] }],
    order: [
      [column, direction],
      ['id', direction],
    ],
    limit,
    raw: true,
  })
  const ids = page.map(({ id }) => id)
  if (ids.length === 0) return []
  const [rows, defects] = await Promise.all([
    records.runs.findAll({ attributes: summaryColumns, where: { id: ids }, include: namesOfRun, raw: true, nest: true }),
    countDefects(records, ids),
  ])
  const byId = new Map(rows.map((row) => [row.id, row]))
  return ids.flatMap((id) => {
    const row = byId.get(id)
    return row ? [toSummary(row, defects.get(id) ?? 0)] : []
  })
}

function whereOf(query: LogQuery, cursor: Cursor | undefined) {
  const { column, descending, index } = orders[query.sort]
  const { itemId, cookId, supplierId, from, to, timeZone } = query
  const status = index ? 'finished' : query.status
  const beyond = descending ? Op.lt : Op.gt
  const upTo = descending ? Op.lte : Op.gte
  const after = cursor && valueIn(cursor, column)
  return {
    [Op.and]: [
      Object.fromEntries(Object.entries({ itemId, cookId, supplierId, status }).filter(([, value]) => value !== undefined)),
      ...(from ? [{ startedAt: { [Op.gte]: startOfDay(from, timeZone) } }] : []),
      ...(to ? [{ startedAt: { [Op.lt]: startOfDay(to, timeZone, 1) } }] : []),
      ...(index ? [{ [column]: { [Op.not]: null } }] : []),
      ...(cursor
        ? [{ [column]: { [upTo]: after } }, { [Op.or]: [{ [column]: { [beyond]: after } }, { id: { [beyond]: cursor.id } }] }]
        : []),
    ],
  }
}

function valueIn({ after }: Cursor, column: Order['column']): Date | number {
  return column === 'startedAt' ? new Date(after) : Number(after)
}

function indexByDay(query: z.infer<typeof runFilter>): string {
  if (query.cookId) return 'runs_of_cook'
  if (query.supplierId) return 'runs_of_supplier'
  if (query.itemId) return 'runs_of_item'
  return query.status ? 'runs_of_status' : 'runs_by_start'
}

/** What a cursor of the log in this order goes on from. */
export const cursorFor = (sort: RunQuery['sort']) => (orders[sort].column === 'startedAt' ? z.iso.datetime() : z.number())

/** Where the next page of the log starts. */
export function cursorOf(run: RunSummary, sort: RunQuery['sort']): Cursor {
  const { column } = orders[sort]
  const after = column === 'startedAt' ? run.startedAt : found(run.figures?.[column])
  return { after, id: run.id }
}

async function countDefects(records: KitchenRecords, runIds: readonly string[]): Promise<Map<string, number>> {
  const rows = await records.defects.findAll({
    attributes: ['runId', [fn('COUNT', col('id')), 'count']],
    where: { runId: [...runIds] },
    group: ['run_id'],
    raw: true,
  })
  return new Map((rows as unknown as { runId: string; count: number }[]).map(({ runId, count }) => [runId, count]))
}

export function toSummary(row: RunRow, defectCount: number): RunSummary {
  const { item, cutSheetVersion, supplier, cook } = row
  const sheet = found(cutSheetVersion)
  const { id, name, animal } = found(item)
  return {
    id: row.id,
    number: row.number,
    version: row.version,
    status: row.status,
    item: { id, name, animal },
    cutSheet: { id: sheet.cutSheetId, name: sheet.name, number: sheet.number },
    supplier: supplier?.id ? { id: supplier.id, name: supplier.name } : null,
    cook: { id: row.cookId, name: found(cook).name },
    lot: row.lot,
    billed: { tenths: row.billedTenths, entered: row.billedEntered },
    received: { tenths: row.receivedTenths, entered: row.receivedEntered },
    minutes: row.minutes,
    startedAt: row.startedAt.toISOString(),
    finishedAt: row.finishedAt?.toISOString() ?? null,
    defectCount,
    figures: toFigures(row),
    leftOut: row.leftOut ?? null,
  }
}

function toFigures({ mainPct, usablePct, unaccountedPct, netCost, costPerKg, costPerPortion, portions }: RunRow): RunSummary['figures'] {
  if (mainPct === null || usablePct === null || unaccountedPct === null) return null
  return { mainPct, usablePct, unaccountedPct, netCost: netCost ?? 0, costPerKg, costPerPortion, portions: portions ?? 0 }
}
