import { registerSW } from 'virtual:pwa-register'
import { useEffect, useState } from 'react'
import Button from 'react-bootstrap/Button'
import Toast from 'react-bootstrap/Toast'
import ToastContainer from 'react-bootstrap/ToastContainer'

/** Keeps the pages on the tablet; offers a newer build when there is one, and takes it only when a person says so. */
export function NewerPages() {
  const [take, setTake] = useState<() => void>()
  useEffect(() => {
    const update = registerSW({ onNeedRefresh: () => setTake(() => () => void update(true)) })
  }, [])
  if (!take) return null
  return (
    <ToastContainer position="bottom-end" className="p-fixed" containerPosition="fixed">
      <Toast onClose={() => setTake(undefined)} animation={false}>
        <Toast.Header closeLabel="Later">
          <strong>A newer Fleam is ready</strong>
        </Toast.Header>
        <Toast.Body>
          <p>Whatever is open stays as it is until you take it; what waits on this tablet is kept.</p>
          <Button variant="act" onClick={take}>
            Take it now
          </Button>
        </Toast.Body>
      </Toast>
    </ToastContainer>
  )
}
