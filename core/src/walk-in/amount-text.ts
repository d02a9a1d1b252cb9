import { formatWeight } from '../quantities/format-weight.ts'
import type { Tenths, WeightSystem } from '../quantities/weight.ts'

/**
 * Tenths of a unit as a cook says them: grams as the kitchen weighs, millilitres as litres, pieces counted.
 * @example amountText('ml', 15_000, 'metric') // '1.5 l'
 * @example amountText('piece', 10, 'metric') // '1 piece'
 */
export function amountText(unit: 'g' | 'ml' | 'piece', tenths: Tenths, weightSystem: WeightSystem): string {
  if (unit === 'g') return formatWeight(tenths, weightSystem)
  if (unit === 'piece') return tenths === 10 ? '1 piece' : `${tenths / 10} pieces`
  return tenths >= 10_000 ? `${Number((tenths / 10_000).toFixed(2))} l` : `${tenths / 10} ml`
}

/**
 * Portions, counted in words.
 * @example portionsText(1) // '1 portion'
 */
export const portionsText = (portions: number): string => (portions === 1 ? '1 portion' : `${portions} portions`)
