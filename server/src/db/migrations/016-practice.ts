import type { SchemaStep } from './schema-step.ts'

const id = 'CHAR(36) CHARACTER SET ascii COLLATE ascii_bin'
const table = 'ENGINE=InnoDB DEFAULT CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci'

/** Weights that were said before the scale said them. */
export const practice: SchemaStep = {
  name: '016-practice',
  statements: [
    `CREATE TABLE IF NOT EXISTS guesses (
      sequence BIGINT NOT NULL AUTO_INCREMENT PRIMARY KEY,
      id ${id} NOT NULL,
      kitchen_id ${id} NOT NULL,
      person_id ${id} NOT NULL,
      said INT NOT NULL,
      weighed INT NOT NULL,
      what VARCHAR(60) NOT NULL,
      at DATETIME(3) NOT NULL,
      UNIQUE KEY guesses_id (id),
      KEY guesses_of_person (person_id, sequence),
      FOREIGN KEY (kitchen_id) REFERENCES kitchens (id),
      FOREIGN KEY (person_id) REFERENCES people (id)
    ) ${table}`,
  ],
}
