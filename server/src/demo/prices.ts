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
      [40, 5.2],
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
      [370, 4.6],
      [150, 4.8],
      [33, 5.4],
      [4, 5.6],
    ]),
  },
  {
    name: 'Salmon portion 160 g, ready-cut',
    kind: 'ready-cut',
    animal: 'fish',
    readyCut: portion(160, { trimPct: 2, lossPct: 3 }),
    quotes: quoted('Estuary Fish Quay', { per: 'kg' }, [
      [370, 19.9],
      [20, 21.2],
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
      [25, 40.6],
    ]),
  },
  {
    name: 'Lamb rack, eight ribs, chine on',
    kind: 'whole',
    animal: 'lamb',
    against: 'Frenched rack, ready-cut',
    quotes: quoted('Tidewater Meats', { per: 'kg' }, [
      [370, 17.6],
      [25, 18.7],
    ]),
  },
  {
    name: 'Frenched rack, ready-cut',
    kind: 'ready-cut',
    animal: 'lamb',
    readyCut: portion(620, { lossPct: 1 }),
    quotes: quoted('Harrow & Fenn Butchers', { per: 'kg' }, [
      [370, 33.5],
      [25, 35],
    ]),
  },
  {
    name: 'Lamb rack, Frenched, for cutlets',
    kind: 'whole',
    animal: 'lamb',
    against: 'Frenched cutlet 80 g, ready-cut',
    quotes: quoted('Harrow & Fenn Butchers', { per: 'kg' }, [
      [370, 31.5],
      [25, 33],
    ]),
  },
  {
    name: 'Frenched cutlet 80 g, ready-cut',
    kind: 'ready-cut',
    animal: 'lamb',
    readyCut: portion(80),
    quotes: quoted('Harrow & Fenn Butchers', { per: 'case', count: 24, grams: 1920 }, [
      [370, 74],
      [25, 78],
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
  partOf('Chicken breast on the bone, ready-cut', 'bird', 340, 'Greywether Poultry', 9.4, 9.9),
  partOf('Chicken breast fillet, ready-cut', 'bird', 200, 'Greywether Poultry', 13.9, 14.6),
  partOf('Chicken tenders, ready-cut', 'bird', 45, 'Greywether Poultry', 12.2, 12.6),
  partOf('Chicken leg, ready-cut', 'bird', 260, 'Greywether Poultry', 5.1, 5.3),
  partOf('Chicken thigh, ready-cut', 'bird', 150, 'Greywether Poultry', 6.2, 6.5),
  partOf('Chicken thigh meat, ready-cut', 'bird', 110, 'Greywether Poultry', 9.6, 9.9),
  partOf('Chicken drum, ready-cut', 'bird', 125, 'Greywether Poultry', 4.1, 4.3),
  partOf('Chicken sauté plate 340 g, ready-cut', 'bird', 340, 'Greywether Poultry', 6.7, 7.1),
  partOf('Chicken wing, ready-cut', 'bird', 90, 'Greywether Poultry', 4.5, 4.7),
  partOf('Chicken bones for stock', 'bird', 1000, 'Greywether Poultry', 1.2, 1.3),
  partOf('Turkey thigh, boned, ready-cut', 'bird', 480, 'Greywether Poultry', 7.9, 8.4),
  partOf('Turkey drum, ready-cut', 'bird', 430, 'Greywether Poultry', 4.2, 4.4),
  partOf('Tenderloin tips, ready-cut', 'beef', 1000, 'Harrow & Fenn Butchers', 17.2, 19.4),
  partOf('Bone-in rib steak 1.1 kg, ready-cut', 'beef', 1100, 'Harrow & Fenn Butchers', 20.8, 23.9),
  partOf('Beef back ribs, ready-cut', 'beef', 900, 'Harrow & Fenn Butchers', 9.2, 9.9),
]

/** A part as it can be bought on its own, by the kg, quoted a year ago and lately. */
function partOf(name: string, animal: Item['animal'], grams: number, supplier: DemoSupplier, yearAgo: number, lately: number): DemoItem {
  const quotes = quoted(supplier, { per: 'kg' }, [
    [371, yearAgo],
    [36, lately],
  ])
  return { name, kind: 'ready-cut', animal, readyCut: portion(grams, { lossPct: 1 }), quotes }
}

/** Which ready-cut item each part stands for, by item and cut sheet; the portions themselves stand for what their item is set against. */
export const demoWays: readonly { item: string; sheet: string; market: Record<string, string>; own?: Record<string, number> }[] = [
  {
    item: 'Chicken, whole, case of five',
    sheet: 'chicken-supremes-and-legs',
    market: {
      supreme: 'Chicken supreme 220 g, ready-cut',
      leg: 'Chicken leg, ready-cut',
      wing: 'Chicken wing, ready-cut',
      carcass: 'Chicken bones for stock',
    },
  },
  {
    item: 'Chicken, whole, case of five',
    sheet: 'chicken-eight-pieces',
    market: {
      breast: 'Chicken breast on the bone, ready-cut',
      thigh: 'Chicken thigh, ready-cut',
      drum: 'Chicken drum, ready-cut',
      wing: 'Chicken wing, ready-cut',
      back: 'Chicken bones for stock',
    },
  },
  {
    item: 'Chicken, whole, case of five',
    sheet: 'chicken-boneless-skinless',
    market: {
      fillet: 'Chicken breast fillet, ready-cut',
      tender: 'Chicken tenders, ready-cut',
      thigh: 'Chicken thigh meat, ready-cut',
      wing: 'Chicken wing, ready-cut',
      carcass: 'Chicken bones for stock',
    },
    own: { drum: 7.2, skin: 1.4 },
  },
  {
    item: 'Chicken, whole, case of five',
    sheet: 'chicken-saute',
    market: {
      breast: 'Chicken sauté plate 340 g, ready-cut',
      leg: 'Chicken sauté plate 340 g, ready-cut',
      wing: 'Chicken wing, ready-cut',
      back: 'Chicken bones for stock',
    },
  },
  {
    item: 'Turkey, whole, oven-ready',
    sheet: 'turkey-parts',
    market: {
      breast: 'Turkey breast, boneless, by the kg',
      thigh: 'Turkey thigh, boned, ready-cut',
      drum: 'Turkey drum, ready-cut',
    },
  },
  {
    item: 'Beef tenderloin, peeled, side muscle on',
    sheet: 'beef-tenderloin-traditional',
    market: { 'centre-steak': 'Tenderloin steak 180 g, ready-cut', tail: 'Tenderloin tips, ready-cut' },
  },
  {
    item: 'Beef tenderloin, peeled, side muscle on',
    sheet: 'beef-tenderloin-used-to-the-last',
    market: { steak: 'Tenderloin steak 180 g, ready-cut', skewers: 'Tenderloin tips, ready-cut' },
  },
  {
    item: 'Rib of beef, seven bones',
    sheet: 'rib-bone-in-steaks',
    market: { steak: 'Bone-in rib steak 1.1 kg, ready-cut' },
  },
  {
    item: 'Rib of beef, seven bones',
    sheet: 'rib-boneless-and-back-ribs',
    market: { steak: 'Ribeye steak 300 g, ready-cut', ribs: 'Beef back ribs, ready-cut' },
  },
]
