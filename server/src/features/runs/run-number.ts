import type { KitchenRecords } from '../../db/records.ts'
import { found } from '../../http/changes.ts'

/** The first of the kitchen's next numbers; whoever takes one at the same time waits until this transaction ends. */
async function takeNumber(
  tx: KitchenRecords,
  of: 'last' | 'lastLot' | 'lastFollowOn' | 'lastClaim' | 'lastOrder',
  count: number,
): Promise<number> {
  await tx.runNumbers.add({ [of]: count }, {})
  return found(await tx.runNumbers.lock({}))[of] - count + 1
}

export const takeRunNumber = (tx: KitchenRecords, count = 1) => takeNumber(tx, 'last', count)
export const takeLotNumber = (tx: KitchenRecords, count = 1) => takeNumber(tx, 'lastLot', count)
export const takeFollowOnNumber = (tx: KitchenRecords) => takeNumber(tx, 'lastFollowOn', 1)
export const takeClaimNumber = (tx: KitchenRecords) => takeNumber(tx, 'lastClaim', 1)
/** The same for an order. */
export const takeOrderNumber = (tx: KitchenRecords) => takeNumber(tx, 'lastOrder', 1)
