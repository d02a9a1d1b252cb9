import { gramsOf, type Tenths, tenthsOf } from '../quantities/weight.ts'

export type BalanceState = 'within-limit' | 'over-limit' | 'more-than-received'

export interface Balance {
  unaccountedGrams: number
  unaccountedPct: number
  state: BalanceState
}

/**
 * Whether what came off the board accounts for what went on it. Every weighing may be out by 0.1 g; beyond that, more
 * off than on is an error that must be settled before a run is finished.
 *
 * Shares are held against the limit as they are shown, to a tenth of a percent: 2.0 % is not over 2.0 %.
 *
 * @param receivedGrams received weight, over 0
 * @param weighedTenths sum of all weighings, in tenths of a gram
 * @param weighings how many weighings made that sum
 * @param limitPct the house's limit for unaccounted loss, percent of the received weight
 * @example balanceOf(2936, 28900, 21, 2).state === 'within-limit'
 */
export function balanceOf(receivedGrams: number, weighedTenths: Tenths, weighings: number, limitPct: number): Balance {
  const unaccounted = tenthsOf(receivedGrams) - weighedTenths
  const unaccountedPct = (gramsOf(unaccounted) / receivedGrams) * 100
  const state =
    unaccounted < -weighings ? 'more-than-received' : asShown(unaccountedPct) > asShown(limitPct) ? 'over-limit' : 'within-limit'
  return { unaccountedGrams: gramsOf(unaccounted), unaccountedPct, state }
}

/**
 * A percentage as it is shown everywhere: to a tenth.
 * @example asShown(1.04) === 1
 */
export function asShown(pct: number): number {
  return Math.round(pct * 10) / 10
}
