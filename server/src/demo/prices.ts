import type { Item } from '@fleam/contract/prices'
import type { Price } from '@fleam/core/quantities/price'

export const demoSuppliers = ['Harrow & Fenn Butchers', 'Tidewater Meats', 'Estuary Fish Quay', 'Greywether Poultry'] as const
export type DemoSupplier = (typeof demoSuppliers)[number]

interface DemoItem {
  name: string
  kind: Item['kind']
  animal: Item['animal']
  readyCut?: NonNullable<Item['readyCut']>
  against?: string
  quotes: { supplier: DemoSupplier; daysAgo: number; price: Price }[]
}

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

/** Quotes of one supplier: days ago and amount, all in one way of quoting. */
function quoted(supplier: DemoSupplier, price: Omit<Price, 'amount'>, amounts: readonly (readonly [daysAgo: number, amount: number])[]) {
  return amounts.map(([daysAgo, amount]) => ({ supplier, daysAgo, price: { ...price, amount } }))
}

/** A year of made-up prices. Beef rises sharply two months ago, salmon a month ago; poultry hardly moves. */
export const demoItems: readonly DemoItem[] = [
  {
    name: 'Beef tenderloin, peeled, side muscle on',
    kind: 'whole',
    animal: 'beef',
    against: 'Tenderloin steak 180 g, ready-cut',
    quotes: [
      ...quoted('Tidewater Meats', { per: 'kg' }, [
        [370, 25.4],
        [240, 25.9],
        [130, 26.2],
        [62, 29.9],
        [11, 30.4],
      ]),
      ...quoted('Harrow & Fenn Butchers', { per: 'kg' }, [
        [371, 26.1],
        [200, 26.8],
        [61, 30.6],
        [9, 31.4],
      ]),
    ],
  },
  {
    name: 'Tenderloin steak 180 g, ready-cut',
    kind: 'ready-cut',
    animal: 'beef',
    readyCut: portion(180, { trimPct: 1, feePerOrder: 12, portionsPerOrder: 60 }),
    quotes: quoted('Harrow & Fenn Butchers', { per: 'each' }, [
      [371, 9.4],
      [60, 10.6],
      [10, 10.9],
    ]),
  },
  {
    name: 'Chicken, whole, case of five',
    kind: 'whole',
    animal: 'bird',
    against: 'Chicken supreme 220 g, ready-cut',
    quotes: quoted('Greywether Poultry', { per: 'case', count: 5 }, [
      [372, 43.5],
      [190, 44],
      [12, 46.5],
    ]),
  },
  {
    name: 'Chicken supreme 220 g, ready-cut',
    kind: 'ready-cut',
    animal: 'bird',
    readyCut: portion(220),
    quotes: quoted('Greywether Poultry', { per: 'kg' }, [
      [372, 12.6],
      [30, 13.2],
    ]),
  },
  {
    name: 'Turkey, whole, oven-ready',
    kind: 'whole',
    animal: 'bird',
    against: 'Turkey breast, boneless, by the kg',
    quotes: quoted('Greywether Poultry', { per: 'kg' }, [
      [372, 5.6],
      [40, 6.1],
    ]),
  },
  {
    name: 'Turkey breast, boneless, by the kg',
    kind: 'ready-cut',
    animal: 'bird',
    readyCut: portion(1100, { lossPct: 1 }),
    quotes: quoted('Greywether Poultry', { per: 'kg' }, [
      [372, 11.4],
      [40, 12.2],
    ]),
  },
  {
    name: 'Salmon, gutted, head on',
    kind: 'whole',
    animal: 'fish',
    against: 'Salmon portion 160 g, ready-cut',
    quotes: quoted('Estuary Fish Quay', { per: 'lb' }, [
      [370, 5.1],
      [150, 5.3],
      [33, 6.7],
      [4, 6.9],
    ]),
  },
  {
    name: 'Salmon portion 160 g, ready-cut',
    kind: 'ready-cut',
    animal: 'fish',
    readyCut: portion(160, { trimPct: 2, lossPct: 3 }),
    quotes: quoted('Estuary Fish Quay', { per: 'kg' }, [
      [370, 21.6],
      [20, 23.4],
    ]),
  },
  {
    name: 'Sea bass, whole',
    kind: 'whole',
    animal: 'fish',
    against: 'Sea bass portion 140 g, ready-cut',
    quotes: quoted('Estuary Fish Quay', { per: 'kg' }, [
      [370, 11.8],
      [90, 12.4],
      [6, 12.9],
    ]),
  },
  {
    name: 'Sea bass portion 140 g, ready-cut',
    kind: 'ready-cut',
    animal: 'fish',
    readyCut: portion(140, { lossPct: 3 }),
    quotes: quoted('Estuary Fish Quay', { per: 'kg' }, [
      [370, 38],
      [25, 39.5],
    ]),
  },
  {
    name: 'Lamb rack, eight ribs, chine on',
    kind: 'whole',
    animal: 'lamb',
    against: 'Frenched rack, ready-cut',
    quotes: quoted('Tidewater Meats', { per: 'kg' }, [
      [370, 21.4],
      [25, 22.8],
    ]),
  },
  {
    name: 'Frenched rack, ready-cut',
    kind: 'ready-cut',
    animal: 'lamb',
    readyCut: portion(620, { lossPct: 1 }),
    quotes: quoted('Harrow & Fenn Butchers', { per: 'kg' }, [
      [370, 43],
      [25, 44.5],
    ]),
  },
  {
    name: 'Lamb rack, Frenched, for cutlets',
    kind: 'whole',
    animal: 'lamb',
    against: 'Frenched cutlet 80 g, ready-cut',
    quotes: quoted('Harrow & Fenn Butchers', { per: 'kg' }, [
      [370, 41],
      [25, 42.5],
    ]),
  },
  {
    name: 'Frenched cutlet 80 g, ready-cut',
    kind: 'ready-cut',
    animal: 'lamb',
    readyCut: portion(80),
    quotes: quoted('Harrow & Fenn Butchers', { per: 'case', count: 24, grams: 1920 }, [
      [370, 92],
      [25, 96],
    ]),
  },
  {
    name: 'Rib of beef, seven bones',
    kind: 'whole',
    animal: 'beef',
    against: 'Ribeye steak 300 g, ready-cut',
    quotes: quoted('Harrow & Fenn Butchers', { per: 'kg' }, [
      [370, 15.2],
      [61, 17.6],
      [9, 17.9],
    ]),
  },
  {
    name: 'Ribeye steak 300 g, ready-cut',
    kind: 'ready-cut',
    animal: 'beef',
    readyCut: portion(300, { trimPct: 1 }),
    quotes: quoted('Harrow & Fenn Butchers', { per: 'kg' }, [
      [370, 24.8],
      [58, 28.4],
      [9, 28.8],
    ]),
  },
]
