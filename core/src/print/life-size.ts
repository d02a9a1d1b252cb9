import { InputError } from '../input-error.ts'

/** What a unit of a drawing measures, in mm, on a piece of a weight in kg. */
export interface LifeSize {
  unitMm: number
  atKg: number
}

export interface Paper {
  widthMm: number
  heightMm: number
  /** Left free on every side, as printers cannot reach it. */
  marginMm: number
  /** By how much neighbouring sheets show the same, to be laid on each other. */
  overlapMm: number
}

export interface PaperTile {
  /** From 1, in reading order. */
  number: number
  row: number
  column: number
  /** What of the drawing it carries, from the drawing's upper left corner. */
  leftMm: number
  topMm: number
  widthMm: number
  heightMm: number
}

export const a4: Paper = { widthMm: 210, heightMm: 297, marginMm: 10, overlapMm: 10 }

/**
 * What a unit of a drawing measures on a piece of another weight: bodies of one shape grow in length by the cube root of weight.
 *
 * @param kg weight of the piece, above 0
 * @returns millimetres a unit
 * @throws InputError where the weight is not above 0
 * @example Math.round(unitMmAt({ unitMm: 1, atKg: 2 }, 16) * 10) / 10 === 2
 */
export function unitMmAt({ unitMm, atKg }: LifeSize, kg: number): number {
  if (!(kg > 0) || !Number.isFinite(kg)) throw new InputError('kg', 'Give a weight above nothing.')
  return unitMm * Math.cbrt(kg / atKg)
}

/**
 * The sheets of paper that carry a drawing at its size, in the way of laying the paper that takes fewest; where both take as many,
 * the one that leaves less of the paper empty.
 *
 * @param widthMm width of the drawing
 * @param heightMm height of the drawing
 * @param paper upright
 * @returns the tiles in reading order, and whether the paper lies on its side
 * @throws InputError where a size is not above 0
 * @example tiledOn(250, 180, a4).tiles.length === 1
 */
export function tiledOn(widthMm: number, heightMm: number, paper: Paper): { isSideways: boolean; tiles: PaperTile[] } {
  if (!(widthMm > 0) || !(heightMm > 0)) throw new InputError('size', 'A drawing has a width and a height above nothing.')
  const ways = [false, true].map((isSideways) => {
    const [wide, high] = isSideways ? [paper.heightMm, paper.widthMm] : [paper.widthMm, paper.heightMm]
    const [width, height] = [wide - 2 * paper.marginMm, high - 2 * paper.marginMm]
    const [columns, rows] = [needed(widthMm, width, paper.overlapMm), needed(heightMm, height, paper.overlapMm)]
    return { isSideways, width, height, columns, rows, over: Math.max(columns * width - widthMm, rows * height - heightMm) }
  })
  const [best] = ways.sort((a, b) => a.columns * a.rows - b.columns * b.rows || a.over - b.over)
  if (!best) return { isSideways: false, tiles: [] }
  const { isSideways, columns, rows, width, height } = best
  const tiles = Array.from({ length: rows * columns }, (_, index): PaperTile => {
    const [row, column] = [Math.floor(index / columns), index % columns]
    return {
      number: index + 1,
      row: row + 1,
      column: column + 1,
      leftMm: column * (width - paper.overlapMm),
      topMm: row * (height - paper.overlapMm),
      widthMm: width,
      heightMm: height,
    }
  })
  return { isSideways, tiles }
}

/** Sheets side by side that cover a length, each but the first sharing its edge with the one before. */
function needed(length: number, sheet: number, overlap: number): number {
  return Math.max(1, Math.ceil((length - overlap) / (sheet - overlap)))
}
