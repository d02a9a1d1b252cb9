import { InputError } from '../input-error.ts'
import { gramsOf, type Tenths, tenthsOf } from '../quantities/weight.ts'

/** Weights of the pieces in grams and how many of them make one portion. */
export interface PairPiecesInput {
  pieces: readonly number[]
  perPortion: number
}

export interface PairedPieces {
  /** For each portion the places of its pieces in the list given, and its weight in grams; heaviest portion first. */
  portions: { pieces: number[]; grams: number }[]
  /** Places of the pieces that do not fill a portion. */
  left: number[]
  /** Heaviest less lightest portion, grams. */
  spreadGrams: number
  /** Whether no other grouping has a smaller spread. */
  exact: boolean
}

interface Piece {
  at: number
  tenths: Tenths
}
type Group = Piece[]

const mostForExact = 16

/**
 * Groups uneven pieces into portions of k so that the spread between the heaviest and the lightest portion is least.
 * Exact up to 16 pieces (dynamic programming over sets, for every possible lightest portion); beyond, heaviest with
 * lightest and then exchanges that narrow the spread, so never worse than that rule.
 *
 * @throws InputError naming the field
 * @example pairPieces({ pieces: [212, 205, 188, 154, 149, 141, 137, 120], perPortion: 2 }).spreadGrams === 39
 */
export function pairPieces({ pieces, perPortion }: PairPiecesInput): PairedPieces {
  if (!Number.isInteger(perPortion) || perPortion < 1) throw new InputError('perPortion', 'A portion has one piece or more.')
  if (pieces.length < perPortion) throw new InputError('pieces', `A portion of ${perPortion} needs that many pieces.`)
  const sorted = pieces.map((grams, at) => ({ at, tenths: tenthsOf(grams) })).sort((a, b) => b.tenths - a.tenths || a.at - b.at)
  const over = sorted.length % perPortion
  const exact = sorted.length <= mostForExact
  let best: Group[] = []
  let left: Piece[] = []
  let bestSpread = Number.POSITIVE_INFINITY
  for (const leftOut of leftovers(sorted, over, exact)) {
    const kept = sorted.filter((piece) => !leftOut.includes(piece))
    const simple = exchange(fold(kept, perPortion))
    const found = exact ? leastSpread(kept, perPortion, Math.min(bestSpread, spreadOf(simple) + 1)) : simple
    if (found && spreadOf(found) < bestSpread) {
      best = found
      left = leftOut
      bestSpread = spreadOf(found)
    }
    if (bestSpread === 0) break
  }
  return {
    portions: best
      .map((group) => ({ pieces: group.map((piece) => piece.at), grams: gramsOf(weightOf(group)) }))
      .sort((a, b) => b.grams - a.grams),
    left: left.map((piece) => piece.at),
    spreadGrams: gramsOf(bestSpread),
    exact,
  }
}

/** Sets of pieces to leave out: every one where the answer is to be exact, else the ends and the middle of the order. */
function leftovers(sorted: Group, over: number, every: boolean): Group[] {
  if (over === 0) return [[]]
  if (every) return subsets(sorted, over)
  const starts = [sorted.length - over, 0, Math.floor((sorted.length - over) / 2)]
  return starts.map((start) => sorted.slice(start, start + over))
}

function subsets(from: Group, size: number): Group[] {
  if (size === 0) return [[]]
  return from.flatMap((piece, index) => subsets(from.slice(index + 1), size - 1).map((rest) => [piece, ...rest]))
}

/** The simple rule: deal the pieces out from the heaviest, turning back at each end, so heavy meets light. */
function fold(sorted: Group, perPortion: number): Group[] {
  const portions = sorted.length / perPortion
  const groups: Group[] = Array.from({ length: portions }, () => [])
  sorted.forEach((piece, index) => {
    const round = Math.floor(index / portions)
    const place = index % portions
    groups[round % 2 === 0 ? place : portions - 1 - place]?.push(piece)
  })
  return groups
}

/** Swaps pieces of the heaviest or the lightest portion with any other for as long as the spread narrows. */
function exchange(groups: Group[]): Group[] {
  const sums = groups.map(weightOf)
  const swapOnce = (from: number): boolean => {
    const spread = Math.max(...sums) - Math.min(...sums)
    for (let to = 0; to < groups.length; to += 1) {
      if (to === from) continue
      const others = sums.filter((_, index) => index !== from && index !== to)
      const most = Math.max(...others)
      const least = Math.min(...others)
      for (const [i, mine] of (groups[from] ?? []).entries()) {
        for (const [j, yours] of (groups[to] ?? []).entries()) {
          const moved = yours.tenths - mine.tenths
          const fromSum = (sums[from] ?? 0) + moved
          const toSum = (sums[to] ?? 0) - moved
          if (Math.max(most, fromSum, toSum) - Math.min(least, fromSum, toSum) >= spread) continue
          ;(groups[from] as Group)[i] = yours
          ;(groups[to] as Group)[j] = mine
          sums[from] = fromSum
          sums[to] = toSum
          return true
        }
      }
    }
    return false
  }
  if (groups.length < 2) return groups
  while (swapOnce(sums.indexOf(Math.max(...sums))) || swapOnce(sums.indexOf(Math.min(...sums)))) {
    // each swap narrows the spread, so this ends
  }
  return groups
}

interface Candidate {
  mask: number
  tenths: Tenths
}

/**
 * Exact search for a grouping with a spread below `below`. For every sum that could be the lightest portion, the
 * least possible heaviest portion is found by dynamic programming over the set of pieces still to be placed.
 */
function leastSpread(pieces: Group, perPortion: number, below: number): Group[] | undefined {
  const candidates = combinations(pieces, perPortion)
  const byLowest: Candidate[][] = pieces.map(() => [])
  for (const candidate of candidates) byLowest[31 - Math.clz32(candidate.mask & -candidate.mask)]?.push(candidate)
  const mean = weightOf(pieces) / (pieces.length / perPortion)
  const lightest = [...new Set(candidates.map((candidate) => candidate.tenths))].sort((a, b) => b - a)
  let best: number[] | undefined
  let bestSpread = below
  for (const least of lightest) {
    if (least > mean) continue
    if (least <= mean - bestSpread) break
    const masks = leastHeaviest(byLowest, 2 ** pieces.length - 1, least, least + bestSpread)
    if (!masks) continue
    const sums = masks.map((mask) => weightOf(picked(pieces, mask)))
    bestSpread = Math.max(...sums) - Math.min(...sums)
    best = masks
  }
  return best?.map((mask) => picked(pieces, mask))
}

/** Groups covering `all`, each at least `least` and under `below`, with the least heaviest group; undefined if none. */
function leastHeaviest(byLowest: Candidate[][], all: number, least: Tenths, below: Tenths): number[] | undefined {
  const heaviest = new Float64Array(all + 1).fill(-1)
  const choice = new Int32Array(all + 1)
  const search = (mask: number): number => {
    if (mask === 0) return 0
    const known = heaviest[mask] as number
    if (known >= 0) return known
    let best = Number.POSITIVE_INFINITY
    for (const group of byLowest[31 - Math.clz32(mask & -mask)] ?? []) {
      if (group.tenths < least || group.tenths >= below || (group.mask & mask) !== group.mask) continue
      const most = Math.max(group.tenths, search(mask ^ group.mask))
      if (most >= best) continue
      best = most
      choice[mask] = group.mask
    }
    heaviest[mask] = best
    return best
  }
  if (search(all) === Number.POSITIVE_INFINITY) return undefined
  const masks: number[] = []
  for (let mask = all; mask !== 0; mask ^= choice[mask] as number) masks.push(choice[mask] as number)
  return masks
}

function combinations(pieces: Group, size: number): Candidate[] {
  const found: Candidate[] = []
  const extend = (from: number, left: number, mask: number, tenths: Tenths): void => {
    if (left === 0) {
      found.push({ mask, tenths })
      return
    }
    for (let next = from; next <= pieces.length - left; next += 1) {
      extend(next + 1, left - 1, mask | (1 << next), tenths + (pieces[next]?.tenths ?? 0))
    }
  }
  extend(0, size, 0, 0)
  return found
}

function picked(pieces: Group, mask: number): Group {
  return pieces.filter((_, index) => (mask & (1 << index)) !== 0)
}

function weightOf(group: Group): Tenths {
  return group.reduce((sum, piece) => sum + piece.tenths, 0)
}

function spreadOf(groups: readonly Group[]): Tenths {
  const sums = groups.map(weightOf)
  return Math.max(...sums) - Math.min(...sums)
}
