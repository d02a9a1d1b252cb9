import Nav from 'react-bootstrap/Nav'
import { NavLink } from 'react-router'

/** The parts of one place, the open one marked. */
export function PlaceTabs({ name, parts }: { name: string; parts: readonly { to: string; name: string; end?: boolean }[] }) {
  return (
    <Nav as="nav" variant="pills" className="tabs no-print" aria-label={name}>
      {parts.map((part) => (
        <Nav.Link key={part.to} as={NavLink} to={part.to} end={part.end ?? false}>
          {part.name}
        </Nav.Link>
      ))}
    </Nav>
  )
}
