import { useSyncExternalStore } from 'react'
import Button from 'react-bootstrap/Button'
import Toast from 'react-bootstrap/Toast'
import ToastContainer from 'react-bootstrap/ToastContainer'
import { messageOf } from '../api/http.ts'
import { readSaid, type Said, say, unsay, watchSaid } from '../ui/toasts.ts'

/** How long a word with an undo stays. */
const shownMs = 8000

/** What was just done, at the foot of the page, with its undo. */
export function Toasts() {
  const said = useSyncExternalStore(watchSaid, readSaid)
  async function takeBack({ id, undo }: Said) {
    unsay(id)
    try {
      await undo?.()
      say('Taken back.')
    } catch (error) {
      say(`Not taken back: ${messageOf(error)}`)
    }
  }
  return (
    <ToastContainer className="toasts">
      {said.map((one) => (
        <Toast key={one.id} onClose={() => unsay(one.id)} autohide delay={shownMs} animation={false} role="status">
          <Toast.Body className="toast-words">
            {one.words}
            {one.undo && (
              <Button variant="line" onClick={() => takeBack(one)}>
                Undo
              </Button>
            )}
          </Toast.Body>
        </Toast>
      ))}
    </ToastContainer>
  )
}
