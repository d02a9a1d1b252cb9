import { groupBy } from '@fleam/core/group-by'
import type { TestedOutput } from '@fleam/core/runs/run-record'
import { sumMinutes } from '@fleam/core/yield-book/learning'
import { IndexHints } from 'sequelize'
import type { KitchenRecords } from '../../db/records.ts'
import { addToCutTotals, addToOutputTotals } from './totals.sql.ts'

/** A finished run, as far as the yield book learns from it. */
export interface FinishedTest {
  runId: string
  itemId: string
  cutSheetId: string
  startedAt: Date
  pieces: number
  receivedTenths: number
  minutes: number | null
  consumables: number
  mainPct: number
  /** What it says of each output of its sheet. */
  outputs: ReadonlyMap<string, TestedOutput>
}

/** Keeps the shares of runs that were finished, and adds them to the running totals of their cuts. */
export async function addTests(tx: KitchenRecords, tests: readonly FinishedTest[]): Promise<void> {
  await tx.runOutputs.bulkCreate(
    tests.flatMap(({ runId, itemId, cutSheetId, outputs }) =>
      [...outputs].map(([outputKey, output]) => ({ runId, outputKey, itemId, cutSheetId, ...output })),
    ),
  )
  for (const ofCut of byCut(tests)) await addTotals(tx, ofCut, 1)
}

/** Takes a run that is opened again out of the yield book. */
export async function removeTest(tx: KitchenRecords, test: FinishedTest): Promise<void> {
  const { runId, itemId, cutSheetId } = test
  await tx.runOutputs.destroy({ runId })
  await addTotals(tx, [test], -1)
  const versions = await tx.cutSheetVersions.findAll({ attributes: ['id'], where: { cutSheetId }, raw: true })
  const last = await tx.runs.findOne({
    attributes: ['id', 'startedAt'],
    where: { itemId, status: 'finished', cutSheetVersionId: versions.map(({ id }) => id) },
    indexHints: [{ type: IndexHints.FORCE, values: ['runs_of_item'] }],
    order: [
      ['startedAt', 'DESC'],
      ['id', 'DESC'],
    ],
  })
  await tx.cutTotals.update({ lastRunId: last?.id ?? null, lastTestAt: last?.startedAt ?? null }, { itemId, cutSheetId })
}

/** In the order of their keys, so that two who add at once never wait for each other. */
function byCut(tests: readonly FinishedTest[]): FinishedTest[][] {
  const cuts = [...groupBy(tests, ({ itemId, cutSheetId }) => `${itemId} ${cutSheetId}`)]
  return cuts.sort(([a], [b]) => (a < b ? -1 : 1)).map(([, ofCut]) => ofCut)
}

async function addTotals(tx: KitchenRecords, ofCut: readonly FinishedTest[], sign: 1 | -1): Promise<void> {
  const [first] = ofCut
  if (!first) return
  const { itemId, cutSheetId } = first
  const sum = (of: (test: FinishedTest) => number) => sign * ofCut.reduce((total, test) => total + of(test), 0)
  const grams = ({ receivedTenths, pieces }: FinishedTest) => receivedTenths / 10 / pieces
  const minutes = sumMinutes(ofCut.map((test) => ({ items: test.pieces, minutes: test.minutes })))
  const last = sign === 1 ? ofCut.reduce((latest, test) => (isLater(test, latest) ? test : latest)) : undefined
  await tx.insert(addToCutTotals, {
    itemId,
    cutSheetId,
    tests: sign * ofCut.length,
    lastRunId: last?.runId ?? null,
    lastTestAt: last?.startedAt ?? null,
    pieces: sum((test) => test.pieces),
    consumables: sum((test) => test.consumables),
    gramsSum: sum(grams),
    gramsSquares: sum((test) => grams(test) ** 2),
    mainSum: sum((test) => test.mainPct),
    mainSquares: sum((test) => test.mainPct ** 2),
    timed: sign * minutes.n,
    x: sign * minutes.x,
    xx: sign * minutes.xx,
    y: sign * minutes.y,
    xy: sign * minutes.xy,
    yy: sign * minutes.yy,
  })
  const outputs = groupBy(
    ofCut.flatMap((test) => [...test.outputs]),
    ([key]) => key,
  )
  for (const [outputKey, values] of [...outputs].sort(([a], [b]) => (a < b ? -1 : 1))) {
    const total = (of: (output: TestedOutput) => number) => sign * values.reduce((all, [, output]) => all + of(output), 0)
    const sums = {
      sum: total(({ sharePct }) => sharePct),
      squares: total(({ sharePct }) => sharePct * sharePct),
      servedTests: total(({ servedRatio }) => (servedRatio === null ? 0 : 1)),
      servedSum: total(({ servedRatio }) => servedRatio ?? 0),
    }
    await tx.insert(addToOutputTotals, { itemId, cutSheetId, outputKey, tests: sign * values.length, ...sums })
  }
}

function isLater(a: FinishedTest, b: FinishedTest): boolean {
  const [at, bt] = [a.startedAt.getTime(), b.startedAt.getTime()]
  return at > bt || (at === bt && a.runId > b.runId)
}
