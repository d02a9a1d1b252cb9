import type { BenchEvent } from '@fleam/contract/bench'
import type { MeasuredProfile, measuredProfileCreate, Rest, usualShapes } from '@fleam/contract/plan'
import { groupBy } from '@fleam/core/group-by'
import type { MeasuredPiece } from '@fleam/core/plan/usual-profile'
import { IndexHints, Op } from 'sequelize'
import type { z } from 'zod'
import type { KitchenRecords } from '../../db/records.ts'
import type { HeavyWork } from '../../heavy-work.ts'
import type { Actor } from '../../http/access.ts'
import { createOnce, found } from '../../http/changes.ts'
import type { BenchEventRow } from '../runs/bench-event.model.ts'
import type { MeasuredProfileRow } from './measured-profile.model.ts'

const mostProfiles = 100
/** A usual shape is learnt from the latest runs: hands and suppliers change. */
const latestPlans = 200
const hour = 3_600_000
const restDays = 12

const withPerson = { association: 'person', attributes: ['name'] }
const byKind = [{ type: IndexHints.FORCE, values: ['bench_events_by_kind'] }]

type Happening<Kind extends string> = Extract<BenchEvent['what'], { kind: Kind }>

export async function listProfiles(records: KitchenRecords): Promise<MeasuredProfile[]> {
  const rows = await records.measuredProfiles.findAll({ include: [withPerson], order: [['at', 'DESC']], limit: mostProfiles })
  return rows.map(toProfile)
}

export async function keepProfile(by: Actor, create: z.infer<typeof measuredProfileCreate>): Promise<MeasuredProfile> {
  const { measuredProfiles } = by.records
  return createOnce(
    by.records,
    () => measuredProfiles.create({ ...create, personId: by.person.id, at: new Date() }),
    async () => {
      const row = await measuredProfiles.findOne({ where: { id: create.id }, include: [withPerson] })
      return row ? toProfile(row) : undefined
    },
  )
}

export async function dropProfile({ records }: Actor, id: string): Promise<void> {
  found((await records.measuredProfiles.destroy({ id })) === 1 ? true : undefined)
}

function toProfile({ id, name, kind, stations, grams, at, person }: MeasuredProfileRow): MeasuredProfile {
  return { id, name, kind, stations, grams, at: at.toISOString(), by: found(person).name }
}

/** What this kitchen's finished runs say of the shape of each item that was cut to a plan. */
export async function learnShapes(records: KitchenRecords, heavyWork: HeavyWork): Promise<z.infer<typeof usualShapes>> {
  const latest = await records.benchEvents.findAll({
    where: { kind: 'plan' },
    indexHints: byKind,
    include: [
      { association: 'run', attributes: ['id', 'status', 'itemId'], include: [{ association: 'item', attributes: ['id', 'name'] }] },
    ],
    order: [['happenedAt', 'DESC']],
    limit: latestPlans,
  })
  const plans = latest.filter((event) => event.run?.status === 'finished').sort((a, b) => b.sequence - a.sequence)
  const slices = await slicesOf(
    records,
    plans.map((event) => event.runId),
  )
  const entries = []
  for (const [, ofItem] of groupBy(plans, (event) => found(event.run).itemId)) {
    const pieces = ofItem.flatMap((event): MeasuredPiece[] => {
      const { plan } = event.body as Happening<'plan'>
      return 'stations' in plan ? [{ stations: plan.stations, grams: plan.grams, slices: slices.get(event.runId) ?? [] }] : []
    })
    const shape = await heavyWork.run('learnUsualShape', pieces)
    const { id, name } = found(ofItem[0]?.run?.item)
    if (shape) entries.push({ item: { id, name }, shape: { ...shape, roots: [...shape.roots] } })
  }
  return { entries }
}

/** Slices that stand in the ledgers of these runs, planned against weighed, in the order of cutting, by run. */
async function slicesOf(records: KitchenRecords, runIds: readonly string[]) {
  const events = await records.benchEvents.findAll({
    where: { runId: [...new Set(runIds)], kind: 'slice' },
    order: ['sequence'],
    raw: true,
  })
  const weighingIds = events.map((event) => (event.body as Happening<'slice'>).weighingId)
  const lines = await records.weighings.findAll({
    attributes: ['id', 'runId', 'tenths', 'reversesId'],
    where: { [Op.or]: [{ id: weighingIds }, { reversesId: weighingIds }] },
    raw: true,
  })
  const weighed = new Map(lines.map((line) => [line.id, line]))
  const takenBack = new Set(lines.map((line) => line.reversesId))
  const standing = events.flatMap(({ runId, body }) => {
    const { weighingId, plannedGrams } = body as Happening<'slice'>
    const line = weighed.get(weighingId)
    return line && line.runId === runId && !takenBack.has(weighingId) ? [{ runId, plannedGrams, grams: line.tenths / 10 }] : []
  })
  const byRun = groupBy(standing, (slice) => slice.runId)
  return new Map([...byRun].map(([runId, slices]) => [runId, slices.map(({ plannedGrams, grams }) => ({ plannedGrams, grams }))]))
}

/** What rests in this kitchen and is not long past its time. */
export async function listRests(records: KitchenRecords): Promise<Rest[]> {
  const rows = await records.benchEvents.findAll({
    where: { kind: 'rest', happenedAt: { [Op.gt]: new Date(Date.now() - restDays * 24 * hour) } },
    indexHints: byKind,
    include: [withPerson, { association: 'run', attributes: ['number'] }],
    order: [['happenedAt', 'DESC']],
    limit: 50,
  })
  return rows.map(toRest).filter((one) => new Date(one.bestBy).getTime() > Date.now() - 24 * hour)
}

function toRest({ id, runId, run, body, happenedAt, person }: BenchEventRow): Rest {
  const { what, hoursLow, hoursHigh } = body as Happening<'rest'>
  const at = (hours: number) => new Date(happenedAt.getTime() + hours * hour).toISOString()
  return { id, runId, runNumber: found(run).number, what, readyAt: at(hoursLow), bestBy: at(hoursHigh), by: found(person).name }
}
