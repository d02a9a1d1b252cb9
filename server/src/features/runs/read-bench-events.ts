import type { BenchEvent } from '@fleam/contract/bench'
import type { Queries } from '../../db/database.ts'
import { inPlaces } from '../../db/places.ts'

interface BenchEventRow {
  id: string
  sequence: number
  body: string
  happened_at: Date
  person_id: string
  name: string
}

const columns = 'e.id, e.sequence, e.body, e.happened_at, e.person_id, p.name'

export async function listBenchEvents(db: Queries, runId: string): Promise<BenchEvent[]> {
  const rows = await db.rows<BenchEventRow>(
    `SELECT ${columns} FROM bench_events e STRAIGHT_JOIN people p ON p.id = e.person_id WHERE e.run_id = :runId ORDER BY e.sequence`,
    { runId },
  )
  return rows.map(toBenchEvent)
}

/** What happened in every kitchen after a place in the order of happenings, and at given places, for the live feed. */
export async function listBenchEventsAfter(
  db: Queries,
  last: number,
  places: readonly number[],
  limit: number,
): Promise<{ kitchenId: string; runId: string; event: BenchEvent }[]> {
  const rows = await db.rows<BenchEventRow & { kitchen_id: string; run_id: string }>(
    `SELECT ${columns}, e.kitchen_id, e.run_id FROM bench_events e STRAIGHT_JOIN people p ON p.id = e.person_id
     WHERE ${inPlaces('e', places)} ORDER BY e.sequence LIMIT :limit`,
    { last, limit },
  )
  return rows.map((row) => ({ kitchenId: row.kitchen_id, runId: row.run_id, event: toBenchEvent(row) }))
}

export async function findBenchEvent(db: Queries, kitchenId: string, runId: string, id: string): Promise<BenchEvent | undefined> {
  const row = await db.row<BenchEventRow>(
    `SELECT ${columns} FROM bench_events e JOIN people p ON p.id = e.person_id
     WHERE e.id = :id AND e.run_id = :runId AND e.kitchen_id = :kitchenId`,
    { id, runId, kitchenId },
  )
  return row && toBenchEvent(row)
}

function toBenchEvent(row: BenchEventRow): BenchEvent {
  return {
    id: row.id,
    sequence: row.sequence,
    what: JSON.parse(row.body),
    at: row.happened_at.toISOString(),
    by: { id: row.person_id, name: row.name },
  }
}
