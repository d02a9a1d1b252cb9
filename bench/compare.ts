import type { MakeOrBuyInput } from '@fleam/core/compare/make-or-buy'
import { uncertainMakeOrBuy } from '@fleam/core/compare/uncertainty'
import type { PoolConnection } from 'mariadb'
import { cutTotals, outputTotals } from '../server/src/db/migrations/007-models.ts'
import { cutSums, outputSums } from '../server/src/db/migrations/009-loads-and-reasons.ts'
import { measureCoverage } from './coverage.ts'
import { type Measured, ms, percentile, timeEach } from './measure.ts'
import { openSignedIn, watchFrames } from './pages.ts'
import { type BenchServer, openBare } from './server.ts'

const draws = 5000
const request: MakeOrBuyInput = {
  item: { grams: 2950, price: { amount: 31.4, per: 'kg' } },
  yieldPct: 61.3,
  portionGrams: 180,
  lossPct: 1,
  byproducts: [
    { pct: 8.9, valuePerKg: 17 },
    { pct: 6.5, valuePerKg: 8.5 },
  ],
  wastePct: 12,
  disposalPerKg: 0.18,
  labour: { minutesPerItem: 18, setupMinutes: 12, itemsPerBatch: 4, ratePerHour: 19.5, onCostPct: 12 },
  consumablesPerItem: 0.6,
  buy: { price: { amount: 10.9, per: 'each' }, portionGrams: 180, trimPct: 1, lossPct: 2, feePerOrder: 12, portionsPerOrder: 60 },
  portionsPerWeek: 140,
}

/** So many draws against as many JSON parses of the request; and whether what is expected holds what comes. */
export async function measureDraws(): Promise<Measured[]> {
  const uncertainty = { yieldSdPct: 3, minutesSd: 3, itemGramsSd: 220, degreesOfFreedom: 11, draws, seed: 7 }
  const input = { ...request, uncertainty }
  const text = JSON.stringify(input)
  const drawn = percentile(await timeEach(60, () => uncertainMakeOrBuy(input)), 0.5)
  const parse = () => {
    for (let turn = 0; turn < draws; turn += 1) JSON.parse(text)
  }
  const parsed = percentile(await timeEach(60, parse), 0.5)
  const count = draws.toLocaleString('en')
  return [
    {
      what: `${count} draws of make or buy`,
      value: ms(drawn),
      against: `${count} JSON parses of the request ${ms(parsed)}`,
      ratio: drawn / parsed,
      limit: 10,
    },
    ...measureCoverage(),
  ]
}

const changes = 40
const frameLimitMs = 50

/** The latest frame of the page while the worker delivers a new 5,000 draws after every change, under 4 × CPU throttling. */
export async function measureDrawFrames(server: BenchServer): Promise<Measured[]> {
  const { browser, page } = await openSignedIn(server)
  await page.goto(`${server.url}/compare`)
  await page.getByRole('link', { name: /Beef tenderloin/ }).click()
  await page.locator('.cost-spread .recharts-area').first().waitFor()
  const session = await page.context().newCDPSession(page)
  await session.send('Emulation.setCPUThrottlingRate', { rate: 4 })
  await watchFrames(page)
  const gaps: number[] = await page.evaluate(async (count) => {
    const slider = document.querySelector<HTMLInputElement>('.try-input input[type=range]') as HTMLInputElement
    const set = Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value')?.set
    const middle = () => [...document.querySelectorAll('.drawing')].map((one) => one.textContent).join()
    const latest: number[] = []
    for (let turn = 0; turn < count; turn += 1) {
      const before = middle()
      const gap = await window.longestGap(async () => {
        set?.call(slider, String(29 + ((turn * 7) % 40) / 10))
        slider.dispatchEvent(new Event('input', { bubbles: true }))
        while (middle() === before || middle().startsWith('Drawing'))
          await new Promise((resolve) => requestAnimationFrame(() => setTimeout(resolve)))
        for (let frame = 0; frame < 3; frame += 1) await new Promise(requestAnimationFrame)
      })
      latest.push(gap)
      await new Promise((resolve) => setTimeout(resolve, 80))
    }
    return latest
  }, changes)
  await browser.close()
  const worst = Math.floor(Math.max(...gaps))
  return [
    {
      what: `latest frame while 5,000 draws are made, ${changes} times, 4 × throttled`,
      value: `${ms(worst)}, median ${ms(percentile(gaps, 0.5))}`,
      against: `${frameLimitMs} ms`,
      ratio: worst / frameLimitMs,
      limit: 1,
    },
  ]
}

const runs = 100_000
const ways = 48

/** What the table comes from, summed up afresh: what the running totals save. */
const bareSums = {
  cuts: `SELECT r.item_id, v.cut_sheet_id, COUNT(*), AVG(r.received_tenths / 10 / r.pieces), VAR_SAMP(r.received_tenths / 10 / r.pieces),
      AVG(r.main_pct), VAR_SAMP(r.main_pct), SUM(r.pieces), SUM(r.consumables), SUM(LN(r.pieces)), SUM(LN(r.minutes / r.pieces))
    FROM runs r JOIN cut_sheet_versions v ON v.id = r.cut_sheet_version_id
    WHERE r.kitchen_id = :kitchenId AND r.status = 'finished' GROUP BY r.item_id, v.cut_sheet_id`,
  shares: `SELECT item_id, cut_sheet_id, output_key, COUNT(*), AVG(share_pct), VAR_SAMP(share_pct)
    FROM run_outputs WHERE kitchen_id = :kitchenId GROUP BY item_id, cut_sheet_id, output_key`,
}
const yieldBookLimitMs = 200

/** Value in parts, from the address to the painted table, against the bare SQL that it comes from, over 100,000 runs. */
export async function measureParts(server: BenchServer): Promise<Measured[]> {
  const pool = openBare()
  const connection = await pool.getConnection()
  await fillYieldBook(connection)
  const kitchenId = (await connection.query('SELECT kitchen_id AS id FROM people WHERE has_demo_secret = 1 LIMIT 1'))[0].id
  const bareSql = async () => {
    await connection.query(bareSums.cuts, { kitchenId })
    await connection.query(bareSums.shares, { kitchenId })
  }
  await bareSql()
  const book = await timeEach(20, async () => {
    const answer = await server.ask('GET', '/yield-book')
    if (answer.status !== 200) throw new Error(answer.body)
  })
  const { browser, page } = await openSignedIn(server)
  const painted: number[] = []
  const bare: number[] = []
  let shown = 0
  for (let turn = 0; turn < 7; turn += 1) {
    bare.push(...(await timeEach(1, bareSql, 0)))
    // a browser that has kept nothing, so that the table is the server's answer
    const context = await browser.newContext({ viewport: { width: 1280, height: 800 }, storageState: await page.context().storageState() })
    const fresh = await context.newPage()
    await fresh.goto(`${server.url}/compare/parts`, { waitUntil: 'commit' })
    await fresh.locator('.parts-table').waitFor()
    painted.push(
      await fresh.evaluate(
        () => new Promise<number>((resolve) => requestAnimationFrame(() => setTimeout(() => resolve(performance.now())))),
      ),
    )
    shown = await fresh.locator('.parts-table tbody tr:not(.parts-item)').count()
    await context.close()
  }
  await browser.close()
  await connection.release()
  await pool.end()
  const [table, sql] = [percentile(painted, 0.5), percentile(bare, 0.5)]
  return [
    {
      what: `value in parts, ${shown} ways over ${runs.toLocaleString('en')} runs, address to painted table`,
      value: ms(table),
      against: `bare SQL ${ms(sql)}`,
      ratio: table / sql,
      limit: 3,
    },
    {
      what: `yield book of ${runs.toLocaleString('en')} runs`,
      value: ms(percentile(book, 0.5)),
      against: `${yieldBookLimitMs} ms`,
      ratio: percentile(book, 0.5) / yieldBookLimitMs,
      limit: 1,
    },
  ]
}

/** Copies the demo's finished runs and their shares inside the database, over as many ways of cutting as are asked for. */
async function fillYieldBook(connection: PoolConnection): Promise<void> {
  const columns = (await connection.query('SHOW COLUMNS FROM runs')).map((column: { Field: string }) => column.Field) as string[]
  const finished = (await connection.query("SELECT COUNT(*) AS n FROM runs WHERE status = 'finished'"))[0].n
  const copies = Math.ceil(runs / Number(finished))
  const items = (await connection.query("SELECT COUNT(DISTINCT item_id) AS n FROM runs WHERE status = 'finished'"))[0].n
  const perItem = Math.ceil(ways / Number(items))
  await connection.query(`CREATE TEMPORARY TABLE way_choice AS
    SELECT i.id AS item_id, v.id AS version_id, v.cut_sheet_id, ROW_NUMBER() OVER (PARTITION BY i.id ORDER BY v.id) - 1 AS at
    FROM items i JOIN cut_sheet_versions v ON v.kitchen_id = i.kitchen_id AND JSON_VALUE(v.body, '$.animal') = i.animal WHERE i.kind = 'whole'`)
  await connection.query(
    `CREATE TEMPORARY TABLE way_count AS SELECT item_id, LEAST(COUNT(*), ${perItem}) AS n FROM way_choice GROUP BY item_id`,
  )
  // an id made of the run's own: a digest with the marks that make it a UUID
  const digest = "INSERT(INSERT(INSERT(INSERT(MD5(CONCAT(r.id, s.seq)), 9, 0, '-'), 14, 0, '-'), 19, 0, '-'), 24, 0, '-')"
  const id = `LOWER(INSERT(INSERT(${digest}, 15, 1, '8'), 20, 1, 'a'))`
  const chosen: Record<string, string> = {
    id,
    number: 'r.number + s.seq * 1000000',
    cut_sheet_version_id: 'w.version_id',
    started_at: 'r.started_at - INTERVAL s.seq HOUR',
  }
  const from = `FROM seq_1_to_${copies} s JOIN runs r ON r.status = 'finished'
    JOIN way_count c ON c.item_id = r.item_id JOIN way_choice w ON w.item_id = r.item_id AND w.at = s.seq MOD c.n`
  // the shares first: they look the runs up that the copies are made from
  await connection.query('SET FOREIGN_KEY_CHECKS = 0')
  await connection.query(
    `INSERT INTO run_outputs (run_id, output_key, kitchen_id, item_id, cut_sheet_id, share_pct)
     SELECT ${id}, o.output_key, r.kitchen_id, r.item_id, w.cut_sheet_id, o.share_pct + (CAST(s.seq MOD 7 AS SIGNED) - 3) / 10
     ${from} JOIN run_outputs o ON o.run_id = r.id`,
  )
  await connection.query(
    `INSERT INTO runs (${columns.join(', ')}) SELECT ${columns.map((column) => chosen[column] ?? `r.${column}`).join(', ')} ${from}`,
  )
  await connection.query('SET FOREIGN_KEY_CHECKS = 1')
  await connection.query('ANALYZE TABLE runs, run_outputs')
  for (const sums of [cutTotals, outputTotals, cutSums, outputSums]) await connection.query(sums)
}
