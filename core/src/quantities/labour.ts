/** Knife time and what an hour of it costs. `onCostPct` is social cost and the like on top of the wage. */
export interface Labour {
  minutes: number
  ratePerHour: number
  onCostPct: number
}

/**
 * Cost of knife time.
 * @example labourCost({ minutes: 22, ratePerHour: 19.5, onCostPct: 12 }) // 8.008
 */
export function labourCost({ minutes, ratePerHour, onCostPct }: Labour): number {
  return (minutes / 60) * ratePerHour * (1 + onCostPct / 100)
}
