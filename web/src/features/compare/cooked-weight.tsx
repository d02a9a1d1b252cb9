import type { ComparisonBody } from '@fleam/contract/compare'
import { keptInThePan } from '@fleam/core/compare/kept-in-the-pan'
import { quoteInput } from '@fleam/core/compare/portion-case'
import { useQuery } from '@tanstack/react-query'
import { cookingTestsQuery } from '../../api/queries.ts'
import { counted } from '../../ui/counted.ts'
import { CheckField } from '../../ui/fields.tsx'
import { percentText } from '../../ui/units.ts'
import type { OpenPortion } from './open-portion.ts'

interface CookedWeightProps {
  open: OpenPortion
  base: Readonly<Record<string, number>>
  changed: ComparisonBody['changed']
  onChange: (change: Partial<ComparisonBody>) => void
}

/** Whether the served weight is meant raw, or cooked as it lies on the plate: then each side loses its own in the pan. */
export function CookedWeight({ open, base, changed, onChange }: CookedWeightProps) {
  const { data } = useQuery(cookingTestsQuery)
  const { animal } = open.item
  const test = data?.find((one) => one.outputKey === open.output.key && one.animal === animal)
  const keptPct = keptInThePan(animal, test)
  const pans = ['panLossPct', ...open.quotes.map(({ id }) => quoteInput(id, 'pan'))]
  const isCooked = pans.some((name) => name in changed)

  function ask(cooked: boolean) {
    const others = Object.fromEntries(Object.entries(changed).filter(([name]) => name !== 'portionGrams' && !pans.includes(name)))
    if (!cooked) return onChange({ changed: others })
    const lost = Math.round((100 - keptPct) * 10) / 10
    const portionGrams = Math.round(((changed.portionGrams ?? base.portionGrams ?? 0) * (100 - lost)) / 100)
    onChange({ changed: { ...others, portionGrams, ...Object.fromEntries(pans.map((name) => [name, lost])) } })
  }

  return (
    <div>
      <CheckField label="The served weight is meant cooked, as it lies on the plate" value={isCooked} onChange={ask} />
      <p className="field-hint">
        {test
          ? `${percentText(keptPct)} is kept in the pan, by ${counted(test.tests, 'cooking test')} of this kitchen.`
          : `Usually ${percentText(keptPct, 0)} is kept in the pan; a cooking test in the Walk-in says what it is here.`}{' '}
        The loss of each ready-cut piece stands under its name: it may be another.
      </p>
    </div>
  )
}
