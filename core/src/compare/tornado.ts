import { type MakeOrBuyInput, makeOrBuy } from './make-or-buy.ts'

export const moved = ['item-price', 'yield', 'minutes', 'item-weight', 'side-cuts'] as const
export type Moved = (typeof moved)[number]

/** An input with its 10th and 90th percentile, in its own unit; of the side cuts: money an item. */
export interface MovedInput {
  input: Moved
  low: number
  high: number
}

export interface TornadoBar extends MovedInput {
  /** Cost of a portion cut here with the input at its low and at its high end, the rest unchanged. */
  atLow: number
  atHigh: number
}

/** What moves the cost of a portion most, the widest first. */
export function tornado(input: MakeOrBuyInput, inputs: readonly MovedInput[]): TornadoBar[] {
  const bars = inputs.map((one) => ({
    ...one,
    atLow: makeOrBuy(withInput(input, one.input, one.low)).make.costPerPortion,
    atHigh: makeOrBuy(withInput(input, one.input, one.high)).make.costPerPortion,
  }))
  return bars.sort((a, b) => Math.abs(b.atHigh - b.atLow) - Math.abs(a.atHigh - a.atLow))
}

function withInput(input: MakeOrBuyInput, which: Moved, value: number): MakeOrBuyInput {
  switch (which) {
    case 'item-price':
      return { ...input, item: { ...input.item, price: { ...input.item.price, amount: value } } }
    case 'yield':
      return { ...input, yieldPct: Math.min(100, Math.max(0.1, value)) }
    case 'minutes':
      return { ...input, labour: { ...input.labour, minutesPerItem: Math.max(0, value) } }
    case 'item-weight':
      return { ...input, item: { ...input.item, grams: Math.max(1, value) } }
    case 'side-cuts':
      return { ...input, byproducts: [{ pct: 100, valuePerKg: (value / input.item.grams) * 1000 }] }
  }
}
