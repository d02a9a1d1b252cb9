import { BrowserQRCodeReader } from '@zxing/browser'
import { useEffect, useRef, useState } from 'react'
import Modal from 'react-bootstrap/Modal'
import { Warning } from '../../ui/notes.tsx'

interface ScanLabelProps {
  onClose: () => void
  /** Takes what a code says; answers why it is none that is meant. */
  onCode: (code: string) => string | undefined
}

/** Reads a label with the tablet's camera. */
export function ScanLabel({ onClose, onCode }: ScanLabelProps) {
  const video = useRef<HTMLVideoElement>(null)
  const take = useRef(onCode)
  take.current = onCode
  const [trouble, setTrouble] = useState<string>()
  useEffect(() => {
    let stop = () => undefined as unknown
    let isOver = false
    const reading = new BrowserQRCodeReader().decodeFromConstraints(
      { video: { facingMode: 'environment' } },
      video.current ?? undefined,
      (result) => {
        if (result) setTrouble(take.current(result.getText()))
      },
    )
    reading.then(
      (controls) => {
        stop = () => controls.stop()
        if (isOver) stop()
      },
      () =>
        setTrouble(
          'The camera cannot be used here: allow it for this page, or type the lot’s number. Without HTTPS browsers give no camera.',
        ),
    )
    return () => {
      isOver = true
      stop()
    }
  }, [])
  return (
    <Modal show onHide={onClose} centered aria-label="Scan a label">
      <Modal.Header closeButton>
        <Modal.Title as="h2">Hold the label before the camera</Modal.Title>
      </Modal.Header>
      <Modal.Body>
        <video ref={video} className="scan-view" muted playsInline />
        {trouble && <Warning>{trouble}</Warning>}
      </Modal.Body>
    </Modal>
  )
}
