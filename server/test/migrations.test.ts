import { randomUUID } from 'node:crypto'
import { migrate, migrations } from '../src/db/migrate.ts'
import { yieldBook } from '../src/db/migrations/006-yield-book.ts'
import { listCutSheets, syncCatalog } from '../src/features/cut-sheets/service.ts'
import { createKitchen } from '../src/features/setup/service.ts'
import { finishedRun, openTestApp, settings, stockKitchen } from './kitchen.ts'

const names = migrations.map((migration) => migration.name)

test('an empty database is brought up to date, once, even by two servers at a time', async () => {
  const { db, close } = await openTestApp({ migrated: false })
  await Promise.all([migrate(db), migrate(db)])
  const applied = await db.rows<{ name: string }>('SELECT name FROM migrations ORDER BY name')
  expect(applied.map((row) => row.name)).toEqual(names)
  await close()
})

test.each(names.slice(0, -1).map((name, index) => [name, names[index + 1] ?? '']))(
  'data of %s is all there after %s',
  async (before, after) => {
    const { db, close } = await openTestApp({ migrated: false })
    await migrate(db, before)
    const kitchenId = randomUUID()
    await db.run("INSERT INTO kitchens (id, name, settings) VALUES (:kitchenId, 'Küche 🐟', '{}')", { kitchenId })
    await db.run("INSERT INTO people (id, kitchen_id, name, role) VALUES (:id, :kitchenId, 'Wren', 'cook')", {
      id: randomUUID(),
      kitchenId,
    })
    await migrate(db, after)
    const row = await db.row<{ name: string; person: string }>(
      'SELECT k.name, p.name AS person FROM kitchens k JOIN people p ON p.kitchen_id = k.id',
    )
    expect(row).toEqual({ name: 'Küche 🐟', person: 'Wren' })
    await close()
  },
)

test('a kitchen of an earlier catalog gets what is new as new versions, once', async () => {
  const { db, close } = await openTestApp()
  const kitchenId = await createKitchen(db, { name: 'Kept', settings, isDemo: false })
  await db.run(
    "UPDATE cut_sheet_versions SET body = JSON_SET(body, '$.school', 'as it was') WHERE kitchen_id = :kitchenId AND name LIKE 'Quail%'",
    { kitchenId },
  )
  await db.run("DELETE v FROM cut_sheet_versions v JOIN cut_sheets s ON s.id = v.cut_sheet_id WHERE s.slug = 'dove-breasts'")
  await db.run("DELETE FROM cut_sheets WHERE slug = 'dove-breasts'")
  await syncCatalog(db)
  await syncCatalog(db)
  const sheets = await listCutSheets(db, kitchenId, '', 1000)
  expect(sheets.filter((sheet) => sheet.number !== 1).map((sheet) => [sheet.slug, sheet.number])).toEqual([['quail-boned', 2]])
  expect(sheets.map((sheet) => sheet.slug)).toContain('dove-breasts')
  await close()
})

test('runs that were finished before the yield book are in it, less what was taken back', async () => {
  const test_ = await openTestApp()
  const kitchen = await stockKitchen(test_)
  const run = await finishedRun(kitchen, { steaks: ['600 g', '560 g', '40 g'], minutes: 20, received: '2900 g', takeBackLast: true })
  const shares = () => test_.db.rows('SELECT run_id, output_key, item_id, cut_sheet_id, share_pct FROM run_outputs ORDER BY output_key')
  const kept = await shares()
  expect(kept).toEqual([expect.objectContaining({ run_id: run.id, output_key: 'centre-steak', share_pct: 40 })])
  await test_.db.run('DELETE FROM run_outputs')
  const backfill = yieldBook.statements.find((statement) => statement.startsWith('INSERT INTO run_outputs'))
  await test_.db.run(backfill ?? '')
  expect(await shares()).toEqual(kept)
  await test_.close()
})
