import type { BenchEvent } from '@fleam/contract/bench'
import type { CuttingPlan, MeasuredProfile, measuredProfileCreate, Rest, usualShapes } from '@fleam/contract/plans'
import type { MeasuredPiece } from '@fleam/core/plan/usual-profile'
import type { z } from 'zod'
import type { Database, Queries } from '../../db/database.ts'
import type { HeavyWork } from '../../heavy-work.ts'
import type { SignedIn } from '../../http/access.ts'
import { createOnce, found } from '../../http/changes.ts'

const mostProfiles = 100
/** A usual shape is learnt from the latest runs: hands and suppliers change. */
const latestPlans = 200

export async function listProfiles(db: Queries, kitchenId: string, id?: string): Promise<MeasuredProfile[]> {
  const rows = await db.rows<{
    id: string
    name: string
    kind: MeasuredProfile['kind']
    stations: string
    grams: number
    at: Date
    by_name: string
  }>(
    `SELECT m.id, m.name, m.kind, m.stations, m.grams, m.at, p.name AS by_name
     FROM measured_profiles m JOIN people p ON p.id = m.person_id
     WHERE m.kitchen_id = :kitchenId ${id === undefined ? '' : 'AND m.id = :id'} ORDER BY m.at DESC LIMIT ${mostProfiles}`,
    { kitchenId, id },
  )
  return rows.map(({ by_name, at, stations, ...row }) => ({ ...row, stations: JSON.parse(stations), at: at.toISOString(), by: by_name }))
}

export async function keepProfile(db: Database, by: SignedIn, create: z.infer<typeof measuredProfileCreate>): Promise<MeasuredProfile> {
  return createOnce(
    () =>
      db.run(
        `INSERT INTO measured_profiles (id, kitchen_id, name, kind, stations, grams, person_id, at)
         VALUES (:id, :kitchenId, :name, :kind, :stations, :grams, :personId, UTC_TIMESTAMP(3))`,
        { ...create, stations: JSON.stringify(create.stations), kitchenId: by.kitchen.id, personId: by.person.id },
      ),
    async () => (await listProfiles(db, by.kitchen.id, create.id))[0],
  )
}

export async function dropProfile(db: Database, by: SignedIn, id: string): Promise<void> {
  const { affectedRows } = await db.run('DELETE FROM measured_profiles WHERE id = :id AND kitchen_id = :kitchenId', {
    id,
    kitchenId: by.kitchen.id,
  })
  found(affectedRows === 1 ? true : undefined)
}

/** What this kitchen's finished runs say of the shape of each item that was cut to a plan. */
export async function learnShapes(db: Queries, kitchenId: string, heavyWork: HeavyWork): Promise<z.infer<typeof usualShapes>> {
  const rows = await db.rows<{ run_id: string; item_id: string; item_name: string; body: string }>(
    `SELECT e.run_id, i.id AS item_id, i.name AS item_name, e.body
     FROM (SELECT run_id, body, sequence FROM bench_events WHERE kitchen_id = :kitchenId AND kind = 'plan'
           ORDER BY happened_at DESC LIMIT ${latestPlans}) e
       JOIN runs r ON r.id = e.run_id AND r.status = 'finished' JOIN items i ON i.id = r.item_id
     ORDER BY e.sequence DESC`,
    { kitchenId },
  )
  const byItem = new Map<string, { item: { id: string; name: string }; pieces: MeasuredPiece[] }>()
  for (const row of rows) {
    const { plan } = JSON.parse(row.body) as { plan: CuttingPlan }
    const known = byItem.get(row.item_id) ?? { item: { id: row.item_id, name: row.item_name }, pieces: [] }
    known.pieces.push({ stations: plan.stations, grams: plan.grams, slices: await slicesOf(db, row.run_id) })
    byItem.set(row.item_id, known)
  }
  const entries = []
  for (const { item, pieces } of byItem.values()) {
    const shape = await heavyWork.run('learnUsualShape', pieces)
    if (shape) entries.push({ item, shape: { ...shape, roots: [...shape.roots] } })
  }
  return { entries }
}

/** Slices of a run that stand in its ledger, planned against weighed, in the order of cutting. */
async function slicesOf(db: Queries, runId: string): Promise<{ plannedGrams: number; grams: number }[]> {
  const rows = await db.rows<{ body: string; tenths: number }>(
    `SELECT e.body, w.tenths FROM bench_events e
       JOIN weighings w ON w.run_id = e.run_id AND w.id = JSON_VALUE(e.body, '$.weighingId')
       LEFT JOIN weighings b ON b.reverses_id = w.id
     WHERE e.run_id = :runId AND e.kind = 'slice' AND b.id IS NULL ORDER BY e.sequence`,
    { runId },
  )
  return rows.map((row) => {
    const { plannedGrams } = JSON.parse(row.body) as Extract<BenchEvent['what'], { kind: 'slice' }>
    return { plannedGrams, grams: row.tenths / 10 }
  })
}

/** What rests in this kitchen and is not long past its time. */
export async function listRests(db: Queries, kitchenId: string): Promise<Rest[]> {
  const rows = await db.rows<{ id: string; run_id: string; number: number; body: string; happened_at: Date; name: string }>(
    `SELECT e.id, e.run_id, r.number, e.body, e.happened_at, p.name FROM bench_events e FORCE INDEX (bench_events_by_kind)
       JOIN runs r ON r.id = e.run_id JOIN people p ON p.id = e.person_id
     WHERE e.kitchen_id = :kitchenId AND e.kind = 'rest' AND e.happened_at > UTC_TIMESTAMP(3) - INTERVAL 12 DAY
     ORDER BY e.happened_at DESC LIMIT 50`,
    { kitchenId },
  )
  const hour = 3_600_000
  return rows
    .map((row) => {
      const { what, hoursLow, hoursHigh } = JSON.parse(row.body) as Extract<BenchEvent['what'], { kind: 'rest' }>
      const start = row.happened_at.getTime()
      return {
        id: row.id,
        runId: row.run_id,
        runNumber: row.number,
        what,
        readyAt: new Date(start + hoursLow * hour).toISOString(),
        bestBy: new Date(start + hoursHigh * hour).toISOString(),
        by: row.name,
      }
    })
    .filter((one) => new Date(one.bestBy).getTime() > Date.now() - 24 * hour)
}
