import { readyCutCost } from '@fleam/core/compare/ready-cut'
import { readyCutOf } from '@fleam/core/runs/run-record'
import { useQuery } from '@tanstack/react-query'
import Button from 'react-bootstrap/Button'
import { itemsQuery } from '../../api/queries.ts'
import { numberOf, SelectField, TextField } from '../../ui/fields.tsx'
import { useUnits } from '../../ui/units.ts'
import type { PlanFields, TypeEntry } from './plan-question.ts'
import { type Measured, MeasureField } from './plan-units.tsx'

/** Where the pin bones are cut out of a fillet. */
export function StripFields({ fields, change }: { fields: PlanFields; change: (fields: PlanFields) => void }) {
  const field = (key: keyof PlanFields['strip'], label: string) => (
    <MeasureField
      of="cm"
      label={label}
      value={fields.strip[key]}
      onChange={(value) => change({ ...fields, strip: { ...fields.strip, [key]: value } })}
    />
  )
  return (
    <fieldset className="plan-type">
      <legend>Pin-bone strip, cut out</legend>
      {field('from', 'From')}
      {field('to', 'To')}
      {field('width', 'Width')}
    </fieldset>
  )
}

interface TypeFieldsProps {
  type: TypeEntry
  change: (type: TypeEntry) => void
  remove: (() => void) | undefined
}

export function TypeFields({ type, change, remove }: TypeFieldsProps) {
  const field = (key: Exclude<keyof TypeEntry, 'place'>, label: string) => (
    <TextField
      label={label}
      value={type[key]}
      onChange={(value) => change({ ...type, [key]: value })}
      inputMode={key === 'name' ? 'text' : 'decimal'}
    />
  )
  const measure = (key: Exclude<keyof TypeEntry, 'place'>, of: Measured, label: string) => (
    <MeasureField of={of} label={label} value={type[key]} onChange={(value) => change({ ...type, [key]: value })} />
  )
  return (
    <fieldset className="plan-type">
      <legend className="visually-hidden">{type.name}</legend>
      {field('name', 'Kind')}
      {measure('target', 'g', 'Target')}
      {field('value', 'Worth each')}
      <WorthFromPrice targetGrams={numberOf(type.target)} onWorth={(value) => change({ ...type, value })} />
      {measure('from', 'g', 'From')}
      {measure('to', 'g', 'To')}
      {measure('face', 'cm', 'Face')}
      {measure('thin', 'mm', 'Thin')}
      {measure('thick', 'mm', 'Thick')}
      {field('least', 'At least')}
      {field('most', 'At most')}
      <SelectField
        label="Where"
        value={type.place}
        onChange={(place) => change({ ...type, place: place as TypeEntry['place'] })}
        options={[
          { value: '', label: 'anywhere' },
          { value: 'thick-end', label: 'thick end' },
          { value: 'thin-end', label: 'thin end' },
        ]}
      />
      {remove && (
        <Button variant="plain" onClick={remove}>
          Take {type.name} out
        </Button>
      )}
    </fieldset>
  )
}

/** What the same weight would cost ready-cut, as the worth of a piece. */
function WorthFromPrice({ targetGrams, onWorth }: { targetGrams: number; onWorth: (value: string) => void }) {
  const { money } = useUnits()
  const items = useQuery(itemsQuery)
  const priced = (items.data ?? []).flatMap((item) => {
    if (!item.readyCut || !item.latestQuote || !(targetGrams > 0)) return []
    return [{ id: item.id, name: item.name, worth: readyCutCost(readyCutOf(item.readyCut, item.latestQuote.price), targetGrams) }]
  })
  if (priced.length === 0) return null
  return (
    <SelectField
      label="As ready-cut"
      value=""
      onChange={(id) => {
        const chosen = priced.find((one) => one.id === id)
        if (chosen) onWorth(chosen.worth.toFixed(2))
      }}
      options={[{ value: '', label: 'as typed' }, ...priced.map((one) => ({ value: one.id, label: `${money(one.worth)} ${one.name}` }))]}
    />
  )
}
