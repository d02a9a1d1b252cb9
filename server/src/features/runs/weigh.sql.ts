/**
 * A weighing of an open run in one statement. It takes part only if the run is open and the tub is on its tray, and locks the
 * run's row while it does: a run that is being finished takes no more. A model would need a transaction of three statements,
 * with the lock held across two more round trips.
 */
export const insertWeighing = `
  INSERT INTO weighings (id, kitchen_id, run_id, tub_id, tenths, entered, piece_number, load_id, person_id, sent_by_id, weighed_at)
  SELECT :id, r.kitchen_id, r.id, t.id, :tenths, :entered, :piece, :loadId, :personId, :sentById, :weighedAt
  FROM runs r JOIN tubs t ON t.run_id = r.id AND t.id = :tubId
  WHERE r.id = :runId AND r.kitchen_id = :kitchenId AND r.status = 'open'`

/** A line that takes a weighing of an open run back: guarded in one statement for the same reason. */
export const insertReversal = `
  INSERT INTO weighings (id, kitchen_id, run_id, tub_id, tenths, entered, piece_number, reverses_id, person_id, sent_by_id, weighed_at)
  SELECT :id, w.kitchen_id, w.run_id, w.tub_id, w.tenths, w.entered, w.piece_number, w.id, :personId, :sentById, :weighedAt
  FROM runs r JOIN weighings w ON w.run_id = r.id AND w.id = :reversesId AND w.reverses_id IS NULL
  WHERE r.id = :runId AND r.kitchen_id = :kitchenId AND r.status = 'open'`

/** Something that happens at the bench of an open run: guarded in one statement for the same reason. */
export const insertBenchEvent = `
  INSERT INTO bench_events (id, kitchen_id, run_id, body, person_id, sent_by_id, happened_at)
  SELECT :id, r.kitchen_id, r.id, :body, :personId, :sentById, :at FROM runs r
  WHERE r.id = :runId AND r.kitchen_id = :kitchenId AND r.status = 'open'`
