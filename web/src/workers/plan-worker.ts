import { whichContender } from '@fleam/core/contenders/which-contender'
import { InputError } from '@fleam/core/input-error'
import { nextSlice } from '@fleam/core/plan/next-slice'
import { planAround } from '@fleam/core/plan/plan-around'

/** What the worker can be asked, by name. */
const jobs = {
  planAround: ({ input, heldCm }: { input: Parameters<typeof planAround>[0]; heldCm: readonly number[] }) => planAround(input, heldCm),
  nextSlice,
  whichContender,
}
export type PlanJobs = typeof jobs
export type PlanJob = keyof PlanJobs

export interface PlanAsked<Job extends PlanJob = PlanJob> {
  turn: number
  job: Job
  question: Parameters<PlanJobs[Job]>[0]
}
export type PlanAnswered = { turn: number; answer: unknown } | { turn: number; refusal: { field: string; message: string } }

addEventListener('message', ({ data: { turn, job, question } }: MessageEvent<PlanAsked>) => {
  try {
    postMessage({ turn, answer: jobs[job](question as never) } satisfies PlanAnswered)
  } catch (error) {
    if (!(error instanceof InputError)) throw error
    postMessage({ turn, refusal: { field: error.field, message: error.message } } satisfies PlanAnswered)
  }
})
