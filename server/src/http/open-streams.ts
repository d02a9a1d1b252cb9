import type { Database } from '../db/database.ts'
import { standingSessions } from '../features/session/session.sql.ts'
import { ProblemError } from './problems.ts'

/** Streams of events that stay open, by the session they belong to: so many of each, and none longer than its session. */
export interface OpenStreams {
  /**
   * @param end called within a second of the session's end
   * @returns what is called when the stream is over
   * @throws ProblemError where the session has too many open
   */
  add(sessionId: string, end: () => void): () => void
  /** How many are open. */
  count(): number
  close(): void
}

const usualOfOne = 12
const lookMs = 1000

export function openStreams({ acrossKitchens }: Database, mostOfOne = usualOfOne): OpenStreams {
  const ends = new Map<string, Set<() => void>>()
  let timer: NodeJS.Timeout | undefined

  async function look(): Promise<void> {
    const ids = [...ends.keys()]
    // a database that is away tells nothing of sessions: the streams stay
    const standing = await acrossKitchens.select<{ id: string }>(standingSessions, { ids }).catch(() => undefined)
    const ended = standing ? ids.filter((id) => !standing.some((session) => session.id === id)) : []
    for (const id of ended) for (const end of [...(ends.get(id) ?? [])]) end()
    schedule()
  }

  function schedule(): void {
    clearTimeout(timer)
    timer = ends.size > 0 ? setTimeout(look, lookMs).unref() : undefined
  }

  return {
    add(sessionId, end) {
      const own = ends.get(sessionId) ?? new Set()
      if (own.size >= mostOfOne) throw new ProblemError('too-many-streams', { detail: 'Close some of its pages.' })
      ends.set(sessionId, own.add(end))
      if (!timer) schedule()
      return () => {
        own.delete(end)
        if (own.size === 0 && ends.get(sessionId) === own) ends.delete(sessionId)
      }
    },
    count: () => [...ends.values()].reduce((sum, own) => sum + own.size, 0),
    close() {
      clearTimeout(timer)
      for (const own of ends.values()) for (const end of [...own]) end()
    },
  }
}
