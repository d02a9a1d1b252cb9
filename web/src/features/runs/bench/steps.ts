import type { BenchEvent } from '@fleam/contract/bench'
import type { SheetStep } from '@fleam/contract/cut-sheets'
import type { Run } from '@fleam/contract/runs'
import type { SignOfWork } from '@fleam/core/bench/bench-time'
import type { ColdMove } from '@fleam/core/bench/cold-clock'

export interface BenchStep {
  title: string
  text: string
  check?: string | undefined
  caution?: string | undefined
  minutes?: number | undefined
  optional?: SheetStep['optional']
  outputs: readonly string[]
  shows: readonly string[]
  /** The station list, at the step that sets it. */
  station: readonly string[]
  /** An optional step that this run leaves out. */
  isSkipped: boolean
}

/** The steps of a run's sheet with the station before them; the sheet's cautions take turns at steps without their own. */
export function stepsOf(run: Run): BenchStep[] {
  const { station: list, cautions } = run.sheet
  const station: BenchStep[] =
    list.length > 0 ? [{ title: 'Set the station', text: '', outputs: [], shows: [], station: list, isSkipped: false }] : []
  const skipped = skippedSteps(run.events)
  const steps = [
    ...station,
    ...run.sheet.steps.map((step, index) => ({
      ...step,
      outputs: step.outputs ?? [],
      shows: step.shows ?? [],
      station: [],
      isSkipped: step.optional !== undefined && skipped.has(index + station.length),
    })),
  ]
  return steps.map((step, index) => ({ ...step, caution: step.caution ?? cautions[index % cautions.length] }))
}

/** Steps that this run leaves out, by their place on the bench. */
function skippedSteps(events: readonly BenchEvent[]): Set<number> {
  const skipped = new Set<number>()
  for (const { what } of events) {
    if (what.kind !== 'optional-step') continue
    if (what.done) skipped.delete(what.step)
    else skipped.add(what.step)
  }
  return skipped
}

/** Lines of the station list that are ticked. */
export function stationTicks(events: readonly BenchEvent[]): Set<number> {
  const ticked = new Set<number>()
  for (const { what } of events) {
    if (what.kind !== 'station') continue
    if (what.ticked) ticked.add(what.line)
    else ticked.delete(what.line)
  }
  return ticked
}

/** The step that each person came to last. */
export function presentSteps(events: readonly BenchEvent[]): Map<string, { name: string; step: number; at: string }> {
  const present = new Map<string, { name: string; step: number; at: string }>()
  for (const { what, by, at } of events) if (what.kind === 'step') present.set(by.id, { name: by.name, step: what.step, at })
  return present
}

/** Everything at the bench that tells that someone was at work, for the timer. */
export function signsOfWork(run: Run): SignOfWork[] {
  const at = (stamp: string) => new Date(stamp).getTime()
  return [
    { personId: run.cook.id, at: at(run.startedAt), step: 0 },
    ...run.weighings.map((line) => ({ personId: line.by.id, at: at(line.weighedAt) })),
    ...run.events
      .filter((event) => event.what.kind !== 'changed')
      .map(({ what, by, at: stamp }) => ({
        personId: by.id,
        at: at(stamp),
        ...(what.kind === 'step' ? { step: what.step } : {}),
      })),
  ]
}

/** When the product left the cold and went back. */
export function coldMoves(events: readonly BenchEvent[]): ColdMove[] {
  return events.flatMap(({ what, at }) => (what.kind === 'cold' ? [{ at: new Date(at).getTime(), isOut: what.out }] : []))
}

/** Items of the run that have been said to be done. */
export function piecesDone(events: readonly BenchEvent[]): Set<number> {
  return new Set(events.flatMap(({ what }) => (what.kind === 'piece-done' ? [what.piece] : [])))
}
