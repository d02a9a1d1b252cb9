import { RateLimiterMemory, type RateLimiterRes } from 'rate-limiter-flexible'
import { ProblemError } from './problems.ts'

/** What a busy bench and a full outbox send, and far more than a person can. */
const usualWritesPerMinute = 3000

/** Counts what each person writes, minute by minute; who is over it is told when to go on, and a tablet does so by itself. */
export function limitWrites(perMinute = usualWritesPerMinute) {
  const limiter = new RateLimiterMemory({ points: perMinute, duration: 60 })
  return async (personId: string): Promise<void> => {
    try {
      await limiter.consume(personId)
    } catch (over) {
      const seconds = Math.ceil((over as RateLimiterRes).msBeforeNext / 1000)
      const detail = `Nothing is lost; what waits can be sent again in ${seconds} seconds.`
      throw new ProblemError('too-many-writes', { detail }, seconds)
    }
  }
}
