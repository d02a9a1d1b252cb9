import type { SchemaStep } from './schema-step.ts'

const id = 'CHAR(36) CHARACTER SET ascii COLLATE ascii_bin'
const table = 'ENGINE=InnoDB DEFAULT CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci'

/** Shares of every finished run by output, what parts are worth, comparisons that are kept, how a supplier's list is read. */
export const yieldBook: SchemaStep = {
  name: '006-yield-book',
  statements: [
    `CREATE TABLE IF NOT EXISTS run_outputs (
      run_id ${id} NOT NULL,
      output_key VARCHAR(60) NOT NULL,
      kitchen_id ${id} NOT NULL,
      item_id ${id} NOT NULL,
      cut_sheet_id ${id} NOT NULL,
      share_pct DOUBLE NOT NULL,
      PRIMARY KEY (run_id, output_key),
      KEY run_outputs_of_cut (kitchen_id, item_id, cut_sheet_id, output_key, share_pct),
      FOREIGN KEY (run_id) REFERENCES runs (id)
    ) ${table}`,
    `INSERT IGNORE INTO run_outputs (run_id, output_key, kitchen_id, item_id, cut_sheet_id, share_pct)
     SELECT r.id, t.output_key, r.kitchen_id, r.item_id, v.cut_sheet_id, 100e0 * SUM(w.tenths) / r.received_tenths
     FROM runs r JOIN cut_sheet_versions v ON v.id = r.cut_sheet_version_id
       JOIN tubs t ON t.run_id = r.id AND t.output_key IS NOT NULL
       JOIN weighings w ON w.run_id = r.id AND w.tub_id = t.id AND w.reverses_id IS NULL
         AND NOT EXISTS (SELECT 1 FROM weighings taken WHERE taken.reverses_id = w.id)
     WHERE r.status = 'finished' AND r.received_tenths > 0
     GROUP BY r.id, t.output_key`,
    `CREATE TABLE IF NOT EXISTS ways_of_cutting (
      item_id ${id} NOT NULL,
      cut_sheet_id ${id} NOT NULL,
      kitchen_id ${id} NOT NULL,
      shown TINYINT(1) NOT NULL DEFAULT 1,
      parts LONGTEXT NOT NULL,
      version INT NOT NULL DEFAULT 1,
      PRIMARY KEY (item_id, cut_sheet_id),
      KEY ways_of_kitchen (kitchen_id),
      FOREIGN KEY (item_id) REFERENCES items (id),
      FOREIGN KEY (cut_sheet_id) REFERENCES cut_sheets (id)
    ) ${table}`,
    `CREATE TABLE IF NOT EXISTS comparisons (
      id ${id} PRIMARY KEY,
      kitchen_id ${id} NOT NULL,
      name VARCHAR(80) NOT NULL,
      body LONGTEXT NOT NULL,
      dropped TINYINT(1) NOT NULL DEFAULT 0,
      person_id ${id} NOT NULL,
      at DATETIME(3) NOT NULL,
      version INT NOT NULL DEFAULT 1,
      KEY comparisons_of_kitchen (kitchen_id, dropped, at),
      FOREIGN KEY (kitchen_id) REFERENCES kitchens (id)
    ) ${table}`,
    'ALTER TABLE suppliers ADD COLUMN IF NOT EXISTS price_list LONGTEXT NULL',
  ],
}
