import type { SchemaStep } from './schema-step.ts'

const id = 'CHAR(36) CHARACTER SET ascii COLLATE ascii_bin'
const table = 'ENGINE=InnoDB DEFAULT CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci'

/** Items of a run, moved pieces, who weighed and who sent, what happens at the bench, wanted second products, own cut sheets. */
export const bench: SchemaStep = {
  name: '004-bench',
  statements: [
    `ALTER TABLE runs
      ADD COLUMN IF NOT EXISTS by_item TINYINT(1) NOT NULL DEFAULT 0,
      ADD COLUMN IF NOT EXISTS fish LONGTEXT NULL`,
    `ALTER TABLE weighings
      ADD COLUMN IF NOT EXISTS item_number INT NULL,
      ADD COLUMN IF NOT EXISTS moved_from_id ${id} NULL,
      ADD COLUMN IF NOT EXISTS sent_by_id ${id} NULL`,
    'ALTER TABLE defects ADD COLUMN IF NOT EXISTS step VARCHAR(60) NULL',
    `CREATE TABLE IF NOT EXISTS bench_events (
      sequence BIGINT AUTO_INCREMENT PRIMARY KEY,
      id ${id} NOT NULL,
      kitchen_id ${id} NOT NULL,
      run_id ${id} NOT NULL,
      body LONGTEXT NOT NULL,
      person_id ${id} NOT NULL,
      sent_by_id ${id} NOT NULL,
      happened_at DATETIME(3) NOT NULL,
      stored_at DATETIME(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3),
      UNIQUE KEY bench_events_id (id),
      KEY bench_events_of_run (run_id, sequence),
      FOREIGN KEY (run_id) REFERENCES runs (id)
    ) ${table}`,
    `CREATE TABLE IF NOT EXISTS dish_needs (
      id ${id} PRIMARY KEY,
      kitchen_id ${id} NOT NULL,
      dish VARCHAR(80) NOT NULL,
      animal VARCHAR(20) NOT NULL,
      product VARCHAR(60) NOT NULL,
      need_tenths INT NOT NULL,
      need_entered VARCHAR(40) NOT NULL,
      due_on DATE NOT NULL,
      since DATETIME(3) NOT NULL,
      closed TINYINT(1) NOT NULL DEFAULT 0,
      version INT NOT NULL DEFAULT 1,
      KEY dish_needs_of_kitchen (kitchen_id, closed, due_on),
      FOREIGN KEY (kitchen_id) REFERENCES kitchens (id)
    ) ${table}`,
    `ALTER TABLE cut_sheets
      ADD COLUMN IF NOT EXISTS based_on_id ${id} NULL,
      ADD COLUMN IF NOT EXISTS retired TINYINT(1) NOT NULL DEFAULT 0`,
    `ALTER TABLE cut_sheet_versions
      ADD COLUMN IF NOT EXISTS source ENUM('catalog', 'kitchen') NOT NULL DEFAULT 'catalog',
      ADD COLUMN IF NOT EXISTS person_id ${id} NULL`,
  ],
}
