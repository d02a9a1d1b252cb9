import { PlaceTabs } from '../../ui/place-tabs.tsx'

const parts = [
  { to: '/compare', name: 'Cut or buy', end: true },
  { to: '/compare/parts', name: 'Value in parts' },
  { to: '/compare/steps', name: 'Is a step worth it' },
  { to: '/compare/suppliers', name: 'Which supplier' },
]

/** The parts of the Compare place. */
export function CompareTabs() {
  return <PlaceTabs name="Compare" parts={parts} />
}
