import { setTimeout as pause } from 'node:timers/promises'
import type { Sequelize, Transaction } from 'sequelize'
import { ailmentOf, isGone } from './ailments.ts'
import { isBackSoon } from './watchdog.ts'

const mostTries = 6
const mostNodes = 3

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

/**
 * The same for a transaction, which is also done again on another node where its own went away before the commit was asked for.
 * After that it may be stored: only the client, who sends the same ids again, can ask for it once more.
 */
export async function transacted<Result>(sequelize: Sequelize, work: (inner: Transaction) => Promise<Result>): Promise<Result> {
  for (let tries = 1; ; tries += 1) {
    let isCommitting = false
    try {
      return await retried(() =>
        sequelize.transaction(async (inner) => {
          isCommitting = false
          const result = await work(inner)
          isCommitting = true
          return result
        }),
      )
    } catch (error) {
      if (isCommitting || tries === mostNodes || !isGone(error) || !(await isBackSoon(sequelize))) throw error
    }
  }
}

const isLongWait = (error: unknown) => (error as { parent?: { errno?: number } }).parent?.errno === 1205
