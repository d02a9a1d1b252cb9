import type { Run } from '@fleam/contract/runs'
import { sharesOfRun } from '@fleam/core/runs/run-record'
import type { Queries, Values } from '../../db/database.ts'
import { found } from '../../http/changes.ts'

/** What a share is kept under: the run, its kitchen, item and cut sheet. */
export interface Cut {
  runId: string
  kitchenId: string
  itemId: string
  cutSheetId: string
}

/** Keeps a finished run's shares by output beside it, for the yield book. */
export async function keepShares(tx: Queries, runId: string, run: Pick<Run, 'received' | 'weighings' | 'tubs'>): Promise<void> {
  const cut = await tx.row<Cut>(
    `SELECT r.id AS runId, r.kitchen_id AS kitchenId, r.item_id AS itemId, v.cut_sheet_id AS cutSheetId
     FROM runs r JOIN cut_sheet_versions v ON v.id = r.cut_sheet_version_id WHERE r.id = :runId`,
    { runId },
  )
  await tx.insertMany('run_outputs', shareRows(found(cut), run))
}

export function shareRows(cut: Cut, run: Parameters<typeof sharesOfRun>[0]): Values[] {
  return [...sharesOfRun(run)].map(([key, share]) => ({
    run_id: cut.runId,
    output_key: key,
    kitchen_id: cut.kitchenId,
    item_id: cut.itemId,
    cut_sheet_id: cut.cutSheetId,
    share_pct: share,
  }))
}
