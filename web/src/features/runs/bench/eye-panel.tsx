import { useState } from 'react'
import Button from 'react-bootstrap/Button'
import Form from 'react-bootstrap/Form'
import { WeightField } from '../../../ui/fields.tsx'
import { SidePanel } from '../../../ui/side-panel.tsx'
import { useUnits } from '../../../ui/units.ts'

interface EyePanelProps {
  said: number | undefined
  onSay: (tenths: number | undefined) => void
  onClose: () => void
}

/** What the next piece will weigh, said before it is on the pan. It holds nothing up: the piece is weighed as ever. */
export function EyePanel({ said, onSay, onClose }: EyePanelProps) {
  const { read, weight } = useUnits()
  const [typed, setTyped] = useState('')
  const parsed = read(typed)
  const isReady = parsed.ok && parsed.tenths > 0
  function keep(event: React.FormEvent) {
    event.preventDefault()
    if (!parsed.ok || parsed.tenths <= 0) return
    onSay(parsed.tenths)
    onClose()
  }
  return (
    <SidePanel title="By eye" onClose={onClose}>
      <Form className="stack" onSubmit={keep}>
        <p>Say what the next piece weighs, then weigh it as ever: how far off you were is told at the foot, and kept under School.</p>
        {said !== undefined && <p>Said: {weight(said)}.</p>}
        <WeightField label="You say" value={typed} onChange={setTyped} autoFocus />
        <div className="actions">
          <Button type="submit" variant="act" disabled={!isReady}>
            Say it
          </Button>
          {said !== undefined && (
            <Button
              variant="plain"
              onClick={() => {
                onSay(undefined)
                onClose()
              }}
            >
              Leave it
            </Button>
          )}
        </div>
      </Form>
    </SidePanel>
  )
}
