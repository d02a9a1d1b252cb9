import type { CutSheet } from '@fleam/contract/cut-sheets'
import type { Kitchen } from '@fleam/contract/kitchen'
import type { YieldBookEntry, YieldTestRecord } from '@fleam/contract/yield-book'
import { groupBy } from '@fleam/core/group-by'
import { noSample } from '@fleam/core/statistics/sample'
import { expectCut } from '@fleam/core/yield-book/expected-cut'
import { noMinutes } from '@fleam/core/yield-book/learning'
import type { Queries } from '../../db/database.ts'

interface CutRow {
  item_id: string
  cut_sheet_id: string
  tests: number
  last_test_at: Date
  last_run_id: string
  grams_mean: number
  grams_variance: number | null
  main_mean: number | null
  main_variance: number | null
  pieces: number
  recent_pieces: number
  consumables: number
  timed: number
  x: number | null
  xx: number | null
  y: number | null
  xy: number | null
  yy: number | null
}

interface ShareRow {
  item_id: string
  cut_sheet_id: string
  output_key: string
  n: number
  mean: number
  variance: number | null
}

const recentWeeks = 8

/** SQL of the yield book: finished runs by item and cut sheet, and their shares by output. */
export const yieldBookSql = {
  cuts: `
    SELECT r.item_id, v.cut_sheet_id, COUNT(*) AS tests, MAX(r.started_at) AS last_test_at,
      SUBSTRING(MAX(CONCAT(r.started_at, r.id)), 24) AS last_run_id,
      AVG(r.received_tenths / 10 / r.pieces) AS grams_mean, VAR_SAMP(r.received_tenths / 10 / r.pieces) AS grams_variance,
      AVG(r.main_pct) AS main_mean, VAR_SAMP(r.main_pct) AS main_variance,
      SUM(r.pieces) AS pieces, SUM(r.consumables) AS consumables,
      SUM(IF(r.started_at >= UTC_TIMESTAMP() - INTERVAL ${recentWeeks} WEEK, r.pieces, 0)) AS recent_pieces,
      SUM(r.minutes > 0) AS timed,
      SUM(IF(r.minutes > 0, LN(r.pieces), NULL)) AS x, SUM(IF(r.minutes > 0, LN(r.pieces) * LN(r.pieces), NULL)) AS xx,
      SUM(IF(r.minutes > 0, LN(r.minutes / r.pieces), NULL)) AS y,
      SUM(IF(r.minutes > 0, LN(r.pieces) * LN(r.minutes / r.pieces), NULL)) AS xy,
      SUM(IF(r.minutes > 0, LN(r.minutes / r.pieces) * LN(r.minutes / r.pieces), NULL)) AS yy
    FROM runs r JOIN cut_sheet_versions v ON v.id = r.cut_sheet_version_id
    WHERE r.kitchen_id = :kitchenId AND r.status = 'finished'
    GROUP BY r.item_id, v.cut_sheet_id`,
  shares: `
    SELECT item_id, cut_sheet_id, output_key, COUNT(*) AS n, AVG(share_pct) AS mean, VAR_SAMP(share_pct) AS variance
    FROM run_outputs WHERE kitchen_id = :kitchenId GROUP BY item_id, cut_sheet_id, output_key`,
  values: 'SELECT run_id, output_key, value_per_kg FROM tubs WHERE run_id IN (:runIds) AND output_key IS NOT NULL',
}

/** Every item and cut sheet that the kitchen has finished runs of, with what they gave. */
export async function readYieldBook(db: Queries, kitchenId: string): Promise<YieldBookEntry[]> {
  const [cuts, shares] = await Promise.all([
    db.rows<CutRow>(yieldBookSql.cuts, { kitchenId }),
    db.rows<ShareRow>(yieldBookSql.shares, { kitchenId }),
  ])
  const values = await lastValues(
    db,
    cuts.map((cut) => cut.last_run_id),
  )
  const outputs = groupBy(shares, (share) => `${share.item_id} ${share.cut_sheet_id}`)
  return cuts.map((cut) => ({
    itemId: cut.item_id,
    cutSheetId: cut.cut_sheet_id,
    tests: Number(cut.tests),
    lastTestAt: cut.last_test_at.toISOString(),
    itemGrams: { n: Number(cut.tests), mean: cut.grams_mean, variance: cut.grams_variance ?? 0 },
    minutes: { n: Number(cut.timed), x: cut.x ?? 0, xx: cut.xx ?? 0, y: cut.y ?? 0, xy: cut.xy ?? 0, yy: cut.yy ?? 0 },
    mains: { n: Number(cut.tests), mean: cut.main_mean ?? 0, variance: cut.main_variance ?? 0 },
    itemsPerBatch: Number(cut.pieces) / Number(cut.tests),
    itemsPerWeek: Number(cut.recent_pieces) / recentWeeks,
    consumablesPerItem: cut.consumables / Number(cut.pieces),
    outputs: (outputs.get(`${cut.item_id} ${cut.cut_sheet_id}`) ?? []).map((share) => ({
      key: share.output_key,
      share: { n: Number(share.n), mean: share.mean, variance: share.variance ?? 0 },
      lastValuePerKg: values.get(`${cut.last_run_id} ${share.output_key}`) ?? null,
    })),
  }))
}

async function lastValues(db: Queries, runIds: string[]): Promise<Map<string, number | null>> {
  if (runIds.length === 0) return new Map()
  const rows = await db.rows<{ run_id: string; output_key: string; value_per_kg: number | null }>(yieldBookSql.values, { runIds })
  return new Map(rows.map((row) => [`${row.run_id} ${row.output_key}`, row.value_per_kg]))
}

/** What to expect of each output of a sheet cut from an item, percent of the received weight, never over the whole. */
export async function expectShares(
  db: Queries,
  { id: kitchenId, settings }: Kitchen,
  itemId: string,
  sheet: CutSheet,
): Promise<Map<string, number>> {
  const rows = await db.rows<{ output_key: string; n: number; mean: number; variance: number | null }>(
    `SELECT output_key, COUNT(*) AS n, AVG(share_pct) AS mean, VAR_SAMP(share_pct) AS variance FROM run_outputs
     WHERE kitchen_id = :kitchenId AND item_id = :itemId AND cut_sheet_id = :cutSheetId GROUP BY output_key`,
    { kitchenId, itemId, cutSheetId: sheet.id },
  )
  const outputs = rows.map((row) => ({ key: row.output_key, share: { n: Number(row.n), mean: row.mean, variance: row.variance ?? 0 } }))
  const { shares } = expectCut(
    sheet.body,
    { tests: 0, itemGrams: noSample, minutes: noMinutes, mains: noSample, outputs },
    1,
    settings.cutting.priorTests,
  )
  const sum = [...shares.values()].reduce((total, share) => total + share.mean, 0)
  return new Map([...shares].map(([key, share]) => [key, share.mean * Math.min(1, 100 / sum)]))
}

interface TestRow {
  id: string
  number: number
  started_at: Date
  supplier_id: string | null
  supplier_name: string | null
  cook_id: string
  cook_name: string
  sheet_number: number
  has_station: number
  pieces: number
  received_tenths: number
  minutes: number | null
  unaccounted_pct: number | null
}

const testsOfCut = `
  FROM runs r FORCE INDEX (runs_of_item) JOIN cut_sheet_versions v ON v.id = r.cut_sheet_version_id AND v.cut_sheet_id = :cutSheetId
  WHERE r.kitchen_id = :kitchenId AND r.item_id = :itemId AND r.status = 'finished'`

/** The finished runs of an item by a cut sheet, oldest first; of more than `most` the latest. */
export async function listTests(
  db: Queries,
  kitchenId: string,
  cut: { itemId: string; cutSheetId: string },
  most: number,
): Promise<YieldTestRecord[]> {
  const values = { kitchenId, ...cut, most }
  const newest = `SELECT r.id ${testsOfCut} ORDER BY r.started_at DESC, r.id DESC LIMIT :most`
  const [runs, shares, defects, optional] = await Promise.all([
    db.rows<TestRow>(
      `SELECT r.id, r.number, r.started_at, r.supplier_id, s.name AS supplier_name, r.cook_id, c.name AS cook_name,
         v.number AS sheet_number, JSON_LENGTH(v.body, '$.station') > 0 AS has_station, r.pieces, r.received_tenths, r.minutes, r.unaccounted_pct
       FROM (${newest}) latest JOIN runs r ON r.id = latest.id JOIN cut_sheet_versions v ON v.id = r.cut_sheet_version_id
         JOIN people c ON c.id = r.cook_id LEFT JOIN suppliers s ON s.id = r.supplier_id
       ORDER BY r.started_at, r.id`,
      values,
    ),
    db.rows<{ run_id: string; output_key: string; share_pct: number }>(
      `SELECT o.run_id, o.output_key, o.share_pct FROM (${newest}) latest JOIN run_outputs o ON o.run_id = latest.id`,
      values,
    ),
    db.rows<{ run_id: string; kind: YieldTestRecord['defects'][number]['kind']; note: string }>(
      `SELECT d.run_id, d.kind, d.note FROM (${newest}) latest JOIN defects d ON d.run_id = latest.id ORDER BY d.at, d.id`,
      values,
    ),
    db.rows<{ run_id: string; body: string }>(
      `SELECT e.run_id, e.body FROM (${newest}) latest JOIN bench_events e ON e.run_id = latest.id AND e.kind = 'optional-step'
       ORDER BY e.sequence`,
      values,
    ),
  ])
  const byRun = {
    shares: groupBy(shares, (row) => row.run_id),
    defects: groupBy(defects, (row) => row.run_id),
    optional: groupBy(optional, (row) => row.run_id),
  }
  return runs.map((run) => ({
    runId: run.id,
    number: run.number,
    startedAt: run.started_at.toISOString(),
    supplier: run.supplier_id && run.supplier_name ? { id: run.supplier_id, name: run.supplier_name } : null,
    cook: { id: run.cook_id, name: run.cook_name },
    sheetNumber: run.sheet_number,
    pieces: run.pieces,
    receivedTenths: run.received_tenths,
    minutes: run.minutes,
    unaccountedPct: run.unaccounted_pct ?? 0,
    shares: Object.fromEntries((byRun.shares.get(run.id) ?? []).map((row) => [row.output_key, row.share_pct])),
    stepsLeftOut: leftOut(
      (byRun.optional.get(run.id) ?? []).map((row) => JSON.parse(row.body)),
      run.has_station ? 1 : 0,
    ),
    defects: (byRun.defects.get(run.id) ?? []).map(({ kind, note }) => ({ kind, note })),
  }))
}

/** Steps left out in the end, by their place in the sheet; on the bench the station, where there is one, comes before them. */
function leftOut(events: readonly { step: number; done: boolean }[], before: number): number[] {
  const skipped = new Set<number>()
  for (const { step, done } of events) {
    if (done) skipped.delete(step - before)
    else skipped.add(step - before)
  }
  return [...skipped]
}
