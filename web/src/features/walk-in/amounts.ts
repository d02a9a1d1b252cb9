import type { Lot } from '@fleam/contract/walk-in'
import { amountText as amountIn, portionsText } from '@fleam/core/walk-in/amount-text'
import { numberOf } from '../../ui/fields.tsx'
import type { unitsOf } from '../../ui/units.ts'

type Units = ReturnType<typeof unitsOf>
type Unit = Lot['unit']

/** An amount in the kitchen's own units. */
export const amountText = ({ weightSystem }: Pick<Units, 'weightSystem'>, unit: Unit, tenths: number): string =>
  amountIn(unit, tenths, weightSystem)

export { portionsText }

/** What was typed of an amount, in tenths of its unit; `undefined` where it is none. */
export function tenthsTyped({ read }: Units, unit: Unit, text: string): number | undefined {
  if (unit === 'g') {
    const parsed = read(text)
    return parsed.ok ? parsed.tenths : undefined
  }
  const [, figure = '', word = ''] = /^([\d.,]{1,12}) ?(l|ml)?$/i.exec(text.trim()) ?? []
  const number = numberOf(figure)
  if (!(number > 0)) return undefined
  if (unit === 'piece') return word === '' ? Math.round(number * 10) : undefined
  return Math.round(number * (word.toLowerCase() === 'ml' ? 10 : 10_000))
}

/** What is typed where an amount is asked for. */
export const amountHint: Record<Unit, string> = { g: 'such as 450, 1.2 kg', ml: 'litres, or with its unit: 1.5, 500 ml', piece: 'pieces' }

/** What is left of a lot, in money; `undefined` until its run is finished. */
export const moneyLeft = ({ cost, leftTenths, packedTenths }: Lot): number | undefined =>
  cost === null ? undefined : (cost * leftTenths) / packedTenths
