import { PlaceTabs } from '../../ui/place-tabs.tsx'

export function PlanTabs() {
  return (
    <PlaceTabs
      name="What is planned"
      parts={[
        { to: '/plan', name: 'A muscle', end: true },
        { to: '/plan/fillet', name: 'A fillet' },
        { to: '/plan/rack', name: 'A rack' },
        { to: '/plan/pair', name: 'Two, bonded' },
      ]}
    />
  )
}
