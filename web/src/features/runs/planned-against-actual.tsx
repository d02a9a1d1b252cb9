import type { Run } from '@fleam/contract/runs'
import { readLedger } from '@fleam/core/runs/ledger'
import { useUnits } from '../../ui/units.ts'

/** What the plan had each slice weigh, and what it did; the kitchen's usual shape learns from it. */
export function PlannedAgainstActual({ run }: { run: Run }) {
  const { grams, weight } = useUnits()
  const standing = new Map(readLedger(run.weighings).standing.map((line) => [line.id, line]))
  const slices = run.events.flatMap(({ what }) => {
    const line = what.kind === 'slice' ? standing.get(what.weighingId) : undefined
    return what.kind === 'slice' && line ? [{ ...what, tenths: line.tenths, tub: run.tubs.find((tub) => tub.id === line.tubId)?.name }] : []
  })
  if (slices.length === 0) return null
  const off = slices.reduce((sum, slice) => sum + Math.abs(slice.tenths / 10 - slice.plannedGrams), 0) / slices.length
  return (
    <section>
      <h2>Planned against cut</h2>
      <p className="field-hint">
        {slices.length} slices, {grams(Math.round(off * 10) / 10)} off the plan on average. The kitchen’s usual shape of this item learns
        from it.
      </p>
      <div className="wide-table">
        <table className="item-yields">
          <thead>
            <tr>
              <th scope="col">Slice</th>
              <th scope="col">Into</th>
              <th scope="col">Thickness</th>
              <th scope="col">Planned</th>
              <th scope="col">Cut</th>
              <th scope="col">Off</th>
            </tr>
          </thead>
          <tbody>
            {slices.map((slice, index) => (
              <tr key={slice.weighingId}>
                <th scope="row">{index + 1}</th>
                <td>{slice.tub}</td>
                <td>{Math.round(slice.thicknessMm)} mm</td>
                <td>{grams(Math.round(slice.plannedGrams))}</td>
                <td>{weight(slice.tenths)}</td>
                <td>{signed(slice.tenths / 10 - slice.plannedGrams)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </section>
  )
}

function signed(value: number): string {
  return `${value < 0 ? '−' : '+'}${Math.abs(Math.round(value))} g`
}
