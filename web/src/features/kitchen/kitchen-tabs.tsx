import { NavLink } from 'react-router'
import { useHasRole } from '../../api/queries.ts'

/** The parts of the Kitchen place. */
export function KitchenTabs() {
  const isManager = useHasRole('manager')
  return (
    <nav className="tabs" aria-label="Kitchen">
      <NavLink to="/kitchen/prices">Prices</NavLink>
      <NavLink to="/kitchen/people">People</NavLink>
      <NavLink to="/kitchen/dishes">Dishes</NavLink>
      <NavLink to="/kitchen/limits">Units, labour, limits</NavLink>
      {isManager && <NavLink to="/kitchen/changes">What was changed</NavLink>}
    </nav>
  )
}
