/**
 * The newest quote of each of these items. A model finds the newest of one item, or all of them: the newest of many needs a
 * query that depends on the row, which reads one place of the index an item however many quotes there are.
 */
export const latestQuotes = `
  SELECT (SELECT q.id FROM quotes q WHERE q.kitchen_id = :kitchenId AND q.item_id = i.id
    ORDER BY q.quoted_on DESC, q.at DESC, q.id DESC LIMIT 1) AS id
  FROM items i WHERE i.kitchen_id = :kitchenId AND i.id IN (:itemIds) HAVING id IS NOT NULL`

/** The newest quote that one supplier gave of each item: by the same way, for the same reason. */
export const latestQuotesOfSupplier = `
  SELECT (SELECT q.id FROM quotes q WHERE q.kitchen_id = :kitchenId AND q.supplier_id = :supplierId AND q.item_id = i.item_id
    ORDER BY q.quoted_on DESC, q.at DESC, q.id DESC LIMIT 1) AS id
  FROM (SELECT DISTINCT item_id FROM quotes WHERE kitchen_id = :kitchenId AND supplier_id = :supplierId) i`

/**
 * Of every item and supplier with a quote since a day: the newest quote, and the last one before that day. The same again,
 * two ways at once.
 */
export const recentMoves = `
  SELECT
    (SELECT q.id FROM quotes q WHERE q.kitchen_id = :kitchenId AND q.item_id = r.item_id AND q.supplier_id <=> r.supplier_id
      ORDER BY q.quoted_on DESC, q.at DESC, q.id DESC LIMIT 1) AS afterId,
    (SELECT q.id FROM quotes q WHERE q.kitchen_id = :kitchenId AND q.item_id = r.item_id AND q.supplier_id <=> r.supplier_id
      AND q.quoted_on < :since ORDER BY q.quoted_on DESC, q.at DESC, q.id DESC LIMIT 1) AS beforeId
  FROM (SELECT DISTINCT item_id, supplier_id FROM quotes WHERE kitchen_id = :kitchenId AND quoted_on >= :since LIMIT 2000) r
  HAVING beforeId IS NOT NULL`

/** The newest quote of every item by every supplier: again one place of the index for each. */
export const latestQuotesBySupplier = `
  SELECT (SELECT q.id FROM quotes q WHERE q.kitchen_id = :kitchenId AND q.item_id = r.item_id AND q.supplier_id <=> r.supplier_id
    ORDER BY q.quoted_on DESC, q.at DESC, q.id DESC LIMIT 1) AS id
  FROM (SELECT DISTINCT item_id, supplier_id FROM quotes WHERE kitchen_id = :kitchenId LIMIT 5000) r`
