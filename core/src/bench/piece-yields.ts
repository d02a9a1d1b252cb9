import { gramsOf, type Tenths } from '../quantities/weight.ts'
import { type LedgerLine, standing } from '../runs/ledger.ts'

export interface PieceLine extends LedgerLine {
  piece: number | null
}

export interface PieceYield {
  piece: number
  grams: number
  gramsByTub: ReadonlyMap<string, number>
}

/**
 * What each piece of a run gave, tub by tub, in the order of the pieces; lines that belong to no piece are left out.
 * @example pieceYields([{ id: 'w', tubId: 'a', tenths: 710, piece: 1, reversesId: null }]).map(({ piece, grams }) => [piece, grams]) // [[1, 71]]
 */
export function pieceYields(lines: readonly PieceLine[]): PieceYield[] {
  const pieces = new Map<number, Map<string, Tenths>>()
  for (const { piece, tubId, tenths } of standing(lines)) {
    if (piece === null) continue
    const tubs = pieces.get(piece) ?? new Map<string, Tenths>()
    pieces.set(piece, tubs.set(tubId, (tubs.get(tubId) ?? 0) + tenths))
  }
  return [...pieces]
    .sort(([a], [b]) => a - b)
    .map(([piece, tubs]) => ({
      piece,
      grams: gramsOf([...tubs.values()].reduce((sum, tenths) => sum + tenths, 0)),
      gramsByTub: new Map([...tubs].map(([tubId, tenths]) => [tubId, gramsOf(tenths)])),
    }))
}
