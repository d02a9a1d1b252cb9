import { BarcodeFormat, BrowserMultiFormatReader } from '@zxing/browser'
import { useEffect, useRef, useState } from 'react'
import Modal from 'react-bootstrap/Modal'
import { Warning } from './notes.tsx'

const formats: Record<'label' | 'box', { detector: string[]; zxing: BarcodeFormat[] }> = {
  label: { detector: ['qr_code'], zxing: [BarcodeFormat.QR_CODE] },
  box: { detector: ['code_128', 'data_matrix'], zxing: [BarcodeFormat.CODE_128, BarcodeFormat.DATA_MATRIX] },
}

interface ScanCodeProps {
  title: string
  /** A label of Fleam's, or the code of a supplier's box. */
  of: keyof typeof formats
  onClose: () => void
  /** Takes what a code says; answers why it is none that is meant. */
  onCode: (code: string) => string | undefined
}

/** Reads a code with the tablet's camera. */
export function ScanCode({ title, of, onClose, onCode }: ScanCodeProps) {
  const video = useRef<HTMLVideoElement>(null)
  const take = useRef(onCode)
  take.current = onCode
  const [trouble, setTrouble] = useState<string>()
  useEffect(() => {
    let stop: () => void = () => undefined
    let isOver = false
    const onText = (text: string) => setTrouble(take.current(text))
    const reading = video.current ? readCodes(video.current, formats[of], onText) : Promise.reject(new Error())
    reading.then(
      (end) => {
        stop = end
        if (isOver) stop()
      },
      () =>
        setTrouble(
          'The camera cannot be used here: allow it for this page, or type what stands below the code. Without HTTPS browsers give no camera.',
        ),
    )
    return () => {
      isOver = true
      stop()
    }
  }, [of])
  return (
    <Modal show onHide={onClose} centered aria-label={title}>
      <Modal.Header closeButton>
        <Modal.Title as="h2">{title}</Modal.Title>
      </Modal.Header>
      <Modal.Body>
        <video ref={video} className="scan-view" muted playsInline />
        {trouble && <Warning>{trouble}</Warning>}
      </Modal.Body>
    </Modal>
  )
}

/** What browsers that read codes by themselves bring. */
interface Detector {
  detect(source: HTMLVideoElement): Promise<{ rawValue: string }[]>
}
type DetectorClass = { new (options: { formats: string[] }): Detector; getSupportedFormats(): Promise<string[]> }
const lookMs = 150
const camera = { video: { facingMode: 'environment' } }

/** @returns what ends the reading */
async function readCodes(
  video: HTMLVideoElement,
  { detector, zxing }: (typeof formats)['box'],
  onText: (text: string) => void,
): Promise<() => void> {
  const { BarcodeDetector } = globalThis as { BarcodeDetector?: DetectorClass }
  const known = await BarcodeDetector?.getSupportedFormats().catch(() => [])
  if (!BarcodeDetector || !detector.every((format) => (known ?? ([] as string[])).includes(format))) {
    const reader = new BrowserMultiFormatReader()
    reader.possibleFormats = zxing
    const controls = await reader.decodeFromConstraints(camera, video, (result) => result && onText(result.getText()))
    return () => controls.stop()
  }
  const stream = await navigator.mediaDevices.getUserMedia(camera)
  video.srcObject = stream
  await video.play()
  const reads = new BarcodeDetector({ formats: [...detector] })
  const looking = setInterval(() => {
    void reads.detect(video).then(
      ([code]) => code && onText(code.rawValue),
      () => undefined,
    )
  }, lookMs)
  return () => {
    clearInterval(looking)
    for (const track of stream.getTracks()) track.stop()
  }
}
