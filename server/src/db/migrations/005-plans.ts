import type { SchemaStep } from './schema-step.ts'

const id = 'CHAR(36) CHARACTER SET ascii COLLATE ascii_bin'
const table = 'ENGINE=InnoDB DEFAULT CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci'

/** Pieces that were measured, to be used again; happenings of a kitchen by their kind and time. */
export const plans: SchemaStep = {
  name: '005-plans',
  statements: [
    `CREATE TABLE IF NOT EXISTS measured_profiles (
      id ${id} PRIMARY KEY,
      kitchen_id ${id} NOT NULL,
      name VARCHAR(80) NOT NULL,
      kind ENUM('muscle', 'fillet', 'rack') NOT NULL,
      stations LONGTEXT NOT NULL,
      grams DOUBLE NOT NULL,
      person_id ${id} NOT NULL,
      at DATETIME(3) NOT NULL,
      KEY measured_profiles_of_kitchen (kitchen_id, at),
      FOREIGN KEY (kitchen_id) REFERENCES kitchens (id)
    ) ${table}`,
    `ALTER TABLE bench_events
      ADD COLUMN IF NOT EXISTS kind VARCHAR(30) AS (JSON_VALUE(body, '$.kind')) VIRTUAL,
      ADD KEY IF NOT EXISTS bench_events_by_kind (kitchen_id, kind, happened_at)`,
  ],
}
