/**
 * What was thrown away less what was taken back of it, by week (its Monday), kind and reason. It groups and adds up inside the
 * database, where a model would fetch every line.
 */
export const thrownAwayByWeek = `
  SELECT CAST(DATE(m.at - INTERVAL WEEKDAY(m.at) DAY) AS CHAR) AS week, l.kind, COALESCE(u.note, m.note) AS reason,
    SUM(COALESCE(m.cost, 0)) AS cost, SUM(IF(l.unit = 'piece', 0, -m.tenths)) / 10 AS grams
  FROM lot_moves m JOIN lots l ON l.id = m.lot_id LEFT JOIN lot_moves u ON u.id = m.undoes_id
  WHERE m.kitchen_id = :kitchenId AND m.taken_for = 'thrown away' AND m.at >= :since
  GROUP BY week, l.kind, reason HAVING grams <> 0 OR cost <> 0 ORDER BY week, l.kind, reason`

/**
 * Portions packed since, thrown away and what they cost, by name, the dearest loss first. What was split off is a lot of its own: its
 * part is taken off the lot that it came from.
 */
export const portionsThrownAway = `
  SELECT name, packed, thrown, cost FROM (
    SELECT l.name, CAST(SUM(l.packed_portions + COALESCE(m.split, 0)) AS INT) AS packed, CAST(SUM(COALESCE(m.thrown, 0)) AS INT) AS thrown,
      SUM(l.cost * (l.packed_portions + COALESCE(m.split, 0)) / l.packed_portions) AS cost
    FROM lots l LEFT JOIN (
      SELECT lot_id, SUM(IF(kind = 'split', portions, 0)) AS split, SUM(IF(taken_for = 'thrown away', -portions, 0)) AS thrown
      FROM lot_moves WHERE kitchen_id = :kitchenId AND at >= :since GROUP BY lot_id
    ) m ON m.lot_id = l.id
    WHERE l.kitchen_id = :kitchenId AND l.packed_at >= :since AND l.packed_portions > 0 AND l.cost IS NOT NULL
    GROUP BY l.name
  ) portions WHERE thrown > 0 ORDER BY cost / packed * thrown DESC LIMIT 8`
