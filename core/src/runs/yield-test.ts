import { InputError } from '../input-error.ts'
import { type Labour, labourCost } from '../quantities/labour.ts'
import { costOfPurchase, type Price } from '../quantities/price.ts'
import { gramsOf, type Tenths, tenthsOf } from '../quantities/weight.ts'
import { type JointCostMethod, shareJointCost } from './joint-cost.ts'
import type { Output, Role } from './output.ts'

/** Something bought and fabricated into weighed outputs. Cost comes from the billed weight, yield from the received. */
export interface YieldTestInput {
  purchase: { billedGrams: number; receivedGrams: number; pieces: number; price: Price; claimCredit?: number | undefined }
  method: JointCostMethod
  labour: Labour
  consumables: number
  disposalPerKg: number
  outputs: readonly Output[]
}

export interface OutputCost {
  id: string
  cost: number
  costPerKg: number | null
  costPerPortion: number | null
  costFactorPerKg: number | null
  costFactorPerPortion: number | null
}

export interface YieldTest {
  cost: {
    /** As invoiced. */
    purchase: number
    /** What the supplier gave back for it. */
    claimCredit: number
    labour: number
    consumables: number
    disposal: number
    gross: number
    credit: number
    net: number
    purchasePerKg: number
  }
  grams: {
    billed: number
    received: number
    short: number
    main: number
    coproduct: number
    byproduct: number
    waste: number
    weighed: number
    unaccounted: number
  }
  yields: { mainPct: number; usablePct: number; wastePct: number; unaccountedPct: number }
  outputs: OutputCost[]
}

/**
 * A yield test (butcher's test): where the weight went and what each output costs, the joint cost shared by one of
 * three schools. Weights are summed on integer tenths of a gram; money is not rounded.
 * Percent figures are 0–100 of the received weight. A credit larger than the cost leaves `net` below zero, as it is.
 *
 * Source: culinary costing's as-purchased and edible-portion cost; joint costs of cost accounting.
 *
 * @throws InputError naming the field
 */
export function yieldTest(input: YieldTestInput): YieldTest {
  const { purchase, outputs } = input
  if (!(purchase.receivedGrams > 0)) throw new InputError('purchase.receivedGrams', 'The received weight must be over 0 g.')
  if (!(purchase.billedGrams > 0)) throw new InputError('purchase.billedGrams', 'The billed weight must be over 0 g.')
  const grams = weighOutputs(purchase.billedGrams, purchase.receivedGrams, outputs)
  const purchaseCost = costOfPurchase(purchase.price, { grams: purchase.billedGrams, pieces: purchase.pieces })
  const labour = labourCost(input.labour)
  const disposal = (input.disposalPerKg * grams.waste) / 1000
  const { claimCredit = 0 } = purchase
  const gross = purchaseCost - claimCredit + labour + input.consumables + disposal
  const shared = shareJointCost(input.method, gross, outputs)
  const purchasePerKg = (purchaseCost / purchase.billedGrams) * 1000
  return {
    cost: {
      purchase: purchaseCost,
      claimCredit,
      labour,
      consumables: input.consumables,
      disposal,
      gross,
      credit: shared.credit,
      net: shared.net,
      purchasePerKg,
    },
    grams,
    yields: {
      mainPct: percent(grams.main, grams.received),
      usablePct: percent(gramsOf(tenthsOf(grams.main) + tenthsOf(grams.coproduct) + tenthsOf(grams.byproduct)), grams.received),
      wastePct: percent(grams.waste, grams.received),
      unaccountedPct: percent(grams.unaccounted, grams.received),
    },
    outputs: outputs.map((output, index) => outputCost(output, shared.costs[index] ?? 0, purchasePerKg)),
  }
}

function weighOutputs(billedGrams: number, receivedGrams: number, outputs: readonly Output[]): YieldTest['grams'] {
  const byRole: Record<Role, Tenths> = { main: 0, coproduct: 0, byproduct: 0, waste: 0 }
  for (const output of outputs) byRole[output.role] += tenthsOf(output.grams)
  const weighed = byRole.main + byRole.coproduct + byRole.byproduct + byRole.waste
  return {
    billed: billedGrams,
    received: receivedGrams,
    short: gramsOf(tenthsOf(billedGrams) - tenthsOf(receivedGrams)),
    main: gramsOf(byRole.main),
    coproduct: gramsOf(byRole.coproduct),
    byproduct: gramsOf(byRole.byproduct),
    waste: gramsOf(byRole.waste),
    weighed: gramsOf(weighed),
    unaccounted: gramsOf(tenthsOf(receivedGrams) - weighed),
  }
}

function outputCost(output: Output, cost: number, purchasePerKg: number): OutputCost {
  const costPerKg = output.grams > 0 ? (cost / output.grams) * 1000 : null
  const costPerPortion = output.count ? cost / output.count : null
  const bearsFactor = purchasePerKg > 0 && output.role !== 'waste'
  return {
    id: output.id,
    cost,
    costPerKg,
    costPerPortion,
    costFactorPerKg: bearsFactor && costPerKg !== null ? costPerKg / purchasePerKg : null,
    costFactorPerPortion: bearsFactor && costPerPortion !== null ? costPerPortion / purchasePerKg : null,
  }
}

function percent(part: number, whole: number): number {
  return (part / whole) * 100
}
