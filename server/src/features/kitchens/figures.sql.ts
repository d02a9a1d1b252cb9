/**
 * What a kitchen's finished runs of some days come to. Sums over all runs and their weighings are made inside the database, along
 * one stretch of an index, where models would fetch every line. Giveaway counts portions that stand, over their target.
 */
export const figuresOfRuns = `
  SELECT COUNT(*) AS runs, COALESCE(SUM(received_tenths), 0) / 10 AS receivedGrams, SUM(main_pct * received_tenths) / SUM(received_tenths) AS mainPct,
    CAST(COALESCE(SUM(portions), 0) AS INT) AS portions,
    SUM(cost_per_portion * portions) / SUM(IF(cost_per_portion IS NULL, NULL, portions)) AS costPerPortion,
    COALESCE(SUM(net_cost), 0) AS netCost, COALESCE(SUM(over_tenths), 0) / 10 AS overGrams,
    COALESCE(SUM(over_tenths / 10000 * cost_per_kg), 0) AS overCost
  FROM (
    SELECT r.received_tenths, r.main_pct, r.portions, r.cost_per_portion, r.net_cost, r.cost_per_kg,
      (SELECT SUM(w.tenths - t.target_tenths) FROM tubs t JOIN weighings w ON w.run_id = t.run_id AND w.tub_id = t.id
       WHERE t.run_id = r.id AND t.role = 'main' AND w.tenths > t.target_tenths AND w.reverses_id IS NULL
         AND NOT EXISTS (SELECT 1 FROM weighings taken WHERE taken.reverses_id = w.id)) AS over_tenths
    FROM runs r FORCE INDEX (runs_of_status) JOIN cut_sheet_versions v ON v.id = r.cut_sheet_version_id JOIN cut_sheets s ON s.id = v.cut_sheet_id
    WHERE r.kitchen_id = :kitchenId AND r.status = 'finished' AND r.started_at >= :from AND r.started_at < :before
      AND (:slug IS NULL OR s.slug = :slug)
  ) of_days`

/** What was thrown away of the walk-in in those days, less what was taken back of it; of one sheet, what came of runs by it. */
export const thrownAwayOfDays = `
  SELECT COALESCE(SUM(IF(l.unit = 'piece', 0, -m.tenths)), 0) / 10 AS grams, COALESCE(SUM(m.cost), 0) AS cost
  FROM lot_moves m JOIN lots l ON l.id = m.lot_id LEFT JOIN runs r ON r.id = l.run_id
    LEFT JOIN cut_sheet_versions v ON v.id = r.cut_sheet_version_id LEFT JOIN cut_sheets s ON s.id = v.cut_sheet_id
  WHERE m.kitchen_id = :kitchenId AND m.taken_for = 'thrown away' AND m.at >= :from AND m.at < :before AND (:slug IS NULL OR s.slug = :slug)`

/** By which sheets a kitchen cut in those days. */
export const sheetsOfDays = `
  SELECT s.slug, MAX(v.name) AS name, COUNT(*) AS runs
  FROM runs r FORCE INDEX (runs_of_status) JOIN cut_sheet_versions v ON v.id = r.cut_sheet_version_id JOIN cut_sheets s ON s.id = v.cut_sheet_id
  WHERE r.kitchen_id = :kitchenId AND r.status = 'finished' AND r.started_at >= :from AND r.started_at < :before
  GROUP BY s.slug`
