import type { SchemaStep } from './schema-step.ts'

const id = 'CHAR(36) CHARACTER SET ascii COLLATE ascii_bin'
const table = 'ENGINE=InnoDB DEFAULT CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci'

/**
 * Tablets that a kitchen has enrolled, what kind of secret a person has, sessions that can be listed and that end when nobody is
 * at them, tries at signing in counted by key, and who came in, failed, or took data out. Who is signed in signs in again.
 */
export const signingIn: SchemaStep = {
  name: '011-signing-in',
  statements: [
    `CREATE TABLE IF NOT EXISTS tablets (
      id ${id} PRIMARY KEY,
      kitchen_id ${id} NOT NULL,
      name VARCHAR(60) NOT NULL,
      token_hash CHAR(64) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
      person_id ${id} NOT NULL,
      enrolled_at DATETIME(3) NOT NULL,
      used_at DATETIME(3) NOT NULL,
      UNIQUE KEY tablets_token (token_hash),
      KEY tablets_of_kitchen (kitchen_id, name),
      FOREIGN KEY (kitchen_id) REFERENCES kitchens (id)
    ) ${table}`,
    `CREATE TABLE IF NOT EXISTS sign_in_points (
      \`key\` VARCHAR(255) CHARACTER SET utf8mb4 COLLATE utf8mb4_bin NOT NULL PRIMARY KEY,
      points INT NOT NULL DEFAULT 0,
      expire BIGINT UNSIGNED NULL
    ) ${table}`,
    `CREATE TABLE IF NOT EXISTS security_events (
      id BIGINT AUTO_INCREMENT PRIMARY KEY,
      kitchen_id ${id} NULL,
      at DATETIME(3) NOT NULL,
      kind VARCHAR(40) NOT NULL,
      person_id ${id} NULL,
      address VARCHAR(64) NOT NULL,
      about VARCHAR(200) NOT NULL DEFAULT '',
      KEY security_events_of_kitchen (kitchen_id, id)
    ) ${table}`,
    'DELETE FROM sessions',
    `ALTER TABLE sessions
      ADD COLUMN IF NOT EXISTS id ${id} NOT NULL,
      ADD COLUMN IF NOT EXISTS tablet_id ${id} NULL,
      ADD COLUMN IF NOT EXISTS started_at DATETIME(3) NOT NULL,
      ADD COLUMN IF NOT EXISTS seen_at DATETIME(3) NOT NULL,
      ADD COLUMN IF NOT EXISTS address VARCHAR(64) NOT NULL,
      ADD COLUMN IF NOT EXISTS device VARCHAR(200) NOT NULL,
      ADD UNIQUE KEY IF NOT EXISTS sessions_id (id)`,
    `ALTER TABLE people
      ADD COLUMN IF NOT EXISTS secret_kind ENUM('pin', 'passphrase') NULL,
      ADD COLUMN IF NOT EXISTS time_code_secret VARCHAR(100) NULL,
      ADD COLUMN IF NOT EXISTS time_code_step INT NOT NULL DEFAULT 0`,
    "UPDATE people SET secret_kind = IF(role = 'cook', 'pin', 'passphrase') WHERE secret_hash IS NOT NULL AND secret_kind IS NULL",
    'ALTER TABLE people DROP INDEX IF EXISTS people_sign_in_name',
    'ALTER TABLE people ADD UNIQUE KEY IF NOT EXISTS people_sign_in (kitchen_id, sign_in_name)',
    'DROP TABLE IF EXISTS sign_in_failures',
  ],
}
