import Button from 'react-bootstrap/Button'
import { Backspace } from 'react-bootstrap-icons'

interface PinPadProps {
  name: string
  pin: string
  busy: boolean
  onType: (pin: string) => void
  onEnter: () => void
}

const longest = 8
const figures = ['1', '2', '3', '4', '5', '6', '7', '8', '9']

/** A pad for a PIN, its keys large enough for wet fingers; a keyboard's figures and Enter do the same. */
export function PinPad({ name, pin, busy, onType, onEnter }: PinPadProps) {
  const type = (figure: string) => pin.length < longest && onType(pin + figure)
  function onKeyDown(event: React.KeyboardEvent) {
    if (/^\d$/.test(event.key)) type(event.key)
    else if (event.key === 'Backspace') onType(pin.slice(0, -1))
    else if (event.key !== 'Enter') return
    else onEnter()
    event.preventDefault()
  }
  const figureKey = (figure: string) => (
    <Button key={figure} variant="bare" className="pin-key" onClick={() => type(figure)}>
      {figure}
    </Button>
  )
  return (
    // biome-ignore lint/a11y/noNoninteractiveTabindex: the keyboard's figures go where the pad is
    <fieldset className="pin-pad" aria-label={`PIN of ${name}`} tabIndex={0} onKeyDown={onKeyDown} ref={(pad) => pad?.focus()}>
      <output className="pin-dots" aria-label={`${pin.length} figures typed`}>
        {'●'.repeat(pin.length) || '····'}
      </output>
      {figures.map(figureKey)}
      <Button variant="bare" className="pin-key" aria-label="Delete the last figure" onClick={() => onType(pin.slice(0, -1))}>
        <Backspace />
      </Button>
      {figureKey('0')}
      <Button variant="act" className="pin-key" disabled={busy || pin.length < 4} onClick={onEnter}>
        Enter
      </Button>
    </fieldset>
  )
}
