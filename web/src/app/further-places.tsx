import type { PersonRole } from '@fleam/contract/roles'
import Dropdown from 'react-bootstrap/Dropdown'
import { NavLink, useLocation } from 'react-router'
import { placesOf } from './places.ts'

/** The places that a short bar has no room for. */
export function FurtherPlaces({ role }: { role: PersonRole }) {
  const { pathname } = useLocation()
  const further = placesOf(role).filter(({ isNear }) => !isNear)
  const here = further.find(({ to }) => pathname.startsWith(to))
  return (
    <Dropdown className="further-places">
      <Dropdown.Toggle variant="bare" className={here ? 'active' : ''}>
        {here?.name ?? 'More'}
      </Dropdown.Toggle>
      <Dropdown.Menu>
        {further.map(({ to, name }) => (
          <Dropdown.Item key={to} as={NavLink} to={to}>
            {name}
          </Dropdown.Item>
        ))}
      </Dropdown.Menu>
    </Dropdown>
  )
}
