import type { Run } from '@fleam/contract/runs'
import { UniqueConstraintError } from 'sequelize'
import { makeTestDatabase } from '../../scripts/test-database.mjs'
import { type Database, openDatabase } from '../src/db/database.ts'
import { withLease } from '../src/db/lease.ts'
import { migrate, migrations } from '../src/db/migrate.ts'
import { loadDemoKitchen } from '../src/demo/kitchen.ts'
import { syncCatalog } from '../src/features/cut-sheets/catalog-sheets.ts'
import { listCutSheets } from '../src/features/cut-sheets/service.ts'
import { listItems } from '../src/features/prices/items.ts'
import { findRun } from '../src/features/runs/find-run.ts'
import { listRuns } from '../src/features/runs/log.ts'
import { readYieldBook } from '../src/features/yield-book/service.ts'
import { addKitchen, finishedRun, openTestApp, rowsOf, stockKitchen } from './kitchen.ts'

const names = migrations.map((migration) => migration.name)
const applied = async (db: Database) =>
  (await rowsOf<{ name: string }>(db, 'SELECT name FROM migrations ORDER BY name')).map(({ name }) => name)

test('an empty database is brought up to date, once, even by three servers at a time', async () => {
  const { db, url, close } = await openTestApp({ migrated: false })
  const others = [openDatabase(url, { connections: 2 }), openDatabase(url, { connections: 2 })]
  await Promise.all([db, ...others].map((one) => migrate(one)))
  expect(await applied(db)).toEqual(names)
  // a cluster copies rows by their keys
  const unkeyed = await rowsOf<{ name: string }>(
    db,
    `SELECT t.TABLE_NAME AS name FROM information_schema.TABLES t WHERE t.TABLE_SCHEMA = DATABASE() AND NOT EXISTS (
      SELECT 1 FROM information_schema.TABLE_CONSTRAINTS c
      WHERE c.TABLE_SCHEMA = t.TABLE_SCHEMA AND c.TABLE_NAME = t.TABLE_NAME AND c.CONSTRAINT_TYPE = 'PRIMARY KEY')`,
  )
  expect(unkeyed).toEqual([])
  for (const other of others) await other.close()
  await close()
})

test('a step that was interrupted, whatever it had done, is taken up again', async () => {
  const { db, close } = await openTestApp({ migrated: false })
  for (const name of names) {
    await migrate(db, name)
    // as if the server had died before it could note that the step was done
    await db.sequelize.query('DELETE FROM migrations WHERE name = :name', { replacements: { name } })
    await migrate(db, name)
  }
  await db.sequelize.query("DELETE FROM migrations WHERE name >= '007'")
  await db.sequelize.query('ALTER TABLE cut_sheets DROP COLUMN newest_version_id')
  await db.sequelize.query('DROP TABLE output_totals')
  await migrate(db)
  expect(await applied(db)).toEqual(names)
  const kitchenId = await addKitchen(db, 'After all')
  expect(await listCutSheets(db.of(kitchenId), '', 1000)).not.toHaveLength(0)
  await close()
})

describe('a year of a kitchen, in each schema that there was', () => {
  let full: Awaited<ReturnType<typeof openTestApp>>
  let kitchenId: string
  let expected: Awaited<ReturnType<typeof figures>>
  const figures = async (db: Database) => {
    const records = db.of(kitchenId)
    const items = await listItems(records, '', 1000)
    const runs = await listRuns(records, { sort: 'oldest', timeZone: 'UTC' }, undefined, 1000)
    const some = await Promise.all(runs.filter((_, index) => index % 40 === 0).map(({ id }) => findRun(records, id)))
    const book = await readYieldBook(records)
    return {
      items,
      runs,
      some,
      book: book.map(rounded).sort((a, b) => (`${a.itemId}${a.cutSheetId}` < `${b.itemId}${b.cutSheetId}` ? -1 : 1)),
    }
  }
  /** Sums that are made in another order differ in their last places. */
  const rounded = <Value>(value: Value): Value =>
    JSON.parse(JSON.stringify(value, (_key, part) => (typeof part === 'number' ? Number(part.toPrecision(9)) : part)))

  beforeAll(async () => {
    full = await openTestApp()
    await loadDemoKitchen(full.db, new Date('2026-06-15T08:00:00Z'))
    kitchenId = (await full.db.acrossKitchens.people.findOne({ where: { name: 'Maren Holt', homeId: null } }))?.kitchenId ?? ''
    await withoutSchool(full.db)
    expected = await figures(full.db)
  })
  afterAll(() => full.close())

  test.each(names.slice(0, -1))('filled in %s, every figure is the same in the newest', async (schema) => {
    const target = makeTestDatabase()
    const db = openDatabase(target.url, { connections: 2 })
    await migrate(db, schema)
    await fillFrom(full.url, db)
    await migrate(db)
    const there = await figures(db)
    expect(there.items).toEqual(expected.items)
    const hasRuns = schema >= '002'
    expect(there.runs).toEqual(hasRuns ? expected.runs : [])
    expect(there.some).toEqual(hasRuns ? expected.some.map((run) => asIn(schema, run)) : [])
    expect(there.book).toEqual(hasRuns ? expected.book : [])
    await db.close()
    target.drop()
  })

  /** Older schemas know neither students nor runs that are left out. */
  async function withoutSchool(db: Database): Promise<void> {
    const ofStudents = "(SELECT id FROM people WHERE role = 'student')"
    const tables = ['weighings', 'tubs', 'defects', 'bench_events', 'exercise_runs']
    await db.sequelize.transaction(async (transaction) => {
      await db.sequelize.query('SET FOREIGN_KEY_CHECKS = 0', { transaction })
      for (const table of tables)
        await db.sequelize.query(`DELETE FROM ${table} WHERE run_id IN (SELECT id FROM runs WHERE cook_id IN ${ofStudents})`, {
          transaction,
        })
      await db.sequelize.query(`DELETE FROM runs WHERE cook_id IN ${ofStudents}`, { transaction })
      await db.sequelize.query("DELETE FROM people WHERE role IN ('student', 'instructor')", { transaction })
      await db.sequelize.query('SET FOREIGN_KEY_CHECKS = 1', { transaction })
    })
  }

  /** What a schema had no place for is not there. */
  const asIn = (schema: string, run: Run | undefined) => (run && schema < '004' ? { ...run, events: [] } : run)

  /** Copies, inside the database server, whatever the older schema has a place for. */
  async function fillFrom(sourceUrl: string, db: Database): Promise<void> {
    const source = new URL(sourceUrl).pathname.slice(1)
    const columns = await rowsOf<{ table: string; columns: string }>(
      db,
      `SELECT own.TABLE_NAME AS \`table\`, GROUP_CONCAT(CONCAT('\`', own.COLUMN_NAME, '\`')) AS \`columns\`
       FROM information_schema.COLUMNS own JOIN information_schema.COLUMNS other
         ON other.TABLE_SCHEMA = :source AND other.TABLE_NAME = own.TABLE_NAME AND other.COLUMN_NAME = own.COLUMN_NAME
       WHERE own.TABLE_SCHEMA = DATABASE() AND own.GENERATION_EXPRESSION IS NULL AND own.TABLE_NAME <> 'migrations'
       GROUP BY own.TABLE_NAME`,
      { source },
    )
    const copies = columns.map((one) => `INSERT INTO ${one.table} (${one.columns}) SELECT ${one.columns} FROM ${source}.${one.table}`)
    await db.sequelize.transaction(async (transaction) => {
      await db.sequelize.query('SET FOREIGN_KEY_CHECKS = 0', { transaction })
      for (const copy of copies) await db.sequelize.query(copy, { transaction })
      await db.sequelize.query('SET FOREIGN_KEY_CHECKS = 1', { transaction })
    })
  }
})

test('a kitchen of an earlier catalog gets what is new as new versions, once, from two servers at a time', async () => {
  const { db, url, close } = await openTestApp()
  const kitchenId = await addKitchen(db, 'Kept')
  const records = db.of(kitchenId)
  const bySlug = async (slug: string) => (await listCutSheets(records, '', 1000)).find((sheet) => sheet.slug === slug)
  const [quail, dove] = [await bySlug('quail-boned'), await bySlug('dove-breasts')]
  if (!quail || !dove) throw new Error('The catalog has changed.')
  await records.cutSheetVersions.update({ body: { ...quail.body, school: 'as it was' } }, { id: quail.versionId })
  await records.cutSheetVersions.destroy({ id: dove.versionId })
  await records.cutSheets.destroy({ id: dove.id })
  const other = openDatabase(url, { connections: 2 })
  await Promise.all([syncCatalog(db), syncCatalog(other)])
  await syncCatalog(db)
  const sheets = await listCutSheets(records, '', 1000)
  expect(sheets.filter((sheet) => sheet.number !== 1).map((sheet) => [sheet.slug, sheet.number])).toEqual([['quail-boned', 2]])
  expect(await records.cutSheetVersions.count({ cutSheetId: quail.id })).toBe(2)
  expect(sheets.filter((sheet) => sheet.slug === 'dove-breasts')).toHaveLength(1)
  await other.close()
  await close()
})

test('runs that were finished before the yield book are in it, less what was taken back', async () => {
  const test_ = await openTestApp()
  const kitchen = await stockKitchen(test_)
  const records = test_.db.of(kitchen.kitchenId)
  const run = await finishedRun(kitchen, { steaks: ['600 g', '560 g', '40 g'], minutes: 20, received: '2900 g', takeBackLast: true })
  const kept = async () => ({
    shares: (await records.runOutputs.findAll({ raw: true })) as object[],
    book: await readYieldBook(records),
  })
  const before = await kept()
  expect(before.shares).toContainEqual(expect.objectContaining({ runId: run.id, outputKey: 'centre-steak', sharePct: 40 }))
  expect(before.shares.length).toBeGreaterThan(1)
  await records.runOutputs.destroy({})
  await records.cutTotals.destroy({})
  await records.outputTotals.destroy({})
  const late = names.filter((name) => name >= '006')
  await test_.db.sequelize.query('DELETE FROM migrations WHERE name IN (:late)', { replacements: { late } })
  await migrate(test_.db)
  expect(await kept()).toEqual(before)
  await test_.close()
})

describe('work for one server at a time', () => {
  test('is done by one after the other; a lease that nobody renews any more is taken over', async () => {
    const { db, close } = await openTestApp()
    const order: string[] = []
    const work = (name: string) =>
      withLease(db, 'a test', async () => {
        order.push(`${name} in`)
        await new Promise((resolve) => setTimeout(resolve, 30))
        order.push(`${name} out`)
      })
    await Promise.all([work('a'), work('b')])
    expect([`${order[0]} ${order[1]}`, `${order[2]} ${order[3]}`].sort()).toEqual(['a in a out', 'b in b out'])
    await db.acrossKitchens.leases.create({ name: 'a test', holder: 'dead', until: new Date(Date.now() - 1000) })
    expect(await withLease(db, 'a test', async () => 'done')).toBe('done')
    await expect(withLease(db, 'a test', async () => Promise.reject(new Error('no')))).rejects.toThrow('no')
    expect(await db.acrossKitchens.leases.count()).toBe(0)
    await expect(
      db.acrossKitchens.leases.bulkCreate([1, 2].map(() => ({ name: 'twice', holder: 'x', until: new Date() }))),
    ).rejects.toBeInstanceOf(UniqueConstraintError)
    await close()
  })
})
