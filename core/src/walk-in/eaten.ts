/**
 * What each portion that was eaten cost, when those that were thrown away cost as much: "usable" holds only for what is eaten.
 * @param cost of all that were packed
 * @returns `undefined` where none was eaten
 * @example costOfEaten({ cost: 100, packed: 50, thrown: 10 }) // 2.5
 */
export function costOfEaten({ cost, packed, thrown }: { cost: number; packed: number; thrown: number }): number | undefined {
  return packed > thrown ? cost / (packed - thrown) : undefined
}
