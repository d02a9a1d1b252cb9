import type { Tenths } from '../quantities/weight.ts'

/**
 * What short weight alone is worth: what was billed and did not come, at the price paid.
 * @returns 0 where it was not short
 * @example shortWorth({ billedTenths: 20_000, receivedTenths: 19_500, paid: 60 }) // 1.5
 */
export function shortWorth({ billedTenths, receivedTenths, paid }: { billedTenths: Tenths; receivedTenths: Tenths; paid: number }): number {
  return billedTenths > receivedTenths ? (paid * (billedTenths - receivedTenths)) / billedTenths : 0
}
