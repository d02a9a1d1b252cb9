import type { Tenths } from '../quantities/weight.ts'

/** A weighing of a follow-on: of what came out, or of the whole of it on the way. Taken back by a line of its own. */
export interface FollowOnLine {
  id: string
  /** Name of the output that it went into; `null` while it is on the way. */
  output: string | null
  /** Tenths of the output's unit. */
  tenths: Tenths
  portions: number | null
  reversesId: string | null
}

export interface WeighedOut<Line> {
  /** Tenths and portions by output, of lines that stand. */
  totals: ReadonlyMap<string, { tenths: Tenths; portions: number | null; count: number }>
  /** Weighings on the way that stand. */
  between: readonly Line[]
  /** Weighings that stand, on the way and out, as they were made. */
  standing: readonly Line[]
}

/**
 * What has come out of a follow-on so far, by its weighings.
 * @example weighedOut([{ id: 'a', output: 'Stock', tenths: 40_000, portions: null, reversesId: null }]).totals.get('Stock') // { tenths: 40_000, portions: null, count: 1 }
 */
export function weighedOut<Line extends FollowOnLine>(lines: readonly Line[]): WeighedOut<Line> {
  const reversed = new Set(lines.map(({ reversesId }) => reversesId))
  const standing = lines.filter(({ id, reversesId }) => reversesId === null && !reversed.has(id))
  const totals = new Map<string, { tenths: Tenths; portions: number | null; count: number }>()
  for (const { output, tenths, portions } of standing) {
    if (output === null) continue
    const so = totals.get(output) ?? { tenths: 0, portions: null, count: 0 }
    totals.set(output, {
      tenths: so.tenths + tenths,
      portions: portions === null ? so.portions : (so.portions ?? 0) + portions,
      count: so.count + 1,
    })
  }
  return { totals, between: standing.filter(({ output }) => output === null), standing }
}
