import type { Tenths } from '../quantities/weight.ts'

/** A line of the weighing ledger. A reversal names the weighing it takes back and repeats its weight. */
export interface LedgerLine {
  id: string
  tubId: string
  tenths: Tenths
  reversesId: string | null
}

/** Weight and number of the standing weighings of one tub. */
export interface TubTotal {
  tenths: Tenths
  count: number
}

/** A ledger as read: what stands of it, altogether and tub by tub. */
export interface Ledger<Line extends LedgerLine = LedgerLine> {
  /** The weighings that are neither a reversal nor taken back by one, in their order. */
  standing: readonly Line[]
  byTub: ReadonlyMap<string, readonly Line[]>
  totals: ReadonlyMap<string, TubTotal>
  total: TubTotal
}

interface Reading extends Ledger {
  lines: readonly LedgerLine[]
  /** Weighings that were taken back before they were read. */
  reversedEarly: ReadonlySet<string>
}

/** Earlier readings of a ledger, by its first line: it only grows, so the next reading goes on from one of them. */
const readings = new WeakMap<LedgerLine, Reading[]>()
const mostReadings = 4
const nothing: Reading = {
  lines: [],
  standing: [],
  byTub: new Map(),
  totals: new Map(),
  total: { tenths: 0, count: 0 },
  reversedEarly: new Set(),
}

/**
 * Reads a ledger. Lines that an earlier reading has seen in the same places are not read again, so that the cost of a
 * weighing does not grow with the run.
 * @example readLedger([{ id: 'a', tubId: 't', tenths: 1840, reversesId: null }]).total // { tenths: 1840, count: 1 }
 */
export function readLedger<Line extends LedgerLine>(lines: readonly Line[]): Ledger<Line> {
  const [first] = lines
  if (!first) return nothing as Ledger as Ledger<Line>
  const known = readings.get(first) ?? []
  const before = known.find((reading) => continues(lines, reading.lines)) ?? nothing
  if (before.lines.length === lines.length) return before as Ledger as Ledger<Line>
  const reading = extend(before, lines)
  readings.set(first, [reading, ...known.filter((one) => one !== before || known.length < mostReadings)].slice(0, mostReadings))
  return reading as Ledger as Ledger<Line>
}

/** Whether a ledger begins with the lines of an earlier one; both only ever grow at their end. */
function continues(lines: readonly LedgerLine[], earlier: readonly LedgerLine[]): boolean {
  const last = earlier.length - 1
  if (earlier.length > lines.length) return false
  return lines[last] === earlier[last] && lines[last >> 1] === earlier[last >> 1]
}

function extend(before: Reading, lines: readonly LedgerLine[]): Reading {
  const standing = [...before.standing]
  const byTub = new Map(before.byTub)
  const totals = new Map(before.totals)
  const reversedEarly = new Set(before.reversedEarly)
  let { tenths, count } = before.total
  const fresh = new Set<string>()
  const own = (tubId: string): LedgerLine[] => {
    const held = byTub.get(tubId) ?? []
    if (fresh.has(tubId)) return held as LedgerLine[]
    const copy = [...held]
    fresh.add(tubId)
    byTub.set(tubId, copy)
    return copy
  }
  const add = (tubId: string, weight: Tenths, by: 1 | -1) => {
    const total = totals.get(tubId) ?? { tenths: 0, count: 0 }
    totals.set(tubId, { tenths: total.tenths + by * weight, count: total.count + by })
    tenths += by * weight
    count += by
  }
  for (let index = before.lines.length; index < lines.length; index += 1) {
    const line = lines[index] as LedgerLine
    if (line.reversesId === null) {
      if (reversedEarly.has(line.id)) continue
      standing.push(line)
      own(line.tubId).push(line)
      add(line.tubId, line.tenths, 1)
      continue
    }
    const at = standing.findLastIndex((one) => one.id === line.reversesId)
    const [taken] = at < 0 ? [] : standing.splice(at, 1)
    if (!taken) {
      reversedEarly.add(line.reversesId)
      continue
    }
    const held = own(taken.tubId)
    held.splice(held.indexOf(taken), 1)
    add(taken.tubId, taken.tenths, -1)
    if (held.length === 0) {
      totals.delete(taken.tubId)
      byTub.delete(taken.tubId)
      fresh.delete(taken.tubId)
    }
  }
  return { lines, standing, byTub, totals, total: { tenths, count }, reversedEarly }
}

/**
 * The weighings that stand: those that are neither a reversal nor taken back by one.
 * @example standing([{ id: 'a', tubId: 't', tenths: 1840, reversesId: null }]).length === 1
 */
export function standing<Line extends LedgerLine>(lines: readonly Line[]): readonly Line[] {
  return readLedger(lines).standing
}

/**
 * Totals of the standing weighings by tub id; a tub without any is not in it.
 * @example totalsByTub([{ id: 'a', tubId: 't', tenths: 1840, reversesId: null }]).get('t') // { tenths: 1840, count: 1 }
 */
export function totalsByTub(lines: readonly LedgerLine[]): ReadonlyMap<string, TubTotal> {
  return readLedger(lines).totals
}
