import { useEffect, useRef, useState } from 'react'
import type { PlanAnswered, PlanJob, PlanJobs } from './plan-worker.ts'

type Question<Job extends PlanJob> = Parameters<PlanJobs[Job]>[0]
type Answer<Job extends PlanJob> = ReturnType<PlanJobs[Job]>

export interface Planned<Job extends PlanJob> {
  answer: Answer<Job> | undefined
  /** The question that `answer` answers; a newer one may be under way. */
  of: Question<Job> | undefined
  refusal: string | undefined
  busy: boolean
}

/** What is said where a worker has broken off: another question starts a new one. */
export const workerFailed = 'This tablet broke off the calculation. Change something, or open the page again.'

/** A plan, worked out in a worker. A new question ends the one under way; the last answer wins. */
export function usePlan<Job extends PlanJob>(job: Job, question: Question<Job> | undefined): Planned<Job> {
  const [planned, setPlanned] = useState<Planned<Job>>({ answer: undefined, of: undefined, refusal: undefined, busy: false })
  const worker = useRef<Worker>(undefined)
  const isWorking = useRef(false)
  const turn = useRef(0)
  const text = JSON.stringify(question)
  useEffect(() => () => worker.current?.terminate(), [])
  useEffect(() => {
    if (text === undefined) return
    if (isWorking.current) {
      worker.current?.terminate()
      worker.current = undefined
    }
    worker.current ??= new Worker(new URL('./plan-worker.ts', import.meta.url), { type: 'module' })
    turn.current += 1
    const asked = turn.current
    const of = JSON.parse(text) as Question<Job>
    isWorking.current = true
    worker.current.onmessage = ({ data }: MessageEvent<PlanAnswered>) => {
      if (data.turn !== asked) return
      isWorking.current = false
      setPlanned(
        'answer' in data
          ? { answer: data.answer as Answer<Job>, of, refusal: undefined, busy: false }
          : { answer: undefined, of: undefined, refusal: data.refusal.message, busy: false },
      )
    }
    worker.current.onerror = () => {
      worker.current?.terminate()
      worker.current = undefined
      isWorking.current = false
      setPlanned({ answer: undefined, of: undefined, refusal: workerFailed, busy: false })
    }
    setPlanned((known) => ({ ...known, busy: true }))
    worker.current.postMessage({ turn: asked, job, question: of })
  }, [text, job])
  return planned
}
