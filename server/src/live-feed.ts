import type { BenchEvent } from '@fleam/contract/bench'
import type { Weighing } from '@fleam/contract/runs'
import type { Database } from './db/database.ts'
import { listBenchEventsAt, listWeighingsAt } from './features/runs/ledger-lines.ts'

/** Something new at a bench, with its place in the order of its own kind. */
export type LiveChange = { kitchenId: string; runId: string } & ({ weighing: Weighing } | { event: BenchEvent })

type Listener = (change: LiveChange) => void

export interface LiveFeed {
  /** Looks for changes now rather than at the next beat: something was just stored here. */
  wake(): void
  /** Hears every change of one kitchen from now on, each once, until the returned function is called. */
  listen(kitchenId: string, listener: Listener): Promise<() => void>
  close(): void
}

const beatMs = 250
const batch = 500
/**
 * A number of the ledger that is missing so far may belong to a transaction that is still open. It is asked for again at the next
 * beat, then after twice the time each: on a cluster, whose nodes leave gaps by design, most are never used.
 */
const waitForMissingMs = 60_000
const mostMissing = 500

/**
 * Tells listeners what any copy of Fleam has stored, read from the database in the order it was stored. Numbers are
 * given out before their rows can be seen, so one that is missing is asked for again until it shows or is known to be
 * void. Nothing is read while nobody listens.
 */
export function openLiveFeed({ acrossKitchens }: Database): LiveFeed {
  const listeners = new Map<string, Set<Listener>>()
  const sources = [
    track(async (last, places) =>
      (await listWeighingsAt(acrossKitchens, { last, places, limit: batch })).map((row) => ({
        sequence: row.weighing.sequence,
        change: row,
      })),
    ),
    track(async (last, places) =>
      (await listBenchEventsAt(acrossKitchens, { last, places, limit: batch })).map((row) => ({
        sequence: row.event.sequence,
        change: row,
      })),
    ),
  ] as const
  let timer: ReturnType<typeof setTimeout> | undefined
  let reading: Promise<void> | undefined
  let again = false
  let starting: Promise<void> | undefined

  async function start(): Promise<void> {
    const newest = { attributes: ['sequence'], order: [['sequence', 'DESC']] as [string, string][], limit: mostMissing, raw: true }
    const seen = await Promise.all([acrossKitchens.weighings.findAll(newest), acrossKitchens.benchEvents.findAll(newest)])
    for (const [index, source] of sources.entries()) source.startAfter((seen[index] ?? []).map((row) => row.sequence))
    schedule()
  }

  function schedule(): void {
    clearTimeout(timer)
    if (listeners.size > 0) timer = setTimeout(read, beatMs).unref()
  }

  function read(): void {
    if (reading) {
      again = true
      return
    }
    reading = readOnce()
      .catch(() => undefined)
      .finally(() => {
        reading = undefined
        if (again) {
          again = false
          read()
        } else schedule()
      })
  }

  async function readOnce(): Promise<void> {
    const found = await Promise.all(sources.map((source) => source.next()))
    for (const { change } of found.flat()) {
      for (const listener of listeners.get(change.kitchenId) ?? []) listener(change)
    }
    if (found.some((changes) => changes.length === batch)) again = true
  }

  return {
    wake() {
      if (listeners.size > 0 && !starting) read()
    },
    async listen(kitchenId, listener) {
      const isFirst = listeners.size === 0
      const ofKitchen = listeners.get(kitchenId) ?? new Set()
      const leave = () => {
        ofKitchen.delete(listener)
        if (ofKitchen.size === 0) listeners.delete(kitchenId)
        if (listeners.size === 0) clearTimeout(timer)
      }
      listeners.set(kitchenId, ofKitchen.add(listener))
      if (isFirst) starting = start().finally(() => (starting = undefined))
      try {
        await starting
      } catch (error) {
        // whoever could not be told from when to listen is not kept as a listener: the tablet comes back
        leave()
        throw error
      }
      return leave
    },
    close() {
      listeners.clear()
      clearTimeout(timer)
    },
  }
}

interface Numbered {
  sequence: number
  change: LiveChange
}

/** Follows one numbered table: each row once, in order, late ones included. */
function track(readAfter: (last: number, places: readonly number[]) => Promise<Numbered[]>) {
  let last = 0
  const missing = new Map<number, { since: number; askAt: number }>()
  return {
    /** @param sequences the newest numbers that can be seen, newest first */
    startAfter(sequences: readonly number[]): void {
      last = sequences[0] ?? 0
      missing.clear()
      const seen = new Set(sequences)
      const from = sequences.at(-1) ?? last
      for (let place = last - 1; place > from; place -= 1) if (!seen.has(place)) missing.set(place, missingSince(Date.now()))
    },
    async next(): Promise<Numbered[]> {
      const now = Date.now()
      const due: number[] = []
      for (const [place, awaited] of missing) {
        if (now - awaited.since > waitForMissingMs) missing.delete(place)
        else if (now >= awaited.askAt) due.push(place)
      }
      const rows = await readAfter(last, due)
      for (const place of due) {
        const awaited = missing.get(place)
        if (awaited) awaited.askAt = now + (now - awaited.since)
      }
      for (const { sequence } of rows) {
        missing.delete(sequence)
        for (let place = Math.max(last + 1, sequence - mostMissing); place < sequence; place += 1) missing.set(place, missingSince(now))
        last = Math.max(last, sequence)
      }
      return rows
    },
  }
}

const missingSince = (now: number) => ({ since: now, askAt: now })
