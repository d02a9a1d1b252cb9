import { InputError } from '../input-error.ts'
import type { Output } from './yield-test.ts'

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
 * - `byproduct-credit`: co-products and by-products are credited at their value; mains share the net by weight.
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
 * @throws InputError where `sales-value` meets an output that has weight and no value per kg
 */
export function shareJointCost(method: JointCostMethod, gross: number, outputs: readonly Output[]): SharedCost {
  const carries = (output: Output) => output.role === 'main' || (output.role === 'coproduct' && method !== 'byproduct-credit')
  const credit = outputs.reduce(
    (sum, output) => (carries(output) || output.role === 'waste' ? sum : sum + worthOf(output) - (output.separableCost ?? 0)),
    0,
  )
  const net = gross - credit
  const sharesBy = (basis: JointCostMethod) => outputs.map((output, index) => (carries(output) ? shareOf(basis, output, index) : 0))
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

function shareOf(method: JointCostMethod, output: Output, index: number): number {
  if (method !== 'sales-value') return output.grams
  if (output.valuePerKg === undefined && output.grams > 0) {
    throw new InputError(`outputs.${index}.valuePerKg`, `${output.name} needs a value per kg to share the cost by sales value.`)
  }
  return Math.max(0, worthOf(output) - (output.separableCost ?? 0))
}

function worthOf(output: Output): number {
  return (output.grams * (output.valuePerKg ?? 0)) / 1000
}
