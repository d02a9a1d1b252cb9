import { labourCost } from '../quantities/labour.ts'

export interface StepWorth {
  /** What the grams freed are worth. */
  gain: number
  wage: number
  /** Minutes at which the wage eats the gain up; `null` where work costs nothing. */
  breakEvenMinutes: number | null
  pays: boolean
}

/**
 * Whether a step frees more than its minutes cost. Grams, value per kg, minutes.
 * @example stepWorth({ grams: 9, valuePerKg: 13, minutes: 0.25, ratePerHour: 19.5, onCostPct: 12 }).pays === true
 */
export function stepWorth(given: {
  grams: number
  valuePerKg: number
  minutes: number
  ratePerHour: number
  onCostPct: number
}): StepWorth {
  const gain = (given.grams / 1000) * given.valuePerKg
  const perMinute = labourCost({ minutes: 1, ratePerHour: given.ratePerHour, onCostPct: given.onCostPct })
  const wage = given.minutes * perMinute
  return { gain, wage, breakEvenMinutes: perMinute > 0 ? Math.max(0, gain) / perMinute : null, pays: gain > wage }
}
