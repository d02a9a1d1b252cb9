import type { KitchenSettings } from '@fleam/contract/kitchen'
import { currencyDecimals, formatMoney } from '@fleam/core/quantities/format-money'
import { formatWeight, writeWeight } from '@fleam/core/quantities/format-weight'
import { parseWeight } from '@fleam/core/quantities/parse-weight'
import type { Price } from '@fleam/core/quantities/price'
import { gramsPerPound, tenthsOf, type WeightUnit } from '@fleam/core/quantities/weight'
import { useKitchen } from '../api/queries.ts'

/** How this kitchen writes and reads weights and money. */
export const useUnits = () => unitsOf(useKitchen().settings)

export function unitsOf({ currency, weightSystem }: Pick<KitchenSettings, 'currency' | 'weightSystem'>) {
  const defaultUnit: WeightUnit = weightSystem === 'metric' ? 'g' : 'oz'
  const perUnit = weightSystem === 'metric' ? 'kg' : 'lb'
  const money = (amount: number) => formatMoney(amount, currency)
  return {
    currency,
    weightSystem,
    defaultUnit,
    decimals: currencyDecimals(currency),
    money,
    weight: (tenths: number) => formatWeight(tenths, weightSystem),
    weightParts: (tenths: number) => writeWeight(tenths, weightSystem),
    grams: (grams: number) => formatWeight(tenthsOf(grams), weightSystem),
    read: (text: string) => parseWeight(text, defaultUnit),
    /** A bare number gets the kitchen's unit, so that what is sent always says its own. */
    withUnit: (text: string) => (/[a-z]/i.test(text) || text.trim() === '' ? text : `${text.trim()} ${defaultUnit}`),
    /** Money per kg, written per kg or per lb as the kitchen weighs. */
    perWeight: (perKg: number) => `${money(weightSystem === 'metric' ? perKg : (perKg * gramsPerPound) / 1000)} / ${perUnit}`,
    price: (price: Price) => {
      if (price.per !== 'case') return `${money(price.amount)} / ${price.per === 'each' ? 'piece' : price.per}`
      const holds = [price.count && `${price.count} pieces`, price.grams && formatWeight(tenthsOf(price.grams), weightSystem)]
      return `${money(price.amount)} / case of ${holds.filter(Boolean).join(', ')}`
    },
    perUnit,
    perKgFrom: (amount: number) => (weightSystem === 'metric' ? amount : (amount / gramsPerPound) * 1000),
    fromPerKg: (perKg: number) => (weightSystem === 'metric' ? perKg : (perKg * gramsPerPound) / 1000),
  }
}

export function percentText(value: number, decimals = 1): string {
  return `${value.toFixed(decimals).replace('-', '−')} %`
}
