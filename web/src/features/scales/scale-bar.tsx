import Button from 'react-bootstrap/Button'
import Form from 'react-bootstrap/Form'
import { useUnits } from '../../ui/units.ts'
import { useLatestReading } from './latest-reading.ts'
import type { useWeighingHands } from './use-weighing-hands.ts'

const ways = [
  { value: 'piece', label: 'Each piece' },
  { value: 'into-tub', label: 'Into the tub' },
  { value: 'tub-at-end', label: 'Tub at the end' },
] as const

/** What the scale is doing, and how it is used. */
export function ScaleBar({ hands }: { hands: ReturnType<typeof useWeighingHands> }) {
  if (hands.scales.length === 0) return null
  return (
    <div className="scale-bar">
      <Form.Select
        aria-label="How it is weighed"
        value={hands.state.kind === 'none' ? 'by-hand' : hands.way}
        onChange={({ target: { value } }) => {
          if (value === 'by-hand') return hands.choose('by-hand')
          if (hands.chosenId === 'by-hand') hands.choose(hands.scales[0]?.id ?? 'by-hand')
          hands.setWay(value as (typeof ways)[number]['value'])
        }}
      >
        {ways.map((way) => (
          <option key={way.value} value={way.value}>
            {way.label}
          </option>
        ))}
        <option value="by-hand">By hand</option>
      </Form.Select>
      <Button variant="bare" disabled={hands.state.kind !== 'reading'} onClick={() => void hands.tare()}>
        Tare
      </Button>
      <Button
        variant="bare"
        aria-pressed={hands.isHandsFree}
        disabled={hands.state.kind === 'none'}
        onClick={() => hands.setHandsFree(!hands.isHandsFree)}
      >
        Hands-free {hands.isHandsFree ? 'on' : 'off'}
      </Button>
    </div>
  )
}

/** One line on the scale's state, in words. */
export function useScaleWords(hands: ReturnType<typeof useWeighingHands>): string {
  const { weight } = useUnits()
  const { state } = hands
  const reading = useLatestReading(hands.latest)
  if (state.kind === 'none') return ''
  if (state.kind === 'connecting') return 'Listening to the scale …'
  if (state.kind === 'lost') return `${state.why} Type the weight; it comes back by itself.`
  if (!reading) return ''
  const awaits = hands.awaits()
  if (reading.state === 'overload') return 'Too much for this scale.'
  if (reading.state === 'underload') return 'The scale reads below nothing: clear the pan and tare.'
  if (awaits === 'tare') return 'Put the tub on and press Tare.'
  if (awaits === 'zero') return hands.way === 'into-tub' ? 'Put the next tub on and press Tare.' : 'Clear the pan.'
  if (reading.load.wasThere && hands.isHandsFree) return 'It lay there before: tap its tub, or lift it.'
  if (reading.load.takenTenths > 0 && !reading.load.wasThere && hands.way !== 'into-tub') return 'Taken: lift it for the next.'
  const tare = reading.tareTenths > 0 ? `, tare ${weight(reading.tareTenths)}` : ''
  return `${reading.state === 'steady' ? 'Scale steady' : 'Scale moving'}${tare}`
}
