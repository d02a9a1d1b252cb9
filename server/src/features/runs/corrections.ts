import type { Run, runCorrect, runDiscard, runLeaveOut, runReopen } from '@fleam/contract/runs'
import type { z } from 'zod'
import type { Actor } from '../../http/access.ts'
import { found, recordChange, refuseStale } from '../../http/changes.ts'
import { ProblemError, refuseField } from '../../http/problems.ts'
import { writeOffLots } from '../walk-in/put-away.ts'
import { returnOfRun, takeAgainForRun } from '../walk-in/whole-lots.ts'
import { addTests, removeTest } from '../yield-book/totals.ts'
import { noteChanged } from './bench-events.ts'
import { findRun } from './find-run.ts'
import { finishedTest } from './finished-test.ts'
import { askedTargetOf, deliveryColumns, lockOpenRun, lockRun, readDelivery, refuseOddWeights, tubsOf } from './service.ts'

/** A reason with who gave it, and when. */
function saidBy({ person: { id, name } }: Actor, reason: string) {
  return { reason, by: { id, name }, at: new Date().toISOString() }
}

/** What is shown of a correction before and after. */
const receivedOf = ({ item, cutSheet, supplier, lot, billed, received, pieces }: Run) => ({
  item: item.name,
  cutSheet: cutSheet.name,
  supplier: supplier?.name ?? 'not noted',
  lot,
  billed: billed.entered,
  received: received.entered,
  items: pieces,
})

/** Puts right what was received, while the run is open; item and sheet only as long as nothing has been weighed on them. */
export async function correctRun(by: Actor, runId: string, correction: z.infer<typeof runCorrect>): Promise<Run> {
  return by.records.transaction(async (tx) => {
    const { row, run } = await lockOpenRun(tx, runId)
    refuseStale(correction.version, run)
    const { item, sheet, quote, partner } = await readDelivery(tx, correction)
    const isOtherSheet = item.id !== run.item.id || sheet.id !== run.cutSheet.id
    if (isOtherSheet && run.weighings.length > 0)
      throw refuseField('cutSheetId', 'Something has been weighed by this sheet already: discard the run and receive it anew.')
    const { billed, received, pieces, target } = correction
    const isOtherDelivery = billed.tenths !== run.billed.tenths || received.tenths !== run.received.tenths || pieces !== run.pieces
    if (isOtherDelivery || isOtherSheet) await refuseOddWeights(tx, by, correction, sheet)
    // what was paid stands as it was when it came, unless something else came, or from somebody else
    const isOtherPrice = item.id !== run.item.id || correction.supplierId !== (run.supplier?.id ?? null)
    const standsAgainst = {
      readyCutItemId: partner?.id ?? null,
      readyCutTerms: partner?.readyCut ?? null,
      readyCutQuoteId: partner?.latestQuote?.id ?? null,
    }
    await tx.runs.save(row, {
      itemId: item.id,
      supplierId: correction.supplierId,
      ...deliveryColumns(correction),
      byPiece: run.byPiece && pieces > 1,
      ...(isOtherPrice ? { quoteId: quote.id } : {}),
      ...(isOtherSheet ? { ...standsAgainst, cutSheetVersionId: sheet.versionId, method: sheet.body.jointCostMethod } : {}),
    })
    if (isOtherSheet) {
      await tx.tubs.destroy({ runId })
      await tx.tubs.bulkCreate(await tubsOf(tx, by, { id: runId, itemId: item.id, target, received, pieces }, sheet))
    } else {
      for (const { key, portion } of run.sheet.outputs) {
        if (portion?.askedAtReceiving) await tx.tubs.update({ targetTenths: askedTargetOf(portion, target) }, { runId, outputKey: key })
      }
    }
    const corrected = found(await findRun(tx, runId))
    const change = { action: 'put right what was received of', before: receivedOf(run), after: receivedOf(corrected) }
    await recordChange(tx, by, { subject: 'run', subjectId: runId, ...change })
    await noteChanged(tx, by, runId, 'status')
    return found(await findRun(tx, runId))
  })
}

/** Strikes a run that should not be: it stays in the log with who said so and why, and counts nowhere. */
export async function discardRun(by: Actor, runId: string, { version, reason }: z.infer<typeof runDiscard>): Promise<Run> {
  return by.records.transaction(async (tx) => {
    const { row, run } = await lockOpenRun(tx, runId)
    refuseStale(version, run)
    await tx.runs.save(row, { status: 'discarded', discarded: saidBy(by, reason) })
    await writeOffLots(tx, by, runId)
    await returnOfRun(tx, by, runId)
    await recordChange(tx, by, { subject: 'run', subjectId: runId, action: 'discarded', before: undefined, after: { reason } })
    await noteChanged(tx, by, runId, 'status')
    return found(await findRun(tx, runId))
  })
}

/** Opens a finished run again for a correction. */
export async function reopenRun(by: Actor, runId: string, reopen: z.infer<typeof runReopen>): Promise<Run> {
  return by.records.transaction(async (tx) => {
    const { row, run } = await lockRun(tx, runId)
    refuseStale(reopen.version, run)
    if (run.status !== 'finished' && run.status !== 'discarded') throw new ProblemError('run-open')
    if (run.status === 'discarded') await takeAgainForRun(tx, by, { id: runId, itemId: run.item.id })
    const test = isTest(run) ? finishedTest(row, run.cutSheet.id, run) : undefined
    await tx.runs.save(row, {
      status: 'open',
      discarded: null,
      reopened: saidBy(by, reopen.reason),
      finishedAt: null,
      finishedById: null,
      mainPct: null,
      usablePct: null,
      unaccountedPct: null,
      netCost: null,
      costPerKg: null,
      costPerPortion: null,
      portions: null,
    })
    if (test) await removeTest(tx, test)
    const change = { action: 'opened again', before: run.figures, after: { reason: reopen.reason } }
    await recordChange(tx, by, { subject: 'run', subjectId: runId, ...change })
    await noteChanged(tx, by, runId, 'status')
    return found(await findRun(tx, runId))
  })
}

/** Leaves a finished run out of the yield book, with the reason, or takes it in again. */
export async function leaveOutRun(by: Actor, runId: string, { version, reason }: z.infer<typeof runLeaveOut>): Promise<Run> {
  return by.records.transaction(async (tx) => {
    const { row, run } = await lockRun(tx, runId)
    refuseStale(version, run)
    if (run.status !== 'finished') throw new ProblemError('run-open', { detail: 'Finish it first: an open run is in no yield book.' })
    const test = finishedTest(row, run.cutSheet.id, run)
    await tx.runs.save(row, { leftOut: reason === null ? null : saidBy(by, reason) })
    if (reason === null && run.leftOut) await addTests(tx, [test])
    if (reason !== null && isTest(run)) await removeTest(tx, test)
    const action = reason === null ? 'took into the yield book' : 'left out of the yield book'
    await recordChange(tx, by, {
      subject: 'run',
      subjectId: runId,
      action,
      before: undefined,
      after: reason === null ? undefined : { reason },
    })
    await noteChanged(tx, by, runId, 'status')
    return found(await findRun(tx, runId))
  })
}

/** Whether the yield book has learnt from a run. */
function isTest({ status, leftOut }: Run): boolean {
  return status === 'finished' && leftOut === null
}
