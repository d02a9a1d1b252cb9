import { PlaceTabs } from '../../ui/place-tabs.tsx'

const parts = [
  { to: '/walk-in', name: 'What is there', end: true },
  { to: '/walk-in/follow-ons', name: 'Made of it' },
  { to: '/walk-in/ways', name: 'Ways of making' },
  { to: '/walk-in/trace', name: 'Finding again' },
]

/** The parts of the Walk-in. */
export function WalkInTabs() {
  return <PlaceTabs name="Walk-in" parts={parts} />
}
