import type { Lot, LotMove, LotWithMoves } from '@fleam/contract/walk-in'
import type { LotStand } from '@fleam/core/walk-in/lot'
import { Op, type WhereOptions } from 'sequelize'
import type { KitchenRecords } from '../../db/records.ts'
import { found } from '../../http/changes.ts'
import type { LotRow } from './lot.model.ts'
import type { LotMoveRow } from './lot-move.model.ts'

const withNames = [
  { association: 'person', attributes: ['name'] },
  { association: 'run', attributes: ['number'], include: [{ association: 'item', attributes: ['name'] }] },
  { association: 'followOn', attributes: ['number'] },
]

export function toLot(row: LotRow): Lot {
  const { run, followOn, person, personId, packedAt } = row
  return {
    id: row.id,
    number: row.number,
    version: row.version,
    name: row.name,
    kind: row.kind,
    animal: row.animal,
    outputKey: row.outputKey,
    unit: row.unit,
    packedTenths: row.packedTenths,
    leftTenths: row.leftTenths,
    packedPortions: row.packedPortions,
    leftPortions: row.leftPortions,
    place: row.place,
    state: row.state,
    packedOn: row.packedOn,
    useBy: row.useBy,
    chilledDaysLeft: row.chilledDaysLeft,
    allergens: row.allergens,
    isFormed: row.isFormed,
    isBlocked: row.isBlocked,
    cost: row.cost,
    run: row.runId && run ? { id: row.runId, number: run.number, item: run.item?.name ?? '' } : null,
    followOn: row.followOnId && followOn ? { id: row.followOnId, number: followOn.number } : null,
    whole: wholeOf(row),
    supplierLot: row.supplierLot,
    by: { id: personId, name: found(person).name },
    packedAt: packedAt.toISOString(),
  }
}

function wholeOf({ itemId, supplierId = null, pieces, billedTenths }: LotRow): Lot['whole'] {
  if (!itemId) return null
  return { itemId, supplierId, pieces: pieces ?? 1, billedTenths: billedTenths ?? 0 }
}

export const standOf = ({ kind, leftTenths, leftPortions, place, state, useBy, chilledDaysLeft, isBlocked }: LotRow): LotStand => ({
  kind,
  leftTenths,
  leftPortions,
  place,
  state,
  useBy,
  chilledDaysLeft,
  isBlocked,
})

/** What is there, what must be used first at the top. */
export async function listLots(records: KitchenRecords): Promise<Lot[]> {
  return findLots(records, { leftTenths: { [Op.gt]: 0 } })
}

export async function findLots(records: KitchenRecords, where: WhereOptions): Promise<Lot[]> {
  const order: [string, string][] = [
    ['useBy', 'ASC'],
    ['number', 'ASC'],
  ]
  return (await records.lots.findAll({ where: where as never, include: withNames, order, limit: 2000 })).map(toLot)
}

export async function findLot(records: KitchenRecords, id: string): Promise<LotWithMoves | undefined> {
  const row = await records.lots.findOne({ where: { id }, include: withNames })
  if (!row) return undefined
  const moves = await records.lotMoves.findAll({
    where: { lotId: id },
    include: [{ association: 'person', attributes: ['name'] }],
    order: ['sequence'],
  })
  return { ...toLot(row), moves: moves.map(toMove) }
}

function toMove(row: LotMoveRow): LotMove {
  return {
    id: row.id,
    sequence: row.sequence,
    kind: row.kind,
    tenths: row.tenths,
    portions: row.portions,
    takenFor: row.takenFor,
    note: row.note,
    undoesId: row.undoesId,
    followOnId: row.followOnId,
    at: row.at.toISOString(),
    by: { id: row.personId, name: found(row.person).name },
  }
}
