import { DataTypes, type QueryInterface } from 'sequelize'
import type { SchemaStep } from './schema-step.ts'

const id = 'CHAR(36) CHARACTER SET ascii COLLATE ascii_bin'
const idColumn = { type: id, allowNull: false }
const key = { type: id, allowNull: false, primaryKey: true }
const total = { type: DataTypes.DOUBLE, allowNull: false, defaultValue: 0 }
const count = { type: DataTypes.INTEGER, allowNull: false, defaultValue: 0 }
const ofTable = { engine: 'InnoDB', charset: 'utf8mb4', collate: 'utf8mb4_unicode_ci' }

/** Columns that hold JSON, with whether they may be empty. */
const jsonColumns: readonly [table: string, column: string, allowNull: boolean][] = [
  ['kitchens', 'settings', false],
  ['audit_trail', 'before_json', true],
  ['audit_trail', 'after_json', true],
  ['suppliers', 'price_list', true],
  ['items', 'ready_cut', true],
  ['cut_sheet_versions', 'body', false],
  ['runs', 'temperature', true],
  ['runs', 'ready_cut_terms', true],
  ['runs', 'rates', false],
  ['runs', 'fish', true],
  ['bench_events', 'body', false],
  ['measured_profiles', 'stations', false],
  ['ways_of_cutting', 'parts', false],
  ['comparisons', 'body', false],
]

/**
 * What the models stand on: JSON columns, the newest version of a cut sheet by name, run numbers in a row of their own, the
 * running totals of the yield book, counted repeats. `kitchens.last_run_number` stays for servers of the version before.
 */
export const models: SchemaStep = {
  name: '007-models',
  statements: async (schema) => {
    await createTables(schema)
    for (const [table, column, allowNull] of jsonColumns) {
      await schema.changeColumn(table, column, { type: DataTypes.JSON, allowNull })
    }
    const run = (sql: string) => schema.sequelize.query(sql)
    await run(`ALTER TABLE cut_sheets ADD COLUMN IF NOT EXISTS newest_version_id ${id} NULL`)
    await run(`UPDATE cut_sheets s SET newest_version_id =
      (SELECT v.id FROM cut_sheet_versions v WHERE v.cut_sheet_id = s.id ORDER BY v.number DESC LIMIT 1)`)
    await run('ALTER TABLE runs ADD KEY IF NOT EXISTS runs_of_sheet (kitchen_id, cut_sheet_version_id, started_at, id)')
    await run(`ALTER TABLE quotes ADD KEY IF NOT EXISTS quotes_by_day (kitchen_id, quoted_on, item_id, supplier_id),
      ADD KEY IF NOT EXISTS quotes_of_supplier (kitchen_id, supplier_id, item_id, quoted_on, at, id)`)
    await run('INSERT IGNORE INTO run_numbers (kitchen_id, last_number) SELECT id, last_run_number FROM kitchens')
    await run('INSERT IGNORE INTO repeats (kitchen_id, repeat_count) SELECT id, 0 FROM kitchens')
    await run(cutTotals)
    await run(outputTotals)
  },
}

async function createTables(schema: QueryInterface): Promise<void> {
  const ofKitchen = { ...key, references: { model: 'kitchens', key: 'id' } }
  await schema.createTable('run_numbers', { kitchen_id: ofKitchen, last_number: count }, ofTable)
  await schema.createTable('repeats', { kitchen_id: ofKitchen, repeat_count: count }, ofTable)
  await schema.createTable(
    'cut_totals',
    {
      item_id: { ...key, references: { model: 'items', key: 'id' } },
      cut_sheet_id: { ...key, references: { model: 'cut_sheets', key: 'id' } },
      kitchen_id: { ...idColumn, references: { model: 'kitchens', key: 'id' } },
      tests: count,
      last_run_id: { type: id, allowNull: true },
      last_test_at: { type: DataTypes.DATE(3), allowNull: true },
      pieces: count,
      consumables: total,
      grams_sum: total,
      grams_squares: total,
      main_sum: total,
      main_squares: total,
      timed: count,
      x_sum: total,
      xx_sum: total,
      y_sum: total,
      xy_sum: total,
      yy_sum: total,
    },
    ofTable,
  )
  await schema.createTable(
    'output_totals',
    {
      item_id: { ...key, references: { model: 'items', key: 'id' } },
      cut_sheet_id: { ...key, references: { model: 'cut_sheets', key: 'id' } },
      output_key: { type: DataTypes.STRING(60), primaryKey: true },
      kitchen_id: { ...idColumn, references: { model: 'kitchens', key: 'id' } },
      tests: count,
      share_sum: total,
      share_squares: total,
    },
    ofTable,
  )
}

/** The running totals of every cut, from its finished runs. */
export const cutTotals = `
  REPLACE INTO cut_totals (item_id, cut_sheet_id, kitchen_id, tests, last_run_id, last_test_at, pieces, consumables, grams_sum,
    grams_squares, main_sum, main_squares, timed, x_sum, xx_sum, y_sum, xy_sum, yy_sum)
  SELECT r.item_id, v.cut_sheet_id, r.kitchen_id, COUNT(*), SUBSTRING(MAX(CONCAT(r.started_at, r.id)), 24), MAX(r.started_at),
    SUM(r.pieces), SUM(r.consumables), SUM(r.received_tenths / 10e0 / r.pieces), SUM(POW(r.received_tenths / 10e0 / r.pieces, 2)),
    COALESCE(SUM(r.main_pct), 0), COALESCE(SUM(POW(r.main_pct, 2)), 0), COALESCE(SUM(r.minutes > 0), 0),
    COALESCE(SUM(IF(r.minutes > 0, LN(r.pieces), NULL)), 0), COALESCE(SUM(IF(r.minutes > 0, POW(LN(r.pieces), 2), NULL)), 0),
    COALESCE(SUM(IF(r.minutes > 0, LN(r.minutes / r.pieces), NULL)), 0),
    COALESCE(SUM(IF(r.minutes > 0, LN(r.pieces) * LN(r.minutes / r.pieces), NULL)), 0),
    COALESCE(SUM(IF(r.minutes > 0, POW(LN(r.minutes / r.pieces), 2), NULL)), 0)
  FROM runs r JOIN cut_sheet_versions v ON v.id = r.cut_sheet_version_id
  WHERE r.status = 'finished' GROUP BY r.kitchen_id, r.item_id, v.cut_sheet_id`

/** The running totals of every output, from the shares of the finished runs. */
export const outputTotals = `
  REPLACE INTO output_totals (item_id, cut_sheet_id, output_key, kitchen_id, tests, share_sum, share_squares)
  SELECT item_id, cut_sheet_id, output_key, kitchen_id, COUNT(*), SUM(share_pct), SUM(POW(share_pct, 2))
  FROM run_outputs GROUP BY kitchen_id, item_id, cut_sheet_id, output_key`
