import { useHasRole } from '../../api/queries.ts'
import { PlaceTabs } from '../../ui/place-tabs.tsx'

const parts = [
  { to: '/kitchen/prices', name: 'Prices' },
  { to: '/kitchen/people', name: 'People' },
  { to: '/kitchen/dishes', name: 'Dishes' },
  { to: '/kitchen/limits', name: 'Units, labour, limits' },
]

const ofManagers = [
  { to: '/kitchen/tablets', name: 'Tablets' },
  { to: '/kitchen/changes', name: 'What was changed' },
  { to: '/kitchen/side-by-side', name: 'Side by side' },
]

/** The parts of the Kitchen place. */
export function KitchenTabs() {
  const isManager = useHasRole('manager')
  return <PlaceTabs name="Kitchen" parts={isManager ? [...parts, ...ofManagers] : parts} />
}
