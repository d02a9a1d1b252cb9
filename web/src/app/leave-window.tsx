import Button from 'react-bootstrap/Button'
import Modal from 'react-bootstrap/Modal'

/** The question itself. */
export function LeaveWindow({ onStay, onLeave }: { onStay: () => void; onLeave: () => void }) {
  return (
    <Modal show onHide={onStay} centered animation={false} aria-labelledby="leave-question">
      <Modal.Header closeButton closeLabel="Stay">
        <Modal.Title as="h2" id="leave-question">
          Leave what you typed?
        </Modal.Title>
      </Modal.Header>
      <Modal.Body>It was not kept yet. Leaving lets it go.</Modal.Body>
      <Modal.Footer>
        <Button variant="plain" onClick={onLeave}>
          Leave it
        </Button>
        <Button variant="act" onClick={onStay} autoFocus>
          Stay here
        </Button>
      </Modal.Footer>
    </Modal>
  )
}
