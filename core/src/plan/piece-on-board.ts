/** What is known of the weight of a piece that was planned, in grams. */
export interface PlannedPiece {
  /** As it was weighed for the plan. */
  plannedGrams: number
  /** As a person has said since, where the two were not alike. */
  saidGrams?: number | undefined
  /** What the run had left when the plan was taken up; `undefined` where that is not one piece. */
  boardGrams?: number | undefined
  /** What came off it since and is no piece of the plan. */
  byproductGrams: number
}

export interface PieceOnBoard {
  /** What there is to cut by the plan, pieces already cut by it included. */
  grams: number
  /** Plan and board are not alike, and nobody has said yet which is right. */
  asks: boolean
}

/** Less than this, in grams or as a share of the board, is how scales differ. */
const alikeGrams = 5
const alikeShare = 0.01

/**
 * The weight that a plan is worked on with. What is trimmed off comes first out of what the board has more than the plan, which
 * was weighed trimmed; the rest of it out of the planned piece.
 *
 * @example pieceOnBoard({ plannedGrams: 1980, boardGrams: 1812, byproductGrams: 0 }) // { grams: 1980, asks: true }
 * @example pieceOnBoard({ plannedGrams: 1980, saidGrams: 1812, boardGrams: 1812, byproductGrams: 40 }).grams === 1772
 */
export function pieceOnBoard({ plannedGrams, saidGrams, boardGrams, byproductGrams }: PlannedPiece): PieceOnBoard {
  const grams = saidGrams ?? plannedGrams
  if (boardGrams === undefined) return { grams, asks: false }
  const apart = Math.abs(plannedGrams - boardGrams)
  return {
    grams: Math.max(0, grams - Math.max(0, byproductGrams - Math.max(0, boardGrams - grams))),
    asks: saidGrams === undefined && apart > Math.max(alikeGrams, boardGrams * alikeShare),
  }
}
