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
 * `pairPieces`. Of several sorts each plate gets one of each. With two sorts the answer is exact, whichever pieces have to
 * be left; with more, sort after sort is laid on heaviest to lightest plate and exchanges, also with pieces left over, are
 * made while they narrow the spread.
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
  const { plates, left } = sorted.length === 2 ? pairTwoSorts(sorted[0] ?? [], sorted[1] ?? []) : layOut(sorted)
  const weighed = plates
    .map((plate) => ({ pieces: plate.map((piece) => piece.at), grams: gramsOf(weigh(plate)) }))
    .sort((a, b) => b.grams - a.grams)
  return { plates: weighed, left: left.map((piece) => piece.at), spreadGrams: spreadOf(weighed), simpleSpreadGrams: simple }
}

interface Placed {
  at: number
  tenths: Tenths
}
type Laid = { plates: Placed[][]; left: Placed[] }

/**
 * Two sorts, each from heavy to light. For every weight that the lightest plate may have, the scarcer sort takes, heaviest
 * first, the lightest piece of the other that reaches it: no other choice has a lighter heaviest plate.
 */
function pairTwoSorts(one: readonly Placed[], other: readonly Placed[]): Laid {
  const [few, many] = one.length <= other.length ? [one, other] : [other, one]
  const rising = [...many].reverse()
  let best: { spread: number; taken: Placed[] } | undefined
  for (const least of new Set(few.flatMap((a) => many.map((b) => a.tenths + b.tenths)))) {
    const taken = reaching(few, rising, least)
    if (!taken) continue
    const sums = taken.map((piece, at) => piece.tenths + (few[at]?.tenths ?? 0))
    const spread = Math.max(...sums) - Math.min(...sums)
    if (!best || spread < best.spread) best = { spread, taken }
  }
  const taken = best?.taken ?? []
  const plates = taken.map((piece, at) => (few === one ? [few[at] as Placed, piece] : [piece, few[at] as Placed]))
  return { plates, left: many.filter((piece) => !taken.includes(piece)) }
}

/** To each of the few the lightest piece not yet taken that brings it to `least`; `undefined` where there is none. */
function reaching(few: readonly Placed[], rising: readonly Placed[], least: Tenths): Placed[] | undefined {
  const taken: Placed[] = []
  let next = 0
  for (const { tenths } of few) {
    while (next < rising.length && (rising[next] as Placed).tenths + tenths < least) next += 1
    const piece = rising[next]
    if (!piece) return undefined
    taken.push(piece)
    next += 1
  }
  return taken
}

function layOut(sorted: readonly (readonly Placed[])[]): Laid {
  const count = Math.min(...sorted.map((group) => group.length))
  const plates: Placed[][] = Array.from({ length: count }, () => [])
  const spare: Placed[][] = []
  for (const group of sorted) {
    const from = Math.floor((group.length - count) / 2)
    const kept = group.slice(from, from + count)
    spare.push(group.filter((piece) => !kept.includes(piece)))
    plates.sort((a, b) => weigh(a) - weigh(b))
    for (const [index, piece] of kept.entries()) plates[index]?.push(piece)
  }
  narrow(plates, spare)
  return { plates, left: spare.flat() }
}

function weigh(plate: readonly { tenths: Tenths }[]): Tenths {
  return plate.reduce((sum, piece) => sum + piece.tenths, 0)
}

/** Exchanges pieces of one sort between plates, or with those to spare, while that narrows the spread. */
function narrow(plates: Placed[][], spare: Placed[][]): void {
  const spread = () => Math.max(...plates.map(weigh)) - Math.min(...plates.map(weigh))
  let now = spread()
  /** Keeps an exchange that narrows the spread, and takes any other back. */
  const tryExchange = (one: Placed[], at: number, other: Placed[], there: number): boolean => {
    const [a, b] = [one[at], other[there]]
    if (!a || !b) return false
    one[at] = b
    other[there] = a
    const then = spread()
    if (then < now) {
      now = then
      return true
    }
    one[at] = a
    other[there] = b
    return false
  }
  for (let round = 0; round < mostRounds; round += 1) {
    let hasNarrowed = false
    for (const one of plates) {
      for (const sort of one.keys()) {
        for (const other of plates) if (one !== other && tryExchange(one, sort, other, sort)) hasNarrowed = true
        const over = spare[sort] ?? []
        for (const there of over.keys()) if (tryExchange(one, sort, over, there)) hasNarrowed = true
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
