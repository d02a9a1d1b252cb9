import type { DemoSupplier } from './prices.ts'

/** How a cook of the demo works: grams off target, spread of the portions, share of the main lost to trim, pace. */
export interface Hand {
  name: string
  offTargetGrams: number
  spreadGrams: number
  mainPct: number
  pace: number
}
export const hands: readonly Hand[] = [
  { name: 'Tobias Quill', offTargetGrams: 0.8, spreadGrams: 3.2, mainPct: 1, pace: 0.85 },
  { name: 'Ines Calloway', offTargetGrams: 1.5, spreadGrams: 4, mainPct: 0.4, pace: 0.95 },
  { name: 'Jory Penhale', offTargetGrams: 3.5, spreadGrams: 6, mainPct: -0.6, pace: 1.1 },
  { name: 'Pip Marsden', offTargetGrams: 2, spreadGrams: 8.5, mainPct: -2.2, pace: 1.35 },
]

/** One kind of thing that the demo kitchen breaks down through the year. Weights in grams, of one item. */
export interface Line {
  item: string
  /** Cut sheets by slug, with how often each is used, adding up to 1. */
  sheets: readonly (readonly [slug: string, share: number])[]
  suppliers: readonly DemoSupplier[]
  grams: number
  spread: number
  pieces: readonly number[]
  runs: number
  firstDaysAgo: number
  /** What a kg of each output is worth, by its key. */
  values: Record<string, number>
  /** Grams that an optional step frees of the first output of one item, where it is done. */
  freedGrams?: number
}

const poultryValues = {
  breast: 9.2,
  supreme: 12.8,
  thigh: 6.4,
  drum: 4.2,
  leg: 5.1,
  wing: 4.4,
  drumette: 5.2,
  back: 1.1,
  carcass: 1.1,
  fat: 1.4,
  giblets: 1.2,
}
export const lines: readonly Line[] = [
  {
    item: 'Beef tenderloin, peeled, side muscle on',
    sheets: [
      ['beef-tenderloin-traditional', 0.68],
      ['beef-tenderloin-used-to-the-last', 0.32],
    ],
    suppliers: ['Tidewater Meats', 'Harrow & Fenn Butchers'],
    grams: 2930,
    spread: 220,
    pieces: [1],
    runs: 104,
    firstDaysAgo: 361,
    values: {
      'centre-steak': 58,
      head: 38,
      tail: 17,
      'side-muscle': 14,
      'lean-trim': 8.5,
      silverskin: 1.2,
      steak: 58,
      'ear-steak': 36,
      skewers: 15,
      grind: 8.5,
    },
  },
  {
    item: 'Chicken, whole, case of five',
    sheets: [
      ['chicken-supremes-and-legs', 0.6],
      ['chicken-eight-pieces', 0.22],
      ['chicken-saute', 0.18],
    ],
    suppliers: ['Greywether Poultry'],
    grams: 2010,
    spread: 90,
    pieces: [5],
    runs: 84,
    firstDaysAgo: 358,
    values: poultryValues,
    freedGrams: 9,
  },
  {
    item: 'Turkey, whole, oven-ready',
    sheets: [['turkey-parts', 1]],
    suppliers: ['Greywether Poultry'],
    grams: 7200,
    spread: 600,
    pieces: [2, 3, 4, 6],
    runs: 18,
    firstDaysAgo: 340,
    values: { ...poultryValues, breast: 12.2, thigh: 7.2 },
    freedGrams: 14,
  },
  {
    item: 'Salmon, gutted, head on',
    sheets: [['salmon-skinless-portions', 1]],
    suppliers: ['Estuary Fish Quay'],
    grams: 4700,
    spread: 420,
    pieces: [1, 2],
    runs: 52,
    firstDaysAgo: 355,
    values: { portion: 21.2, belly: 7.5, frame: 0.9 },
  },
  {
    item: 'Sea bass, whole',
    sheets: [['round-fish-portions', 1]],
    suppliers: ['Estuary Fish Quay'],
    grams: 820,
    spread: 70,
    pieces: [6, 8, 10],
    runs: 38,
    firstDaysAgo: 350,
    values: { portion: 40.6, tail: 12, skin: 4, frame: 2.2 },
  },
  {
    item: 'Lamb rack, eight ribs, chine on',
    sheets: [['lamb-rack-chine-on', 1]],
    suppliers: ['Tidewater Meats'],
    grams: 1480,
    spread: 110,
    pieces: [2, 4],
    runs: 34,
    firstDaysAgo: 345,
    values: { rack: 35, strip: 9, lean: 8.5, bones: 1.6 },
  },
  {
    item: 'Rib of beef, seven bones',
    sheets: [
      ['rib-bone-in-steaks', 0.5],
      ['rib-boneless-and-back-ribs', 0.5],
    ],
    suppliers: ['Harrow & Fenn Butchers'],
    grams: 8600,
    spread: 650,
    pieces: [1],
    runs: 26,
    firstDaysAgo: 349,
    values: { steak: 28.8, ribs: 9.5 },
  },
]
