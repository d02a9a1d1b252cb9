import { setTimeout as pause } from 'node:timers/promises'
import { ailmentOf } from './ailments.ts'

const mostTries = 6

/**
 * Does it again where another transaction stood in the way (a deadlock, a cluster's certification failure): a bounded number of
 * times, after a short random pause. Who has waited for a lock as long as is waited is not made to wait again. Safe for every write of a client, since what it stores carries the client's own id.
 */
export async function retried<Result>(work: () => Promise<Result>): Promise<Result> {
  for (let tries = 1; ; tries += 1) {
    try {
      return await work()
    } catch (error) {
      if (ailmentOf(error) !== 'contended' || isLongWait(error) || tries === mostTries) throw error
      await pause(Math.random() * 20 * tries)
    }
  }
}

const isLongWait = (error: unknown) => (error as { parent?: { errno?: number } }).parent?.errno === 1205
