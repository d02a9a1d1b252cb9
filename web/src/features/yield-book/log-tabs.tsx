import { PlaceTabs } from '../../ui/place-tabs.tsx'

const parts = [
  { to: '/log', name: 'Runs', end: true },
  { to: '/log/yield-book', name: 'Yield book' },
  { to: '/log/day', name: 'Day’s record' },
  { to: '/log/claims', name: 'Claims' },
]

/** The parts of the Yield log place. */
export function LogTabs() {
  return <PlaceTabs name="Yield log" parts={parts} />
}
