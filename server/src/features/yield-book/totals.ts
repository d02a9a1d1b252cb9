import { groupBy } from '@fleam/core/group-by'
import type { TestedOutput } from '@fleam/core/runs/run-record'
import { findChange, testsSearched } from '@fleam/core/yield-book/find-change'
import { sumMinutes } from '@fleam/core/yield-book/learning'
import { type ShareTest, sumRuns, sumShares } from '@fleam/core/yield-book/share-sums'
import { IndexHints, Op } from 'sequelize'
import type { KitchenRecords } from '../../db/records.ts'
import { addToCutTotals, addToOutputTotals } from './totals.sql.ts'

/** An item and the cut sheet that it is cut by. */
export interface Cut {
  itemId: string
  cutSheetId: string
}

/** A finished run, as far as the yield book learns from it. */
export interface FinishedTest extends Cut {
  runId: string
  startedAt: Date
  pieces: number
  receivedTenths: number
  minutes: number | null
  consumables: number
  mainPct: number
  /** What it says of each output of its sheet. */
  outputs: ReadonlyMap<string, TestedOutput>
}

/**
 * Keeps the shares of runs that were finished, and adds them to the running totals of their cuts. Where the latest tests show
 * that something has changed, the totals go on with those since; older ones stay in the log alone.
 */
export async function addTests(tx: KitchenRecords, tests: readonly FinishedTest[]): Promise<void> {
  await tx.runOutputs.bulkCreate(
    tests.flatMap(({ runId, itemId, cutSheetId, outputs }) =>
      [...outputs].map(([outputKey, output]) => ({ runId, outputKey, itemId, cutSheetId, ...output })),
    ),
  )
  for (const ofCut of byCut(tests)) {
    const { itemId, cutSheetId } = ofCut[0] as FinishedTest
    const since = await sinceOf(tx, { itemId, cutSheetId })
    await addTotals(
      tx,
      ofCut.filter(({ startedAt }) => since === null || startedAt >= since),
      1,
    )
    await noticeChange(tx, { itemId, cutSheetId }, since)
  }
}

/** Takes a run that is opened again, or left out, out of the yield book. */
export async function removeTest(tx: KitchenRecords, test: FinishedTest): Promise<void> {
  const { runId, itemId, cutSheetId } = test
  const cut = { itemId, cutSheetId }
  await tx.runOutputs.destroy({ runId })
  const since = await sinceOf(tx, cut)
  if (since !== null && test.startedAt < since) return
  await addTotals(tx, [test], -1)
  const [last] = await newestTests(tx, cut, 1, since)
  if (!last && since !== null) return recount(tx, cut, await newestTests(tx, cut, testsSearched, null), null)
  await tx.cutTotals.update({ lastRunId: last?.runId ?? null, lastTestAt: last?.startedAt ?? null }, cut)
}

async function sinceOf(tx: KitchenRecords, cut: Cut): Promise<Date | null> {
  return (await tx.cutTotals.lock({ ...cut }))?.since ?? null
}

/** Where the latest tests are unlike those before them, the totals begin anew with them. */
async function noticeChange(tx: KitchenRecords, cut: Cut, since: Date | null): Promise<void> {
  const tests = await newestTests(tx, cut, testsSearched, since)
  const keys = [...(tests[0]?.outputs.keys() ?? [])].filter((key) => tests.every(({ outputs }) => outputs.has(key)))
  const before = findChange(keys.map((key) => tests.map(({ outputs }) => outputs.get(key)?.sharePct ?? 0)))
  if (before > 0) await recount(tx, cut, tests.slice(before), tests[before]?.startedAt ?? null)
}

async function recount(tx: KitchenRecords, cut: Cut, tests: readonly FinishedTest[], since: Date | null): Promise<void> {
  await tx.cutTotals.destroy({ ...cut })
  await tx.outputTotals.destroy({ ...cut })
  await addTotals(tx, tests, 1, since)
}

/** The latest tests of a cut as they stand now, whatever the transaction has seen before; oldest first. */
async function newestTests(tx: KitchenRecords, cut: Cut, most: number, since: Date | null): Promise<FinishedTest[]> {
  const { itemId, cutSheetId } = cut
  const versions = await tx.cutSheetVersions.findAll({ attributes: ['id'], where: { cutSheetId }, raw: true })
  const rows = await tx.runs.findAll({
    attributes: ['id', 'startedAt', 'pieces', 'receivedTenths', 'minutes', 'consumables', 'mainPct'],
    where: {
      itemId,
      status: 'finished',
      cutSheetVersionId: versions.map(({ id }) => id),
      leftOut: null,
      ...(since ? { startedAt: { [Op.gte]: since } } : {}),
    },
    indexHints: [{ type: IndexHints.FORCE, values: ['runs_of_item'] }],
    order: [
      ['startedAt', 'DESC'],
      ['id', 'DESC'],
    ],
    limit: most,
    lock: true,
  })
  const shares = await tx.runOutputs.findAll({ where: { runId: rows.map(({ id }) => id) }, raw: true, lock: true })
  const ofRun = groupBy(shares, ({ runId }) => runId)
  return rows.reverse().map(({ id, startedAt, pieces, receivedTenths, minutes, consumables, mainPct }) => ({
    ...cut,
    runId: id,
    startedAt,
    pieces,
    receivedTenths,
    minutes,
    consumables,
    mainPct: mainPct ?? 0,
    outputs: new Map((ofRun.get(id) ?? []).map(({ outputKey, sharePct, servedRatio }) => [outputKey, { sharePct, servedRatio }])),
  }))
}

/** In the order of their keys, so that two who add at once never wait for each other. */
function byCut(tests: readonly FinishedTest[]): FinishedTest[][] {
  const cuts = [...groupBy(tests, ({ itemId, cutSheetId }) => `${itemId} ${cutSheetId}`)]
  return cuts.sort(([a], [b]) => (a < b ? -1 : 1)).map(([, ofCut]) => ofCut)
}

const sizeOf = ({ receivedTenths, pieces }: FinishedTest) => ({ items: pieces, grams: receivedTenths / 10 / pieces })

async function addTotals(tx: KitchenRecords, ofCut: readonly FinishedTest[], sign: 1 | -1, since: Date | null = null): Promise<void> {
  const [first] = ofCut
  if (!first) return
  const { itemId, cutSheetId } = first
  const runs = sumRuns(ofCut.map(sizeOf))
  const mains = sumShares(ofCut.map((test) => ({ ...sizeOf(test), pct: test.mainPct })))
  const minutes = sumMinutes(ofCut.map((test) => ({ items: test.pieces, minutes: test.minutes })))
  const last = sign === 1 ? ofCut.reduce((latest, test) => (isLater(test, latest) ? test : latest)) : undefined
  await tx.insert(addToCutTotals, {
    itemId,
    cutSheetId,
    tests: sign * ofCut.length,
    since,
    lastRunId: last?.runId ?? null,
    lastTestAt: last?.startedAt ?? null,
    pieces: sign * runs.n,
    piecesSquares: sign * runs.nn,
    piecesInverse: sign * runs.inverse,
    consumables: sign * ofCut.reduce((sum, test) => sum + test.consumables, 0),
    gramsSum: sign * runs.w,
    gramsSquares: sign * runs.ww,
    mainSum: sign * mains.y,
    mainSquares: sign * mains.yy,
    mainItemsSum: sign * mains.ny,
    mainItemsSquares: sign * mains.nyy,
    mainGramsSum: sign * mains.wy,
    mainNone: sign * mains.none,
    timed: sign * minutes.n,
    x: sign * minutes.x,
    xx: sign * minutes.xx,
    y: sign * minutes.y,
    xy: sign * minutes.xy,
    yy: sign * minutes.yy,
  })
  const outputs = groupBy(
    ofCut.flatMap((test) => [...test.outputs].map(([key, output]) => ({ key, size: sizeOf(test), ...output }))),
    ({ key }) => key,
  )
  for (const [outputKey, values] of [...outputs].sort(([a], [b]) => (a < b ? -1 : 1))) {
    const shares = sumShares(values.map(({ size, sharePct }): ShareTest => ({ ...size, pct: sharePct })))
    const served = values.flatMap(({ servedRatio }) => servedRatio ?? [])
    await tx.insert(addToOutputTotals, {
      itemId,
      cutSheetId,
      outputKey,
      tests: sign * shares.n,
      sum: sign * shares.y,
      squares: sign * shares.yy,
      itemsSum: sign * shares.ny,
      itemsSquares: sign * shares.nyy,
      gramsSum: sign * shares.wy,
      none: sign * shares.none,
      servedTests: sign * served.length,
      servedSum: sign * served.reduce((sum, ratio) => sum + ratio, 0),
    })
  }
}

function isLater(a: FinishedTest, b: FinishedTest): boolean {
  const [at, bt] = [a.startedAt.getTime(), b.startedAt.getTime()]
  return at > bt || (at === bt && a.runId > b.runId)
}
