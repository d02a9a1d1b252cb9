/**
 * Food cost in percent of a menu price without tax; `null` for a price of nothing.
 * @example foodCostPct(6.3, 21) === 30
 */
export function foodCostPct(plateCost: number, menuPrice: number): number | null {
  return menuPrice > 0 ? (plateCost / menuPrice) * 100 : null
}

/**
 * Menu price without tax at which a plate makes that food cost; `null` for 0 %.
 * @example menuPriceFor(6.3, 30) === 21
 */
export function menuPriceFor(plateCost: number, pct: number): number | null {
  return pct > 0 ? (plateCost / pct) * 100 : null
}
