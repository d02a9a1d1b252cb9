import type { SchemaStep } from './schema-step.ts'

const id = 'CHAR(36) CHARACTER SET ascii COLLATE ascii_bin'
const table = 'ENGINE=InnoDB DEFAULT CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci'

/** A kitchen's own ways of making something, labels on their way to a printer, boxes that lie there whole, and what else a day's safety record has. */
export const printingAndSheets: SchemaStep = {
  name: '013-printing-and-sheets',
  statements: [
    `CREATE TABLE IF NOT EXISTS follow_on_sheets (
      id ${id} PRIMARY KEY,
      kitchen_id ${id} NOT NULL,
      version INT NOT NULL DEFAULT 1,
      body JSON NOT NULL,
      is_retired TINYINT(1) NOT NULL DEFAULT 0,
      KEY follow_on_sheets_of_kitchen (kitchen_id),
      FOREIGN KEY (kitchen_id) REFERENCES kitchens (id)
    ) ${table}`,
    `CREATE TABLE IF NOT EXISTS label_prints (
      id ${id} PRIMARY KEY,
      kitchen_id ${id} NOT NULL,
      printer_id VARCHAR(160) NOT NULL,
      lot_ids JSON NOT NULL,
      state ENUM('waiting', 'printed', 'given up') NOT NULL,
      why VARCHAR(200) NOT NULL DEFAULT '',
      job INT NULL,
      origin VARCHAR(200) NOT NULL,
      held_until DATETIME(3) NOT NULL DEFAULT '1970-01-02 00:00:00',
      person_id ${id} NOT NULL,
      asked_at DATETIME(3) NOT NULL,
      printed_at DATETIME(3) NULL,
      KEY label_prints_of_state (state, asked_at),
      KEY label_prints_of_kitchen (kitchen_id, asked_at),
      FOREIGN KEY (kitchen_id) REFERENCES kitchens (id)
    ) ${table}`,
    `CREATE TABLE IF NOT EXISTS claims (
      id ${id} PRIMARY KEY,
      kitchen_id ${id} NOT NULL,
      number INT NOT NULL,
      version INT NOT NULL DEFAULT 1,
      run_id ${id} NOT NULL,
      kinds JSON NOT NULL,
      words VARCHAR(600) NOT NULL,
      asked DOUBLE NOT NULL,
      state ENUM('open', 'credited', 'refused') NOT NULL,
      credited DOUBLE NOT NULL DEFAULT 0,
      settled_words VARCHAR(200) NOT NULL DEFAULT '',
      person_id ${id} NOT NULL,
      at DATETIME(3) NOT NULL,
      settled_by ${id} NULL,
      settled_at DATETIME(3) NULL,
      KEY claims_of_kitchen (kitchen_id, number),
      KEY claims_of_run (run_id),
      FOREIGN KEY (kitchen_id) REFERENCES kitchens (id),
      FOREIGN KEY (run_id) REFERENCES runs (id)
    ) ${table}`,
    'ALTER TABLE runs ADD COLUMN IF NOT EXISTS claim_credit DOUBLE NOT NULL DEFAULT 0',
    'ALTER TABLE run_numbers ADD COLUMN IF NOT EXISTS last_claim INT NOT NULL DEFAULT 0',
    `CREATE TABLE IF NOT EXISTS box_items (
      kitchen_id ${id} NOT NULL,
      gtin CHAR(14) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
      supplier_id VARCHAR(36) CHARACTER SET ascii COLLATE ascii_bin NOT NULL DEFAULT '',
      item_id ${id} NOT NULL,
      PRIMARY KEY (kitchen_id, gtin, supplier_id),
      FOREIGN KEY (kitchen_id) REFERENCES kitchens (id),
      FOREIGN KEY (item_id) REFERENCES items (id)
    ) ${table}`,
    `ALTER TABLE lots ADD COLUMN IF NOT EXISTS item_id ${id} NULL, ADD COLUMN IF NOT EXISTS supplier_id ${id} NULL,
      ADD COLUMN IF NOT EXISTS pieces INT NULL, ADD COLUMN IF NOT EXISTS billed_tenths INT NULL`,
    `ALTER TABLE lot_moves ADD COLUMN IF NOT EXISTS run_id ${id} NULL, ADD KEY IF NOT EXISTS lot_moves_of_run (run_id)`,
    `CREATE TABLE IF NOT EXISTS safety_notes (
      id ${id} PRIMARY KEY,
      kitchen_id ${id} NOT NULL,
      kind VARCHAR(20) NOT NULL,
      about VARCHAR(80) NOT NULL,
      celsius DOUBLE NULL,
      limit_c DOUBLE NULL,
      action VARCHAR(200) NOT NULL,
      person_id ${id} NOT NULL,
      at DATETIME(3) NOT NULL,
      KEY safety_notes_of_day (kitchen_id, at),
      FOREIGN KEY (kitchen_id) REFERENCES kitchens (id)
    ) ${table}`,
    'ALTER TABLE lot_moves ADD INDEX IF NOT EXISTS lot_moves_of_day (kitchen_id, at)',
    // the log by a figure sees in its index whether a run is of the days asked for
    ...['main:main_pct', 'cost:cost_per_kg', 'unaccounted:unaccounted_pct'].map((figure) => {
      const [name, column] = figure.split(':')
      return `ALTER TABLE runs DROP KEY IF EXISTS runs_by_${name}, ADD KEY runs_by_${name} (kitchen_id, status, ${column}, id, started_at)`
    }),
    'ALTER TABLE follow_ons ADD INDEX IF NOT EXISTS follow_ons_of_sheet (kitchen_id, sheet, status, finished_at)',
  ],
}
