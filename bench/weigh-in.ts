import { randomUUID } from 'node:crypto'
import { type Measured, ms, percentile, timeEach } from './measure.ts'
import { type BenchServer, openBare, startRun } from './server.ts'

const turns = 1500

/** A weigh-in over HTTP against BEGIN, INSERT, COMMIT of the same row through the same connector, turn about. */
export async function measureWeighIn(server: BenchServer): Promise<Measured[]> {
  const run = await startRun(server)
  const tubId = run.tubs[0]?.id ?? ''
  const pool = openBare()
  const connection = await pool.getConnection()
  const flush = await connection.query('SELECT @@innodb_flush_log_at_trx_commit AS flush')
  if (flush[0].flush !== 1) throw new Error('The database must flush at commit for this to mean anything.')
  const http: number[] = []
  const bare: number[] = []
  await timeEach(turns, async (turn) => {
    const start = performance.now()
    const answer = await server.ask('POST', `/runs/${run.id}/weighings`, {
      id: randomUUID(),
      tubId,
      weight: '184 g',
      weighedAt: new Date().toISOString(),
    })
    const between = performance.now()
    if (answer.status !== 201) throw new Error(`A weigh-in was answered ${answer.status}: ${answer.body}`)
    await connection.query('BEGIN')
    await connection.query(
      `INSERT INTO weighings (id, kitchen_id, run_id, tub_id, tenths, entered, person_id, weighed_at)
       VALUES (:id, :kitchenId, :runId, :tubId, 1840, '184 g', :personId, :weighedAt)`,
      { id: randomUUID(), kitchenId: run.kitchenId, runId: run.id, tubId, personId: run.personId, weighedAt: new Date() },
    )
    await connection.query('COMMIT')
    if (turn >= turns / 10) {
      http.push(between - start)
      bare.push(performance.now() - between)
    }
  })
  await connection.release()
  await pool.end()
  const row = (what: string, share: number): Measured => ({
    what: `weigh-in over HTTP, ${what}`,
    value: ms(percentile(http, share)),
    against: `bare insert ${ms(percentile(bare, share))}`,
    ratio: percentile(http, share) / percentile(bare, share),
    limit: 5,
  })
  return [row('median', 0.5), row('99th percentile', 0.99)]
}
