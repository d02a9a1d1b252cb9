import type { SchemaStep } from './schema-step.ts'

const id = 'CHAR(36) CHARACTER SET ascii COLLATE ascii_bin'
const hash = 'CHAR(64) CHARACTER SET ascii COLLATE ascii_bin'
const table = 'ENGINE=InnoDB DEFAULT CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci'

/** People who work in several kitchens by one sign-in, and the codes by which they are asked in. */
export const severalKitchens: SchemaStep = {
  name: '018-several-kitchens',
  statements: [
    `ALTER TABLE people ADD COLUMN IF NOT EXISTS home_id ${id} NULL, ADD UNIQUE KEY IF NOT EXISTS people_home (home_id, kitchen_id),
      ADD KEY IF NOT EXISTS people_by_sign_in (sign_in_name)`,
    `ALTER TABLE sessions ADD COLUMN IF NOT EXISTS home_secret ${hash} NULL`,
    `CREATE TABLE IF NOT EXISTS invitations (
      id ${id} PRIMARY KEY,
      kitchen_id ${id} NOT NULL,
      code_hash ${hash} NOT NULL,
      role ENUM('student', 'cook', 'instructor', 'lead', 'manager') NOT NULL,
      person_id ${id} NOT NULL,
      expires_at DATETIME(3) NOT NULL,
      UNIQUE KEY invitations_code (code_hash),
      FOREIGN KEY (kitchen_id) REFERENCES kitchens (id),
      FOREIGN KEY (person_id) REFERENCES people (id)
    ) ${table}`,
  ],
}
