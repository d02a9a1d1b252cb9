import type { Run } from '@fleam/contract/runs'
import { itemYields } from '@fleam/core/bench/item-yields'
import { type Column, DataTable } from '../../ui/data-table.tsx'
import { percentText, useUnits } from '../../ui/units.ts'

/** What each item of the run gave, tub by tub: which bird was the poor one. */
export function ItemYields({ run }: { run: Run }) {
  const { grams } = useUnits()
  const items = itemYields(run.weighings)
  if (items.length === 0) return null
  const tubs = run.tubs.filter((tub) => items.some((item) => item.gramsByTub.has(tub.id)))
  const each = run.received.tenths / 10 / run.pieces
  type Row = (typeof items)[number]
  const columns: Column<Row>[] = [
    { id: 'item', heading: 'Item', kind: 'head', sortBy: ({ item }) => item, cell: ({ item }) => item },
    ...tubs.map(
      (tub): Column<Row> => ({
        id: tub.id,
        heading: tub.name,
        sortBy: ({ gramsByTub }) => gramsByTub.get(tub.id),
        cell: ({ gramsByTub }) => (gramsByTub.has(tub.id) ? grams(gramsByTub.get(tub.id) ?? 0) : '–'),
      }),
    ),
    { id: 'all', heading: 'All', sortBy: (row) => row.grams, cell: (row) => grams(row.grams) },
    { id: 'mean', heading: 'of the mean item', cell: (row) => percentText((row.grams / each) * 100) },
  ]
  return (
    <section>
      <h2>Item by item</h2>
      <DataTable label="Item by item" className="item-yields" columns={columns} rows={items} rowKey={({ item }) => String(item)} />
    </section>
  )
}
