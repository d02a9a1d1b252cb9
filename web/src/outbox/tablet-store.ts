import Dexie, { type EntityTable } from 'dexie'
import type { OutboxStore } from './outbox.ts'
import type { OutboxLine } from './outbox-line.ts'

/** Keeps lines in the tablet's own database. */
export function tabletStore(): OutboxStore {
  const database = new Dexie('fleam') as Dexie & { outbox: EntityTable<OutboxLine, 'order'> }
  database.version(1).stores({ outbox: '++order, id' })
  database
    .version(2)
    .stores({ outbox: '++order, id' })
    .upgrade((transaction) =>
      transaction
        .table('outbox')
        .toCollection()
        .modify((line) => {
          line.kind = line.reversesId === null ? 'weighing' : 'reversal'
          line.at = line.weighedAt
          line.item = null
        }),
    )
  database
    .version(3)
    .stores({ outbox: '++order, id' })
    .upgrade((transaction) =>
      transaction
        .table('outbox')
        .toCollection()
        .modify((line) => {
          const { item = null } = line.kind === 'event' ? line.what : line
          if (line.kind !== 'event') line.piece = item
          else if (line.what.kind === 'item-done') line.what = { kind: 'piece-done', piece: item }
          else if (line.what.kind === 'plan') line.what.piece = item
        }),
    )
  const ofId = (id: string) => database.outbox.where('id').equals(id)
  return {
    all: async () => database.outbox.orderBy('order').toArray(),
    add: async (line) => (await database.outbox.add(line as OutboxLine)) as number,
    change: async (id, part) => ofId(id).modify(part),
    remove: async (id) => ofId(id).delete(),
  }
}
