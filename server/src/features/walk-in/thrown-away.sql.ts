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
