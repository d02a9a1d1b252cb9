import type { KitchenRecords } from '../../db/records.ts'
import { found } from '../../http/changes.ts'

/** The kitchen's next run number; whoever takes one at the same time waits until this transaction ends. */
export async function takeRunNumber(tx: KitchenRecords, count = 1): Promise<number> {
  await tx.runNumbers.add({ last: count }, {})
  const { last } = found(await tx.runNumbers.lock({}))
  return last - count + 1
}
