import { type Happening, happening, temperaturePlaces } from '@fleam/contract/bench'
import type { Run } from '@fleam/contract/runs'
import Button from 'react-bootstrap/Button'
import Form from 'react-bootstrap/Form'
import { useKitchen } from '../../../api/queries.ts'
import { timeText } from '../../../ui/days.ts'
import { Choice, numberOrNull, TextField } from '../../../ui/fields.tsx'
import { Caution, Empty, Warning } from '../../../ui/notes.tsx'
import { useRequestForm } from '../../../ui/request-form.ts'
import { SidePanel } from '../../../ui/side-panel.tsx'

type Place = (typeof temperaturePlaces)[number]
const placeWords: Record<Place, string> = { product: 'Product, core', room: 'Room', fridge: 'Cold store' }

/** One that is over its limit says what was done. */
const temperatureWithAction = happening.refine(
  (what) => what.kind !== 'temperature' || what.limitC === null || what.celsius <= what.limitC || what.action !== '',
  { path: ['action'], message: 'It is over the house limit: say what was done.' },
)

interface TemperaturePanelProps {
  run: Run
  onClose: () => void
  onNote: (what: Happening) => void
}

/** Temperatures of this run with who took them; one over the limit asks what was done. */
export function TemperaturePanel({ run, onClose, onNote }: TemperaturePanelProps) {
  const { receiveMaxC } = useKitchen().settings.limits
  const { submit, field, form } = useRequestForm({
    start: { of: 'product' as Place, celsius: '', action: '' },
    schema: temperatureWithAction,
    toRequest: ({ of, celsius, action }) => ({
      kind: 'temperature',
      of,
      celsius: numberOrNull(celsius),
      action: action.trim(),
      limitC: of === 'room' ? null : receiveMaxC,
    }),
    send: async (what) => onNote(what as Happening),
    next: (sent) => ({ ...sent, celsius: '', action: '' }),
  })
  const celsius = numberOrNull(form.watch('celsius'))
  const isOver = form.watch('of') !== 'room' && celsius !== null && celsius > receiveMaxC
  const taken = run.events.filter((event) => event.what.kind === 'temperature').reverse()

  async function keep(event: React.FormEvent) {
    event.preventDefault()
    await submit()
  }

  return (
    <SidePanel title="Temperatures" onClose={onClose}>
      <Form className="stack" onSubmit={keep}>
        <Choice label="Of what" {...field('of')} options={temperaturePlaces.map((value) => ({ value, label: placeWords[value] }))} />
        <TextField
          label="Temperature, °C"
          {...field('celsius')}
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
            <TextField label="What was done" {...field('action')} />
            <Caution>Warm product may not be safe whatever is done later. Local food code decides; when in doubt, throw it away.</Caution>
          </>
        )}
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
