/** How a portion stands to its target. */
export type PortionState = 'under' | 'within' | 'over'

/**
 * Whether a portion is under, within or over its target; all in tenths of a gram, ends of the tolerance within.
 * @example portionState(1740, 1800, 60) === 'within'
 * @example portionState(1739, 1800, 60) === 'under'
 */
export function portionState(tenths: number, target: number, tolerance: number): PortionState {
  if (tenths < target - tolerance) return 'under'
  return tenths > target + tolerance ? 'over' : 'within'
}
