/** What is usually kept of a raw portion when it is cooked, percent, until the kitchen has a cooking test of its own. */
const usualKeptPct: Readonly<Record<string, number>> = { beef: 83, lamb: 83, fish: 84, bird: 72 }
const anyKeptPct = 80

/**
 * Percent of a raw portion that comes to the plate: by the kitchen's cooking test where there is one, else what is usual for the animal.
 * @example keptInThePan('fish', undefined) === 84
 */
export const keptInThePan = (animal: string | null, test: { keptPct: number } | undefined): number =>
  test?.keptPct ?? usualKeptPct[animal ?? ''] ?? anyKeptPct
