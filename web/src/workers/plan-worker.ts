import { InputError } from '@fleam/core/input-error'
import { type BestMix, type BestMixInput, bestMix } from '@fleam/core/plan/best-mix'

export interface PlanAsked {
  turn: number
  input: BestMixInput
}
export type PlanAnswered = { turn: number; mix: BestMix } | { turn: number; refusal: { field: string; message: string } }

addEventListener('message', ({ data: { turn, input } }: MessageEvent<PlanAsked>) => {
  postMessage(answer(turn, input))
})

function answer(turn: number, input: BestMixInput): PlanAnswered {
  try {
    return { turn, mix: bestMix(input) }
  } catch (error) {
    if (error instanceof InputError) return { turn, refusal: { field: error.field, message: error.message } }
    throw error
  }
}
