import type { Run, runPutRight } from '@fleam/contract/runs'
import { correctingLines } from '@fleam/core/runs/put-right'
import { balanceOfRun, figuresOfRun } from '@fleam/core/runs/run-record'
import { v7 as uuidv7 } from 'uuid'
import type { z } from 'zod'
import type { KitchenRecords } from '../../db/records.ts'
import type { Actor } from '../../http/access.ts'
import { found, recordChange, refuseStale } from '../../http/changes.ts'
import { ProblemError, refuseField } from '../../http/problems.ts'
import { putAwayRest, recostRun } from '../walk-in/put-away.ts'
import { addTests, removeTest } from '../yield-book/totals.ts'
import { noteChanged } from './bench-events.ts'
import { findRun } from './find-run.ts'
import { finishedTest } from './finished-test.ts'
import { askedTargetOf, deliveryColumns, lockRun, readDelivery, refuseOddWeights, refuseUnsettled } from './service.ts'

type PutRight = z.infer<typeof runPutRight>

/**
 * Puts a finished run right while it stays finished. Its ledger only grows; figures, yield book, lots in the walk-in and what
 * was made of them follow in the same transaction, and the audit trail has the old and the new.
 */
export async function putRunRight(by: Actor, runId: string, change: PutRight): Promise<Run> {
  return by.records.transaction(async (tx) => {
    const { row, run } = await lockRun(tx, runId)
    if (run.status !== 'finished')
      throw new ProblemError('run-open', { detail: 'Only a finished run is put right so; an open one at its bench.' })
    refuseStale(change.version, run)
    const delivery = { ...change, itemId: run.item.id, cutSheetId: run.cutSheet.id }
    const { sheet, quote } = await readDelivery(tx, delivery)
    const { billed, received, pieces, supplierId, target, minutes, consumables } = change
    const isOtherDelivery = billed.tenths !== run.billed.tenths || received.tenths !== run.received.tenths || pieces !== run.pieces
    if (isOtherDelivery) await refuseOddWeights(tx, by, delivery, sheet)
    const counts = run.leftOut === null
    if (counts) await removeTest(tx, finishedTest(row, run.cutSheet.id, run))
    await addLines(tx, by, run, change)
    for (const { key, portion } of run.sheet.outputs) {
      if (portion?.askedAtReceiving) await tx.tubs.update({ targetTenths: askedTargetOf(portion, target) }, { runId, outputKey: key })
    }
    await tx.runs.save(row, {
      supplierId,
      ...deliveryColumns(change),
      byPiece: run.byPiece && pieces > 1,
      minutes,
      consumables,
      ...(supplierId !== (run.supplier?.id ?? null) ? { quoteId: quote.id } : {}),
    })
    const changed = found(await findRun(tx, runId))
    refuseUnsettled(changed, change.unaccountedReason)
    const figures = figuresOfRun(changed)
    const reason = change.unaccountedReason !== '' && balanceOfRun(changed).state === 'over-limit' ? change.unaccountedReason : null
    await tx.runs.save(row, { ...figures, unaccountedReason: reason })
    const right = found(await findRun(tx, runId))
    if (counts) await addTests(tx, [finishedTest(row, run.cutSheet.id, right)])
    await putAwayRest(tx, by, right)
    const moved = await recostRun(tx, right)
    const before = { ...shownOf(run), ...run.figures }
    const after = { ...shownOf(right), ...figures, reason: change.reason }
    await recordChange(tx, by, { subject: 'run', subjectId: runId, action: 'put right', before, after })
    if (moved.length > 0)
      await recordChange(tx, by, { subject: 'run', subjectId: runId, action: 're-costed', before: undefined, after: { moved } })
    await noteChanged(tx, by, runId, 'status')
    return right
  })
}

async function addLines(tx: KitchenRecords, by: Actor, run: Run, { moved, takenBack, added }: PutRight): Promise<void> {
  const tubs = new Set(run.tubs.map(({ id }) => id))
  for (const [index, { tubId }] of moved.entries()) refuseUnknownTub(tubs, tubId, `moved.${index}.tubId`)
  for (const [index, { tubId }] of added.entries()) refuseUnknownTub(tubs, tubId, `added.${index}.tubId`)
  const correction = { moved, takenBack, added: added.map(({ weight, ...line }) => ({ ...line, ...weight })) }
  const line = { runId: run.id, personId: by.person.id, sentById: by.person.id, weighedAt: new Date(found(run.finishedAt)) }
  await tx.weighings.bulkCreate(
    correctingLines(run.weighings, correction, uuidv7).map(({ piece, ...made }) => ({ ...made, ...line, pieceNumber: piece })),
  )
}

function refuseUnknownTub(tubs: ReadonlySet<string>, tubId: string, field: string): void {
  if (!tubs.has(tubId)) throw refuseField(field, 'There is no such tub on this run’s tray.', 'not-found')
}

/** What is shown of a run before and after. */
const shownOf = ({ supplier, lot, billed, received, pieces, minutes, consumables, weighings }: Run) => ({
  supplier: supplier?.name ?? 'not noted',
  lot,
  billed: billed.entered,
  received: received.entered,
  items: pieces,
  minutes,
  consumables,
  lines: weighings.length,
})
