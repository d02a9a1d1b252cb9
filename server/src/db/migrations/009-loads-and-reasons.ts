import type { SchemaStep } from './schema-step.ts'

/** Which load of a scale a weight was taken from; why a run was opened again, and why it is left out of the yield book. */
export const loadsAndReasons: SchemaStep = {
  name: '009-loads-and-reasons',
  statements: [
    'ALTER TABLE weighings ADD COLUMN IF NOT EXISTS load_id CHAR(36) CHARACTER SET ascii COLLATE ascii_bin NULL',
    'ALTER TABLE weighings ADD UNIQUE KEY IF NOT EXISTS weighings_load (kitchen_id, load_id)',
    'ALTER TABLE runs ADD COLUMN IF NOT EXISTS reopened JSON NULL, ADD COLUMN IF NOT EXISTS left_out JSON NULL',
  ],
}
