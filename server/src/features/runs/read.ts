import type { Defect, Run, RunQuery, RunSummary, runFilter, Tub, Weighing } from '@fleam/contract/runs'
import type { z } from 'zod'
import type { Queries } from '../../db/database.ts'
import { inPlaces } from '../../db/places.ts'
import type { Cursor } from '../../http/paging.ts'
import { dayOf, toPrice } from '../prices/quote-row.ts'
import { listBenchEvents } from './read-bench-events.ts'

export interface RunRow {
  id: string
  number: number
  version: number
  status: Run['status']
  item_id: string
  item_name: string
  animal: Run['item']['animal']
  sheet_id: string
  sheet_name: string
  sheet_number: number
  supplier_id: string | null
  supplier_name: string | null
  cook_id: string
  cook_name: string
  lot: string
  billed_tenths: number
  billed_entered: string
  received_tenths: number
  received_entered: string
  minutes: number | null
  started_at: Date
  finished_at: Date | null
  defect_count: number
  main_pct: number | null
  usable_pct: number | null
  unaccounted_pct: number | null
  net_cost: number | null
  cost_per_kg: number | null
  cost_per_portion: number | null
  portions: number | null
}

const summaryColumns = `
  r.id, r.number, r.version, r.status, r.item_id, i.name AS item_name, i.animal,
  v.cut_sheet_id AS sheet_id, v.name AS sheet_name, v.number AS sheet_number,
  r.supplier_id, s.name AS supplier_name, r.cook_id, c.name AS cook_name, r.lot,
  r.billed_tenths, r.billed_entered, r.received_tenths, r.received_entered, r.minutes, r.started_at, r.finished_at,
  (SELECT COUNT(*) FROM defects d WHERE d.run_id = r.id) AS defect_count,
  r.main_pct, r.usable_pct, r.unaccounted_pct, r.net_cost, r.cost_per_kg, r.cost_per_portion, r.portions`

const summaryJoins = `
  JOIN items i ON i.id = r.item_id
  JOIN cut_sheet_versions v ON v.id = r.cut_sheet_version_id
  JOIN people c ON c.id = r.cook_id
  LEFT JOIN suppliers s ON s.id = r.supplier_id`

interface Order {
  column: keyof RunRow
  descending: boolean
  /** Index of a figure, which only finished runs have; orders by day take the index of their narrowest filter. */
  index?: string
}

const orders: Record<RunQuery['sort'], Order> = {
  newest: { column: 'started_at', descending: true },
  oldest: { column: 'started_at', descending: false },
  'main-yield': { column: 'main_pct', descending: true, index: 'runs_by_main' },
  'cost-per-kg': { column: 'cost_per_kg', descending: false, index: 'runs_by_cost' },
  unaccounted: { column: 'unaccounted_pct', descending: true, index: 'runs_by_unaccounted' },
}

/**
 * SQL of one page of the yield log. The page is read off one index in its order, and only its rows are joined; sorting
 * by a figure shows finished runs only.
 */
export function runPageQuery(
  kitchenId: string,
  query: z.infer<typeof runFilter> & { sort: RunQuery['sort'] },
  cursor: Cursor | undefined,
  limit: number,
): { sql: string; values: Record<string, unknown> } {
  const { column, descending, index } = orders[query.sort]
  const status = index ? 'finished' : query.status
  const conditions = ['r.kitchen_id = :kitchenId']
  if (query.itemId) conditions.push('r.item_id = :itemId')
  if (query.cookId) conditions.push('r.cook_id = :cookId')
  if (query.supplierId) conditions.push('r.supplier_id = :supplierId')
  if (status) conditions.push('r.status = :status')
  if (query.from) conditions.push('r.started_at >= :from')
  if (query.to) conditions.push('r.started_at < DATE_ADD(:to, INTERVAL 1 DAY)')
  if (index) conditions.push(`r.${column} IS NOT NULL`)
  const before = descending ? '<' : '>'
  if (cursor) conditions.push(`r.${column} ${before}= :after AND (r.${column} ${before} :after OR r.id ${before} :afterId)`)
  const direction = descending ? 'DESC' : 'ASC'
  return {
    sql: `SELECT ${summaryColumns} FROM (
        SELECT * FROM runs r FORCE INDEX (${index ?? indexByDay(query)}) WHERE ${conditions.join(' AND ')}
        ORDER BY r.${column} ${direction}, r.id ${direction} LIMIT :limit
      ) r ${summaryJoins} ORDER BY r.${column} ${direction}, r.id ${direction}`,
    values: {
      ...query,
      kitchenId,
      status,
      after: column === 'started_at' && cursor ? new Date(cursor.after) : cursor?.after,
      afterId: cursor?.id,
      limit,
    },
  }
}

function indexByDay(query: z.infer<typeof runFilter>): string {
  if (query.cookId) return 'runs_of_cook'
  if (query.supplierId) return 'runs_of_supplier'
  if (query.itemId) return 'runs_of_item'
  return query.status ? 'runs_of_status' : 'runs_by_start'
}

export function cursorOf(row: RunRow, sort: RunQuery['sort']): Cursor {
  const value = row[orders[sort].column]
  return { after: value instanceof Date ? value.toISOString() : (value as number), id: row.id }
}

export async function listRuns(
  db: Queries,
  kitchenId: string,
  query: z.infer<typeof runFilter> & { sort: RunQuery['sort'] },
  cursor: Cursor | undefined,
  limit: number,
): Promise<RunRow[]> {
  const { sql, values } = runPageQuery(kitchenId, query, cursor, limit)
  return db.rows<RunRow>(sql, values)
}

interface RunDetailRow extends RunRow {
  body: string
  pieces: number
  by_item: number
  fish: string | null
  core_temp_c: number | null
  temperature: string | null
  amount: number
  per: 'kg' | 'lb' | 'each' | 'case'
  case_count: number | null
  case_grams: number | null
  quoted_on: Date
  ready_cut_name: string | null
  ready_cut_terms: string | null
  ready_amount: number | null
  ready_per: 'kg' | 'lb' | 'each' | 'case'
  ready_count: number | null
  ready_grams: number | null
  ready_quoted_on: Date | null
  rates: string
  method: Run['method']
  consumables: number
  unaccounted_reason: string | null
  finished_by: string | null
  finished_by_name: string | null
}

/** One run with all that is on record of it: three reads, each by key. */
export async function findRun(db: Queries, kitchenId: string, id: string): Promise<Run | undefined> {
  const row = await db.row<RunDetailRow>(
    `SELECT ${summaryColumns}, v.body, r.pieces, r.by_item, r.fish, r.core_temp_c, r.temperature, r.rates, r.method, r.consumables,
       r.unaccounted_reason, r.finished_by, f.name AS finished_by_name,
       q.amount, q.per, q.case_count, q.case_grams, q.quoted_on,
       ri.name AS ready_cut_name, r.ready_cut_terms, rq.amount AS ready_amount, rq.per AS ready_per,
       rq.case_count AS ready_count, rq.case_grams AS ready_grams, rq.quoted_on AS ready_quoted_on
     FROM runs r ${summaryJoins}
     JOIN quotes q ON q.id = r.quote_id
     LEFT JOIN items ri ON ri.id = r.ready_cut_item_id
     LEFT JOIN quotes rq ON rq.id = r.ready_cut_quote_id
     LEFT JOIN people f ON f.id = r.finished_by
     WHERE r.id = :id AND r.kitchen_id = :kitchenId`,
    { id, kitchenId },
  )
  if (!row) return undefined
  const [tubs, weighings, defects, events] = await Promise.all([
    listTubs(db, id),
    listWeighings(db, id),
    listDefects(db, id),
    listBenchEvents(db, id),
  ])
  return {
    ...toSummary(row),
    sheet: JSON.parse(row.body),
    pieces: row.pieces,
    byItem: row.by_item === 1,
    fish: row.fish ? JSON.parse(row.fish) : null,
    coreTempC: row.core_temp_c,
    temperature: row.temperature ? JSON.parse(row.temperature) : null,
    quote: { price: toPrice(row), quotedOn: dayOf(row.quoted_on) },
    readyCut: toReadyCut(row),
    rates: JSON.parse(row.rates),
    consumables: row.consumables,
    method: row.method,
    unaccountedReason: row.unaccounted_reason,
    finishedBy: row.finished_by && row.finished_by_name ? { id: row.finished_by, name: row.finished_by_name } : null,
    tubs,
    weighings,
    defects,
    events,
  }
}

export function toSummary(row: RunRow): RunSummary {
  return {
    id: row.id,
    number: row.number,
    version: row.version,
    status: row.status,
    item: { id: row.item_id, name: row.item_name, animal: row.animal },
    cutSheet: { id: row.sheet_id, name: row.sheet_name, number: row.sheet_number },
    supplier: row.supplier_id && row.supplier_name ? { id: row.supplier_id, name: row.supplier_name } : null,
    cook: { id: row.cook_id, name: row.cook_name },
    lot: row.lot,
    billed: { tenths: row.billed_tenths, entered: row.billed_entered },
    received: { tenths: row.received_tenths, entered: row.received_entered },
    minutes: row.minutes,
    startedAt: row.started_at.toISOString(),
    finishedAt: row.finished_at?.toISOString() ?? null,
    defectCount: row.defect_count,
    figures: toFigures(row),
  }
}

function toFigures(row: RunRow): RunSummary['figures'] {
  if (row.main_pct === null || row.usable_pct === null || row.unaccounted_pct === null) return null
  return {
    mainPct: row.main_pct,
    usablePct: row.usable_pct,
    unaccountedPct: row.unaccounted_pct,
    netCost: row.net_cost ?? 0,
    costPerKg: row.cost_per_kg,
    costPerPortion: row.cost_per_portion,
    portions: row.portions ?? 0,
  }
}

function toReadyCut(row: RunDetailRow): Run['readyCut'] {
  if (!row.ready_cut_terms || row.ready_amount === null || !row.ready_quoted_on) return null
  const columns = { amount: row.ready_amount, per: row.ready_per, case_count: row.ready_count, case_grams: row.ready_grams }
  return {
    name: row.ready_cut_name ?? '',
    terms: JSON.parse(row.ready_cut_terms),
    quote: { price: toPrice(columns), quotedOn: dayOf(row.ready_quoted_on) },
  }
}

interface TubRow {
  id: string
  position: number
  output_key: string | null
  name: string
  role: Tub['role']
  destination: string
  target_tenths: number | null
  tolerance_tenths: number | null
  typical_pct: number
  value_per_kg: number | null
  separable_cost: number
}

export async function listTubs(db: Queries, runId: string): Promise<Tub[]> {
  const rows = await db.rows<TubRow>(
    `SELECT id, position, output_key, name, role, destination, target_tenths, tolerance_tenths, typical_pct, value_per_kg, separable_cost
     FROM tubs WHERE run_id = :runId ORDER BY position, id`,
    { runId },
  )
  return rows.map((row) => ({
    id: row.id,
    position: row.position,
    key: row.output_key,
    name: row.name,
    role: row.role,
    destination: row.destination,
    targetTenths: row.target_tenths,
    toleranceTenths: row.tolerance_tenths,
    typicalPct: row.typical_pct,
    valuePerKg: row.value_per_kg,
    separableCost: row.separable_cost,
  }))
}

interface WeighingRow {
  id: string
  sequence: number
  tub_id: string
  tenths: number
  entered: string
  reverses_id: string | null
  item_number: number | null
  moved_from_id: string | null
  weighed_at: Date
  person_id: string
  name: string
}

const weighingColumns =
  'w.id, w.sequence, w.tub_id, w.tenths, w.entered, w.reverses_id, w.item_number, w.moved_from_id, w.weighed_at, w.person_id, p.name'

/** Weighings of every kitchen after a place in the ledger, and those of given places, for the live feed. */
export async function listWeighingsAfter(
  db: Queries,
  last: number,
  places: readonly number[],
  limit: number,
): Promise<{ kitchenId: string; runId: string; weighing: Weighing }[]> {
  const rows = await db.rows<WeighingRow & { kitchen_id: string; run_id: string }>(
    `SELECT ${weighingColumns}, w.kitchen_id, w.run_id FROM weighings w STRAIGHT_JOIN people p ON p.id = w.person_id
     WHERE ${inPlaces('w', places)} ORDER BY w.sequence LIMIT :limit`,
    { last, limit },
  )
  return rows.map((row) => ({ kitchenId: row.kitchen_id, runId: row.run_id, weighing: toWeighing(row) }))
}

async function listWeighings(db: Queries, runId: string): Promise<Weighing[]> {
  const rows = await db.rows<WeighingRow>(
    `SELECT ${weighingColumns} FROM weighings w STRAIGHT_JOIN people p ON p.id = w.person_id
     WHERE w.run_id = :runId ORDER BY w.sequence`,
    { runId },
  )
  return rows.map(toWeighing)
}

export async function findWeighing(db: Queries, kitchenId: string, runId: string, id: string): Promise<Weighing | undefined> {
  const row = await db.row<WeighingRow>(
    `SELECT ${weighingColumns} FROM weighings w JOIN people p ON p.id = w.person_id
     WHERE w.id = :id AND w.run_id = :runId AND w.kitchen_id = :kitchenId`,
    { id, runId, kitchenId },
  )
  return row && toWeighing(row)
}

function toWeighing(row: WeighingRow): Weighing {
  return {
    id: row.id,
    sequence: row.sequence,
    tubId: row.tub_id,
    tenths: row.tenths,
    entered: row.entered,
    reversesId: row.reverses_id,
    item: row.item_number,
    movedFromId: row.moved_from_id,
    weighedAt: row.weighed_at.toISOString(),
    by: { id: row.person_id, name: row.name },
  }
}

export async function listDefects(db: Queries, runId: string): Promise<Defect[]> {
  const rows = await db.rows<{
    id: string
    kind: Defect['kind']
    note: string
    step: string | null
    at: Date
    person_id: string
    name: string
  }>(
    `SELECT d.id, d.kind, d.note, d.step, d.at, d.person_id, p.name FROM defects d STRAIGHT_JOIN people p ON p.id = d.person_id
     WHERE d.run_id = :runId ORDER BY d.at, d.id`,
    { runId },
  )
  return rows.map((row) => ({
    id: row.id,
    kind: row.kind,
    note: row.note,
    step: row.step,
    at: row.at.toISOString(),
    by: { id: row.person_id, name: row.name },
  }))
}
