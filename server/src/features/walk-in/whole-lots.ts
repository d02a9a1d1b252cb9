import type { BoxItem, wholeLotCreate } from '@fleam/contract/receiving'
import type { Lot } from '@fleam/contract/walk-in'
import { costOfPurchase } from '@fleam/core/quantities/price'
import { gramsOf } from '@fleam/core/quantities/weight'
import type { KeptKind } from '@fleam/core/walk-in/keeping'
import { useBy } from '@fleam/core/walk-in/use-by'
import { v7 as uuidv7 } from 'uuid'
import type { z } from 'zod'
import type { KitchenRecords } from '../../db/records.ts'
import type { Actor } from '../../http/access.ts'
import { createOnce, found } from '../../http/changes.ts'
import { ProblemError, refuseField } from '../../http/problems.ts'
import { findItemAlone } from '../prices/items.ts'
import { findQuoteOf, toPrice } from '../prices/quotes.ts'
import { refuseUnknownSupplier } from '../prices/suppliers.ts'
import { takeLotNumber } from '../runs/run-number.ts'
import { findLots } from './find-lots.ts'
import { applyMove, packedLine, todayOf } from './move-lot.ts'

const kindOf: Readonly<Record<string, KeptKind>> = { bird: 'raw poultry', fish: 'raw fish', beef: 'raw cuts', lamb: 'raw cuts' }

/** Puts something that was bought whole into the walk-in, with the dates of its box, until it is cut. */
export async function putWholeAway(by: Actor, create: z.infer<typeof wholeLotCreate>): Promise<Lot> {
  const { records, kitchen } = by
  const { id, itemId, supplierId, tenths, billedTenths, pieces, supplierLot, place, coreTempC, action } = create
  const item = await findItemAlone(records, itemId)
  if (item?.kind !== 'whole') throw refuseField('itemId', 'Choose something this kitchen buys whole.')
  if (supplierId !== null) await refuseUnknownSupplier(records, supplierId)
  const { limits, walkIn } = kitchen.settings
  if (coreTempC !== null && coreTempC > limits.receiveMaxC && action === '')
    throw refuseField('action', `${coreTempC} °C is over the limit of ${limits.receiveMaxC} °C: say what was done.`, 'decision-needed')
  const today = todayOf(by)
  const printed = [create.useBy, create.bestBefore].flatMap((day) => day ?? [])
  const past = printed.find((day) => day < today)
  if (past) throw refuseField('useBy', `Its date was ${past}: turn it away, or receive it as a run with what was decided.`)
  const kind = kindOf[item.animal] ?? 'raw cuts'
  const quoteId = await findQuoteOf(records, itemId, supplierId)
  const quote = quoteId && (await records.quotes.findOne({ where: { id: quoteId.id } }))
  const cost = quote ? costOfPurchase(toPrice(quote), { grams: gramsOf(billedTenths), pieces }) : null
  return createOnce(
    records,
    () =>
      records.transaction(async (tx) => {
        const at = new Date(create.at)
        await tx.lots.create({
          ...{ id, kind, itemId, supplierId, pieces, billedTenths, supplierLot, place, cost },
          number: await takeLotNumber(tx),
          name: item.name,
          animal: item.animal,
          outputKey: null,
          runId: null,
          tubId: null,
          followOnId: null,
          unit: 'g',
          packedTenths: tenths,
          leftTenths: tenths,
          packedPortions: null,
          leftPortions: null,
          state: 'chilled',
          packedOn: today,
          useBy: useBy(kind, today, walkIn.keeping, { printed }),
          chilledDaysLeft: null,
          allergens: item.animal === 'fish' ? ['fish'] : [],
          isFormed: false,
          personId: by.person.id,
          packedAt: at,
        })
        await tx.lotMoves.create(packedLine(id, tenths, null, { personId: by.person.id, sentById: by.person.id, at }))
        if (coreTempC !== null)
          await tx.safetyNotes.create({
            ...{ action, personId: by.person.id, at, celsius: coreTempC },
            id: uuidv7(),
            kind: 'receiving',
            about: `${item.name}, whole${supplierLot ? `, lot ${supplierLot}` : ''}`.slice(0, 80),
            limitC: limits.receiveMaxC,
          })
      }),
    async () => (await findLots(records, { id }))[0],
  )
}

/** A run cuts what lay there whole: all of it leaves the walk-in. */
export async function takeForRun(
  tx: KitchenRecords,
  by: Actor,
  lotId: string,
  run: { id: string; itemId: string; at: string },
): Promise<void> {
  const row = found(await tx.lots.findOne({ where: { id: lotId } }))
  if (row.itemId !== run.itemId) throw new ProblemError('lot-refused', { detail: 'That lot is of another item: choose what lies there.' })
  const moveId = uuidv7()
  const what = { kind: 'take' as const, tenths: null, portions: null, takenFor: 'run' as const, note: '' }
  await applyMove(tx, by, lotId, { id: moveId, what, at: run.at })
  await tx.lotMoves.update({ runId: run.id }, { id: moveId })
}

/** A run that is discarded was not cut: what it was to be cut of lies where it lay. */
export async function returnOfRun(tx: KitchenRecords, by: Actor, runId: string): Promise<void> {
  const moves = await tx.lotMoves.findAll({ where: { runId }, order: ['sequence'] })
  const undone = new Set(moves.map(({ undoesId }) => undoesId))
  for (const move of moves.filter(({ id, kind }) => kind === 'take' && !undone.has(id))) {
    const lot = found(await tx.lots.lock({ id: move.lotId }))
    await tx.lotMoves.create({
      ...packedLine(lot.id, -move.tenths, -move.portions, { personId: by.person.id, sentById: by.person.id, at: new Date() }),
      ...{ id: uuidv7(), kind: 'undo', takenFor: 'run', undoesId: move.id, runId },
    })
    await tx.lots.save(lot, { leftTenths: lot.leftTenths - move.tenths })
  }
}

/** A run that was discarded is opened again: what it is cut of leaves the walk-in again. */
export async function takeAgainForRun(tx: KitchenRecords, by: Actor, run: { id: string; itemId: string }): Promise<void> {
  const last = await tx.lotMoves.findAll({ where: { runId: run.id }, order: [['sequence', 'DESC']], limit: 1 })
  if (last[0]?.kind === 'undo') await takeForRun(tx, by, last[0].lotId, { ...run, at: new Date().toISOString() })
}

export async function listBoxItems(records: KitchenRecords): Promise<BoxItem[]> {
  const rows = await records.boxItems.findAll({ order: ['gtin'], limit: 5000 })
  return rows.map(({ gtin, supplierId, itemId }) => ({ gtin, supplierId: supplierId || null, itemId }))
}

/** Remembers which item a supplier's trade item number stands for; said again, the last word holds. */
export async function rememberBoxItem(by: Actor, { gtin, supplierId, itemId }: BoxItem): Promise<BoxItem> {
  const item = await findItemAlone(by.records, itemId)
  if (item?.kind !== 'whole') throw refuseField('itemId', 'Choose something this kitchen buys whole.')
  if (supplierId !== null) await refuseUnknownSupplier(by.records, supplierId)
  await by.records.transaction(async (tx) => {
    const key = { gtin, supplierId: supplierId ?? '' }
    await tx.boxItems.destroy(key)
    await tx.boxItems.create({ ...key, itemId })
  })
  return { gtin, supplierId, itemId }
}
