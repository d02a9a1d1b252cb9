import type { SchemaStep } from './schema-step.ts'

const id = 'CHAR(36) CHARACTER SET ascii COLLATE ascii_bin'
const table = 'ENGINE=InnoDB DEFAULT CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci'

export const kitchenAndPrices: SchemaStep = {
  name: '001-kitchen-and-prices',
  statements: [
    `CREATE TABLE IF NOT EXISTS kitchens (
      id ${id} PRIMARY KEY,
      name VARCHAR(80) NOT NULL,
      settings LONGTEXT NOT NULL,
      is_demo TINYINT(1) NOT NULL DEFAULT 0,
      last_run_number INT NOT NULL DEFAULT 0,
      version INT NOT NULL DEFAULT 1
    ) ${table}`,
    `CREATE TABLE IF NOT EXISTS people (
      id ${id} PRIMARY KEY,
      kitchen_id ${id} NOT NULL,
      name VARCHAR(80) NOT NULL,
      sign_in_name VARCHAR(60) NULL,
      role ENUM('cook', 'lead', 'manager') NOT NULL,
      secret_hash VARCHAR(200) NULL,
      has_demo_secret TINYINT(1) NOT NULL DEFAULT 0,
      active TINYINT(1) NOT NULL DEFAULT 1,
      version INT NOT NULL DEFAULT 1,
      UNIQUE KEY people_sign_in_name (sign_in_name),
      UNIQUE KEY people_name (kitchen_id, name),
      FOREIGN KEY (kitchen_id) REFERENCES kitchens (id)
    ) ${table}`,
    `CREATE TABLE IF NOT EXISTS sessions (
      token_hash CHAR(64) CHARACTER SET ascii COLLATE ascii_bin PRIMARY KEY,
      kitchen_id ${id} NOT NULL,
      person_id ${id} NOT NULL,
      expires_at DATETIME(3) NOT NULL,
      KEY sessions_of_person (person_id),
      KEY sessions_expiry (expires_at),
      FOREIGN KEY (person_id) REFERENCES people (id)
    ) ${table}`,
    `CREATE TABLE IF NOT EXISTS sign_in_failures (
      id BIGINT AUTO_INCREMENT PRIMARY KEY,
      subject VARCHAR(120) NOT NULL,
      at DATETIME(3) NOT NULL,
      KEY sign_in_failures_of (subject, at),
      KEY sign_in_failures_at (at)
    ) ${table}`,
    `CREATE TABLE IF NOT EXISTS audit_trail (
      id BIGINT AUTO_INCREMENT PRIMARY KEY,
      kitchen_id ${id} NOT NULL,
      at DATETIME(3) NOT NULL,
      person_id ${id} NULL,
      subject VARCHAR(30) NOT NULL,
      subject_id ${id} NOT NULL,
      action VARCHAR(30) NOT NULL,
      before_json LONGTEXT NULL,
      after_json LONGTEXT NULL,
      KEY audit_of_kitchen (kitchen_id, id),
      FOREIGN KEY (kitchen_id) REFERENCES kitchens (id)
    ) ${table}`,
    `CREATE TABLE IF NOT EXISTS suppliers (
      id ${id} PRIMARY KEY,
      kitchen_id ${id} NOT NULL,
      name VARCHAR(80) NOT NULL,
      version INT NOT NULL DEFAULT 1,
      UNIQUE KEY suppliers_name (kitchen_id, name),
      FOREIGN KEY (kitchen_id) REFERENCES kitchens (id)
    ) ${table}`,
    `CREATE TABLE IF NOT EXISTS items (
      id ${id} PRIMARY KEY,
      kitchen_id ${id} NOT NULL,
      name VARCHAR(80) NOT NULL,
      kind ENUM('whole', 'ready-cut') NOT NULL,
      animal VARCHAR(20) NOT NULL,
      ready_cut LONGTEXT NULL,
      against_id ${id} NULL,
      version INT NOT NULL DEFAULT 1,
      UNIQUE KEY items_name (kitchen_id, name),
      FOREIGN KEY (kitchen_id) REFERENCES kitchens (id),
      FOREIGN KEY (against_id) REFERENCES items (id)
    ) ${table}`,
    `CREATE TABLE IF NOT EXISTS quotes (
      id ${id} PRIMARY KEY,
      kitchen_id ${id} NOT NULL,
      item_id ${id} NOT NULL,
      supplier_id ${id} NULL,
      amount DOUBLE NOT NULL,
      per ENUM('kg', 'lb', 'each', 'case') NOT NULL,
      case_count INT NULL,
      case_grams DOUBLE NULL,
      quoted_on DATE NOT NULL,
      at DATETIME(3) NOT NULL,
      person_id ${id} NULL,
      KEY quotes_of_item (kitchen_id, item_id, quoted_on, at),
      FOREIGN KEY (item_id) REFERENCES items (id),
      FOREIGN KEY (supplier_id) REFERENCES suppliers (id)
    ) ${table}`,
  ],
}
