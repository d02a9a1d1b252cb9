import { InputError } from '../input-error.ts'

/** Something that can only be ordered in packs, and from some number on. */
export interface Ordering {
  /** Units (whole items, or ready-cut pieces) in a pack; 1 where they come singly. */
  perPack: number
  /** Fewest units of an order. */
  minimum: number
}

export interface Ordered {
  needed: number
  ordered: number
  /** Portions beyond what the week needs. */
  portionsLeft: number
  cost: number
}

/**
 * Units to order so that there are enough, in whole packs and not under the least order.
 * @throws InputError where a pack holds less than one
 * @example orderFor(1, { perPack: 5, minimum: 12 }) === 15
 */
export function orderFor(needed: number, { perPack, minimum }: Ordering): number {
  if (!(perPack >= 1)) throw new InputError('perPack', 'A pack has at least one piece.')
  // 1e-9: what comes out a hair over a whole pack by rounding is that pack
  return needed <= 0 ? 0 : Math.ceil(Math.max(needed, minimum) / perPack - 1e-9) * perPack
}

/**
 * A week both ways in whole orders. What is left over is used next week and not counted, or it is lost and the week
 * pays for it.
 *
 * @param portions served in the week
 */
export function weekInPacks(given: {
  portions: number
  leftOver: 'used' | 'lost'
  make: Ordering & { portionsPerUnit: number; costPerUnit: number }
  buy: Ordering & { portionsPerUnit: number; costPerUnit: number }
}): { make: Ordered; buy: Ordered; saving: number } {
  const sideOf = (side: typeof given.make): Ordered => {
    const needed = given.portions / side.portionsPerUnit
    const ordered = orderFor(needed, side)
    const paid = given.leftOver === 'lost' ? ordered : needed
    return { needed, ordered, portionsLeft: Math.max(0, ordered * side.portionsPerUnit - given.portions), cost: paid * side.costPerUnit }
  }
  const [make, buy] = [sideOf(given.make), sideOf(given.buy)]
  return { make, buy, saving: buy.cost - make.cost }
}
