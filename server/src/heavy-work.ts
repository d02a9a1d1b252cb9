import { availableParallelism } from 'node:os'
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
      return (await pool).run(input, { name })
    },
    close: async () => (await pool)?.destroy(),
  }
}
