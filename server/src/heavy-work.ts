import { availableParallelism } from 'node:os'
import { InputError } from '@fleam/core/input-error'
import type { Piscina } from 'piscina'
import type * as jobs from './heavy-work-jobs.ts'

type Jobs = typeof jobs
type JobName = keyof Jobs

/** Runs long computations in worker threads, so that the event loop keeps answering. The threads start with the first. */
export interface HeavyWork {
  run<Name extends JobName>(name: Name, input: Parameters<Jobs[Name]>[0]): Promise<Awaited<ReturnType<Jobs[Name]>>>
  close(): Promise<void>
}

/** @param workerFile the built module of the jobs */
export function openHeavyWork(workerFile: string): HeavyWork {
  let pool: Promise<Piscina> | undefined
  const startPool = async () => {
    const { default: Piscina } = await import('piscina')
    return new Piscina({ filename: workerFile, maxThreads: Math.max(1, availableParallelism() - 1), idleTimeout: 60_000 })
  }
  return {
    async run(name, input) {
      pool ??= startPool()
      const answer = await (await pool).run({ name, input }, { name: 'work' })
      if ('refusal' in answer) throw new InputError(answer.refusal.field, answer.refusal.message)
      return answer.result
    },
    close: async () => (await pool)?.destroy(),
  }
}
