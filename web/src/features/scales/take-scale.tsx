import Button from 'react-bootstrap/Button'
import { useUnits } from '../../ui/units.ts'
import { useLatestReading } from './latest-reading.ts'
import { useScale } from './use-scale.ts'

/** Takes what lies still on the bench's scale, with one tap; nothing is shown while nothing does. */
export function TakeScale({ onTake }: { onTake: (weight: string) => void }) {
  const { weight } = useUnits()
  const scale = useScale(() => undefined)
  const reading = useLatestReading(scale.latest)
  if (reading?.state !== 'steady' || reading.tenths <= 0) return null
  const text = weight(reading.tenths)
  return (
    <Button variant="plain" onClick={() => onTake(text)}>
      Take the scale’s {text} as received
    </Button>
  )
}
