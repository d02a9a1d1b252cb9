import Button from 'react-bootstrap/Button'
import { Backspace } from 'react-bootstrap-icons'
import { useUnits } from '../../../ui/units.ts'

interface KeypadProps {
  entry: string
  /** What its unit key types; the kitchen's larger unit of weight unless given, none where empty. */
  unit?: string | undefined
  putLabel: string
  canTakeBack: boolean
  /** Who weighed what would be taken back, where that is somebody else. */
  takeBackOf: string | undefined
  onType: (entry: string) => void
  onPut: () => void
  onTakeBack: () => void
}

export function takeBackWords(of: string | undefined) {
  return <>Take back{of && <small>{of.split(' ')[0]}’s</small>}</>
}

/** A number pad for wet hands: figures, the kitchen's larger unit, and the two things one does with a weight. */
export function Keypad({ entry, unit: given, putLabel, canTakeBack, takeBackOf, onType, onPut, onTakeBack }: KeypadProps) {
  const { weightSystem } = useUnits()
  const unit = given ?? (weightSystem === 'metric' ? 'kg' : 'lb')
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
      <Button
        variant="bare"
        className="key key-unit"
        disabled={unit === ''}
        onClick={() => onType(`${entry.replace(/(?<![ a-z])[ a-z]+$/, '')} ${unit} `)}
      >
        {unit}
      </Button>
      {['1', '2', '3'].map(figure)}
      <Button variant="bare" className="key key-back" disabled={!canTakeBack} onClick={onTakeBack}>
        {takeBackWords(takeBackOf)}
      </Button>
      {figure('.')}
      {figure('0')}
      <Button variant="bare" className="key key-put" onClick={onPut}>
        {putLabel}
      </Button>
    </div>
  )
}
