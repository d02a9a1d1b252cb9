import type { MakeOrBuyInput } from '@fleam/core/compare/make-or-buy'
import type { ReadyCut } from '@fleam/core/compare/ready-cut'
import {
  type Bin,
  binCosts,
  drawMakeCostsInSteps,
  percentileOf,
  probabilitiesAgainst,
  type Uncertainty,
} from '@fleam/core/compare/uncertainty'
import { InputError } from '@fleam/core/input-error'

/** A portion whose cost is drawn, and the quotes that it stands against. */
export interface DrawnPortion {
  id: string
  input: MakeOrBuyInput
  uncertainty: Uncertainty
  quotes: readonly ReadyCut[]
}
export interface DrawAsked {
  turn: number
  portions: readonly DrawnPortion[]
}
export interface Drawn {
  /** Of each quote: the probability that cutting here costs less. */
  probabilities: number[]
  p5: number
  p50: number
  p95: number
  bins: Bin[]
}
export type DrawTold = { turn: number; drawn: number; of: number } | { turn: number; answers: Record<string, Drawn | { refusal: string }> }

const stepDraws = 250
const tellEveryMs = 100
const bins = 44

addEventListener('message', ({ data: { turn, portions } }: MessageEvent<DrawAsked>) => {
  const of = portions.reduce((sum, portion) => sum + portion.uncertainty.draws, 0)
  const answers: Record<string, Drawn | { refusal: string }> = {}
  let before = 0
  for (const portion of portions) {
    answers[portion.id] = draw(portion, (drawn) => postMessage({ turn, drawn: before + drawn, of } satisfies DrawTold))
    before += portion.uncertainty.draws
  }
  postMessage({ turn, answers } satisfies DrawTold)
})

function draw({ input, uncertainty, quotes }: DrawnPortion, tell: (drawn: number) => void): Drawn | { refusal: string } {
  try {
    const steps = drawMakeCostsInSteps(input, uncertainty, stepDraws)
    let step = steps.next()
    let told = performance.now()
    while (!step.done) {
      if (performance.now() - told > tellEveryMs) {
        tell(step.value)
        told = performance.now()
      }
      step = steps.next()
    }
    const costs = step.value
    return {
      probabilities: probabilitiesAgainst(costs, quotes, input.portionGrams),
      p5: percentileOf(costs, 0.05),
      p50: percentileOf(costs, 0.5),
      p95: percentileOf(costs, 0.95),
      bins: binCosts(costs, bins),
    }
  } catch (error) {
    if (error instanceof InputError) return { refusal: error.message }
    throw error
  }
}
