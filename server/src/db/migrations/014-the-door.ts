import type { SchemaStep } from './schema-step.ts'

const id = 'CHAR(36) CHARACTER SET ascii COLLATE ascii_bin'
const table = 'ENGINE=InnoDB DEFAULT CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci'

/** Pictures of runs, what was looked at when a delivery came, price lists that suppliers keep at an address, and days planned as a whole. */
export const theDoor: SchemaStep = {
  name: '014-the-door',
  statements: [
    `CREATE TABLE IF NOT EXISTS pictures (
      id ${id} PRIMARY KEY,
      kitchen_id ${id} NOT NULL,
      run_id ${id} NOT NULL,
      about VARCHAR(20) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
      defect_id ${id} NULL,
      width INT NOT NULL,
      height INT NOT NULL,
      jpeg MEDIUMBLOB NOT NULL,
      thumbnail BLOB NOT NULL,
      person_id ${id} NOT NULL,
      at DATETIME(3) NOT NULL,
      KEY pictures_of_run (run_id, at),
      KEY pictures_of_kitchen (kitchen_id, at),
      FOREIGN KEY (kitchen_id) REFERENCES kitchens (id),
      FOREIGN KEY (run_id) REFERENCES runs (id)
    ) ${table}`,
    'ALTER TABLE suppliers ADD COLUMN IF NOT EXISTS feed JSON NULL, ADD COLUMN IF NOT EXISTS next_fetch_at DATETIME(3) NULL, ADD INDEX IF NOT EXISTS suppliers_due (next_fetch_at)',
    `CREATE TABLE IF NOT EXISTS fetched_lists (
      id ${id} PRIMARY KEY,
      kitchen_id ${id} NOT NULL,
      supplier_id ${id} NOT NULL,
      at DATETIME(3) NOT NULL,
      state ENUM('waiting', 'taken', 'let go', 'unchanged', 'failed') NOT NULL,
      why VARCHAR(300) NOT NULL DEFAULT '',
      changes INT NOT NULL,
      text MEDIUMTEXT NOT NULL,
      KEY fetched_lists_of_kitchen (kitchen_id, at),
      FOREIGN KEY (kitchen_id) REFERENCES kitchens (id),
      FOREIGN KEY (supplier_id) REFERENCES suppliers (id)
    ) ${table}`,
    `CREATE TABLE IF NOT EXISTS days (
      id ${id} PRIMARY KEY,
      kitchen_id ${id} NOT NULL,
      name VARCHAR(80) NOT NULL,
      date DATE NOT NULL,
      body JSON NOT NULL,
      dropped TINYINT(1) NOT NULL DEFAULT 0,
      person_id ${id} NOT NULL,
      at DATETIME(3) NOT NULL,
      version INT NOT NULL DEFAULT 1,
      KEY days_of_kitchen (kitchen_id, date),
      FOREIGN KEY (kitchen_id) REFERENCES kitchens (id)
    ) ${table}`,
    'ALTER TABLE run_numbers ADD COLUMN IF NOT EXISTS last_order INT NOT NULL DEFAULT 0',
    `CREATE TABLE IF NOT EXISTS orders (
      id ${id} PRIMARY KEY,
      kitchen_id ${id} NOT NULL,
      number INT NOT NULL,
      supplier_id ${id} NOT NULL,
      day_id ${id} NULL,
      wanted_on DATE NOT NULL,
      \`lines\` JSON NOT NULL,
      person_id ${id} NOT NULL,
      at DATETIME(3) NOT NULL,
      sent_at DATETIME(3) NULL,
      note JSON NULL,
      KEY orders_of_kitchen (kitchen_id, number),
      KEY orders_of_day (day_id),
      FOREIGN KEY (kitchen_id) REFERENCES kitchens (id),
      FOREIGN KEY (supplier_id) REFERENCES suppliers (id)
    ) ${table}`,
    'ALTER TABLE runs ADD COLUMN IF NOT EXISTS delivery_check JSON NULL',
  ],
}
