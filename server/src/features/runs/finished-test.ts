import type { Run } from '@fleam/contract/runs'
import { testedOutputsOf } from '@fleam/core/runs/run-record'
import type { FinishedTest } from '../yield-book/totals.ts'
import type { RunRow } from './run.model.ts'

type Finished = Pick<RunRow, 'id' | 'itemId' | 'startedAt' | 'pieces' | 'receivedTenths' | 'minutes' | 'consumables' | 'mainPct'>

/** What the yield book learns from a finished run. */
export function finishedTest(row: Finished, cutSheetId: string, run: Run): FinishedTest {
  const { id, itemId, startedAt, pieces, receivedTenths, minutes, consumables, mainPct } = row
  const outputs = testedOutputsOf(run)
  return { runId: id, itemId, cutSheetId, startedAt, pieces, receivedTenths, minutes, consumables, mainPct: mainPct ?? 0, outputs }
}
