import { execFile } from 'node:child_process'
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { promisify } from 'node:util'
import type { Run } from '@fleam/contract/runs'
import { openDatabase } from '../src/db/database.ts'
import { migrate } from '../src/db/migrate.ts'
import { loadDemoKitchen } from '../src/demo/kitchen.ts'
import { findRun } from '../src/features/runs/read.ts'
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
    const runs = await test_.db.rows<{ id: string; kitchen_id: string }>("SELECT id, kitchen_id FROM runs WHERE status = 'finished'")
    expect(runs.length).toBeGreaterThan(300)
    for (const { id, kitchen_id } of runs.slice(0, 60)) {
      expect(await findRun(restored, kitchen_id, id)).toEqual(await findRun(test_.db, kitchen_id, id))
    }
    const kept = (await findRun(restored, kitchen.kitchenId, run.id))?.weighings ?? []
    const all = (await findRun(test_.db, kitchen.kitchenId, run.id))?.weighings ?? []
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
