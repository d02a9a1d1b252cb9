import { PlaceTabs } from '../../ui/place-tabs.tsx'

/** The parts of one day. */
export function DayTabs({ id }: { id: string }) {
  return (
    <PlaceTabs
      name="Parts of the day"
      parts={[
        { to: `/days/${id}`, name: 'What to buy and cut', end: true },
        { to: `/days/${id}/hands`, name: 'Who and where' },
        { to: `/days/${id}/schedule`, name: 'When it starts' },
        { to: `/days/${id}/sheets`, name: 'Sheets' },
      ]}
    />
  )
}
