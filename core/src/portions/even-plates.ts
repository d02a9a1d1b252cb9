import { gramsOf, type Tenths, tenthsOf } from '../quantities/weight.ts'
import { pairPieces } from './pair-pieces.ts'

export interface PlatePiece {
  tenths: Tenths
  /** Which sort of piece it is; where there are as many sorts as pieces on a plate, each plate gets one of each. */
  kind: number
}

export interface EvenPlates {
  /** Places of the pieces of each plate in the list given; heaviest plate first. */
  plates: { pieces: number[]; grams: number }[]
  left: number[]
  spreadGrams: number
  /** Spread of plates made in the order the pieces were weighed. */
  simpleSpreadGrams: number
}

const none: EvenPlates = { plates: [], left: [], spreadGrams: 0, simpleSpreadGrams: 0 }
const mostRounds = 60

/**
 * Which pieces go together on a plate so that the spread between plates is least. One sort of piece is grouped by
 * `pairPieces`. Of several sorts each plate gets one of each: with two sorts the heaviest of one goes with the lightest
 * of the other, which no exchange can narrow; with more, sort after sort is laid on heaviest to lightest plate and
 * exchanges are made while they narrow the spread.
 */
export function evenPlates(pieces: readonly PlatePiece[], perPlate: number): EvenPlates {
  const kinds = [...new Set(pieces.map((piece) => piece.kind))].sort((a, b) => a - b)
  const simple = spreadOf(inOrder(pieces, perPlate, kinds.length))
  if (kinds.length !== perPlate) {
    if (kinds.length > 1 || pieces.length < perPlate) return { ...none, left: pieces.map((_, at) => at) }
    const paired = pairPieces({ pieces: pieces.map((piece) => gramsOf(piece.tenths)), perPortion: perPlate })
    return { plates: paired.portions, left: paired.left, spreadGrams: paired.spreadGrams, simpleSpreadGrams: simple }
  }
  const sorted = kinds.map((kind) =>
    pieces
      .map((piece, at) => ({ ...piece, at }))
      .filter((piece) => piece.kind === kind)
      .sort((a, b) => b.tenths - a.tenths || a.at - b.at),
  )
  const count = Math.min(...sorted.map((group) => group.length))
  const plates: { at: number; tenths: Tenths }[][] = Array.from({ length: count }, () => [])
  const left: number[] = []
  for (const group of sorted) {
    const over = group.length - count
    const from = Math.floor(over / 2)
    const kept = group.slice(from, from + count)
    left.push(...group.filter((piece) => !kept.includes(piece)).map((piece) => piece.at))
    plates.sort((a, b) => weigh(a) - weigh(b))
    for (const [index, piece] of kept.entries()) plates[index]?.push(piece)
  }
  narrow(plates)
  const weighed = plates
    .map((plate) => ({ pieces: plate.map((piece) => piece.at), grams: gramsOf(weigh(plate)) }))
    .sort((a, b) => b.grams - a.grams)
  return { plates: weighed, left, spreadGrams: spreadOf(weighed), simpleSpreadGrams: simple }
}

function weigh(plate: readonly { tenths: Tenths }[]): Tenths {
  return plate.reduce((sum, piece) => sum + piece.tenths, 0)
}

/** Exchanges pieces of one sort between the heaviest or lightest plate and another while that narrows the spread. */
function narrow(plates: { at: number; tenths: Tenths }[][]): void {
  const spread = () => Math.max(...plates.map(weigh)) - Math.min(...plates.map(weigh))
  for (let round = 0; round < mostRounds; round += 1) {
    const before = spread()
    let hasNarrowed = false
    for (const one of plates) {
      for (const other of plates) {
        for (let sort = 0; sort < one.length && one !== other; sort += 1) {
          const [a, b] = [one[sort], other[sort]]
          if (!a || !b) continue
          one[sort] = b
          other[sort] = a
          if (spread() < before && !hasNarrowed) hasNarrowed = true
          else {
            one[sort] = a
            other[sort] = b
          }
        }
      }
    }
    if (!hasNarrowed) return
  }
}

function inOrder(pieces: readonly PlatePiece[], perPlate: number, kinds: number): { grams: number }[] {
  const groups =
    kinds === perPlate
      ? [...new Set(pieces.map((piece) => piece.kind))].map((kind) => pieces.filter((piece) => piece.kind === kind))
      : [pieces]
  const step = kinds === perPlate ? 1 : perPlate
  const count = Math.min(...groups.map((group) => Math.floor(group.length / step)))
  return Array.from({ length: Number.isFinite(count) ? count : 0 }, (_, index) => ({
    grams: gramsOf(weigh(groups.flatMap((group) => group.slice(index * step, (index + 1) * step)))),
  }))
}

function spreadOf(plates: readonly { grams: number }[]): number {
  if (plates.length === 0) return 0
  const tenths = plates.map((plate) => tenthsOf(plate.grams))
  return gramsOf(Math.max(...tenths) - Math.min(...tenths))
}
