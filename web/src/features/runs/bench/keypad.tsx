import Button from 'react-bootstrap/Button'
import { Backspace } from 'react-bootstrap-icons'
import { useUnits } from '../../../ui/units.ts'

interface KeypadProps {
  entry: string
  putLabel: string
  canTakeBack: boolean
  onType: (entry: string) => void
  onPut: () => void
  onTakeBack: () => void
}

/** A number pad for wet hands: figures, the kitchen's larger unit, and the two things one does with a weight. */
export function Keypad({ entry, putLabel, canTakeBack, onType, onPut, onTakeBack }: KeypadProps) {
  const { weightSystem } = useUnits()
  const unit = weightSystem === 'metric' ? 'kg' : 'lb'
  const figure = (key: string) => (
    <Button key={key} variant="bare" className="key" onClick={() => onType(entry + key)}>
      {key}
    </Button>
  )
  return (
    <div className="keypad">
      {['7', '8', '9'].map(figure)}
      <Button
        variant="bare"
        className="key key-unit"
        aria-label="Delete the last figure"
        onClick={() => onType(entry.trimEnd().slice(0, -1))}
      >
        <Backspace />
      </Button>
      {['4', '5', '6'].map(figure)}
      <Button variant="bare" className="key key-unit" onClick={() => onType(`${entry.replace(/[ a-z]+$/, '')} ${unit} `)}>
        {unit}
      </Button>
      {['1', '2', '3'].map(figure)}
      <Button variant="bare" className="key key-back" disabled={!canTakeBack} onClick={onTakeBack}>
        Take back
      </Button>
      {figure('.')}
      {figure('0')}
      <Button variant="bare" className="key key-put" onClick={onPut}>
        {putLabel}
      </Button>
    </div>
  )
}
