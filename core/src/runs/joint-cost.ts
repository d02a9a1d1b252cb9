import { InputError } from '../input-error.ts'
import type { Output } from './output.ts'

/** Three schools of sharing what was paid for a whole among what was cut from it. */
export const jointCostMethods = ['byproduct-credit', 'sales-value', 'weight'] as const
export type JointCostMethod = (typeof jointCostMethods)[number]

export interface SharedCost {
  /** Value of the credited outputs less their separable cost. */
  credit: number
  /** Gross less credit: what the outputs that carry cost have to bear. */
  net: number
  /** Cost of each output, in the order given. */
  costs: number[]
}

/**
 * Shares a gross cost among outputs.
 * - `byproduct-credit`: co-products and by-products are credited at their value; mains share the net, first between their
 *   kinds by weight × value per kg where there are several, then by weight within a kind.
 * - `sales-value`: by-products are credited; mains and co-products share in proportion to max(0, value − separable cost).
 * - `weight`: as `sales-value`, in proportion to weight.
 *
 * Where nothing that carries cost is worth more than its separable cost, `sales-value` has no proportion to go by and
 * shares by weight, so that no cost goes missing. A separable cost is added after the sharing to the output that caused
 * it. A credited output carries its own value; waste carries nothing. Where nothing that carries cost has been weighed,
 * nothing is shared.
 *
 * Source: cost accounting, joint products: sales value at split-off, physical measure, by-product credit.
 *
 * @throws InputError where `sales-value` meets an output that has weight and no value per kg, or several kinds of mains one
 *   of which has none
 * @example shareJointCost('weight', 90, [{ id: 'a', name: 'Breast', role: 'main', grams: 600 }, { id: 'b', name: 'Leg', role: 'main', grams: 300 }]).costs // [60, 30]
 */
export function shareJointCost(method: JointCostMethod, gross: number, outputs: readonly Output[]): SharedCost {
  const carries = (output: Output) => output.role === 'main' || (output.role === 'coproduct' && method !== 'byproduct-credit')
  const credit = outputs.reduce(
    (sum, output) => (carries(output) || output.role === 'waste' ? sum : sum + worthOf(output) - (output.separableCost ?? 0)),
    0,
  )
  const net = gross - credit
  const perKgOfKind = method === 'byproduct-credit' ? valuesOfKinds(outputs) : undefined
  const sharesBy = (basis: JointCostMethod) =>
    outputs.map((output, index) => {
      if (!carries(output)) return 0
      if (basis === 'sales-value') return netWorthOf(output, index)
      return output.grams * (basis === 'weight' ? 1 : (perKgOfKind?.get(output.kind) ?? 1))
    })
  const proportion = sharesBy(method)
  const weights = proportion.some((share) => share > 0) ? proportion : sharesBy('weight')
  const total = weights.reduce((sum, weight) => sum + weight, 0)
  const costs = outputs.map((output, index) => {
    if (output.role === 'waste') return 0
    if (!carries(output)) return worthOf(output)
    const share = total > 0 ? (net * (weights[index] ?? 0)) / total : 0
    return share + (output.separableCost ?? 0)
  })
  return { credit, net, costs }
}

/** What a kg of each kind of main is worth; nothing where all that was weighed is of one kind. */
function valuesOfKinds(outputs: readonly Output[]): Map<string | undefined, number> | undefined {
  const mains = outputs.filter((output) => output.role === 'main' && output.grams > 0)
  const kinds = new Set(mains.map((main) => main.kind))
  if (kinds.size < 2) return undefined
  const values = new Map<string | undefined, number>()
  for (const kind of kinds) {
    const ofKind = mains.filter((main) => main.kind === kind)
    const valued = ofKind.filter((main) => main.valuePerKg !== undefined)
    const grams = valued.reduce((sum, main) => sum + main.grams, 0)
    if (grams === 0) {
      const first = ofKind[0] as Output
      const sentence = `${first.name} needs a value per kg: mains of several kinds share the cost by what they are worth.`
      throw new InputError(`outputs.${outputs.indexOf(first)}.valuePerKg`, sentence)
    }
    values.set(kind, (valued.reduce((sum, main) => sum + worthOf(main), 0) / grams) * 1000)
  }
  return values
}

function netWorthOf(output: Output, index: number): number {
  if (output.valuePerKg === undefined && output.grams > 0) {
    throw new InputError(`outputs.${index}.valuePerKg`, `${output.name} needs a value per kg to share the cost by sales value.`)
  }
  return Math.max(0, worthOf(output) - (output.separableCost ?? 0))
}

function worthOf(output: Output): number {
  return (output.grams * (output.valuePerKg ?? 0)) / 1000
}
