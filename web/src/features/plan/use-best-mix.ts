import type { BestMix, BestMixInput } from '@fleam/core/plan/best-mix'
import { useEffect, useRef, useState } from 'react'
import type { PlanAnswered } from '../../workers/plan-worker.ts'

export interface Planned {
  mix: BestMix | undefined
  /** The question that `mix` answers; a newer one may be under way. */
  of: BestMixInput | undefined
  refusal: string | undefined
  busy: boolean
}

/** The best mix, worked out in a worker. A new question ends the one under way; the last answer wins. */
export function useBestMix(input: BestMixInput | undefined): Planned {
  const [planned, setPlanned] = useState<Planned>({ mix: undefined, of: undefined, refusal: undefined, busy: false })
  const worker = useRef<Worker>(undefined)
  const turn = useRef(0)
  const question = JSON.stringify(input)
  useEffect(() => {
    const stop = () => {
      worker.current?.terminate()
      worker.current = undefined
    }
    if (question === undefined) return stop
    turn.current += 1
    const asked = turn.current
    worker.current = new Worker(new URL('../../workers/plan-worker.ts', import.meta.url), { type: 'module' })
    worker.current.onmessage = ({ data }: MessageEvent<PlanAnswered>) => {
      if (data.turn !== asked) return
      setPlanned(
        'mix' in data
          ? { mix: data.mix, of: JSON.parse(question), refusal: undefined, busy: false }
          : { mix: undefined, of: undefined, refusal: data.refusal.message, busy: false },
      )
    }
    setPlanned((known) => ({ ...known, busy: true }))
    worker.current.postMessage({ turn: asked, input: JSON.parse(question) })
    return stop
  }, [question])
  return planned
}
