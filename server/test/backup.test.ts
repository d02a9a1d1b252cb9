import { execFile } from 'node:child_process'
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { promisify } from 'node:util'
import type { CutSheet } from '@fleam/contract/cut-sheets'
import { usualPlace } from '@fleam/contract/kitchen'
import type { Run } from '@fleam/contract/runs'
import { sampleOfSums } from '@fleam/core/statistics/sample'
import { buildApp } from '../src/app.ts'
import { openDatabase } from '../src/db/database.ts'
import { migrate } from '../src/db/migrate.ts'
import { loadDemoKitchen } from '../src/demo/kitchen.ts'
import { findRun } from '../src/features/runs/find-run.ts'
import { openHeavyWork } from '../src/heavy-work.ts'
import { makeDatabase, openTestApp, runRequest, stockKitchen, type TestApp, weighingRequest } from './kitchen.ts'
import { root } from './processes.ts'

const execute = promisify(execFile)
let test_: TestApp
let folder: string

beforeAll(async () => {
  test_ = await openTestApp()
  await loadDemoKitchen(test_.db, new Date('2026-06-15T08:00:00Z'))
  folder = mkdtempSync(join(tmpdir(), 'fleam-backup-'))
})
afterAll(async () => {
  rmSync(folder, { recursive: true })
  await test_.close()
})

const backup = (what: 'backup' | 'restore', file: string, url: string) =>
  execute(process.execPath, ['scripts/backup.mjs', what, file], { cwd: root, env: { ...process.env, NODE_OPTIONS: '', DATABASE_URL: url } })

test('a backup taken while the kitchen weighs is of one moment, and gives every figure the same when restored', async () => {
  const kitchen = await stockKitchen(test_, 'At work')
  const run = (await kitchen.cook.ask('POST', '/runs', runRequest(kitchen))).body as unknown as Run
  const weigh = () => kitchen.cook.ask('POST', `/runs/${run.id}/weighings`, weighingRequest(run.tubs[0]?.id ?? '', '10 g'))
  await weigh()
  let isOver = false
  const atWork = (async () => {
    while (!isOver) await weigh()
  })()
  const file = join(folder, 'kitchen.sql.gz')
  await backup('backup', file, test_.url)
  isOver = true
  await atWork

  const target = await makeDatabase()
  await backup('restore', file, target.url)
  const restored = openDatabase(target.url, 2)
  try {
    await migrate(restored)
    const runs = await test_.db.acrossKitchens.runs.findAll({ attributes: ['id', 'kitchenId'], where: { status: 'finished' } })
    expect(runs.length).toBeGreaterThan(300)
    for (const { id, kitchenId } of runs.slice(0, 60)) {
      expect(await findRun(restored.of(kitchenId), id)).toEqual(await findRun(test_.db.of(kitchenId), id))
    }
    const kept = (await findRun(restored.of(kitchen.kitchenId), run.id))?.weighings ?? []
    const all = (await findRun(test_.db.of(kitchen.kitchenId), run.id))?.weighings ?? []
    expect(kept.length).toBeGreaterThan(0)
    expect(kept).toEqual(all.slice(0, kept.length))
    await expect(backup('restore', file, target.url)).rejects.toMatchObject({ stderr: expect.stringContaining('holds something already') })
  } finally {
    await restored.close()
    await target.drop()
  }
})

test('what is no backup is refused in a sentence', async () => {
  const file = join(folder, 'holiday-photo.gz')
  writeFileSync(file, 'not a backup')
  const target = await makeDatabase()
  try {
    await expect(backup('restore', file, target.url)).rejects.toMatchObject({ stderr: expect.stringContaining('is not a backup of Fleam') })
    await expect(backup('restore', join(folder, 'nothing'), target.url)).rejects.toMatchObject({
      stderr: expect.stringContaining('There is no file'),
    })
  } finally {
    await target.drop()
  }
})

test('a backup of the schema before the models gives every figure the same, as it was shown then', async () => {
  const fixture = (name: string) => join(__dirname, 'fixtures', name)
  const { manager, figures } = JSON.parse(readFileSync(fixture('kitchen-schema-006.figures.json'), 'utf8')) as {
    manager: { name: string; secret: string }
    figures: Record<string, unknown>
  }
  const target = await makeDatabase()
  await backup('restore', fixture('kitchen-schema-006.sql.gz'), target.url)
  const db = openDatabase(target.url, 4)
  await migrate(db)
  const heavyWork = openHeavyWork(join(root, 'server/dist/heavy-work-thread.js'), target.url)
  const app = await buildApp({ db, heavyWork })
  const signedIn = await app.inject({ method: 'POST', url: '/api/v1/session', payload: manager })
  const cookie = String(signedIn.headers['set-cookie']).split(';')[0] ?? ''
  for (const [path, shown] of Object.entries(figures)) {
    const now = (await app.inject({ url: `/api/v1${path}`, headers: { cookie } })).json()
    const seen = path.startsWith('/cut-sheets?') ? now.entries.map(({ slug, id, number }: CutSheet) => ({ slug, id, number })) : now
    expect([path, comparable(seen)]).toEqual([path, comparable(shown)])
  }
  await app.close()
  await heavyWork.close()
  await db.close()
  await target.drop()
})

/** Fields that answers have had since. */
const toldSince = new Set([
  ...['servedRatio', 'servedRatios', 'asServed', 'about', 'discarded', 'reopened', 'leftOut', 'since', 'runs'],
  ...['stepsDone', 'stepsLeftOut'],
])

/** What was not told then left out: served weights, and outputs that did not come off; settings that are new since at their usual; entries without an order of their own by their text; sums that are made in another order differ in their last places. */
function comparable(value: unknown): unknown {
  const rounded = JSON.parse(
    JSON.stringify(value, (key, part) => {
      if (key === 'settings') return { ...usualPlace, ...part }
      if (toldSince.has(key)) return undefined
      if (key === 'outputs' && Array.isArray(part)) return part.filter(({ share }) => share?.mean !== 0 && share?.y !== 0)
      // shares are told as sums since, which a mean and a variance follow from
      if (typeof part?.yy === 'number' && key !== 'minutes') return sampleOfSums(part.n, part.y, part.yy)
      if (key === 'shares') return Object.fromEntries(Object.entries(part).filter(([, share]) => share !== 0))
      return typeof part === 'number' ? Number(part.toPrecision(9)) : part
    }),
  )
  const { entries } = rounded as { entries?: { tests?: number }[] }
  if (entries?.[0]?.tests !== undefined) entries.sort((a, b) => (JSON.stringify(a) < JSON.stringify(b) ? -1 : 1))
  return rounded
}
