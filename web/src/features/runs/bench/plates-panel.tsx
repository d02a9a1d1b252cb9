import type { Run } from '@fleam/contract/runs'
import { platesOfRun } from '@fleam/core/runs/plates'
import { Empty } from '../../../ui/notes.tsx'
import { SidePanel } from '../../../ui/side-panel.tsx'
import { useUnits } from '../../../ui/units.ts'

/** Which pieces to put together so that every plate weighs much the same. */
export function PlatesPanel({ run, onClose }: { run: Run; onClose: () => void }) {
  const { weight, grams } = useUnits()
  const plates = platesOfRun(run)
  if (!plates) return null
  const { perPlate, pieces, tubs } = plates
  return (
    <SidePanel title="Even plates" onClose={onClose}>
      <p>
        {perPlate} pieces a plate{tubs.length > 1 && `, one from each of ${tubs.map((tub) => tub.name.toLowerCase()).join(' and ')}`}. Put
        together so, the plates come out most alike.
      </p>
      {plates.plates.length === 0 && <Empty title="Weigh the pieces one by one, and the plates stand here." />}
      <ol className="plates">
        {plates.plates.map((plate) => (
          <li key={plate.pieces.join()}>
            <b>{grams(plate.grams)}</b>
            <span>{plate.pieces.map((at) => `${weight(pieces[at]?.tenths ?? 0)} ${pieces[at]?.tub.name.toLowerCase()}`).join(' + ')}</span>
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
