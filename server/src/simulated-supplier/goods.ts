import { seededRandom } from '@fleam/core/random/seeded-random'

/** What the simulated supplier sells: all made up. */
export interface Goods {
  article: string
  /** Its number among the supplier's own; the GTIN follows from it. */
  number: number
  unit: 'kg' | 'case' | 'each'
  /** Pieces in a case. */
  pieces: number | null
  /** What one piece weighs, kg. */
  pieceKg: number
  /** Of one unit over the year. */
  price: number
  /** How far the season moves it, and the day of the year on which it is dearest. */
  season: { share: number; dearestDay: number }
}

export const goods: readonly Goods[] = [
  ['Beef tenderloin, peeled, side muscle on', 'kg', null, 2.9, 30.2, 0.09, 350],
  ['Chicken, whole, case of five', 'case', 5, 1.85, 45.8, 0.04, 180],
  ['Turkey, whole, oven-ready', 'kg', null, 6.4, 6.2, 0.28, 352],
  ['Salmon, gutted, head on', 'kg', null, 4.6, 11.9, 0.14, 100],
  ['Sea bass, whole', 'kg', null, 0.8, 12.6, 0.22, 45],
  ['Lamb rack, eight ribs, chine on', 'kg', null, 1.45, 21.5, 0.2, 95],
].map(([article, unit, pieces, pieceKg, price, share, dearestDay], index) => ({
  article: article as string,
  number: index + 1,
  unit: unit as Goods['unit'],
  pieces: pieces as number | null,
  pieceKg: pieceKg as number,
  price: price as number,
  season: { share: share as number, dearestDay: dearestDay as number },
}))

const dayMs = 86_400_000

/** The price of one unit on a day: the season's, and a little that the market does that day. The same day has the same price. */
export function priceOn({ price, season, number }: Goods, day: Date): number {
  const since = Math.floor(day.getTime() / dayMs)
  const dayOfYear = Math.floor((day.getTime() - Date.UTC(day.getUTCFullYear(), 0, 1)) / dayMs)
  const seasonal = season.share * Math.cos((2 * Math.PI * (dayOfYear - season.dearestDay)) / 365.25)
  const market = (seededRandom(since * 31 + number).next() - 0.5) * 0.02
  return Math.round(price * (1 + seasonal + market) * 100) / 100
}

/** A trade item's number under GS1's prefix for examples, with its check digit. */
export function gtinOf({ number }: Pick<Goods, 'number'>): string {
  const digits = `9950000${String(number).padStart(6, '0')}`
  const sum = [...digits].reduce((total, digit, at) => total + Number(digit) * (at % 2 === 0 ? 3 : 1), 0)
  return `${digits}${(10 - (sum % 10)) % 10}`
}

/** The price list of a day as CSV. */
export function priceListOn(day: Date): string {
  const lines = goods.map((one) =>
    [`"${one.article}"`, gtinOf(one), one.unit, priceOn(one, day).toFixed(2), one.pieces ?? '', day.toISOString().slice(0, 10)].join(','),
  )
  return `${['article', 'gtin', 'unit', 'price', 'pieces in a case', 'valid from'].join(',')}\r\n${lines.join('\r\n')}\r\n`
}
