import type { FollowOnFigures, MovedCost } from '@fleam/contract/follow-ons'
import { type FollowOnCost, followOnCost } from '@fleam/core/follow-ons/follow-on-cost'
import { gramsOf } from '@fleam/core/quantities/weight'
import type { KitchenRecords } from '../../db/records.ts'
import type { LotRow } from '../walk-in/lot.model.ts'
import type { LotMoveRow } from '../walk-in/lot-move.model.ts'
import type { FollowOnRow } from './follow-on.model.ts'

/** What went into a follow-on and was not taken back out. */
export async function inputsOf(tx: KitchenRecords, followOnIds: readonly string[]): Promise<LotMoveRow[]> {
  const moves = await tx.lotMoves.findAll({
    where: { followOnId: [...followOnIds] },
    include: [{ association: 'lot' }],
    order: ['sequence'],
  })
  const undone = new Set(moves.map(({ undoesId }) => undoesId))
  return moves.filter(({ kind, id }) => kind === 'take' && !undone.has(id))
}

type Output = Pick<LotRow, 'id' | 'name' | 'unit' | 'packedTenths' | 'packedPortions'> & {
  role: 'main' | 'coproduct' | 'byproduct'
  valuePerUnit: number | null
}

/** What a follow-on costs, by what its inputs carry today. */
export function costOfFollowOn(row: Pick<FollowOnRow, 'body'>, inputs: readonly LotMoveRow[], outputs: readonly Output[]): FollowOnCost {
  const { added, energy, consumables, minutes, method, rates, waste } = row.body
  return followOnCost({
    inputs: inputs.map(({ id, tenths, lot }) => ({
      id,
      grams: lot?.unit === 'piece' ? 0 : gramsOf(-tenths),
      cost: lot ? ((lot.cost ?? 0) * -tenths) / lot.packedTenths : 0,
    })),
    added: added.map(({ name, grams, cost }) => ({ name, grams: grams ?? undefined, cost })),
    energy,
    labour: { minutes: minutes ?? 0, ratePerHour: rates.ratePerHour, onCostPct: rates.onCostPct },
    consumables,
    disposalPerKg: rates.disposalPerKg,
    method,
    outputs: [
      ...outputs.map(({ id, name, unit, role, packedTenths, packedPortions, valuePerUnit }) => ({
        id,
        name,
        role,
        unit,
        amount: packedTenths / 10,
        count: packedPortions ?? undefined,
        valuePerUnit: valuePerUnit ?? undefined,
      })),
      ...waste.map(({ name, grams }) => ({ id: `waste ${name}`, name, role: 'waste' as const, unit: 'g' as const, amount: grams })),
    ],
  })
}

export const figuresOf = ({ carried, gross, credit, net, yieldPct }: FollowOnCost): FollowOnFigures => ({
  carried,
  gross,
  credit,
  net,
  yieldPct,
})

/**
 * Costs everything that came of these lots anew, through any number of stages; lots are made of older ones, so it ends.
 * @returns whose cost moved
 */
export async function recostMadeOf(tx: KitchenRecords, lotIds: readonly string[]): Promise<MovedCost[]> {
  if (lotIds.length === 0) return []
  const takes = await tx.lotMoves.findAll({
    attributes: ['followOnId'],
    where: { lotId: [...lotIds], kind: 'take', takenFor: 'follow-on' },
  })
  const ids = [...new Set(takes.flatMap(({ followOnId }) => (followOnId ? [followOnId] : [])))]
  const moved: MovedCost[] = []
  for (const row of await tx.followOns.findAll({ where: { id: ids, status: 'finished' } })) moved.push(...(await costLots(tx, row)))
  return [
    ...moved,
    ...(await recostMadeOf(
      tx,
      moved.map(({ lotId }) => lotId),
    )),
  ]
}

/** A hundredth of the smallest coin is no move. */
const leastMove = 0.0001

/** Keeps what lots cost. @returns those that had another cost before */
export async function keepCosts(tx: KitchenRecords, lots: readonly LotRow[], costOf: (lot: LotRow) => number): Promise<MovedCost[]> {
  const moved: MovedCost[] = []
  for (const lot of lots) {
    const { id: lotId, number, name, cost: before } = lot
    const after = costOf(lot)
    await tx.lots.save(lot, { cost: after })
    if (before !== null && Math.abs(after - before) > leastMove) moved.push({ lotId, number, name, before, after })
  }
  return moved
}

/** Gives the outputs of a finished follow-on what they cost. @returns those whose cost moved */
export async function costLots(tx: KitchenRecords, row: FollowOnRow): Promise<MovedCost[]> {
  const lots = await tx.lots.findAll({ where: { followOnId: row.id } })
  const said = new Map(row.body.outputs.map((output) => [output.id, output]))
  // what was split off later is of an output that is said
  const outputs = lots.flatMap((lot) => {
    const output = said.get(lot.id)
    return output
      ? [{ ...lot.get({ plain: true }), packedTenths: output.tenths, role: output.role, valuePerUnit: output.valuePerUnit }]
      : []
  })
  const cost = costOfFollowOn(row, await inputsOf(tx, [row.id]), outputs)
  const perTenth = new Map(cost.outputs.map(({ id, cost: whole }) => [id, whole / (said.get(id)?.tenths ?? 1)]))
  await tx.followOns.save(row, { figures: figuresOf(cost) })
  return keepCosts(tx, lots, (lot) => (perTenth.get(lot.tubId ?? '') ?? 0) * lot.packedTenths)
}
