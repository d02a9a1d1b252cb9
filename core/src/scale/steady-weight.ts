import type { Tenths } from '../quantities/weight.ts'
import type { PanLoad } from './pan-load.ts'
import { leastTenths, type ScaleReading } from './scale-reading.ts'

/**
 * How things come to the pan: each piece by itself; into a tub that stays on the pan; or the full tub at the end.
 */
export const weighingWays = ['piece', 'into-tub', 'tub-at-end'] as const
export type WeighingWay = (typeof weighingWays)[number]

/**
 * The weight that a reading would put into the chosen tub: of steady readings only, each load once. By the piece and with
 * the tub at the end, a pan from which something was taken must be cleared first; into a tub that stays on, what was added
 * counts.
 *
 * @param inTubTenths what the chosen tub holds already by the ledger: with the tub at the end only the rest is new
 * @param by a tap may take what lay there when the scale was found, hands-free may not
 * @returns tenths of a gram; `undefined` where there is nothing to take
 * @example steadyWeight({ tenths: 1840, state: 'steady' }, { id: 'a', takenTenths: 0, wasThere: false }, 'piece') === 1840
 */
export function steadyWeight(
  reading: ScaleReading,
  load: PanLoad,
  way: WeighingWay,
  inTubTenths: Tenths = 0,
  by: 'hands-free' | 'tap' = 'hands-free',
): Tenths | undefined {
  if (reading.state !== 'steady' || load.id === null) return undefined
  const takenTenths = load.wasThere && by === 'tap' && way !== 'into-tub' ? 0 : load.takenTenths
  if (way !== 'into-tub' && takenTenths > 0) return undefined
  const taken = reading.tenths - (way === 'tub-at-end' ? inTubTenths : takenTenths)
  return taken < leastTenths ? undefined : taken
}
