import { execFile, spawn } from 'node:child_process'
import { existsSync, mkdtempSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { promisify } from 'node:util'
import { gunzipSync, gzipSync } from 'node:zlib'
import type { CutSheet } from '@fleam/contract/cut-sheets'
import { usualIdle, usualLimits, usualPlace, usualWalkIn } from '@fleam/contract/kitchen'
import type { Run } from '@fleam/contract/runs'
import { sampleOfSums } from '@fleam/core/statistics/sample'
import { makeTestDatabase } from '../../scripts/test-database.mjs'
import { buildApp } from '../src/app.ts'
import { openDatabase } from '../src/db/database.ts'
import { migrate } from '../src/db/migrate.ts'
import { loadDemoKitchen } from '../src/demo/kitchen.ts'
import { findRun } from '../src/features/runs/find-run.ts'
import { openHeavyWork } from '../src/heavy-work.ts'
import { serve } from '../src/serve.ts'
import { openTestApp, runRequest, stockKitchen, type TestApp, weighingRequest } from './kitchen.ts'
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

const backup = (what: 'backup' | 'restore', file: string, url: string, passphrase = '') => {
  const env = { ...process.env, NODE_OPTIONS: '', DATABASE_URL: url, FLEAM_BACKUP_PASSPHRASE: passphrase }
  return execute(process.execPath, ['scripts/backup.mjs', what, ...file.split(' ')], { cwd: root, env })
}
const refusal = (words: string) => ({ stderr: expect.stringContaining(words) })

/** Tries something against an empty database of its own. */
async function withTarget(work: (url: string) => Promise<void>): Promise<void> {
  const target = makeTestDatabase()
  try {
    await work(target.url)
  } finally {
    target.drop()
  }
}

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

  const target = makeTestDatabase()
  await backup('restore', file, target.url)
  const restored = openDatabase(target.url, { connections: 2 })
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
    target.drop()
  }
})

test('a backup is its owner’s alone, says what is in it, and with a passphrase nobody else’s', async () => {
  const file = join(folder, 'sealed.gz')
  await backup('backup', file, test_.url, 'a tin of old hooks')
  expect(statSync(file).mode & 0o777).toBe(0o600)
  expect(readFileSync(file).includes('Saltmarsh')).toBe(false)
  await expect(backup('backup', `about ${file}`, test_.url)).rejects.toMatchObject(refusal('is encrypted'))
  await expect(backup('backup', `about ${file}`, test_.url, 'a tin of new hooks')).rejects.toMatchObject(refusal('does not open'))
  expect((await backup('backup', `about ${file}`, test_.url, 'a tin of old hooks')).stdout).toMatch(
    /Saltmarsh House.* \d+ runs, \d+ weighings/,
  )
  await withTarget(async (url) => {
    await backup('restore', file, url, 'a tin of old hooks')
    const restored = openDatabase(url, { connections: 1 })
    expect(await restored.acrossKitchens.weighings.count()).toBe(await test_.db.acrossKitchens.weighings.count())
    await restored.close()
  })
  const bytes = readFileSync(file)
  const changed = bytes.length >> 1
  bytes[changed] = (bytes[changed] ?? 0) ^ 1
  writeFileSync(file, bytes)
  await withTarget(async (url) => {
    await expect(backup('restore', file, url, 'a tin of old hooks')).rejects.toMatchObject(refusal('does not open'))
  })
})

test('what is no backup, or a part of one, is refused in a sentence before anything is written', async () => {
  const whole = join(folder, 'whole.gz')
  await backup('backup', whole, test_.url)
  const lines = gunzipSync(readFileSync(whole))
  const [photo, cut, half] = ['photo.gz', 'cut.gz', 'half.gz'].map((name) => join(folder, name)) as [string, string, string]
  writeFileSync(photo, 'not a backup')
  writeFileSync(cut, readFileSync(whole).subarray(0, 20_000))
  writeFileSync(half, gzipSync(lines.subarray(0, lines.length >> 1)))
  await withTarget(async (url) => {
    for (const file of [photo, cut, half]) {
      await expect(backup('restore', file, url)).rejects.toMatchObject(refusal('is not a backup of Fleam, or only a part of one'))
    }
    await expect(backup('restore', join(folder, 'nothing'), url)).rejects.toMatchObject(refusal('There is no file'))
    const empty = openDatabase(url, { connections: 1 })
    expect(await empty.sequelize.getQueryInterface().showAllTables()).toEqual([])
    await empty.close()
  })
})

test('a dump’s lines reach no shell, and what a restore leaves half done is not started on', async () => {
  const whole = join(folder, 'shell.gz')
  await backup('backup', whole, test_.url)
  const text = gunzipSync(readFileSync(whole)).toString('latin1')
  const touched = join(folder, 'touched')
  const middle = text.indexOf('CREATE TABLE `runs`')
  writeFileSync(whole, gzipSync(Buffer.from(`${text.slice(0, middle)}\n\\! touch ${touched}\n${text.slice(middle)}`, 'latin1')))
  await withTarget(async (url) => {
    await expect(backup('restore', whole, url)).rejects.toMatchObject({ stderr: expect.stringMatching(/sandbox/i) })
    expect(existsSync(touched)).toBe(false)
    const options = { databaseUrl: url, host: '127.0.0.1', port: 0, withDemo: true, webRoot: '', heavyWorkFile: '' }
    await expect(serve(options)).rejects.toThrow('a restore into this database was not finished')
    await expect(backup('restore', whole, url)).rejects.toMatchObject(refusal('was not finished'))
  })
})

test('a restore that is killed is not started on, unless nothing was written or all of it', async () => {
  const file = join(folder, 'killed.gz')
  await backup('backup', file, test_.url)
  const weighings = await test_.db.acrossKitchens.weighings.count()
  for (const afterMs of [300, 900, 1800]) {
    await withTarget(async (url) => {
      const restoring = spawn(process.execPath, ['scripts/backup.mjs', 'restore', file], {
        cwd: root,
        env: { ...process.env, NODE_OPTIONS: '', DATABASE_URL: url },
        stdio: 'ignore',
      })
      const ended = new Promise((resolve) => restoring.once('exit', resolve))
      await Promise.race([ended, new Promise((resolve) => setTimeout(resolve, afterMs))])
      restoring.kill('SIGKILL')
      await ended
      const left = openDatabase(url, { connections: 1 })
      const schema = left.sequelize.getQueryInterface()
      // the client may still have lines in hand when its parent has died
      await settled(async () => (await schema.showAllTables()).length)
      const options = { databaseUrl: url, host: '127.0.0.1', port: 0, withDemo: false, webRoot: '', heavyWorkFile: '' }
      if (await schema.tableExists('unfinished_restore'))
        await expect(serve(options)).rejects.toThrow('a restore into this database was not finished')
      else if ((await schema.showAllTables()).length > 0) expect(await left.acrossKitchens.weighings.count()).toBe(weighings)
      await left.close()
    })
  }
})

/** Waits until something stays the same for half a second. */
async function settled(look: () => Promise<number>): Promise<void> {
  for (let before = -1; ; ) {
    const now = await look()
    if (now === before) return
    before = now
    await new Promise((resolve) => setTimeout(resolve, 500))
  }
}

test('a backup of the schema before the models gives every figure the same, as it was shown then', async () => {
  const fixture = (name: string) => join(__dirname, 'fixtures', name)
  const { manager, figures } = JSON.parse(readFileSync(fixture('kitchen-schema-006.figures.json'), 'utf8')) as {
    manager: { name: string; secret: string }
    figures: Record<string, unknown>
  }
  const target = makeTestDatabase()
  await backup('restore', fixture('kitchen-schema-006.sql.gz'), target.url)
  const db = openDatabase(target.url, { connections: 4 })
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
  target.drop()
})

/** Fields that answers have had since. */
const toldSince = new Set([
  ...['servedRatio', 'servedRatios', 'asServed', 'about', 'discarded', 'reopened', 'leftOut', 'since', 'runs'],
  ...['stepsDone', 'stepsLeftOut', 'reservedTenths', 'shortCost', 'billedTenths', 'claimCredit', 'feed', 'deliveryCheck'],
])

/** What was not told then left out: served weights, and outputs that did not come off; settings that are new since at their usual; entries without an order of their own by their text; sums that are made in another order differ in their last places. */
function comparable(value: unknown): unknown {
  const rounded = JSON.parse(
    JSON.stringify(value, (key, part) => {
      if (key === 'settings') {
        const { keepPoultryDays: _poultry, keepWholeCutDays: _cuts, ...limits } = { ...usualLimits, ...part.limits }
        return { ...usualPlace, signedOutAfter: usualIdle, walkIn: usualWalkIn, printers: [], ...part, limits }
      }
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
