/**
 * What finished runs have brought of the product that each of these dishes needs, since it was written down. It joins five
 * tables and adds up inside the database, over an index that the planner would not choose; a model would fetch every weighing.
 */
export const collectedForDishes = `
  SELECT n.id, SUM(IF(w.reverses_id IS NULL, w.tenths, -w.tenths)) AS tenths
  FROM dish_needs n
    JOIN runs r FORCE INDEX (runs_of_status) ON r.kitchen_id = n.kitchen_id AND r.status = 'finished' AND r.started_at >= n.since
    JOIN items i ON i.id = r.item_id AND i.animal = n.animal
    JOIN tubs t ON t.run_id = r.id AND t.output_key = n.product
    JOIN weighings w ON w.run_id = r.id AND w.tub_id = t.id
  WHERE n.kitchen_id = :kitchenId AND n.id IN (:needIds) GROUP BY n.id`
