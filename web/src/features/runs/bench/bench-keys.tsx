import { CheckField } from '../../../ui/fields.tsx'
import { SidePanel } from '../../../ui/side-panel.tsx'

const keys: readonly [string, string][] = [
  ['0–9 . , g kg lb oz', 'type a weight, such as 184, 1.25kg or 2 lb 3.5 oz'],
  ['Enter', 'put it into the chosen tub'],
  ['Alt + 1 … 9', 'put it into that tub; with nothing typed, choose the tub'],
  ['Arrow keys', 'choose the tub beside'],
  ['Backspace', 'delete a figure; with nothing typed, take the last weighing back'],
  ['Page up, Page down', 'the step before, the next step'],
  ['Space', 'take the weight from the scale'],
  ['Shift + Alt + 1 … 9', 'move the last piece to that tub'],
  ['Escape', 'clear what is typed'],
  ['?', 'show these keys'],
]

interface BenchKeysProps {
  cautions: readonly string[]
  hasSound: boolean
  onSound: (hasSound: boolean) => void
  onClose: () => void
}

export function BenchKeys({ cautions, hasSound, onSound, onClose }: BenchKeysProps) {
  return (
    <SidePanel title="Keys and cautions" onClose={onClose}>
      <CheckField label="Sounds: in the tub, under, over, refused" value={hasSound} onChange={onSound} />
      <dl className="keys">
        {keys.map(([key, does]) => (
          <div key={key}>
            <dt>
              <kbd>{key}</kbd>
            </dt>
            <dd>{does}</dd>
          </div>
        ))}
      </dl>
      <h3>Cautions of this cut sheet</h3>
      <ul className="cautions">
        {cautions.map((caution) => (
          <li key={caution}>{caution}</li>
        ))}
      </ul>
      <p className="field-hint">Common guidance. Local food code and licensed practice come first.</p>
    </SidePanel>
  )
}
