import { InputError } from '../input-error.ts'
import { labourCost } from '../quantities/labour.ts'
import { costOfPurchase, type Price } from '../quantities/price.ts'
import { type ReadyCut, readyCutCost } from './ready-cut.ts'

/** Cutting here against buying ready-cut. Grams, percent 0–100, minutes, money in the kitchen's currency. */
export interface MakeOrBuyInput {
  item: { grams: number; price: Price }
  yieldPct: number
  portionGrams: number
  /** How much portions cut here weigh over the served weight, percent; under it where less than 0. */
  overServedPct?: number | undefined
  /** What a portion cut here loses in the pan, percent, where `portionGrams` is what lies on the plate cooked. */
  panLossPct?: number | undefined
  /** Storage and thaw loss of portions cut here. */
  lossPct: number
  /** By-products as a share of the item's weight, with what a kg of them is worth. */
  byproducts: readonly { pct: number; valuePerKg: number }[]
  wastePct: number
  disposalPerKg: number
  labour: { minutesPerItem: number; setupMinutes: number; itemsPerBatch: number; ratePerHour: number; onCostPct: number }
  consumablesPerItem: number
  buy: ReadyCut
  portionsPerWeek?: number | undefined
}

export interface MakeOrBuy {
  make: {
    costPerPortion: number
    netCost: number
    portionsPerItem: number
    purchase: number
    labour: number
    consumables: number
    disposal: number
    credit: number
  }
  buy: { costPerPortion: number }
  savingPerPortion: number
  savingPct: number | null
  savingPerWeek: number | null
  /** Each alone, the rest unchanged; prices in the unit they were quoted in; `null` where no value turns the answer. */
  breakEven: { itemPrice: number | null; buyPrice: number | null; yieldPct: number | null; minutesPerItem: number | null }
}

/**
 * Cost of a usable portion of the same served weight, cut here and bought ready-cut, and where the answer turns.
 * @throws InputError naming the field
 */
export function makeOrBuy(input: MakeOrBuyInput): MakeOrBuy {
  check(input)
  const { item, labour } = input
  const purchase = costOfPurchase(item.price, { grams: item.grams, pieces: 1 })
  const labourPerMinute = labourCost({ minutes: 1, ratePerHour: labour.ratePerHour, onCostPct: labour.onCostPct })
  const minutes = labour.minutesPerItem + labour.setupMinutes / labour.itemsPerBatch
  const labourTotal = minutes * labourPerMinute
  const disposal = (input.disposalPerKg * (input.wastePct / 100) * item.grams) / 1000
  const credit = input.byproducts.reduce((sum, part) => sum + ((part.pct / 100) * item.grams * part.valuePerKg) / 1000, 0)
  const netCost = purchase + labourTotal + input.consumablesPerItem + disposal - credit
  const keptGrams = item.grams * (1 - input.lossPct / 100)
  const cutGrams = cutGramsOf(input)
  const portionsPerItem = (keptGrams * (input.yieldPct / 100)) / cutGrams
  const make = netCost / portionsPerItem
  const buy = readyCutCost(input.buy, input.portionGrams)
  const saving = buy - make
  const netAtBreakEven = buy * portionsPerItem
  const purchaseAtOne = costOfPurchase({ ...item.price, amount: 1 }, { grams: item.grams, pieces: 1 })
  const yieldPct = ((netCost / buy) * cutGrams * 100) / keptGrams
  return {
    make: {
      costPerPortion: make,
      netCost,
      portionsPerItem,
      purchase,
      labour: labourTotal,
      consumables: input.consumablesPerItem,
      disposal,
      credit,
    },
    buy: { costPerPortion: buy },
    savingPerPortion: saving,
    savingPct: buy > 0 ? (saving / buy) * 100 : null,
    savingPerWeek: input.portionsPerWeek === undefined ? null : saving * input.portionsPerWeek,
    breakEven: {
      itemPrice: fromZeroUp((netAtBreakEven - (netCost - purchase)) / purchaseAtOne),
      buyPrice: fromZeroUp(readyCutBreakEven(input, make)),
      yieldPct: yieldPct <= 100 ? fromZeroUp(yieldPct) : null,
      minutesPerItem: fromZeroUp((netAtBreakEven - (netCost - labour.minutesPerItem * labourPerMinute)) / labourPerMinute),
    },
  }
}

/**
 * What a portion cut here weighs raw: over what is served by so much, and by what the pan takes.
 * @example cutGramsOf({ portionGrams: 150, panLossPct: 25 }) === 200
 */
export function cutGramsOf({
  portionGrams,
  overServedPct = 0,
  panLossPct = 0,
}: Pick<MakeOrBuyInput, 'portionGrams' | 'overServedPct' | 'panLossPct'>): number {
  return (portionGrams * (1 + overServedPct / 100)) / (1 - panLossPct / 100)
}

/** The ready-cut cost is a fee part plus a part linear in the quoted amount. */
function readyCutBreakEven(input: MakeOrBuyInput, make: number): number {
  const at = (amount: number) => readyCutCost({ ...input.buy, price: { ...input.buy.price, amount } }, input.portionGrams)
  const fee = at(0)
  return (make - fee) / (at(1) - fee)
}

function fromZeroUp(value: number): number | null {
  return Number.isFinite(value) && value >= 0 ? value : null
}

function check(input: MakeOrBuyInput): void {
  const over0: [string, number][] = [
    ['item.grams', input.item.grams],
    ['portionGrams', input.portionGrams],
    ['yieldPct', input.yieldPct],
    ['labour.itemsPerBatch', input.labour.itemsPerBatch],
    ['buy.portionGrams', input.buy.portionGrams],
  ]
  for (const [field, value] of over0) if (!(value > 0)) throw new InputError(field, 'This must be over 0.')
  if (input.yieldPct > 100) throw new InputError('yieldPct', 'A yield is at most 100 %.')
  if ((input.overServedPct ?? 0) <= -100) throw new InputError('overServedPct', 'A portion weighs something: over −100 %.')
  for (const field of ['lossPct', 'panLossPct'] as const)
    if ((input[field] ?? 0) >= 100) throw new InputError(field, 'A loss is under 100 %.')
}
