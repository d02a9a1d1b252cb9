import type { Item } from '@fleam/contract/prices'
import type { Price } from '@fleam/core/quantities/price'

export const demoSuppliers = ['Harrow & Fenn Butchers', 'Tidewater Meats', 'Estuary Fish Quay', 'Greywether Poultry'] as const
type DemoSupplier = (typeof demoSuppliers)[number]

interface DemoItem {
  name: string
  kind: Item['kind']
  animal: Item['animal']
  readyCut?: NonNullable<Item['readyCut']>
  against?: string
  quotes: { supplier: DemoSupplier; daysAgo: number; price: Price }[]
}

export const tenderloin = 'Beef tenderloin, peeled, side muscle on'

function portion(grams: number, terms: Partial<NonNullable<Item['readyCut']>> = {}): NonNullable<Item['readyCut']> {
  return {
    portionTenths: grams * 10,
    portionEntered: `${grams} g`,
    trimPct: 0,
    lossPct: 2,
    feePerOrder: 0,
    portionsPerOrder: null,
    ...terms,
  }
}

export const demoItems: readonly DemoItem[] = [
  {
    name: tenderloin,
    kind: 'whole',
    animal: 'beef',
    against: 'Tenderloin steak 180 g, ready-cut',
    quotes: [
      { supplier: 'Tidewater Meats', daysAgo: 95, price: { amount: 29.2, per: 'kg' } },
      { supplier: 'Harrow & Fenn Butchers', daysAgo: 94, price: { amount: 30.6, per: 'kg' } },
      { supplier: 'Tidewater Meats', daysAgo: 45, price: { amount: 29.9, per: 'kg' } },
      { supplier: 'Tidewater Meats', daysAgo: 11, price: { amount: 30.4, per: 'kg' } },
      { supplier: 'Harrow & Fenn Butchers', daysAgo: 9, price: { amount: 31.4, per: 'kg' } },
    ],
  },
  {
    name: 'Tenderloin steak 180 g, ready-cut',
    kind: 'ready-cut',
    animal: 'beef',
    readyCut: portion(180, { trimPct: 1, feePerOrder: 12, portionsPerOrder: 60 }),
    quotes: [
      { supplier: 'Harrow & Fenn Butchers', daysAgo: 94, price: { amount: 10.6, per: 'each' } },
      { supplier: 'Harrow & Fenn Butchers', daysAgo: 10, price: { amount: 10.9, per: 'each' } },
    ],
  },
  {
    name: 'Chicken, whole, case of five',
    kind: 'whole',
    animal: 'bird',
    against: 'Chicken supreme 220 g, ready-cut',
    quotes: [
      { supplier: 'Greywether Poultry', daysAgo: 80, price: { amount: 44, per: 'case', count: 5 } },
      { supplier: 'Greywether Poultry', daysAgo: 12, price: { amount: 46.5, per: 'case', count: 5 } },
    ],
  },
  {
    name: 'Chicken supreme 220 g, ready-cut',
    kind: 'ready-cut',
    animal: 'bird',
    readyCut: portion(220),
    quotes: [{ supplier: 'Greywether Poultry', daysAgo: 30, price: { amount: 13.2, per: 'kg' } }],
  },
  {
    name: 'Salmon, gutted, head on',
    kind: 'whole',
    animal: 'fish',
    against: 'Salmon portion 160 g, ready-cut',
    quotes: [
      { supplier: 'Estuary Fish Quay', daysAgo: 60, price: { amount: 6.4, per: 'lb' } },
      { supplier: 'Estuary Fish Quay', daysAgo: 4, price: { amount: 6.9, per: 'lb' } },
    ],
  },
  {
    name: 'Salmon portion 160 g, ready-cut',
    kind: 'ready-cut',
    animal: 'fish',
    readyCut: portion(160, { trimPct: 2, lossPct: 3 }),
    quotes: [{ supplier: 'Estuary Fish Quay', daysAgo: 20, price: { amount: 34.5, per: 'kg' } }],
  },
  {
    name: 'Lamb rack, eight ribs, chine on',
    kind: 'whole',
    animal: 'lamb',
    against: 'Frenched cutlet 80 g, ready-cut',
    quotes: [{ supplier: 'Tidewater Meats', daysAgo: 25, price: { amount: 22.8, per: 'kg' } }],
  },
  {
    name: 'Frenched cutlet 80 g, ready-cut',
    kind: 'ready-cut',
    animal: 'lamb',
    readyCut: portion(80),
    quotes: [{ supplier: 'Harrow & Fenn Butchers', daysAgo: 25, price: { amount: 96, per: 'case', count: 24, grams: 1920 } }],
  },
]
