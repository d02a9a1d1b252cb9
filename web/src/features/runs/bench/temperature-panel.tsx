import { type Happening, temperaturePlaces } from '@fleam/contract/bench'
import type { Run } from '@fleam/contract/runs'
import { useState } from 'react'
import Button from 'react-bootstrap/Button'
import Form from 'react-bootstrap/Form'
import { useKitchen } from '../../../api/queries.ts'
import { Choice, numberOrNull, TextField } from '../../../ui/fields.tsx'
import { Caution, Empty, Warning } from '../../../ui/notes.tsx'
import { SidePanel } from '../../../ui/side-panel.tsx'
import { timeText } from '../../../ui/units.ts'

type Place = (typeof temperaturePlaces)[number]
const placeWords: Record<Place, string> = { product: 'Product, core', room: 'Room', fridge: 'Cold store' }

interface TemperaturePanelProps {
  run: Run
  onClose: () => void
  onNote: (what: Happening) => void
}

/** Temperatures of this run with who took them; one over the limit asks what was done. */
export function TemperaturePanel({ run, onClose, onNote }: TemperaturePanelProps) {
  const { receiveMaxC } = useKitchen().settings.limits
  const [of, setOf] = useState<Place>('product')
  const [text, setText] = useState('')
  const [action, setAction] = useState('')
  const [trouble, setTrouble] = useState<string>()
  const celsius = numberOrNull(text)
  const isOver = of !== 'room' && celsius !== null && celsius > receiveMaxC
  const taken = run.events.filter((event) => event.what.kind === 'temperature').reverse()

  function keep(event: React.FormEvent) {
    event.preventDefault()
    if (celsius === null || Number.isNaN(celsius) || celsius < -40 || celsius > 120)
      return setTrouble('Type a temperature in °C, such as 3.5.')
    if (isOver && action.trim() === '') return setTrouble('It is over the house limit: say what was done.')
    onNote({ kind: 'temperature', of, celsius, action: action.trim(), limitC: of === 'room' ? null : receiveMaxC })
    setText('')
    setAction('')
    setTrouble(undefined)
  }

  return (
    <SidePanel title="Temperatures" onClose={onClose}>
      <Form className="stack" onSubmit={keep}>
        <Choice
          label="Of what"
          value={of}
          onChange={setOf}
          options={temperaturePlaces.map((value) => ({ value, label: placeWords[value] }))}
        />
        <TextField
          label="Temperature, °C"
          value={text}
          onChange={setText}
          inputMode="decimal"
          autoFocus
          autoComplete="off"
          hint={`house limit ${receiveMaxC} °C for product and cold store`}
        />
        {isOver && (
          <>
            <Warning>
              {celsius} °C is over the house limit of {receiveMaxC} °C.
            </Warning>
            <TextField label="What was done" value={action} onChange={setAction} />
            <Caution>Warm product may not be safe whatever is done later. Local food code decides; when in doubt, throw it away.</Caution>
          </>
        )}
        {trouble && <Warning>{trouble}</Warning>}
        <Button type="submit" variant="act" className="btn-large">
          Note it
        </Button>
      </Form>
      <h3>Taken so far</h3>
      {taken.length === 0 && <Empty title="None yet on this run." />}
      <ul className="plain-list">
        {taken.map(
          ({ id, what, by, at }) =>
            what.kind === 'temperature' && (
              <li key={id}>
                <b className={what.limitC !== null && what.celsius > what.limitC ? 'hot' : ''}>{what.celsius} °C</b> {placeWords[what.of]}
                <small>
                  {timeText(at)} · {by.name}
                  {what.limitC !== null && what.celsius > what.limitC && ` · over ${what.limitC} °C: ${what.action}`}
                </small>
              </li>
            ),
        )}
      </ul>
    </SidePanel>
  )
}
