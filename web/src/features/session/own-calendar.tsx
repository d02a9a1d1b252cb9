import { useState } from 'react'
import Button from 'react-bootstrap/Button'
import { send } from '../../api/http.ts'
import { TextField } from '../../ui/fields.tsx'
import { Warning } from '../../ui/notes.tsx'
import { say } from '../../ui/toasts.ts'
import { useChange } from '../../ui/use-change.ts'

/** The secret address under which any calendar program reads what one has to do; it is shown once. */
export function OwnCalendar({ hasCalendar }: { hasCalendar: boolean }) {
  const [address, setAddress] = useState<string>()
  const [isDropped, setIsDropped] = useState(false)
  const renew = useChange<void, { path: string }>({ send: () => send('POST', '/account/calendar') })
  const drop = useChange({ send: () => send('DELETE', '/account/calendar') })
  const isThere = address !== undefined || (hasCalendar && !isDropped)
  return (
    <section className="stack">
      <h2>Your calendar</h2>
      <p>
        A calendar program that is given this address shows what you have to do on planned days, and keeps it up to date. Who knows the
        address reads it: give it to nobody, and make a new one when it got about.
      </p>
      {address && <TextField label="Copy it now: it is shown only once" value={address} onChange={() => undefined} />}
      {isThere && !address && <p>There is an address. It cannot be shown again; a new one takes its place.</p>}
      {(renew.trouble ?? drop.trouble) && <Warning>{renew.trouble ?? drop.trouble}</Warning>}
      <div className="actions">
        <Button
          variant="plain"
          disabled={renew.busy}
          onClick={async () => {
            const answer = await renew.change()
            if (!answer) return
            setAddress(`${location.origin}${answer.path}`)
            setIsDropped(false)
          }}
        >
          {isThere ? 'Make a new address' : 'Make an address'}
        </Button>
        {isThere && (
          <Button
            variant="plain"
            disabled={drop.busy}
            onClick={async () => {
              if ((await drop.change()) === undefined && drop.trouble) return
              setAddress(undefined)
              setIsDropped(true)
              say('The address opens nothing any more.')
            }}
          >
            Take it away
          </Button>
        )}
      </div>
    </section>
  )
}
