import type { Tenths } from '../quantities/weight.ts'

/** One line from a bench scale, net of its tare. */
export interface ScaleReading {
  tenths: Tenths
  state: 'steady' | 'moving' | 'overload' | 'underload'
}

/** Less than this on the pan, in tenths of a gram, is a drop, a crumb or noise. */
export const leastTenths: Tenths = 20
