import type { ReactNode } from 'react'
import Offcanvas from 'react-bootstrap/Offcanvas'

/** A panel at the side that the page stays visible beside; Escape closes it. */
export function SidePanel({ title, onClose, children }: { title: string; onClose: () => void; children: ReactNode }) {
  return (
    <Offcanvas show onHide={onClose} placement="end" aria-label={title}>
      <Offcanvas.Header closeButton>
        <Offcanvas.Title as="h2">{title}</Offcanvas.Title>
      </Offcanvas.Header>
      <Offcanvas.Body>{children}</Offcanvas.Body>
    </Offcanvas>
  )
}
