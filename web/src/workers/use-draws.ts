import { startTransition, useEffect, useRef, useState } from 'react'
import type { Drawn, DrawnPortion, DrawTold } from './draw-worker.ts'
import { workerFailed } from './use-plan.ts'

export type DrawAnswers = Record<string, Drawn | { refusal: string }>
export interface Draws {
  /** The last answers; of an older question while a newer one is being drawn. */
  answers: DrawAnswers | undefined
  /** How far the drawing is, 0–1; `undefined` while none is under way. */
  progress: number | undefined
  isCancelled: boolean
  cancel(): void
  again(): void
}

/** Draws in a worker. A new question ends the one under way; the last answer wins; it can be cancelled. */
export function useDraws(portions: readonly DrawnPortion[]): Draws {
  const [answers, setAnswers] = useState<DrawAnswers>()
  const [progress, setProgress] = useState<number>()
  const [isCancelled, setCancelled] = useState(false)
  const [asked, setAsked] = useState(0)
  const worker = useRef<Worker>(undefined)
  const isDrawing = useRef(false)
  const turn = useRef(0)
  const text = portions.length === 0 ? undefined : JSON.stringify(portions)
  const stop = () => {
    worker.current?.terminate()
    worker.current = undefined
    isDrawing.current = false
  }
  useEffect(() => stop, [])
  useEffect(() => {
    if (text === undefined) return
    if (isDrawing.current) stop()
    worker.current ??= new Worker(new URL('./draw-worker.ts', import.meta.url), { type: 'module' })
    turn.current += 1
    const current = turn.current
    isDrawing.current = true
    setCancelled(false)
    worker.current.onmessage = ({ data }: MessageEvent<DrawTold>) => {
      if (data.turn !== current) return
      if ('of' in data) return setProgress(data.drawn / data.of)
      isDrawing.current = false
      startTransition(() => {
        setProgress(undefined)
        setAnswers(data.answers)
      })
    }
    worker.current.onerror = () => {
      stop()
      setProgress(undefined)
      setAnswers(Object.fromEntries(portions.map(({ id }) => [id, { refusal: workerFailed }])))
    }
    worker.current.postMessage({ turn: current, portions: JSON.parse(text) })
  }, [text, asked])
  return {
    answers,
    progress,
    isCancelled,
    cancel: () => {
      stop()
      setProgress(undefined)
      setCancelled(true)
    },
    again: () => setAsked((count) => count + 1),
  }
}
