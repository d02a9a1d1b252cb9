import { InputError } from '@fleam/core/input-error'

/** What the comparison's fields are called on this page. */
const inputNames: Record<string, string> = {
  'item.grams': 'Weight of an item',
  yieldPct: 'Yield of these portions',
  portionGrams: 'Served weight',
  overServedPct: 'Cut over that weight',
  lossPct: 'Lost in storage, and refused',
  'labour.itemsPerBatch': 'Items in a batch',
  'buy.portionGrams': 'Portion as quoted',
  'buy.trimPct': 'Trimmed off the ready-cut',
  'buy.portionsPerOrder': 'Portions an order',
}

/** What can be worked out; nothing where the figures are refused, which is said elsewhere. */
export function sound<Result>(work: () => Result): Result | undefined {
  return outcome(work).result
}

export function outcome<Result>(work: () => Result): { result?: Result; trouble?: string } {
  try {
    return { result: work() }
  } catch (error) {
    if (error instanceof InputError) return { trouble: `${inputNames[error.field] ?? error.field}: ${error.message}` }
    throw error
  }
}
