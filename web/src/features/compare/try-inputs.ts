import type { Item } from '@fleam/contract/prices'
import { type CaseInputs, type PortionCase, quoteInput, shareInput, valueInput } from '@fleam/core/compare/portion-case'

export type InputKind = 'money' | 'per-weight' | 'grams' | 'percent' | 'percent-over' | 'minutes' | 'count'

/** An input that can be tried out: what it is called, in what it is counted, how far its slider goes. */
export interface TryInputSpec {
  name: string
  label: string
  kind: InputKind
  /** Added to an amount of money, such as “/ kg”. */
  unit?: string
  low: number
  high: number
  step: number
}
export interface TryGroup {
  title: string
  inputs: TryInputSpec[]
}

const around = (base: number, factor = 1.6) => ({ low: 0, high: base > 0 ? niceAbove(base * factor) : 10 })

function niceAbove(value: number): number {
  const unit = 10 ** Math.floor(Math.log10(value))
  return ([1, 1.5, 2, 3, 5, 7.5, 10].find((times) => times * unit >= value) ?? 10) * unit
}

const money = (name: string, label: string, base: number, unit?: string): TryInputSpec => ({
  name,
  label,
  kind: 'money',
  ...(unit ? { unit } : {}),
  ...around(base),
  step: 0.05,
})
const percent = (name: string, label: string, high = 100): TryInputSpec => ({ name, label, kind: 'percent', low: 0, high, step: 0.1 })

/** The inputs of a case in the groups that a cook thinks in. */
export function groupsOf(portionCase: PortionCase, quotes: readonly Item[], base: CaseInputs, yieldName: string): TryGroup[] {
  const at = (name: string) => base[name] ?? 0
  const { price, sideCuts } = portionCase
  return [
    {
      title: 'The item and its yield',
      inputs: [
        money('itemPrice', 'Bought whole at', at('itemPrice'), `/ ${price.per === 'each' ? 'piece' : price.per}`),
        {
          name: 'itemGrams',
          label: 'Weight of an item',
          kind: 'grams',
          ...around(at('itemGrams'), 1.5),
          low: at('itemGrams') * 0.5,
          step: 5,
        },
        percent('yieldPct', yieldName),
        {
          name: 'portionGrams',
          label: 'Served weight',
          kind: 'grams',
          low: at('portionGrams') * 0.5,
          high: at('portionGrams') * 1.6,
          step: 1,
        },
        { name: 'overServedPct', label: 'Cut over that weight', kind: 'percent-over', low: -10, high: 10, step: 0.1 },
        percent('panLossPct', 'Lost in the pan', 60),
        percent('storageLossPct', 'Lost in storage and thaw', 20),
        percent('rejectedPct', 'Refused portions', 20),
      ],
    },
    {
      title: 'The work',
      inputs: [
        { name: 'minutesPerItem', label: 'Knife time an item', kind: 'minutes', ...around(at('minutesPerItem'), 2.5), step: 0.1 },
        { name: 'setupMinutes', label: 'Set-up and clean-down, a batch', kind: 'minutes', low: 0, high: 60, step: 1 },
        { name: 'itemsPerBatch', label: 'Items in a batch', kind: 'count', low: 1, high: Math.max(24, at('itemsPerBatch') * 3), step: 1 },
        money('ratePerHour', 'An hour’s wage', at('ratePerHour')),
        percent('onCostPct', 'On-cost', 100),
        money('consumablesPerItem', 'Wrap and twine an item', Math.max(1, at('consumablesPerItem'))),
        money('disposalPerKg', 'Waste haulage', Math.max(0.5, at('disposalPerKg')), '/ kg'),
        percent('wastePct', 'Thrown away'),
      ],
    },
    {
      title: 'What comes off beside it',
      inputs: sideCuts.flatMap(({ key, name }) => [
        percent(shareInput(key), `${name}, share`, Math.max(30, Math.ceil(at(shareInput(key)) * 1.8))),
        {
          name: valueInput(key),
          label: `${name}, worth`,
          kind: 'per-weight' as const,
          low: 0,
          high: around(Math.max(2, at(valueInput(key))), 2).high,
          step: 0.1,
        },
      ]),
    },
    ...quotes.map((quote) => quoteGroup(quote, at)),
    {
      title: 'How many',
      inputs: [
        {
          name: 'portionsPerWeek',
          label: 'Portions a week',
          kind: 'count' as const,
          low: 0,
          high: niceAbove(Math.max(100, at('portionsPerWeek') * 2.5)),
          step: 1,
        },
        { name: 'makePerPack', label: 'Items come in packs of', kind: 'count' as const, low: 1, high: 24, step: 1 },
        { name: 'makeMinimum', label: 'Fewest items an order', kind: 'count' as const, low: 0, high: 60, step: 1 },
        { name: 'buyPerPack', label: 'Ready-cut comes in packs of', kind: 'count' as const, low: 1, high: 60, step: 1 },
        { name: 'buyMinimum', label: 'Fewest ready-cut an order', kind: 'count' as const, low: 0, high: 200, step: 1 },
      ],
    },
  ]
}

function quoteGroup({ id, name, latestQuote }: Item, at: (name: string) => number): TryGroup {
  const amount = quoteInput(id, 'amount')
  const per = latestQuote?.price.per
  return {
    title: name,
    inputs: [
      money(amount, 'Quoted at', at(amount), `/ ${per === 'each' ? 'piece' : per}`),
      {
        name: quoteInput(id, 'grams'),
        label: 'Portion as quoted',
        kind: 'grams',
        low: at(quoteInput(id, 'grams')) * 0.5,
        high: at(quoteInput(id, 'grams')) * 1.6,
        step: 1,
      },
      percent(quoteInput(id, 'trim'), 'Trimmed off it', 30),
      percent(quoteInput(id, 'loss'), 'Lost in storage and thaw', 20),
      percent(quoteInput(id, 'pan'), 'Lost in the pan', 60),
      money(quoteInput(id, 'fee'), 'Fee an order', Math.max(20, at(quoteInput(id, 'fee')))),
      {
        name: quoteInput(id, 'order'),
        label: 'Portions an order',
        kind: 'count',
        low: 1,
        high: Math.max(200, at(quoteInput(id, 'order')) * 3),
        step: 1,
      },
    ],
  }
}
