import { setTimeout as pause } from 'node:timers/promises'

/** Deadlock (a cluster's certification failure too), lock wait over its time, a node that is not ready yet. */
const passing = new Set([1213, 1205, 1047])
const mostTries = 6

/**
 * Does it again where the database says that another transaction stood in the way: a bounded number of times, after a
 * short random pause. Safe for every write of a client, since what it stores carries the client's own id.
 */
export async function retried<Result>(work: () => Promise<Result>): Promise<Result> {
  for (let tries = 1; ; tries += 1) {
    try {
      return await work()
    } catch (error) {
      const errno = (error as { parent?: { errno?: number } } | null)?.parent?.errno
      if (errno === undefined || !passing.has(errno) || tries === mostTries) throw error
      await pause(Math.random() * 20 * tries)
    }
  }
}
