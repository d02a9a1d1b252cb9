import { randomUUID } from 'node:crypto'
import { migrate, migrations } from '../src/db/migrate.ts'
import { openTestApp } from './kitchen.ts'

const names = migrations.map((migration) => migration.name)

test('an empty database is brought up to date, once, even by two servers at a time', async () => {
  const { db, close } = await openTestApp({ migrated: false })
  await Promise.all([migrate(db), migrate(db)])
  const applied = await db.rows<{ name: string }>('SELECT name FROM migrations ORDER BY name')
  expect(applied.map((row) => row.name)).toEqual(names)
  await close()
})

test.each(names.slice(0, -1).map((name, index) => [name, names[index + 1] ?? '']))(
  'data of %s is all there after %s',
  async (before, after) => {
    const { db, close } = await openTestApp({ migrated: false })
    await migrate(db, before)
    const kitchenId = randomUUID()
    await db.run("INSERT INTO kitchens (id, name, settings) VALUES (:kitchenId, 'Küche 🐟', '{}')", { kitchenId })
    await db.run("INSERT INTO people (id, kitchen_id, name, role) VALUES (:id, :kitchenId, 'Wren', 'cook')", {
      id: randomUUID(),
      kitchenId,
    })
    await migrate(db, after)
    const row = await db.row<{ name: string; person: string }>(
      'SELECT k.name, p.name AS person FROM kitchens k JOIN people p ON p.kitchen_id = k.id',
    )
    expect(row).toEqual({ name: 'Küche 🐟', person: 'Wren' })
    await close()
  },
)
