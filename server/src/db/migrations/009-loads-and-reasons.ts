import type { SchemaStep } from './schema-step.ts'

/** What the running totals of a cut have beside plain sums, from its finished runs. */
export const cutSums = `
  UPDATE cut_totals t JOIN (
    SELECT r.item_id, v.cut_sheet_id, SUM(POW(r.pieces, 2)) AS squares, SUM(1e0 / r.pieces) AS inverse,
      COALESCE(SUM(r.pieces * r.main_pct), 0) AS items_sum, COALESCE(SUM(r.pieces * POW(r.main_pct, 2)), 0) AS items_squares,
      COALESCE(SUM(r.received_tenths / 10e0 / r.pieces * r.main_pct), 0) AS grams_sum, SUM(COALESCE(r.main_pct, 0) = 0) AS none
    FROM runs r JOIN cut_sheet_versions v ON v.id = r.cut_sheet_version_id
    WHERE r.status = 'finished' GROUP BY r.item_id, v.cut_sheet_id
  ) sums ON sums.item_id = t.item_id AND sums.cut_sheet_id = t.cut_sheet_id
  SET t.pieces_squares = sums.squares, t.pieces_inverse = sums.inverse, t.main_items_sum = sums.items_sum,
    t.main_items_squares = sums.items_squares, t.main_grams_sum = sums.grams_sum, t.main_none = sums.none`

/** The same of each output, from the shares of the finished runs. */
export const outputSums = `
  UPDATE output_totals t JOIN (
    SELECT o.item_id, o.cut_sheet_id, o.output_key, SUM(r.pieces * o.share_pct) AS items_sum,
      SUM(r.pieces * POW(o.share_pct, 2)) AS items_squares, SUM(r.received_tenths / 10e0 / r.pieces * o.share_pct) AS grams_sum,
      SUM(o.share_pct = 0) AS none
    FROM run_outputs o JOIN runs r ON r.id = o.run_id GROUP BY o.item_id, o.cut_sheet_id, o.output_key
  ) sums ON sums.item_id = t.item_id AND sums.cut_sheet_id = t.cut_sheet_id AND sums.output_key = t.output_key
  SET t.share_items_sum = sums.items_sum, t.share_items_squares = sums.items_squares, t.share_grams_sum = sums.grams_sum,
    t.share_none = sums.none`

/**
 * Which load of a scale a weight was taken from; why a run was opened again, and why it is left out of the yield book; sums of
 * the yield book by the items of a run and the weight of an item, and since when they are.
 */
export const loadsAndReasons: SchemaStep = {
  name: '009-loads-and-reasons',
  statements: [
    'ALTER TABLE weighings ADD COLUMN IF NOT EXISTS load_id CHAR(36) CHARACTER SET ascii COLLATE ascii_bin NULL',
    'ALTER TABLE weighings ADD UNIQUE KEY IF NOT EXISTS weighings_load (kitchen_id, load_id)',
    'ALTER TABLE runs ADD COLUMN IF NOT EXISTS reopened JSON NULL, ADD COLUMN IF NOT EXISTS left_out JSON NULL',
    `ALTER TABLE cut_totals ADD COLUMN IF NOT EXISTS since DATETIME(3) NULL,
      ADD COLUMN IF NOT EXISTS pieces_squares DOUBLE NOT NULL DEFAULT 0, ADD COLUMN IF NOT EXISTS pieces_inverse DOUBLE NOT NULL DEFAULT 0,
      ADD COLUMN IF NOT EXISTS main_items_sum DOUBLE NOT NULL DEFAULT 0, ADD COLUMN IF NOT EXISTS main_items_squares DOUBLE NOT NULL DEFAULT 0,
      ADD COLUMN IF NOT EXISTS main_grams_sum DOUBLE NOT NULL DEFAULT 0, ADD COLUMN IF NOT EXISTS main_none INT NOT NULL DEFAULT 0`,
    `ALTER TABLE output_totals
      ADD COLUMN IF NOT EXISTS share_items_sum DOUBLE NOT NULL DEFAULT 0, ADD COLUMN IF NOT EXISTS share_items_squares DOUBLE NOT NULL DEFAULT 0,
      ADD COLUMN IF NOT EXISTS share_grams_sum DOUBLE NOT NULL DEFAULT 0, ADD COLUMN IF NOT EXISTS share_none INT NOT NULL DEFAULT 0`,
    cutSums,
    outputSums,
  ],
}
