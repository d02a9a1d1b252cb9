import type { SchemaStep } from './schema-step.ts'

export const catalogFingerprint: SchemaStep = {
  name: '003-catalog-fingerprint',
  statements: ['ALTER TABLE kitchens ADD COLUMN IF NOT EXISTS catalog_fingerprint CHAR(64) CHARACTER SET ascii COLLATE ascii_bin NULL'],
}
