/**
 * Adds finished runs to the running totals of their cut, or takes them away where the amounts are negative. It makes the row
 * or adds to it, whichever of two servers comes first, in one statement: a model can do the one or the other.
 */
export const addToCutTotals = `
  INSERT INTO cut_totals (item_id, cut_sheet_id, kitchen_id, tests, since, last_run_id, last_test_at, pieces, pieces_squares,
    pieces_inverse, consumables, grams_sum, grams_squares, main_sum, main_squares, main_items_sum, main_items_squares, main_grams_sum,
    main_none, timed, x_sum, xx_sum, y_sum, xy_sum, yy_sum)
  VALUES (:itemId, :cutSheetId, :kitchenId, :tests, :since, :lastRunId, :lastTestAt, :pieces, :piecesSquares,
    :piecesInverse, :consumables, :gramsSum, :gramsSquares, :mainSum, :mainSquares, :mainItemsSum, :mainItemsSquares, :mainGramsSum,
    :mainNone, :timed, :x, :xx, :y, :xy, :yy)
  ON DUPLICATE KEY UPDATE tests = tests + VALUES(tests),
    last_run_id = IF(COALESCE((VALUES(last_test_at), VALUES(last_run_id)) > (last_test_at, last_run_id), VALUES(last_test_at) IS NOT NULL),
      VALUES(last_run_id), last_run_id),
    last_test_at = IF(COALESCE(VALUES(last_test_at) > last_test_at, VALUES(last_test_at) IS NOT NULL), VALUES(last_test_at), last_test_at),
    pieces = pieces + VALUES(pieces), pieces_squares = pieces_squares + VALUES(pieces_squares),
    pieces_inverse = pieces_inverse + VALUES(pieces_inverse), consumables = consumables + VALUES(consumables),
    grams_sum = grams_sum + VALUES(grams_sum), grams_squares = grams_squares + VALUES(grams_squares),
    main_sum = main_sum + VALUES(main_sum), main_squares = main_squares + VALUES(main_squares),
    main_items_sum = main_items_sum + VALUES(main_items_sum), main_items_squares = main_items_squares + VALUES(main_items_squares),
    main_grams_sum = main_grams_sum + VALUES(main_grams_sum), main_none = main_none + VALUES(main_none),
    timed = timed + VALUES(timed), x_sum = x_sum + VALUES(x_sum), xx_sum = xx_sum + VALUES(xx_sum),
    y_sum = y_sum + VALUES(y_sum), xy_sum = xy_sum + VALUES(xy_sum), yy_sum = yy_sum + VALUES(yy_sum)`

/** The same for the shares of one output, for the same reason. */
export const addToOutputTotals = `
  INSERT INTO output_totals (item_id, cut_sheet_id, output_key, kitchen_id, tests, share_sum, share_squares,
    share_items_sum, share_items_squares, share_grams_sum, share_none, served_tests, served_sum)
  VALUES (:itemId, :cutSheetId, :outputKey, :kitchenId, :tests, :sum, :squares, :itemsSum, :itemsSquares, :gramsSum, :none,
    :servedTests, :servedSum)
  ON DUPLICATE KEY UPDATE tests = tests + VALUES(tests), share_sum = share_sum + VALUES(share_sum),
    share_squares = share_squares + VALUES(share_squares), share_items_sum = share_items_sum + VALUES(share_items_sum),
    share_items_squares = share_items_squares + VALUES(share_items_squares),
    share_grams_sum = share_grams_sum + VALUES(share_grams_sum), share_none = share_none + VALUES(share_none), served_tests = served_tests + VALUES(served_tests),
    served_sum = served_sum + VALUES(served_sum)`

/** Items that were cut since a day, by item and cut sheet: added up inside the database, over one stretch of an index. */
export const piecesSince = `
  SELECT r.item_id AS itemId, v.cut_sheet_id AS cutSheetId, SUM(r.pieces) AS pieces
  FROM runs r FORCE INDEX (runs_of_status) JOIN cut_sheet_versions v ON v.id = r.cut_sheet_version_id
  WHERE r.kitchen_id = :kitchenId AND r.status = 'finished' AND r.started_at >= :since
  GROUP BY r.item_id, v.cut_sheet_id`
