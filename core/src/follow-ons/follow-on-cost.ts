import { InputError } from '../input-error.ts'
import { type Labour, labourCost } from '../quantities/labour.ts'
import { gramsOf, sumGrams, tenthsOf } from '../quantities/weight.ts'
import { type JointCostMethod, shareJointCost } from '../runs/joint-cost.ts'
import type { Role } from '../runs/output.ts'

export type AmountUnit = 'g' | 'ml' | 'piece'

/** Something that a follow-on makes. `valuePerUnit` per kg, per litre or per piece. */
export interface MadeOutput {
  id: string
  name?: string | undefined
  role: Role
  amount: number
  unit: AmountUnit
  /** Portions of it. */
  count?: number | undefined
  valuePerUnit?: number | undefined
}

/** What goes in carries a cost of its own; what is added has a price, and grams where it is weighed. */
export interface FollowOnInput {
  inputs: readonly { id: string; grams: number; cost: number }[]
  added: readonly { name: string; grams?: number | undefined; cost: number }[]
  energy?: number | undefined
  labour: Labour
  consumables?: number | undefined
  disposalPerKg?: number | undefined
  method: JointCostMethod
  outputs: readonly MadeOutput[]
}

export interface FollowOnCost {
  /** Inputs, added ingredients and energy. */
  carried: number
  gross: number
  credit: number
  net: number
  /** Main outputs over all that went in, where both are weights. */
  yieldPct: number | null
  outputs: { id: string; cost: number; costPerUnit: number | null; costPerPortion: number | null }[]
}

/**
 * A follow-on is a yield test whose purchase is what its inputs carry (section 8): gross = carried + labour + consumables +
 * disposal, shared by one of the three schools. Amounts in grams, millilitres or pieces; cost per kg, litre or piece. Where cost is shared
 * by amount, all that carry it are of one unit.
 *
 * @throws InputError naming the field
 */
export function followOnCost(input: FollowOnInput): FollowOnCost {
  const { inputs, added, outputs, method } = input
  if (inputs.length === 0) throw new InputError('inputs', 'A follow-on is made of something: add what goes in.')
  if (outputs.length === 0) throw new InputError('outputs', 'Say what comes out.')
  const carried = sum(inputs) + sum(added) + (input.energy ?? 0)
  const waste = outputs.filter((output) => output.role === 'waste' && output.unit === 'g').map((output) => output.amount)
  const disposal = ((input.disposalPerKg ?? 0) * sumGrams(waste)) / 1000
  const gross = carried + labourCost(input.labour) + (input.consumables ?? 0) + disposal
  refuseUnlikeUnits(outputs, method)
  refuseWorthless(outputs, method)
  const shared = shareJointCost(
    method,
    gross,
    outputs.map(({ id, name, role, amount, unit, valuePerUnit }) => ({
      id,
      name: name ?? id,
      role,
      // the sharing goes by thousandths of what has the value; a piece has it whole
      grams: unit === 'piece' ? amount * 1000 : amount,
      valuePerKg: valuePerUnit,
    })),
  )
  return {
    carried,
    gross,
    credit: shared.credit,
    net: shared.net,
    yieldPct: yieldOf(input),
    outputs: outputs.map(({ id, amount, unit, count, role }, index) => {
      const cost = shared.costs[index] ?? 0
      const perUnit = amount > 0 ? (cost / amount) * (unit === 'piece' ? 1 : 1000) : null
      return { id, cost, costPerUnit: perUnit, costPerPortion: count && role !== 'waste' ? cost / count : null }
    }),
  }
}

function yieldOf({ inputs, added, outputs }: FollowOnInput): number | null {
  const mains = outputs.filter((output) => output.role === 'main')
  if (mains.length === 0 || mains.some((main) => main.unit !== 'g')) return null
  const went = sumGrams([...inputs, ...added].map(({ grams }) => grams ?? 0))
  return went > 0 ? (gramsOf(mains.reduce((tenths, main) => tenths + tenthsOf(main.amount), 0)) / went) * 100 : null
}

/** Litres and kilos cannot share a cost by amount. */
function refuseUnlikeUnits(outputs: readonly MadeOutput[], method: JointCostMethod): void {
  if (method === 'sales-value') return
  const carrying = outputs.filter(({ role, amount }) => amount > 0 && (role === 'main' || (role === 'coproduct' && method === 'weight')))
  const odd = carrying.find((output) => output.unit !== carrying[0]?.unit)
  if (odd)
    throw new InputError(
      `outputs.${outputs.indexOf(odd)}.unit`,
      `${odd.name ?? odd.id} is in ${odd.unit}, ${carrying[0]?.name ?? carrying[0]?.id} in ${carrying[0]?.unit}: share the cost by sales value, or give both the same unit.`,
    )
}

function refuseWorthless(outputs: readonly MadeOutput[], method: JointCostMethod): void {
  if (method !== 'sales-value') return
  const at = outputs.findIndex(({ role, amount, valuePerUnit }) => /main|coproduct/.test(role) && amount > 0 && valuePerUnit === undefined)
  const worthless = outputs[at]
  if (worthless)
    throw new InputError(
      `outputs.${at}.valuePerUnit`,
      `${worthless.name ?? worthless.id} needs a value per kg, litre or piece to share the cost by sales value.`,
    )
}

const sum = (lines: readonly { cost: number }[]) => lines.reduce((total, { cost }) => total + cost, 0)
