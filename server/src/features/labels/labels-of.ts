import type { Kitchen } from '@fleam/contract/kitchen'
import type { Lot } from '@fleam/contract/walk-in'
import { amountText, portionsText } from '@fleam/core/walk-in/amount-text'
import type { Label } from './write-labels.ts'

/** What the labels of these lots say, as the kitchen writes it. @param origin where Fleam's pages are, for the code */
export function labelsOf(lots: readonly Lot[], { settings }: Pick<Kitchen, 'settings'>, origin: string): Label[] {
  const { weightSystem, locale } = settings
  const day = new Intl.DateTimeFormat(locale, { day: 'numeric', month: 'short', year: 'numeric', timeZone: 'UTC' })
  return lots.map((lot) => ({
    name: lot.name,
    of: lot.run?.item ?? '',
    amount: [amountText(lot.unit, lot.leftTenths, weightSystem), lot.leftPortions === null ? '' : portionsText(lot.leftPortions)]
      .filter(Boolean)
      .join(' · '),
    lot: `Lot ${lot.number}`,
    packed: day.format(new Date(lot.packedOn)),
    useBy: day.format(new Date(lot.useBy)),
    allergens: lot.allergens.join(', '),
    isFormed: lot.isFormed,
    state: lot.state,
    by: lot.by.name,
    address: `${origin}/walk-in/${lot.id}`,
  }))
}
