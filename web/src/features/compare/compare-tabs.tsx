import { NavLink } from 'react-router'

/** The parts of the Compare place. */
export function CompareTabs() {
  return (
    <nav className="tabs no-print" aria-label="Compare">
      <NavLink to="/compare" end>
        Cut or buy
      </NavLink>
      <NavLink to="/compare/parts">Value in parts</NavLink>
      <NavLink to="/compare/steps">Is a step worth it</NavLink>
    </nav>
  )
}
