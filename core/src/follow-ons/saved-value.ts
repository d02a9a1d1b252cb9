/** A finished follow-on beside what its output costs ready made. */
export interface MadeOrBought {
  /** Kg, litres or pieces that came out. */
  amount: number
  /** What one of them costs ready made. */
  boughtPerUnit: number
  /** All that it cost, and the part of it that its inputs carried. */
  gross: number
  inputCost: number
  inputGrams: number
}

/**
 * What a kg of the inputs was worth: what the output would have cost ready made, less what it took beside the inputs.
 * Below nothing where buying would have been cheaper even with the inputs for nothing.
 * @returns money a kg; `undefined` where no weight went in
 * @example savedPerKg({ amount: 9.8, boughtPerUnit: 2.2, gross: 14, inputCost: 6, inputGrams: 10_000 }) // 1.356
 */
export function savedPerKg({ amount, boughtPerUnit, gross, inputCost, inputGrams }: MadeOrBought): number | undefined {
  return inputGrams > 0 ? ((amount * boughtPerUnit - (gross - inputCost)) / inputGrams) * 1000 : undefined
}
