import { randomUUID } from 'node:crypto'
import { openDatabase } from '../server/src/db/database.ts'
import { findRun } from '../server/src/features/runs/find-run.ts'
import { type Measured, ms, percentile } from './measure.ts'
import { type BenchServer, openBare, startRun } from './server.ts'

const lines = 2000
const turns = 60

/** A run of 2,000 weighings opened, against a bare select of its ledger through the same connector; turn about. */
export async function measureOpenRun(server: BenchServer): Promise<Measured[]> {
  const run = await startRun(server)
  const db = openDatabase(process.env.DATABASE_URL ?? '', { connections: 4 })
  const records = db.of(run.kitchenId)
  const said = { entered: '184 g', reversesId: null, pieceNumber: null, movedFromId: null, sentById: null, weighedAt: new Date() }
  const line = { runId: run.id, tubId: run.tubs[0]?.id ?? '', tenths: 1840, personId: run.personId, ...said }
  await records.weighings.bulkCreate(Array.from({ length: lines }, () => ({ id: randomUUID(), ...line })))
  const pool = openBare()
  const times = { read: [] as number[], http: [] as number[], bare: [] as number[] }
  const timed = async (into: number[], work: () => Promise<unknown>) => {
    const start = performance.now()
    await work()
    into.push(performance.now() - start)
  }
  for (let turn = 0; turn < turns; turn += 1) {
    await timed(times.bare, () => pool.query('SELECT * FROM weighings WHERE run_id = :id ORDER BY sequence', { id: run.id }))
    await timed(times.read, () => findRun(records, run.id))
    await timed(times.http, () => server.ask('GET', `/runs/${run.id}`))
  }
  await pool.end()
  await db.close()
  const [bare, read, http] = [times.bare, times.read, times.http].map((all) => percentile(all.slice(turns / 10), 0.5)) as [
    number,
    number,
    number,
  ]
  const against = `bare select ${ms(bare)}`
  return [
    { what: `a run of ${lines.toLocaleString('en')} weighings opened`, value: ms(read), against, ratio: read / bare, limit: 3 },
    { what: 'the same over HTTP, checked and written as JSON', value: ms(http), against, ratio: http / bare },
  ]
}
