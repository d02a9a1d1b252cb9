import { portionState } from '../portions/portion-state.ts'
import { type LedgerLine, readLedger, standing } from '../runs/ledger.ts'
import { type PlateRule, platesOfRun } from '../runs/plates.ts'
import { portionTub } from '../runs/run-record.ts'
import type { RunTub } from '../runs/run-tub.ts'

/** What is seen of a bench from across the room. */
export interface AtGlance {
  /** How much of what came has been weighed, percent. */
  weighedPct: number
  portions: { within: number; over: number; under: number }
  /** Minutes since something was weighed last, or since it began. */
  silentMinutes: number
}

interface GlancedRun {
  received: { tenths: number }
  startedAt: string
  sheet: { outputs: readonly PlateRule[] }
  tubs: readonly RunTub[]
  weighings: readonly (LedgerLine & { weighedAt: string })[]
}

/** How a run stands at a moment in milliseconds: how far it is, its portions against their target, and how long nothing was weighed. */
export function atGlance(run: GlancedRun, now: number): AtGlance {
  const { received, startedAt, tubs, weighings } = run
  const weighed = [...readLedger(weighings).totals.values()].reduce((sum, { tenths }) => sum + tenths, 0)
  const portion = portionTub(tubs)
  const plates = platesOfRun(run)
  const weights = plates
    ? plates.plates.filter(({ pieces }) => pieces.length === plates.perPlate).map(({ grams }) => grams * 10)
    : standing(weighings).flatMap(({ tubId, tenths }) => (tubId === portion?.id ? [tenths] : []))
  const portions = { within: 0, over: 0, under: 0 }
  if (portion?.targetTenths != null && portion.toleranceTenths != null)
    for (const tenths of weights) portions[portionState(tenths, portion.targetTenths, portion.toleranceTenths)] += 1
  const lastAt = Math.max(Date.parse(startedAt), ...weighings.map(({ weighedAt }) => Date.parse(weighedAt)))
  return { weighedPct: (100 * weighed) / received.tenths, portions, silentMinutes: Math.max(0, (now - lastAt) / 60_000) }
}
