import { checkDatabase, type Fault } from '../src/consistency.ts'
import { finishedRun, rowsOf, stockedKitchen, stockKitchen } from './kitchen.ts'

const { test_, kitchen } = stockedKitchen()
const faults = async () => {
  const found: Fault[] = []
  await checkDatabase(test_.db, (fault) => found.push(fault))
  return found
}
const change = (sql: string, replacements: Record<string, unknown>) => test_.db.sequelize.query(sql, { replacements })

test('what a kitchen has written itself fits; what was put beside it by hand is named, and nothing is changed', async () => {
  const run = await finishedRun(kitchen, { steaks: ['180 g', '184 g', '176 g'], received: '2900 g', minutes: 14, takeBackLast: true })
  await finishedRun(kitchen, { steaks: ['181 g', '179 g'], received: '2950 g', minutes: 12 })
  expect(await faults()).toEqual([])

  const elsewhere = await stockKitchen(test_, 'Elsewhere')
  const [line] = await rowsOf<{ id: string }>(test_.db, 'SELECT id FROM weighings WHERE run_id = :id AND reverses_id IS NOT NULL', {
    id: run.id,
  })
  const spoils: [string, Record<string, unknown>, RegExp, RegExp][] = [
    ['UPDATE runs SET net_cost = net_cost + 1 WHERE id = :id', { id: run.id }, /netCost$/, /the ledger gives/],
    ['UPDATE runs SET rates = :rates WHERE id = :id', { id: run.id, rates: '{"ratePerHour":"x"}' }, /rates/, /./],
    ['UPDATE runs SET supplier_id = :other WHERE id = :id', { id: run.id, other: elsewhere.supplierId }, /supplierId$/, /no such thing/],
    ['UPDATE weighings SET tenths = tenths + 1 WHERE id = :id', { id: line?.id }, /weighing/, /another weight/],
    ['UPDATE suppliers SET name = :name WHERE id = :id', { id: kitchen.supplierId, name: '\u202e  ' }, /suppliers/, /./],
    ['UPDATE cut_totals SET tests = tests + 1 WHERE item_id = :id', { id: kitchen.itemId }, /yield book/, /counts 3 tests, the log 2/],
    [
      "UPDATE kitchens SET settings = JSON_SET(settings, '$.currency', 'XQZ') WHERE id = :id",
      { id: kitchen.kitchenId },
      /settings/,
      /currency/i,
    ],
  ]
  for (const [sql, values, where, what] of spoils) {
    await change(sql, values)
    const found = await faults()
    expect([sql, found.some((fault) => where.test(fault.where) && what.test(fault.what) && fault.kitchen === 'Test kitchen')]).toEqual([
      sql,
      true,
    ])
  }
  const before = await rowsOf(test_.db, 'CHECKSUM TABLE runs, weighings, suppliers, kitchens, cut_totals')
  await faults()
  expect(await rowsOf(test_.db, 'CHECKSUM TABLE runs, weighings, suppliers, kitchens, cut_totals')).toEqual(before)
})
