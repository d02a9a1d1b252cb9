import type { BenchEvent } from '@fleam/contract/bench'
import type { Run, Weighing } from '@fleam/contract/runs'
import type { OutboxLine, RunLine } from './outbox-line.ts'

/** The ledger of a run with what waits on this tablet at its end; refused lines do not count. */
export function withWaiting(run: Run, lines: readonly OutboxLine[]): Run {
  const own = lines.filter((line): line is RunLine => line.runId === run.id && line.refusal === null)
  if (own.length === 0) return run
  const weighed = new Set(run.weighings.map((line) => line.id))
  const happened = new Set(run.events.map((event) => event.id))
  let place = Math.max(run.weighings.at(-1)?.sequence ?? 0, run.events.at(-1)?.sequence ?? 0)
  const weighings: Weighing[] = []
  const events: BenchEvent[] = []
  for (const line of own) {
    place += 1
    if (line.kind === 'event') {
      if (!happened.has(line.id)) events.push({ id: line.id, sequence: place, what: line.what, at: line.at, by: line.person })
    } else if (!weighed.has(line.id)) weighings.push(...ledgerLines(line, place))
  }
  return { ...run, weighings: [...run.weighings, ...weighings], events: [...run.events, ...events] }
}

/** What a line will be in the ledger once the server has it. */
function ledgerLines(line: Exclude<RunLine, { kind: 'event' }>, sequence: number): Weighing[] {
  const { id, tubId, tenths, entered, piece, at, person } = line
  const common = { sequence, tenths, entered, piece, movedFromId: null, weighedAt: at, by: person }
  if (line.kind === 'weighing') return [{ ...common, id, tubId, reversesId: null }]
  if (line.kind === 'reversal') return [{ ...common, id, tubId, reversesId: line.reversesId }]
  return [
    { ...common, id: line.reversalId, tubId: line.fromTubId, reversesId: line.weighingId },
    { ...common, id, tubId, reversesId: null, movedFromId: line.weighingId },
  ]
}
