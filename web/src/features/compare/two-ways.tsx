import type { KitchenSettings } from '@fleam/contract/kitchen'
import { labourCost } from '@fleam/core/quantities/labour'
import { useState } from 'react'
import { SelectField } from '../../ui/fields.tsx'
import { useUnits } from '../../ui/units.ts'
import type { WayInParts } from './ways.ts'
import { shortName } from './words.ts'

/** Two ways of cutting one item: whether the dearer work pays, and up to how many minutes. */
export function TwoWays({ ways, settings }: { ways: readonly WayInParts[]; settings: KitchenSettings }) {
  const byMinutes = [...ways].sort((a, b) => b.minutes - a.minutes)
  const [firstId, setFirstId] = useState(byMinutes[0]?.sheet.id ?? '')
  const [secondId, setSecondId] = useState(byMinutes[1]?.sheet.id ?? '')
  const { money } = useUnits()
  const first = ways.find((way) => way.sheet.id === firstId) ?? ways[0]
  const second = ways.find((way) => way.sheet.id === secondId) ?? ways[1]
  if (!first || !second) return null
  const [longer, shorter] = first.minutes >= second.minutes ? [first, second] : [second, first]
  const gain =
    longer.value.value -
    longer.value.disposal -
    longer.value.consumables -
    (shorter.value.value - shorter.value.disposal - shorter.value.consumables)
  const minutes = longer.minutes - shorter.minutes
  const perMinute = settings.cutting.idleHands ? 0 : labourCost({ minutes: 1, ...settings.labour })
  const options = ways.map((way) => ({ value: way.sheet.id, label: way.sheet.body.name }))
  const noun = shortName(longer.item.name).toLowerCase()
  return (
    <section className="sheet">
      <h2>Is the longer way worth its minutes</h2>
      <div className="fields fields-two">
        <SelectField label="One way" value={first.sheet.id} options={options} onChange={setFirstId} />
        <SelectField label="The other" value={second.sheet.id} options={options} onChange={setSecondId} />
      </div>
      {first === second ? (
        <p>Choose two different ways.</p>
      ) : (
        <p className="step-answer">
          <b>{longer.sheet.body.name}</b> takes {minutes.toFixed(1)} min longer for a {noun} and brings parts worth{' '}
          <b>{money(Math.abs(gain))}</b> {gain >= 0 ? 'more' : 'less'} than {shorter.sheet.body.name}.{' '}
          {gain <= 0
            ? 'It is not worth any minute more.'
            : perMinute === 0
              ? 'With idle hands that is won.'
              : `It pays as long as it takes no more than ${(gain / perMinute).toFixed(1)} min longer: ${minutes < gain / perMinute ? 'it does pay' : 'it does not pay'}, by ${money(Math.abs(gain - minutes * perMinute))} a ${noun}.`}
        </p>
      )}
    </section>
  )
}
