import type { Tenths } from '../quantities/weight.ts'
import { leastTenths, type ScaleReading } from './scale-reading.ts'

/** What lies on a scale's pan, as all who listen to the scale know it. Weights in tenths of a gram, net of the tare. */
export interface PanLoad {
  /**
   * The same for everyone until it has been taken; what is laid on after that, or on a pan that was cleared, is another.
   * `null` while the pan is clear.
   */
  id: string | null
  /** How much of it has been put into a tub already: what lies on top of that is new. */
  takenTenths: Tenths
  /** It lay there when the scale was found: nobody can say whether it was taken, so that only a person may. */
  wasThere: boolean
}

export const clearPan: PanLoad = { id: null, takenTenths: 0, wasThere: false }

/**
 * What lies on the pan by the next reading. A pan that reads nothing is clear; what is taken off again counts no longer as
 * taken, so that what comes in its place does.
 *
 * @param load as the reading before left it; `undefined` at the first reading of a scale
 * @param newId makes the identity of a load
 * @example followLoad(clearPan, { tenths: 1840, state: 'moving' }, () => 'a').id === 'a'
 */
export function followLoad(load: PanLoad | undefined, reading: ScaleReading, newId: () => string): PanLoad {
  if (reading.state === 'overload' || reading.state === 'underload') return load ?? clearPan
  if (reading.tenths < leastTenths) return clearPan
  if (!load) return { id: newId(), takenTenths: reading.tenths, wasThere: true }
  if (load.id === null) return { id: newId(), takenTenths: 0, wasThere: false }
  const isSteady = reading.state === 'steady'
  if (isSteady && load.takenTenths - reading.tenths >= leastTenths) return { ...load, id: newId(), takenTenths: reading.tenths }
  return load
}

/**
 * The pan once a load was put into a tub; another load's taking changes nothing.
 *
 * @param tenths what the scale read when it was taken
 * @example takeLoad({ id: 'a', takenTenths: 0, wasThere: false }, { id: 'a', tenths: 1840 }, () => 'b').takenTenths === 1840
 */
export function takeLoad(load: PanLoad, taken: { id: string; tenths: Tenths }, newId: () => string): PanLoad {
  return load.id === taken.id ? { id: newId(), takenTenths: taken.tenths, wasThere: false } : load
}
