import type { Run } from '@fleam/contract/runs'
import { pieceYields } from '@fleam/core/bench/piece-yields'
import { type Column, DataTable } from '../../ui/data-table.tsx'
import { percentText, useUnits } from '../../ui/units.ts'

/** What each piece of the run gave, tub by tub: which bird was the poor one. */
export function PieceYields({ run }: { run: Run }) {
  const { grams } = useUnits()
  const pieces = pieceYields(run.weighings)
  if (pieces.length === 0) return null
  const tubs = run.tubs.filter((tub) => pieces.some((piece) => piece.gramsByTub.has(tub.id)))
  const each = run.received.tenths / 10 / run.pieces
  type Row = (typeof pieces)[number]
  const columns: Column<Row>[] = [
    { id: 'piece', heading: 'Piece', kind: 'head', sortBy: ({ piece }) => piece, cell: ({ piece }) => piece },
    ...tubs.map(
      (tub): Column<Row> => ({
        id: tub.id,
        heading: tub.name,
        sortBy: ({ gramsByTub }) => gramsByTub.get(tub.id),
        cell: ({ gramsByTub }) => (gramsByTub.has(tub.id) ? grams(gramsByTub.get(tub.id) ?? 0) : '–'),
      }),
    ),
    { id: 'all', heading: 'All', sortBy: (row) => row.grams, cell: (row) => grams(row.grams) },
    { id: 'mean', heading: 'of the mean piece', cell: (row) => percentText((row.grams / each) * 100) },
  ]
  return (
    <section>
      <h2>Piece by piece</h2>
      <DataTable label="Piece by piece" className="piece-yields" columns={columns} rows={pieces} rowKey={({ piece }) => String(piece)} />
    </section>
  )
}
