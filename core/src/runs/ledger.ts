import type { Tenths } from '../quantities/weight.ts'

/** A line of the weighing ledger. A reversal names the weighing it takes back and repeats its weight. */
export interface LedgerLine {
  id: string
  tubId: string
  tenths: Tenths
  reversesId: string | null
}

/**
 * The weighings that stand: those that are neither a reversal nor taken back by one.
 * @example standing([{ id: 'a', tubId: 't', tenths: 1840, reversesId: null }]).length === 1
 */
export function standing<Line extends LedgerLine>(lines: readonly Line[]): Line[] {
  const reversed = new Set<string>()
  for (const line of lines) if (line.reversesId !== null) reversed.add(line.reversesId)
  return lines.filter((line) => line.reversesId === null && !reversed.has(line.id))
}

/** Weight and number of the standing weighings of one tub. */
export interface TubTotal {
  tenths: Tenths
  count: number
}

/** Totals of the standing weighings by tub id. */
export function totalsByTub(lines: readonly LedgerLine[]): Map<string, TubTotal> {
  const totals = new Map<string, TubTotal>()
  for (const line of standing(lines)) {
    const total = totals.get(line.tubId) ?? { tenths: 0, count: 0 }
    totals.set(line.tubId, { tenths: total.tenths + line.tenths, count: total.count + 1 })
  }
  return totals
}
