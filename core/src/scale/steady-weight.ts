import type { Tenths } from '../quantities/weight.ts'

/** One line from a bench scale, net of its tare. */
export interface ScaleReading {
  tenths: Tenths
  state: 'steady' | 'moving' | 'overload' | 'underload'
}

/**
 * How things come to the pan: each piece by itself; into a tub that stays on the pan; or the full tub at the end.
 */
export const weighingWays = ['piece', 'into-tub', 'tub-at-end'] as const
export type WeighingWay = (typeof weighingWays)[number]

/** What hands-free weighing remembers between readings. */
export interface SteadyWatch {
  /** Weight on the pan that has been dealt with: the next piece is what comes on top of it. */
  baseTenths: Tenths
  /** A weight was taken; nothing more is taken until the pan has been cleared. */
  isWaitingForClear: boolean
}

export const freshWatch: SteadyWatch = { baseTenths: 0, isWaitingForClear: false }

/** Less than this on the pan is a drop, a crumb or noise. */
export const leastTenths: Tenths = 20

/**
 * Decides whether a reading is a weight to put into the chosen tub: steady ones only, each load once. By the piece and
 * with the tub at the end, the pan must be cleared in between; into a tub that stays on, what was added counts, and what
 * is taken out again lowers the base without counting.
 *
 * @param inTubTenths what the chosen tub holds already by the ledger: with the tub at the end only the rest is new
 * @returns the watch to go on with, and `takenTenths` where a weight is to be put in
 */
export function watchReading(
  watch: SteadyWatch,
  reading: ScaleReading,
  way: WeighingWay,
  inTubTenths: Tenths = 0,
): { watch: SteadyWatch; takenTenths?: Tenths } {
  if (reading.state === 'overload' || reading.state === 'underload') return { watch }
  if (way === 'into-tub') {
    if (reading.state !== 'steady') return { watch }
    const added = reading.tenths - watch.baseTenths
    if (Math.abs(added) < leastTenths) return { watch }
    const next = { ...watch, baseTenths: reading.tenths }
    return added > 0 ? { watch: next, takenTenths: added } : { watch: next }
  }
  if (reading.tenths < leastTenths) return { watch: freshWatch }
  if (watch.isWaitingForClear || reading.state !== 'steady') return { watch }
  const taken = way === 'tub-at-end' ? reading.tenths - inTubTenths : reading.tenths
  const next = { ...watch, isWaitingForClear: true }
  return taken < leastTenths ? { watch: next } : { watch: next, takenTenths: taken }
}

/** The weight that a tap on a tub would put in now, if the scale has one that is steady and has not been taken. */
export function weightOnOffer(watch: SteadyWatch, reading: ScaleReading, way: WeighingWay, inTubTenths: Tenths = 0): Tenths | undefined {
  return watchReading(watch, reading, way, inTubTenths).takenTenths
}
