import type { SchemaStep } from './schema-step.ts'

/** "Item" is what is bought, "piece" the nth of a run; what a kitchen says of a way of cutting is changed under that name. */
export const pieces: SchemaStep = {
  name: '010-pieces',
  statements: [
    'ALTER TABLE weighings CHANGE COLUMN IF EXISTS item_number piece_number INT NULL',
    'ALTER TABLE runs CHANGE COLUMN IF EXISTS by_item by_piece TINYINT(1) NOT NULL DEFAULT 0',
    `UPDATE bench_events SET body = JSON_REMOVE(JSON_INSERT(body, '$.piece', JSON_EXTRACT(body, '$.item')), '$.item')
     WHERE JSON_VALUE(body, '$.kind') IN ('plan', 'item-done') AND JSON_EXISTS(body, '$.item')`,
    `UPDATE bench_events SET body = JSON_SET(body, '$.kind', 'piece-done') WHERE JSON_VALUE(body, '$.kind') = 'item-done'`,
    `UPDATE audit_trail SET subject = 'way-of-cutting' WHERE subject = 'worth'`,
  ],
}
