import type { SchemaStep } from './schema-step.ts'

const id = 'CHAR(36) CHARACTER SET ascii COLLATE ascii_bin'
const table = 'ENGINE=InnoDB DEFAULT CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci'

/** When each thing of a day starts, what was ticked of it, and the secret address of a person's calendar. */
export const theSchedule: SchemaStep = {
  name: '015-the-schedule',
  statements: [
    `CREATE TABLE IF NOT EXISTS day_schedules (
      day_id ${id} PRIMARY KEY,
      kitchen_id ${id} NOT NULL,
      body JSON NOT NULL,
      person_id ${id} NOT NULL,
      at DATETIME(3) NOT NULL,
      KEY day_schedules_of_kitchen (kitchen_id),
      FOREIGN KEY (day_id) REFERENCES days (id),
      FOREIGN KEY (kitchen_id) REFERENCES kitchens (id)
    ) ${table}`,
    `CREATE TABLE IF NOT EXISTS day_ticks (
      sequence BIGINT NOT NULL AUTO_INCREMENT PRIMARY KEY,
      id ${id} NOT NULL,
      kitchen_id ${id} NOT NULL,
      day_id ${id} NOT NULL,
      job VARCHAR(240) NOT NULL,
      state ENUM('open', 'started', 'done') NOT NULL,
      person_id ${id} NOT NULL,
      at DATETIME(3) NOT NULL,
      UNIQUE KEY day_ticks_id (id),
      KEY day_ticks_of_day (day_id, sequence),
      FOREIGN KEY (day_id) REFERENCES days (id),
      FOREIGN KEY (kitchen_id) REFERENCES kitchens (id)
    ) ${table}`,
    'ALTER TABLE people ADD COLUMN IF NOT EXISTS calendar_hash CHAR(64) CHARACTER SET ascii COLLATE ascii_bin NULL, ADD UNIQUE INDEX IF NOT EXISTS people_calendar (calendar_hash)',
  ],
}
