import type { recall } from '@fleam/contract/follow-ons'
import type { Lot } from '@fleam/contract/walk-in'
import { v7 as uuidv7 } from 'uuid'
import type { z } from 'zod'
import type { Actor } from '../../http/access.ts'
import { recordChange } from '../../http/changes.ts'
import { findLots } from './find-lots.ts'
import { applyMove } from './move-lot.ts'
import { lotsMadeOf, lotsOfSupplierLot } from './trace.ts'

/** Blocks whatever is left of a supplier's lot, and of all that it went into. */
export async function recallLot(by: Actor, { supplierLot, reason, at }: z.infer<typeof recall>): Promise<Lot[]> {
  return by.records.transaction(async (tx) => {
    const lots = await lotsMadeOf(tx, await lotsOfSupplierLot(tx, supplierLot))
    const left = lots.filter(({ leftTenths, isBlocked }) => leftTenths > 0 && !isBlocked)
    for (const lot of left.toSorted((a, b) => a.id.localeCompare(b.id))) {
      const what = { kind: 'block' as const, note: `Lot ${supplierLot} called back: ${reason}`.slice(0, 200) }
      await applyMove(tx, by, lot.id, { id: uuidv7(), what, at })
    }
    await recordChange(tx, by, {
      subject: 'lot',
      subjectId: left[0]?.id ?? '',
      action: 'called back',
      before: undefined,
      after: { supplierLot, reason },
    })
    return findLots(tx, { id: left.map(({ id }) => id) })
  })
}
