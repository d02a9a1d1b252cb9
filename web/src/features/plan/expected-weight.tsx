import { expectCut } from '@fleam/core/yield-book/expected-cut'
import { useState } from 'react'
import Button from 'react-bootstrap/Button'
import { useKitchen } from '../../api/queries.ts'
import { counted } from '../../ui/counted.ts'
import { numberOf, SelectField } from '../../ui/fields.tsx'
import { type PlanKind, useFittingCuts } from './fitting-cuts.ts'
import { MeasureField, usePlanUnits } from './plan-units.tsx'

/** What the kitchen's own tests lead one to expect of an item before it is trimmed: a weight to plan with. */
export function ExpectedWeight({ kind, onTake }: { kind: PlanKind; onTake: (grams: number) => void }) {
  const { settings } = useKitchen()
  const { written } = usePlanUnits()
  const [cut, setCut] = useState('')
  const [received, setReceived] = useState('')
  const cuts = useFittingCuts(kind)
  if (cuts.length === 0) return null
  const chosen = cuts.find(({ key }) => key === cut)
  const typed = received === '' ? undefined : numberOf(received)
  const next = { items: 1, grams: typed }
  const expected = chosen && expectCut(chosen.sheet.body, chosen.entry, 1, settings.cutting.priorTests, next)
  const mains = chosen?.sheet.body.outputs.filter((output) => output.role === 'main') ?? []
  const share = mains.reduce((sum, { key }) => sum + (expected?.shares.get(key)?.mean ?? 0), 0)
  const grams = typed ?? expected?.itemGrams.mean ?? 0
  const trimmed = Math.round((grams * share) / 100)
  return (
    <details className="expected-weight">
      <summary>Not trimmed yet: expect it from the yield book</summary>
      <div className="stack">
        <SelectField
          label="Item and cut sheet"
          value={cut}
          options={[
            { value: '', label: 'choose' },
            ...cuts.map(({ key, item, sheet, entry }) => ({
              value: key,
              label: `${item.name}: ${sheet.body.name} (${counted(entry.tests, 'test')})`,
            })),
          ]}
          onChange={setCut}
        />
        {chosen && expected && (
          <>
            <MeasureField
              of="g"
              label="Weight as received"
              value={received}
              onChange={setReceived}
              hint={`usually ${written('g', expected.itemGrams.mean)}`}
            />
            <Button variant="plain" disabled={!(trimmed > 0)} onClick={() => onTake(trimmed)}>
              Plan with {trimmed > 0 ? written('g', trimmed) : '–'}: {mains.map((output) => output.name.toLowerCase()).join(' and ')},{' '}
              {share.toFixed(1)} %
            </Button>
          </>
        )}
      </div>
    </details>
  )
}
