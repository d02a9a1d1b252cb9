import type { Migration } from '../migrate.ts'

export const catalogFingerprint: Migration = {
  name: '003-catalog-fingerprint',
  statements: ['ALTER TABLE kitchens ADD COLUMN catalog_fingerprint CHAR(64) CHARACTER SET ascii COLLATE ascii_bin NULL'],
}
