import type { Trace, TraceNode } from '@fleam/contract/follow-ons'
import type { Lot } from '@fleam/contract/walk-in'
import { Op } from 'sequelize'
import type { KitchenRecords } from '../../db/records.ts'
import { csvLine } from '../../http/csv.ts'
import { findLots } from './find-lots.ts'
import type { LotMoveRow } from './lot-move.model.ts'

type Flow = Trace['flows'][number]

/** Lots that one question may lead to: a season of one supplier's lot is some dozens. */
const mostLots = 5000

/** All that came of these lots, through every follow-on. */
export async function lotsMadeOf(records: KitchenRecords, startIds: readonly string[]): Promise<Lot[]> {
  const lots = new Map<string, Lot>()
  await spread(records, startIds, lots, new Map(), 'down')
  return [...lots.values()]
}

/**
 * Where these lots come from, and all that they went into, through every follow-on.
 * @param runIds runs that belong to it though nothing of them was put away yet
 */
export async function traceLots(
  records: KitchenRecords,
  start: string,
  startIds: readonly string[],
  runIds: readonly string[] = [],
): Promise<Trace> {
  const lots = new Map<string, Lot>()
  const takes = new Map<string, LotMoveRow>()
  await spread(records, startIds, lots, takes, 'down')
  await spread(records, startIds, lots, takes, 'up')
  const nodes = new Map<string, TraceNode>()
  const flows: Flow[] = []
  const unread = { lot: null, tenths: null, unit: null, cost: null, at: null, by: '' }
  for (const id of runIds) nodes.set(id, { id, what: 'run', name: '', ...unread })
  for (const lot of lots.values()) {
    nodes.set(lot.id, lotNode(lot))
    if (lot.run) {
      const of = lot.run
      nodes.set(of.id, { id: of.id, what: 'run', name: `Run ${of.number}`, ...unread })
      flows.push({ from: of.id, to: lot.id, tenths: lot.packedTenths, unit: lot.unit, cost: lot.cost })
    }
    if (lot.followOn) flows.push({ from: lot.followOn.id, to: lot.id, tenths: lot.packedTenths, unit: lot.unit, cost: lot.cost })
  }
  const followOnIds = [...new Set([...lots.values()].flatMap(({ followOn }) => (followOn ? [followOn.id] : [])))]
  const taken = [...takes.values()]
  const madeIds = [...new Set([...followOnIds, ...taken.flatMap(({ followOnId }) => (followOnId ? [followOnId] : []))])]
  const made = await records.followOns.findAll({ where: { id: madeIds }, include: [{ association: 'person', attributes: ['name'] }] })
  for (const row of made) {
    const { id, number, name, figures, startedAt, person } = row
    nodes.set(id, {
      id,
      what: 'follow-on',
      name: `${name} (follow-on ${number})`,
      lot: null,
      tenths: null,
      unit: null,
      cost: figures?.gross ?? null,
      at: startedAt.toISOString(),
      by: person?.name ?? '',
    })
  }
  for (const move of taken) {
    const lot = lots.get(move.lotId)
    if (!lot) continue
    const tenths = -move.tenths
    const cost = lot.cost === null ? null : (lot.cost * tenths) / lot.packedTenths
    const to = move.followOnId ?? move.runId ?? move.id
    if (move.runId) nodes.set(move.runId, { id: move.runId, what: 'run', name: '', ...unread })
    else if (!move.followOnId) {
      const name = move.takenFor === 'dish' ? move.note || 'A dish' : move.takenFor === 'staff' ? 'Staff' : `Thrown away: ${move.note}`
      const at = move.at.toISOString()
      nodes.set(to, { id: to, what: 'taken', name, lot: null, tenths, unit: lot.unit, cost, at, by: move.person?.name ?? '' })
    }
    flows.push({ from: lot.id, to, tenths, unit: lot.unit, cost })
  }
  await addRuns(records, nodes, flows, new Set(taken.flatMap(({ runId }) => runId ?? [])))
  addDeliveries(lots, nodes, flows)
  return { start, nodes: [...nodes.values()], flows }
}

function lotNode(lot: Lot): TraceNode {
  const { id, number, name, packedTenths: tenths, unit, cost, packedAt: at, by } = lot
  return { id, what: 'lot', name: `${name} (lot ${number})`, lot, tenths, unit, cost, at, by: by.name }
}

/** @param ofWhole runs that cut what lay there whole: it came from there, and not from the door */
async function addRuns(records: KitchenRecords, nodes: Map<string, TraceNode>, flows: Flow[], ofWhole: ReadonlySet<string>): Promise<void> {
  const ids = [...nodes.values()].filter(({ what }) => what === 'run').map(({ id }) => id)
  if (ids.length === 0) return
  const runs = await records.runs.findAll({
    where: { id: ids },
    include: [
      { association: 'item', attributes: ['name'] },
      { association: 'supplier', attributes: ['name'] },
      { association: 'cook', attributes: ['name'] },
    ],
  })
  for (const run of runs) {
    const { id, number, receivedTenths: tenths, startedAt, item, supplier, cook, lot } = run
    const at = startedAt.toISOString()
    nodes.set(id, {
      id,
      what: 'run',
      name: `${item?.name}, run ${number}`,
      lot: null,
      tenths,
      unit: 'g',
      cost: run.netCost,
      at,
      by: cook?.name ?? '',
    })
    if (ofWhole.has(id)) continue
    const delivery = `delivery ${supplier?.name ?? ''} ${lot || id}`
    const name = `${supplier?.name ?? 'Supplier not noted'}${lot ? `, lot ${lot}` : ''}`
    nodes.set(delivery, { id: delivery, what: 'delivery', name, lot: null, tenths: null, unit: null, cost: null, at, by: '' })
    flows.push({ from: delivery, to: id, tenths, unit: 'g', cost: null })
  }
}

/** What lies there whole came through the door. */
function addDeliveries(lots: ReadonlyMap<string, Lot>, nodes: Map<string, TraceNode>, flows: Flow[]): void {
  for (const { id, whole, supplierLot, packedTenths: tenths, packedAt: at, cost } of lots.values()) {
    if (!whole) continue
    const delivery = `delivery ${supplierLot || id}`
    const name = supplierLot ? `Delivery, lot ${supplierLot}` : 'Delivery'
    nodes.set(delivery, { id: delivery, what: 'delivery', name, lot: null, tenths: null, unit: null, cost: null, at, by: '' })
    flows.push({ from: delivery, to: id, tenths, unit: 'g', cost })
  }
}

/** Goes from lot to lot, a level at a time: down to what was made of them, or up to what they were made of. */
async function spread(
  records: KitchenRecords,
  startIds: readonly string[],
  lots: Map<string, Lot>,
  takes: Map<string, LotMoveRow>,
  way: 'up' | 'down',
): Promise<void> {
  let next = [...startIds]
  const seen = new Set<string>()
  while (next.length > 0 && lots.size < mostLots) {
    for (const id of next) seen.add(id)
    const found = await findLots(records, { id: next })
    for (const lot of found) lots.set(lot.id, lot)
    const madeOf =
      way === 'down'
        ? { lotId: next }
        : {
            [Op.or]: [
              { followOnId: [...new Set(found.flatMap(({ followOn }) => followOn?.id ?? []))] },
              { runId: [...new Set(found.flatMap(({ run }) => run?.id ?? []))] },
            ],
          }
    const moves = await records.lotMoves.findAll({
      where: { ...madeOf, kind: ['take', 'undo'] } as never,
      include: [{ association: 'person', attributes: ['name'] }],
      order: ['sequence'],
    })
    const undone = new Set(moves.map(({ undoesId }) => undoesId))
    const standing = moves.filter(({ kind, id }) => kind === 'take' && !undone.has(id))
    for (const move of standing) takes.set(move.id, move)
    const reached =
      way === 'down'
        ? [
            ...(await lotsMadeBy(records, 'followOnId', [...new Set(standing.flatMap(({ followOnId }) => followOnId ?? []))])),
            ...(await lotsMadeBy(records, 'runId', [...new Set(standing.flatMap(({ runId }) => runId ?? []))])),
          ]
        : standing.map(({ lotId }) => lotId)
    next = [...new Set(reached)].filter((id) => !seen.has(id))
  }
}

async function lotsMadeBy(records: KitchenRecords, of: 'followOnId' | 'runId', ids: readonly string[]): Promise<string[]> {
  if (ids.length === 0) return []
  return (await records.lots.findAll({ attributes: ['id'], where: { [of]: [...ids] }, raw: true })).map(({ id }) => id)
}

/** All that came of a supplier's lot, and what of it is still being cut. */
export async function traceSupplierLot(records: KitchenRecords, supplierLot: string): Promise<Trace> {
  const runs = await records.runs.findAll({ attributes: ['id'], where: { lot: supplierLot }, raw: true })
  const lotIds = await lotsOfSupplierLot(records, supplierLot)
  return traceLots(
    records,
    `Supplier’s lot ${supplierLot}`,
    lotIds,
    runs.map(({ id }) => id),
  )
}

/** A line for every branch: from what, to what, how much, and what it carried. */
export function* writeTraceCsv({ nodes, flows }: Trace, currency: string): Generator<string> {
  const nameOf = new Map(nodes.map(({ id, name }) => [id, name]))
  const leftOf = new Map(nodes.map(({ id, lot }) => [id, lot ? lot.leftTenths / 10 : '']))
  yield csvLine(['from', 'to', 'amount', 'unit', 'cost', 'currency', 'left_of_it', 'at'])
  const atOf = new Map(nodes.map(({ id, at }) => [id, at ?? '']))
  for (const { from, to, tenths, unit, cost } of flows) {
    yield csvLine([
      nameOf.get(from) ?? '',
      nameOf.get(to) ?? '',
      tenths / 10,
      unit,
      cost ?? '',
      currency,
      leftOf.get(to) ?? '',
      atOf.get(to) ?? '',
    ])
  }
}

/** The lots that came of a supplier's lot directly; what was made of them is found by following them. */
export async function lotsOfSupplierLot(records: KitchenRecords, supplierLot: string): Promise<string[]> {
  return (await records.lots.findAll({ attributes: ['id'], where: { supplierLot }, raw: true })).map(({ id }) => id)
}
