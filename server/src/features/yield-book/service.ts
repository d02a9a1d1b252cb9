import type { BenchEvent } from '@fleam/contract/bench'
import { type CutSheet, stepKey } from '@fleam/contract/cut-sheets'
import type { Kitchen } from '@fleam/contract/kitchen'
import type { YieldBookEntry, YieldTestRecord } from '@fleam/contract/yield-book'
import { groupBy } from '@fleam/core/group-by'
import { noSample, sampleOfSums } from '@fleam/core/statistics/sample'
import { type ExpectedCut, expectCut } from '@fleam/core/yield-book/expected-cut'
import type { NextTest } from '@fleam/core/yield-book/expected-share'
import { noMinutes } from '@fleam/core/yield-book/learning'
import { noRuns, noShares, type RunSums, type ShareSums } from '@fleam/core/yield-book/share-sums'
import { IndexHints } from 'sequelize'
import type { KitchenRecords } from '../../db/records.ts'
import { found } from '../../http/changes.ts'
import type { CutTotalRow } from './cut-total.model.ts'
import type { OutputTotalRow } from './output-total.model.ts'
import { piecesSince } from './totals.sql.ts'

const recentWeeks = 8
const week = 7 * 86_400_000

const cutOf = ({ itemId, cutSheetId }: { itemId: string; cutSheetId: string }) => `${itemId} ${cutSheetId}`

function sharesOf(output: OutputTotalRow): ShareSums {
  const { tests, shareSum, shareSquares, shareItemsSum, shareItemsSquares, shareGramsSum, shareNone } = output
  return { n: tests, y: shareSum, yy: shareSquares, ny: shareItemsSum, nyy: shareItemsSquares, wy: shareGramsSum, none: shareNone }
}

function runsOf({ tests, pieces, piecesSquares, piecesInverse, gramsSum, gramsSquares }: CutTotalRow): RunSums {
  return { tests, n: pieces, nn: piecesSquares, inverse: piecesInverse, w: gramsSum, ww: gramsSquares }
}

/** Every item and cut sheet that the kitchen has finished runs of, with what they gave. */
export async function readYieldBook(records: KitchenRecords): Promise<YieldBookEntry[]> {
  const [totals, shares, recent] = await Promise.all([
    records.cutTotals.findAll({ raw: true }),
    records.outputTotals.findAll({ order: ['outputKey'], raw: true }),
    records.select<{ itemId: string; cutSheetId: string; pieces: number }>(piecesSince, {
      since: new Date(Date.now() - recentWeeks * week),
    }),
  ])
  const cuts = totals.filter(({ tests }) => tests > 0)
  const values = await lastValues(
    records,
    cuts.map((cut) => found(cut.lastRunId)),
  )
  const outputs = groupBy(
    shares.filter(({ tests }) => tests > 0),
    cutOf,
  )
  const recentPieces = new Map(recent.map((cut) => [cutOf(cut), cut.pieces]))
  return cuts.map((cut) => ({
    ...entryOf(cut),
    itemsPerWeek: (recentPieces.get(cutOf(cut)) ?? 0) / recentWeeks,
    outputs: (outputs.get(cutOf(cut)) ?? []).map((output) => ({
      key: output.outputKey,
      share: sharesOf(output),
      servedRatio: output.servedTests > 0 ? output.servedSum / output.servedTests : null,
      lastValuePerKg: values.get(`${cut.lastRunId} ${output.outputKey}`) ?? null,
    })),
  }))
}

function entryOf(cut: CutTotalRow): Omit<YieldBookEntry, 'itemsPerWeek' | 'outputs'> {
  const { itemId, cutSheetId, tests } = cut
  return {
    itemId,
    cutSheetId,
    tests,
    since: cut.since?.toISOString() ?? null,
    lastTestAt: found(cut.lastTestAt).toISOString(),
    itemGrams: sampleOfSums(tests, cut.gramsSum, cut.gramsSquares),
    minutes: { n: cut.timed, x: cut.xSum, xx: cut.xxSum, y: cut.ySum, xy: cut.xySum, yy: cut.yySum },
    mains: {
      n: tests,
      y: cut.mainSum,
      yy: cut.mainSquares,
      ny: cut.mainItemsSum,
      nyy: cut.mainItemsSquares,
      wy: cut.mainGramsSum,
      none: cut.mainNone,
    },
    runs: runsOf(cut),
    itemsPerBatch: cut.pieces / tests,
    consumablesPerItem: cut.consumables / cut.pieces,
  }
}

async function lastValues(records: KitchenRecords, runIds: readonly string[]): Promise<Map<string, number | null>> {
  if (runIds.length === 0) return new Map()
  const tubs = await records.tubs.findAll({ attributes: ['runId', 'outputKey', 'valuePerKg'], where: { runId: [...runIds] }, raw: true })
  return new Map(tubs.map(({ runId, outputKey, valuePerKg }) => [`${runId} ${outputKey}`, valuePerKg]))
}

/** What to expect of an item cut by a sheet, from the kitchen's tests of that cut. */
export async function expectCutOf(
  records: KitchenRecords,
  { settings }: Kitchen,
  itemId: string,
  sheet: { id: string; body: CutSheet['body'] },
  next: NextTest,
): Promise<ExpectedCut> {
  const ofCut = { where: { itemId, cutSheetId: sheet.id }, raw: true }
  const [cut, totals] = await Promise.all([records.cutTotals.findOne(ofCut), records.outputTotals.findAll(ofCut)])
  const outputs = totals.map((output) => ({ key: output.outputKey, share: sharesOf(output), servedRatio: null }))
  const entry = cut && cut.tests > 0 ? entryOf(cut) : undefined
  const tested = {
    tests: cut?.tests ?? 0,
    itemGrams: entry?.itemGrams ?? noSample,
    minutes: entry?.minutes ?? noMinutes,
    mains: entry?.mains ?? noShares,
    runs: cut ? runsOf(cut) : noRuns,
    outputs,
    since: cut?.since?.toISOString() ?? null,
  }
  return expectCut(sheet.body, tested, 1, settings.cutting.priorTests, next)
}

/** What to expect of each output of a sheet cut from an item, percent of the received weight, never over the whole. */
export async function expectShares(
  records: KitchenRecords,
  kitchen: Kitchen,
  itemId: string,
  sheet: CutSheet,
  next: NextTest,
): Promise<Map<string, number>> {
  const { shares } = await expectCutOf(records, kitchen, itemId, sheet, next)
  const sum = [...shares.values()].reduce((total, share) => total + share.mean, 0)
  return new Map([...shares].map(([key, share]) => [key, share.mean * Math.min(1, 100 / sum)]))
}

/** The finished runs of an item by a cut sheet, oldest first; of more than `most` the latest. */
export async function listTests(
  records: KitchenRecords,
  { itemId, cutSheetId }: { itemId: string; cutSheetId: string },
  most: number,
): Promise<YieldTestRecord[]> {
  const versions = await records.cutSheetVersions.findAll({ where: { cutSheetId } })
  const versionOf = new Map(versions.map((version) => [version.id, version]))
  const newest = await records.runs.findAll({
    attributes: [
      'id',
      'number',
      'startedAt',
      'cutSheetVersionId',
      'pieces',
      'receivedTenths',
      'billedTenths',
      'minutes',
      'unaccountedPct',
      'leftOut',
    ],
    where: { itemId, status: 'finished', cutSheetVersionId: [...versionOf.keys()] },
    indexHints: [{ type: IndexHints.FORCE, values: ['runs_of_item'] }],
    include: [
      { association: 'supplier', attributes: ['id', 'name'] },
      { association: 'cook', attributes: ['id', 'name'] },
    ],
    order: [
      ['startedAt', 'DESC'],
      ['id', 'DESC'],
    ],
    limit: most,
  })
  const runs = newest.reverse()
  const ofRuns = { runId: runs.map(({ id }) => id) }
  const [shares, defects, optional] = await Promise.all([
    records.runOutputs.findAll({ where: ofRuns, raw: true }),
    records.defects.findAll({ attributes: ['runId', 'kind', 'note'], where: ofRuns, order: ['at', 'id'], raw: true }),
    records.benchEvents.findAll({
      attributes: ['runId', 'body'],
      where: { ...ofRuns, kind: 'optional-step' },
      order: ['sequence'],
      raw: true,
    }),
  ])
  const byRun = {
    shares: groupBy(shares, ({ runId }) => runId),
    defects: groupBy(defects, ({ runId }) => runId),
    optional: groupBy(optional, ({ runId }) => runId),
  }
  return runs.map((run) => {
    const { number, body } = found(versionOf.get(run.cutSheetVersionId))
    const { supplier, cook } = run
    return {
      runId: run.id,
      number: run.number,
      startedAt: run.startedAt.toISOString(),
      supplier: supplier ? { id: supplier.id, name: supplier.name } : null,
      cook: { id: found(cook).id, name: found(cook).name },
      sheetNumber: number,
      pieces: run.pieces,
      receivedTenths: run.receivedTenths,
      billedTenths: run.billedTenths,
      minutes: run.minutes,
      unaccountedPct: run.unaccountedPct ?? 0,
      shares: Object.fromEntries((byRun.shares.get(run.id) ?? []).map((row) => [row.outputKey, row.sharePct])),
      servedRatios: Object.fromEntries(
        (byRun.shares.get(run.id) ?? []).flatMap((row) => (row.servedRatio === null ? [] : [[row.outputKey, row.servedRatio]])),
      ),
      ...optionalSteps(
        body,
        (byRun.optional.get(run.id) ?? []).map((row) => row.body as OptionalStep),
      ),
      leftOut: run.leftOut?.reason ?? null,
      defects: (byRun.defects.get(run.id) ?? []).map(({ kind, note }) => ({ kind, note })),
    }
  })
}

type OptionalStep = Extract<BenchEvent['what'], { kind: 'optional-step' }>

/** The optional steps of a sheet, done or left out in the end; on the bench the station, where there is one, comes before them. */
function optionalSteps({ steps, station }: CutSheet['body'], events: readonly OptionalStep[]) {
  const before = station.length > 0 ? 1 : 0
  const last = new Map(events.map(({ step, done }) => [step - before, done]))
  const optional = steps.flatMap((step, at) => (step.optional ? { key: stepKey(step), isDone: last.get(at) ?? true } : []))
  return {
    stepsDone: optional.flatMap(({ key, isDone }) => (isDone ? key : [])),
    stepsLeftOut: optional.flatMap(({ key, isDone }) => (isDone ? [] : key)),
  }
}
