import { outputTotals } from './007-models.ts'
import type { SchemaStep } from './schema-step.ts'

/**
 * What portions weighed against their targets; and outputs of a run's sheet that did not come off it, which are nothing
 * rather than unknown; and runs that were struck.
 */
export const servedWeights: SchemaStep = {
  name: '008-served-weights',
  statements: [
    "ALTER TABLE runs MODIFY status ENUM('open', 'finished', 'turned-away', 'discarded') NOT NULL",
    'ALTER TABLE runs ADD COLUMN IF NOT EXISTS discarded JSON NULL',
    'ALTER TABLE run_outputs ADD COLUMN IF NOT EXISTS served_ratio DOUBLE NULL',
    `ALTER TABLE output_totals ADD COLUMN IF NOT EXISTS served_tests INT NOT NULL DEFAULT 0,
      ADD COLUMN IF NOT EXISTS served_sum DOUBLE NOT NULL DEFAULT 0`,
    `INSERT IGNORE INTO run_outputs (run_id, output_key, kitchen_id, item_id, cut_sheet_id, share_pct)
     SELECT DISTINCT r.id, t.output_key, r.kitchen_id, r.item_id, v.cut_sheet_id, 0e0
     FROM runs r JOIN cut_sheet_versions v ON v.id = r.cut_sheet_version_id
       JOIN tubs t ON t.run_id = r.id AND t.output_key IS NOT NULL
     WHERE r.status = 'finished'`,
    `UPDATE run_outputs o JOIN (
       SELECT w.run_id, t.output_key, SUM(w.tenths) / COUNT(*) / (1e0 * MAX(t.target_tenths)) AS ratio
       FROM weighings w JOIN tubs t ON t.run_id = w.run_id AND t.id = w.tub_id
       WHERE t.target_tenths > 0 AND t.output_key IS NOT NULL AND w.reverses_id IS NULL
         AND NOT EXISTS (SELECT 1 FROM weighings taken WHERE taken.reverses_id = w.id)
       GROUP BY w.run_id, t.output_key
     ) served ON served.run_id = o.run_id AND served.output_key = o.output_key
     SET o.served_ratio = served.ratio`,
    // of plates of several pieces no piece has a target of its own
    `UPDATE run_outputs o JOIN runs r ON r.id = o.run_id JOIN cut_sheet_versions v ON v.id = r.cut_sheet_version_id
       JOIN JSON_TABLE(v.body, '$.outputs[*]' COLUMNS (output_key VARCHAR(60) PATH '$.key', pieces INT PATH '$.portion.pieces')) rule
         ON rule.output_key = o.output_key
     SET o.served_ratio = NULL
     WHERE o.served_ratio IS NOT NULL AND rule.pieces IS NOT NULL`,
    outputTotals,
    `UPDATE output_totals t JOIN (
       SELECT item_id, cut_sheet_id, output_key, COUNT(served_ratio) AS tests, SUM(served_ratio) AS ratios
       FROM run_outputs GROUP BY item_id, cut_sheet_id, output_key
     ) served ON served.item_id = t.item_id AND served.cut_sheet_id = t.cut_sheet_id AND served.output_key = t.output_key
     SET t.served_tests = served.tests, t.served_sum = COALESCE(served.ratios, 0)`,
    "UPDATE comparisons SET body = JSON_SET(body, '$.asServed', TRUE) WHERE JSON_EXTRACT(body, '$.asServed') IS NULL",
  ],
}
