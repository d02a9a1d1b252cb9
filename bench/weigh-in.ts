import { randomUUID } from 'node:crypto'
import { setTimeout as pause } from 'node:timers/promises'
import sharp from 'sharp'
import { type Measured, ms, percentile, timeEach } from './measure.ts'
import { type BenchServer, openBare, startRun } from './server.ts'

const turns = 1500

/** A weigh-in over HTTP against BEGIN, INSERT, COMMIT of the same row through the same connector, turn about; alone and while pictures come in. */
export async function measureWeighIn(server: BenchServer): Promise<Measured[]> {
  return [...(await weighInRatios(server, 'alone')), ...(await weighInRatios(server, 'while ten pictures upload'))]
}

async function weighInRatios(server: BenchServer, beside: 'alone' | 'while ten pictures upload'): Promise<Measured[]> {
  const run = await startRun(server)
  const uploads = beside === 'alone' ? undefined : await uploadPictures(server)
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
    if (turn >= turns / 10 && (!uploads || uploads.underWay() > 0)) {
      http.push(between - start)
      bare.push(performance.now() - between)
    }
  })
  await uploads?.end()
  await connection.release()
  await pool.end()
  const row = (what: string, share: number, isBound: boolean): Measured => ({
    what: `weigh-in over HTTP, ${beside}, ${what}`,
    value: ms(percentile(http, share)),
    against: `bare insert ${ms(percentile(bare, share))}`,
    ratio: percentile(http, share) / percentile(bare, share),
    ...(isBound ? { limit: 5 } : {}),
  })
  // what is promised while pictures come in is that the slowest stay within bounds
  return [row('median', 0.5, !uploads), row('99th percentile', 0.99, true)]
}

const atOnce = 10
const betweenMs = 700

/** Ten photos as tablets make them, uploaded at once, and again a little after, until it is ended. */
async function uploadPictures(server: BenchServer) {
  const noise = { type: 'gaussian' as const, mean: 128, sigma: 20 }
  const photo = await sharp({ create: { width: 1600, height: 1200, channels: 3, background: '#806050', noise } })
    .blur(1.5)
    .jpeg({ quality: 82 })
    .toBuffer()
  let underWay = 0
  let isEnded = false
  let runId = ''
  const upload = async () => {
    underWay += 1
    const query = new URLSearchParams({ about: 'tray', at: new Date().toISOString() })
    const answer = await fetch(`${server.url}/api/v1/runs/${runId}/pictures/${randomUUID()}?${query}`, {
      method: 'PUT',
      headers: { 'content-type': 'image/jpeg', cookie: server.cookie() },
      body: new Uint8Array(photo),
    })
    underWay -= 1
    if (answer.status !== 201) throw new Error(`A picture was answered ${answer.status}: ${await answer.text()}`)
  }
  const all = (async () => {
    for (let burst = 0; !isEnded; burst += 1) {
      // a run holds sixty
      if (burst % 5 === 0) runId = (await startRun(server)).id
      await Promise.all(Array.from({ length: atOnce }, upload))
      await pause(betweenMs)
    }
  })()
  return {
    underWay: () => underWay,
    end: () => {
      isEnded = true
      return all
    },
  }
}
