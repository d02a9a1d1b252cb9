import type { BenchEvent } from '@fleam/contract/bench'
import type { Weighing } from '@fleam/contract/runs'
import { type Attributes, Op } from 'sequelize'
import type { AllRecords, KitchenRecords } from '../../db/records.ts'
import { found } from '../../http/changes.ts'
import type { BenchEventRow } from './bench-event.model.ts'
import type { WeighingRow } from './weighing.model.ts'

const withPerson = { association: 'person', attributes: ['name'], required: true }

export async function findWeighing(records: KitchenRecords, runId: string, id: string): Promise<Weighing | undefined> {
  const row = await records.weighings.findOne({ where: { id, runId }, include: [withPerson] })
  return row ? toWeighing(row, found(row.person).name) : undefined
}

export async function findBenchEvent(records: KitchenRecords, runId: string, id: string): Promise<BenchEvent | undefined> {
  const row = await records.benchEvents.findOne({ where: { id, runId }, include: [withPerson] })
  return row ? toBenchEvent(row, found(row.person).name) : undefined
}

/** Which lines the live feed reads: those after a place in the order they were stored, and those at given places. */
export interface Places {
  last: number
  places: readonly number[]
  limit: number
}

/** Weighings of every kitchen, for the live feed. */
export async function listWeighingsAt(
  all: AllRecords,
  places: Places,
): Promise<{ kitchenId: string; runId: string; weighing: Weighing }[]> {
  const rows = await all.weighings.findAll(inPlaces(places))
  return rows.map((row) => ({ kitchenId: row.kitchenId, runId: row.runId, weighing: toWeighing(row, found(row.person).name) }))
}

/** What happened at the benches of every kitchen, for the live feed. */
export async function listBenchEventsAt(
  all: AllRecords,
  places: Places,
): Promise<{ kitchenId: string; runId: string; event: BenchEvent }[]> {
  const rows = await all.benchEvents.findAll(inPlaces(places))
  return rows.map((row) => ({ kitchenId: row.kitchenId, runId: row.runId, event: toBenchEvent(row, found(row.person).name) }))
}

function inPlaces({ last, places, limit }: Places) {
  const after = { sequence: { [Op.gt]: last } }
  const where = places.length === 0 ? after : { [Op.or]: [after, { sequence: [...places] }] }
  // plain rows: the feed reads several times a second
  return { where, include: [withPerson], order: ['sequence'], limit, raw: true as const, nest: true as const }
}

export function toWeighing(row: Attributes<WeighingRow>, name: string): Weighing {
  return {
    id: row.id,
    sequence: row.sequence,
    tubId: row.tubId,
    tenths: row.tenths,
    entered: row.entered,
    reversesId: row.reversesId,
    piece: row.pieceNumber,
    movedFromId: row.movedFromId,
    weighedAt: row.weighedAt.toISOString(),
    by: { id: row.personId, name },
  }
}

export function toBenchEvent(row: Attributes<BenchEventRow>, name: string): BenchEvent {
  return { id: row.id, sequence: row.sequence, what: row.body, at: row.happenedAt.toISOString(), by: { id: row.personId, name } }
}
