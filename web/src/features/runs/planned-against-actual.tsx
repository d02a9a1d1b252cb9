import type { Run } from '@fleam/contract/runs'
import { readLedger } from '@fleam/core/runs/ledger'
import { counted } from '../../ui/counted.ts'
import { type Column, DataTable } from '../../ui/data-table.tsx'
import { useUnits } from '../../ui/units.ts'
import { usePlanUnits } from '../plan/plan-units.tsx'

/** What the plan had each slice weigh, and what it did; the kitchen's usual shape learns from it. */
export function PlannedAgainstActual({ run }: { run: Run }) {
  const { grams, weight } = useUnits()
  const { written } = usePlanUnits()
  const standing = new Map(readLedger(run.weighings).standing.map((line) => [line.id, line]))
  const slices = run.events.flatMap(({ what }) => {
    const line = what.kind === 'slice' ? standing.get(what.weighingId) : undefined
    return what.kind === 'slice' && line ? [{ ...what, tenths: line.tenths, tub: run.tubs.find((tub) => tub.id === line.tubId)?.name }] : []
  })
  if (slices.length === 0) return null
  const off = slices.reduce((sum, slice) => sum + Math.abs(slice.tenths / 10 - slice.plannedGrams), 0) / slices.length
  const offBy = (slice: (typeof slices)[number]) => slice.tenths / 10 - slice.plannedGrams
  const columns: Column<(typeof slices)[number]>[] = [
    { id: 'slice', heading: 'Slice', kind: 'head', cell: (slice) => slices.indexOf(slice) + 1 },
    { id: 'tub', heading: 'Into', kind: 'words', cell: ({ tub }) => tub },
    {
      id: 'thickness',
      heading: 'Thickness',
      sortBy: ({ thicknessMm }) => thicknessMm,
      cell: (slice) => written('mm', slice.thicknessMm),
    },
    {
      id: 'planned',
      heading: 'Planned',
      sortBy: ({ plannedGrams }) => plannedGrams,
      cell: (slice) => grams(Math.round(slice.plannedGrams)),
    },
    { id: 'cut', heading: 'Cut', sortBy: ({ tenths }) => tenths, cell: ({ tenths }) => weight(tenths) },
    { id: 'off', heading: 'Off', sortBy: offBy, cell: (slice) => signed(offBy(slice), grams) },
  ]
  return (
    <section>
      <h2>Planned against cut</h2>
      <p className="field-hint">
        {counted(slices.length, 'slice')}, {grams(Math.round(off * 10) / 10)} off the plan on average. The kitchen’s usual shape of this
        item learns from it.
      </p>
      <DataTable label="Planned against cut" columns={columns} rows={slices} rowKey={({ weighingId }) => weighingId} />
    </section>
  )
}

function signed(value: number, write: (grams: number) => string): string {
  return `${value < 0 ? '−' : '+'}${write(Math.abs(Math.round(value)))}`
}
