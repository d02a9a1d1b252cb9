import { PlaceTabs } from '../../ui/place-tabs.tsx'

const parts = [
  { to: '/school', name: 'Practise', end: true },
  { to: '/school/eye', name: 'By eye' },
  { to: '/school/cut', name: 'Cut on screen' },
  { to: '/school/classes', name: 'Classes' },
  { to: '/school/pace', name: 'Pace' },
  { to: '/school/progress', name: 'Progress' },
]

export const SchoolTabs = () => <PlaceTabs name="School" parts={parts} />
