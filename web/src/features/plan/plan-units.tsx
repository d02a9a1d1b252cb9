import { gramsPer, type WeightSystem } from '@fleam/core/quantities/weight'
import { useState } from 'react'
import { numberOf, TextField } from '../../ui/fields.tsx'
import { useUnits } from '../../ui/units.ts'

/** What is measured in a plan. It is kept and planned in these units, whatever the kitchen writes. */
export type Measured = 'cm' | 'mm' | 'g' | 'a kg'

/** What a kitchen writes instead, how much of the plan's unit that is, and to how many places it is written. */
type Unit = { name: string; per: number; places: number }

const metric: Record<Measured, Unit> = {
  cm: { name: 'cm', per: 1, places: 1 },
  mm: { name: 'mm', per: 1, places: 0 },
  g: { name: 'g', per: 1, places: 0 },
  'a kg': { name: 'a kg', per: 1, places: 2 },
}
const imperial: Record<Measured, Unit> = {
  cm: { name: 'in', per: 2.54, places: 1 },
  mm: { name: 'in', per: 25.4, places: 1 },
  g: { name: 'oz', per: gramsPer.oz, places: 1 },
  'a kg': { name: 'a lb', per: gramsPer.kg / gramsPer.lb, places: 2 },
}

const figures = /\d+(?:[.,]\d+)?/g
const rounded = (value: number, places: number) => String(Number(value.toFixed(places)))

/** How a kitchen writes what is measured in a plan: inches and ounces to a tenth, or centimetres and grams. */
export function planUnits(system: WeightSystem) {
  const isMetric = system === 'metric'
  const units = isMetric ? metric : imperial
  const figure = (of: Measured, value: number) => rounded(value / units[of].per, units[of].places)
  return {
    isMetric,
    unitOf: (of: Measured) => units[of].name,
    figure,
    /** With its unit. */
    written: (of: Measured, value: number) => `${figure(of, value)} ${units[of].name}`,
    /** Every figure of a field, from the plan's unit to the kitchen's and back. */
    shown: (of: Measured, text: string) => (isMetric ? text : text.replace(figures, (one) => figure(of, numberOf(one)))),
    kept: (of: Measured, text: string) => (isMetric ? text : text.replace(figures, (one) => rounded(numberOf(one) * units[of].per, 2))),
    /** A sentence of the plan's own, its lengths and weights as the kitchen writes them. */
    said: (sentence: string) =>
      isMetric
        ? sentence
        : sentence.replace(
            /(?<![\d.])(\d{1,9}(?:\.\d{1,9})?) (cm|mm|g)\b/g,
            (_, value, of) => `${figure(of, Number(value))} ${units[of as Measured].name}`,
          ),
  }
}

export const usePlanUnits = () => planUnits(useUnits().weightSystem)

/** A field in the kitchen's units over a value in the plan's: what is being typed stays as it is typed. */
export function useMeasured(of: Measured, value: string, onChange: (value: string) => void) {
  const { shown, kept } = usePlanUnits()
  const [typed, setTyped] = useState<{ text: string; kept: string }>()
  return {
    value: typed?.kept === value ? typed.text : shown(of, value),
    onChange(text: string) {
      setTyped({ text, kept: kept(of, text) })
      onChange(kept(of, text))
    },
  }
}

interface MeasureFieldProps {
  of: Measured
  /** Without its unit, which is put after it. */
  label: string
  value: string
  onChange: (value: string) => void
  hint?: string
}

export function MeasureField({ of, label, value, onChange, hint }: MeasureFieldProps) {
  const { unitOf } = usePlanUnits()
  const field = useMeasured(of, value, onChange)
  return <TextField label={`${label}, ${unitOf(of)}`} {...field} inputMode="decimal" hint={hint} />
}
