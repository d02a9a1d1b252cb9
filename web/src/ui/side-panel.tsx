import type { ReactNode } from 'react'
import Offcanvas from 'react-bootstrap/Offcanvas'
import { askBeforeLeaving } from './unsaved.ts'

interface SidePanelProps {
  title: string
  onClose: () => void
  isWide?: boolean
  children: ReactNode
}

/** A panel at the side that the page stays visible beside; Escape closes it. */
export function SidePanel({ title, onClose, isWide = false, children }: SidePanelProps) {
  return (
    <Offcanvas show onHide={() => askBeforeLeaving(onClose)} placement="end" aria-label={title} className={isWide ? 'panel-wide' : ''}>
      <Offcanvas.Header closeButton>
        <Offcanvas.Title as="h2">{title}</Offcanvas.Title>
      </Offcanvas.Header>
      <Offcanvas.Body>{children}</Offcanvas.Body>
    </Offcanvas>
  )
}
