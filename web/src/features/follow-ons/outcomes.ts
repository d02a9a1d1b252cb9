import type { FollowOn, FollowOnSheetEntry } from '@fleam/contract/follow-ons'
import type { FollowOnSheet } from '@fleam/core/follow-ons/follow-on-sheets'
import type { useUnits } from '../../ui/units.ts'
import { amountText } from '../walk-in/amounts.ts'

/** A tub of a follow-on. */
export interface Outcome {
  key: string
  /** By which its weighings know it; `null` is the whole piece on the way. */
  output: string | null
  name: string
  role: FollowOnSheet['outputs'][number]['role']
  unit: FollowOnSheet['outputs'][number]['unit']
  /** Tenths between which nine of ten come out, and how many of the kitchen's own say so. */
  expected: { low: number; high: number; tests: number } | undefined
}

export const gramsIn = ({ inputs }: Pick<FollowOn, 'inputs'>): number =>
  inputs.filter(({ lot }) => lot.unit === 'g').reduce((sum, { tenths }) => sum + tenths, 0) / 10

/** The tubs of a follow-on: what its sheet makes, what else was weighed, and the whole of it where it is weighed on the way. */
export function outcomesOf(followOn: FollowOn, sheet: FollowOnSheet, book: FollowOnSheetEntry['book'] | undefined): Outcome[] {
  const grams = gramsIn(followOn)
  const all = grams * (1 + sheet.added.reduce((sum, { pctOfInput = 0 }) => sum + pctOfInput, 0) / 100)
  const named = sheet.outputs.map(({ name, role, unit, yieldPct, per }): Outcome => {
    const from = (per === 'all' ? all : grams) * 0.1
    const share = book?.outputs.find((one) => one.name === name)?.share
    const { low, high } = share && share.tests > 0 ? share : yieldPct
    const isKnown = sheet.key !== 'own' && grams > 0
    return {
      key: name || followOn.name,
      output: name || followOn.name,
      name: name || followOn.name,
      role,
      unit,
      expected: isKnown ? { low: from * Math.max(0, low), high: from * high, tests: share?.tests ?? 0 } : undefined,
    }
  })
  const known = new Set(named.map(({ output }) => output))
  const others = [...new Set(followOn.body.weighings.flatMap(({ output }) => (output && !known.has(output) ? [output] : [])))]
  return [
    ...(sheet.doneAtLossPct === undefined
      ? []
      : [{ key: 'on the way', output: null, name: 'On the way', role: 'main', unit: 'g', expected: undefined } as const]),
    ...named,
    ...others.map((name): Outcome => ({ key: name, output: name, name, role: 'coproduct', unit: 'g', expected: undefined })),
  ]
}

export function expectedText(units: ReturnType<typeof useUnits>, { unit, expected }: Outcome): string {
  if (!expected) return ''
  const text = (tenths: number) => amountText(units, unit, unit === 'g' ? Math.round(tenths / 100) * 100 : Math.round(tenths / 10) * 10)
  const whose = expected.tests > 0 ? `here, ${expected.tests} times` : 'usually'
  return `${whose} ${text(expected.low)} to ${text(expected.high)}`
}
