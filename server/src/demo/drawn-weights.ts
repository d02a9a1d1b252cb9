import type { CutSheet } from '@fleam/contract/cut-sheets'
import type { Random } from '@fleam/core/random/seeded-random'

import type { Hand } from './lines.ts'

/** Shares drawn about the sheet's typical ones, then scaled so that they and the unaccounted loss make the whole. */
export function drawShares(sheet: CutSheet, random: Random, hand: Hand, isBad: boolean, freedPct: number): Map<string, number> {
  const loss = isBad ? 3.1 : 0.3 + random.next() * 1.2
  const drawn = sheet.body.outputs.map((output, index) => {
    const sd = (output.highPct - output.lowPct) / 4.5
    const lean = index === 0 ? (hand.mainPct * output.typicalPct) / 45 + freedPct : 0
    const soaked = isBad && output.key === 'liquid' ? 3.6 : 0
    const share = random.normal(output.typicalPct + lean, sd) + soaked
    return [output.key, Math.min(output.highPct * 1.1 + soaked + freedPct, Math.max(output.lowPct * 0.85, share))] as const
  })
  const total = drawn.reduce((sum, [, share]) => sum + share, 0)
  return new Map(drawn.map(([key, share]) => [key, (share * (100 - loss)) / total]))
}

/** A weight in so many pieces, none of them quite like another, that add up to it. */
export function parted(total: number, count: number, random: Random): number[] {
  const draws = Array.from({ length: count }, () => Math.max(0.7, random.normal(1, 0.06)))
  const sum = draws.reduce((all, draw) => all + draw, 0)
  const pieces = draws.map((draw) => Math.round((total * draw) / sum / 10) * 10)
  pieces[0] = (pieces[0] ?? 0) + total - pieces.reduce((all, piece) => all + piece, 0)
  return pieces
}

/** As many portions about the target as a weight makes, in whole grams; what is left over or short goes to the tips. */
export function cutPortions(total: number, target: number, hand: Hand, random: Random): number[] {
  const count = Math.max(1, Math.round(total / (target + (hand.offTargetGrams * target) / 180)))
  const scale = target / 1800
  return Array.from(
    { length: count },
    () => Math.round(random.normal(target / 10 + hand.offTargetGrams * scale, hand.spreadGrams * scale)) * 10,
  )
}
