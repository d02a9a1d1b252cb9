import type { Run, runFromPaper } from '@fleam/contract/runs'
import type { z } from 'zod'
import { type Actor, hasRole } from '../../http/access.ts'
import { createOnce, found } from '../../http/changes.ts'
import { ProblemError, refuseField } from '../../http/problems.ts'
import { findRun } from './find-run.ts'
import { finishRun, prepareRun } from './service.ts'
import { findWeigher } from './weigh.ts'

const minuteMs = 60_000

/** Enters a run that was written down on paper: received, weighed and finished, all of it or nothing. A repeat is the same run. */
export async function enterFromPaper(by: Actor, paper: z.infer<typeof runFromPaper>): Promise<Run> {
  const { id, cookId, weighings, minutes, consumables, unaccountedReason, ...create } = paper
  const cook = await findWeigher(by, cookId)
  if (cook.id !== by.person.id && !hasRole(by.person, 'lead'))
    throw new ProblemError('role-too-low', { detail: `A lead enters what ${cook.name} cut; you enter your own.` })
  const find = () => findRun(by.records, id)
  const first = await find()
  if (first) return first
  if (create.temperature?.decision === 'turn-away')
    throw refuseField('temperature', 'What was turned away was not weighed out: receive it under Receive.')
  const write = await prepareRun(by, { ...create, id, fromLotId: null })
  return createOnce(
    by.records,
    () =>
      by.records.transaction(async (tx) => {
        await write(tx)
        await tx.runs.update({ cookId: cook.id }, { id })
        const { tubs, version } = found(await findRun(tx, id))
        const tubOf = new Map(tubs.map((tub) => [tub.key, tub.id]))
        const line = { runId: id, reversesId: null, pieceNumber: null, movedFromId: null, personId: cook.id, sentById: by.person.id }
        const weighedAt = new Date(create.startedAt)
        await tx.weighings.bulkCreate(
          weighings.map(({ id: weighingId, outputKey, weight }, index) => {
            const tubId = tubOf.get(outputKey)
            if (tubId === undefined) throw refuseField(`weighings.${index}.outputKey`, 'The sheet has no such output.', 'not-found')
            return { ...line, id: weighingId, tubId, ...weight, weighedAt }
          }),
        )
        await finishRun({ ...by, records: tx }, id, { version, minutes, consumables, unaccountedReason })
        const finishedAt = new Date(Math.min(weighedAt.getTime() + minutes * minuteMs, Date.now()))
        await tx.runs.update({ finishedAt }, { id })
      }),
    find,
  )
}
