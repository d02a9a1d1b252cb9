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
  /** How the next item spreads. */
  uncertainty: Uncertainty
  /** How far the averages may lie from the truth. */
  onAverage: Uncertainty
  quotes: readonly ReadyCut[]
}
export interface DrawAsked {
  turn: number
  portions: readonly DrawnPortion[]
}
export interface Drawn {
  /** Of each quote: the probability that cutting here costs less, for the next item and on average. */
  probabilities: { next: number; onAverage: number }[]
  /** How far the average cost of a portion may lie from the truth: half of what holds eight in ten of its draws. */
  averageHalf: number
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
  const drawsOf = (portion: DrawnPortion) => portion.uncertainty.draws + portion.onAverage.draws
  const of = portions.reduce((sum, portion) => sum + drawsOf(portion), 0)
  const answers: Record<string, Drawn | { refusal: string }> = {}
  let before = 0
  for (const portion of portions) {
    answers[portion.id] = draw(portion, (drawn) => postMessage({ turn, drawn: before + drawn, of } satisfies DrawTold))
    before += drawsOf(portion)
  }
  postMessage({ turn, answers } satisfies DrawTold)
})

function draw({ input, uncertainty, onAverage, quotes }: DrawnPortion, tell: (drawn: number) => void): Drawn | { refusal: string } {
  try {
    const costs = drawTelling(input, uncertainty, tell)
    const averages = drawTelling(input, onAverage, (drawn) => tell(uncertainty.draws + drawn))
    const next = probabilitiesAgainst(costs, quotes, input.portionGrams)
    const average = probabilitiesAgainst(averages, quotes, input.portionGrams)
    return {
      probabilities: next.map((probability, at) => ({ next: probability, onAverage: average[at] ?? probability })),
      averageHalf: (percentileOf(averages, 0.9) - percentileOf(averages, 0.1)) / 2,
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

function drawTelling(input: MakeOrBuyInput, uncertainty: Uncertainty, tell: (drawn: number) => void): Float64Array {
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
  return step.value
}
