import { NavLink } from 'react-router'

/** The parts of the Yield log place. */
export function LogTabs() {
  return (
    <nav className="tabs no-print" aria-label="Yield log">
      <NavLink to="/log" end>
        Runs
      </NavLink>
      <NavLink to="/log/yield-book">Yield book</NavLink>
    </nav>
  )
}
