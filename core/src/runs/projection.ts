import { gramsOf, type Tenths, tenthsOf } from '../quantities/weight.ts'

/** What a cut sheet leads one to expect of an output, beside what has been weighed of it so far. */
export interface ExpectedOutput {
  id: string
  weighedTenths: Tenths
  /** Typical share of the received weight, percent; 0 where the sheet says nothing. */
  typicalPct: number
}

/**
 * How a run ends if the rest comes off as the cut sheet expects: what is still on the board is shared among the
 * outputs (and the usual loss) in proportion to what each still lacks of its typical share. Weighings stand as they
 * are; the projected weights and the loss add up to the received weight.
 *
 * @returns projected grams by output id, to 0.1 g
 * @example projectRun(1000, [{ id: 'steak', weighedTenths: 0, typicalPct: 60 }]).get('steak') === 600
 */
export function projectRun(receivedGrams: number, outputs: readonly ExpectedOutput[]): Map<string, number> {
  const received = tenthsOf(receivedGrams)
  const weighed = outputs.reduce((sum, output) => sum + output.weighedTenths, 0)
  const lossPct = Math.max(0, 100 - outputs.reduce((sum, output) => sum + output.typicalPct, 0))
  const lacks = outputs.map((output) => Math.max(0, (output.typicalPct / 100) * received - output.weighedTenths))
  const lacking = lacks.reduce((sum, lack) => sum + lack, 0) + (lossPct / 100) * received
  const left = Math.max(0, received - weighed)
  const share = lacking > 0 ? left / lacking : 0
  return new Map(outputs.map((output, index) => [output.id, gramsOf(Math.round(output.weighedTenths + share * (lacks[index] ?? 0)))]))
}
