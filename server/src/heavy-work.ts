import { availableParallelism } from 'node:os'
import { MessageChannel } from 'node:worker_threads'
import { InputError } from '@fleam/core/input-error'
import type { Piscina } from 'piscina'
import type * as jobs from './heavy-work-jobs.ts'
import { ProblemError } from './http/problems.ts'
import { takeTurns } from './turns.ts'

type Jobs = typeof jobs
type JobName = keyof Jobs

/** Who asks for a computation, and what it may cost. */
export interface WorkOptions {
  /** Whose turn it counts as: people take turns, so that nobody's many jobs keep another's one waiting. */
  owner?: string | undefined
  /** Ends the work when nobody waits for it any more. */
  signal?: AbortSignal | undefined
  /** Time that it may take once it runs, in ms. */
  limitMs?: number | undefined
  /** Told now and then how much of the work is done, from 0 to 1. */
  onProgress?: ((done: number) => void) | undefined
}

/** Runs long computations in worker threads, so that the event loop keeps answering. The threads start with the first. */
export interface HeavyWork {
  /**
   * @throws InputError what the computation refuses
   * @throws ProblemError `too-much-work` over its time or memory, `busy` where its owner has too much waiting
   */
  run<Name extends JobName>(name: Name, input: Parameters<Jobs[Name]>[0], options?: WorkOptions): Promise<Awaited<ReturnType<Jobs[Name]>>>
  close(): Promise<void>
}

/** One core is left to whoever only asks for something. */
const threads = Math.max(1, availableParallelism() - 1)
const usualLimitMs = 10_000
const mostMegabytes = 1024
const mostWaitingOfOne = 20

/**
 * @param workerFile the built module of the jobs
 * @param databaseUrl where a job that writes much opens a connection of its own
 */
export function openHeavyWork(workerFile: string, databaseUrl: string): HeavyWork {
  let pool: Promise<Piscina> | undefined
  const refuse = () => new ProblemError('busy', { detail: 'Wait until some of what you asked for is done.' }, 2)
  const turns = takeTurns({ atOnce: threads, mostWaiting: mostWaitingOfOne, refuse })
  // what takes minutes has a thread of its own, and keeps nothing short waiting
  const turnsOfLong = takeTurns({ atOnce: 1, mostWaiting: mostWaitingOfOne, refuse })
  const startPool = async () => {
    const { default: Piscina } = await import('piscina')
    const resourceLimits = { maxOldGenerationSizeMb: mostMegabytes }
    return new Piscina({ filename: workerFile, maxThreads: threads + 1, idleTimeout: 60_000, resourceLimits, workerData: { databaseUrl } })
  }
  return {
    async run(name, input, { owner = '', signal, limitMs = usualLimitMs, onProgress } = {}) {
      const leave = await (limitMs > usualLimitMs ? turnsOfLong : turns).take(owner, signal)
      const budget = new AbortController()
      let timer: NodeJS.Timeout | undefined
      const { port1: told, port2: progress } = new MessageChannel()
      told.on('message', (done: number) => onProgress?.(done))
      try {
        pool ??= startPool()
        const ready = await pool
        timer = setTimeout(() => budget.abort(), limitMs)
        const signals = signal ? AbortSignal.any([signal, budget.signal]) : budget.signal
        const answer = await ready.run({ name, input, progress }, { name: 'work', signal: signals, transferList: [progress] })
        if ('refusal' in answer) throw new InputError(answer.refusal.field, answer.refusal.message)
        if ('problem' in answer) throw new ProblemError(answer.problem.kind, answer.problem.extra)
        return answer.result
      } catch (error) {
        if (signal?.aborted) throw new ProblemError('broken-request', { detail: 'Nobody waits for the answer any more.' })
        if (budget.signal.aborted) throw tooMuchWork(`It was stopped after ${limitMs / 1000} seconds`)
        if ((error as { code?: string }).code === 'ERR_WORKER_OUT_OF_MEMORY') throw tooMuchWork(`It needed more than ${mostMegabytes} MB`)
        throw error
      } finally {
        clearTimeout(timer)
        told.close()
        leave()
      }
    },
    close: async () => (await pool)?.destroy(),
  }
}

function tooMuchWork(what: string): ProblemError {
  return new ProblemError('too-much-work', { detail: `${what}. Ask for less at once: fewer kinds, places or pieces, or coarser steps.` })
}
