import type { Run } from '@fleam/contract/runs'
import { evenPlates } from '@fleam/core/portions/even-plates'
import { standing } from '@fleam/core/runs/ledger'
import { Empty } from '../../../ui/notes.tsx'
import { SidePanel } from '../../../ui/side-panel.tsx'
import { useUnits } from '../../../ui/units.ts'

/** Which pieces to put together so that every plate weighs much the same. */
export function PlatesPanel({ run, onClose }: { run: Run; onClose: () => void }) {
  const { weight, grams } = useUnits()
  const plated = platedTubs(run)
  const perPlate = plated[0]?.perPlate ?? 2
  const pieces = standing(run.weighings).flatMap((line) => {
    const at = plated.findIndex((tub) => tub.id === line.tubId)
    return at < 0 ? [] : [{ tenths: line.tenths, kind: at, tub: plated[at]?.name ?? '' }]
  })
  const plates = evenPlates(pieces, perPlate)
  return (
    <SidePanel title="Even plates" onClose={onClose}>
      <p>
        {perPlate} pieces a plate{plated.length > 1 && `, one from each of ${plated.map((tub) => tub.name.toLowerCase()).join(' and ')}`}.
        Put together so, the plates come out most alike.
      </p>
      {plates.plates.length === 0 && <Empty title="Weigh the pieces one by one, and the plates stand here." />}
      <ol className="plates">
        {plates.plates.map((plate) => (
          <li key={plate.pieces.join()}>
            <b>{grams(plate.grams)}</b>
            <span>{plate.pieces.map((at) => `${weight(pieces[at]?.tenths ?? 0)} ${pieces[at]?.tub.toLowerCase()}`).join(' + ')}</span>
          </li>
        ))}
      </ol>
      {plates.plates.length > 1 && (
        <p>
          <b>{grams(plates.spreadGrams)}</b> between the heaviest and the lightest plate
          {plates.simpleSpreadGrams > plates.spreadGrams && <>, against {grams(plates.simpleSpreadGrams)} as they lie</>}.
        </p>
      )}
      {plates.left.length > 0 && <p>Left over: {plates.left.map((at) => weight(pieces[at]?.tenths ?? 0)).join(', ')}.</p>}
    </SidePanel>
  )
}

/** The tubs whose pieces make plates together, by the sheet's portion rules. */
export function platedTubs(run: Run): { id: string; name: string; perPlate: number }[] {
  const rule = run.sheet.outputs.find((output) => output.portion?.pieces !== undefined)
  const perPlate = rule?.portion?.pieces
  if (!rule || perPlate === undefined) return []
  const partners = run.sheet.outputs.filter(
    (output) => output.key === rule.key || (output.role === 'main' && output.destination === rule.destination),
  )
  const kinds = partners.length === perPlate ? partners : [rule]
  return kinds.flatMap((output) =>
    run.tubs.filter((tub) => tub.key === output.key).map((tub) => ({ id: tub.id, name: tub.name, perPlate })),
  )
}
