import { InputError } from '../input-error.ts'
import { type Random, seededRandom } from '../random/seeded-random.ts'
import { type MakeOrBuy, type MakeOrBuyInput, makeOrBuy } from './make-or-buy.ts'

/** How far yield, minutes and item weight spread from test to test; each may be absent. */
export interface Uncertainty {
  yieldSdPct?: number | undefined
  minutesSd?: number | undefined
  itemGramsSd?: number | undefined
  /** Of the tests that the spreads come from: Student-t where given, else normal. */
  degreesOfFreedom?: number | undefined
  draws: number
  seed: number
}

export interface UncertainMakeOrBuy extends MakeOrBuy {
  /** Probability, 0–1, that cutting here costs less. */
  probability: number
  /** Percentiles of the cost of a portion cut here. */
  p5: number
  p50: number
  p95: number
}

export const mostDraws = 100_000
const mostTries = 1000

/**
 * Cutting here against buying, with what is not certain drawn at random: the same seed gives the same answer. A draw that
 * is not possible (nothing or less; a yield over 100 %) is drawn again.
 *
 * @throws InputError naming the field
 */
export function uncertainMakeOrBuy({ uncertainty, ...input }: MakeOrBuyInput & { uncertainty: Uncertainty }): UncertainMakeOrBuy {
  const { draws, seed, degreesOfFreedom, yieldSdPct = 0, minutesSd = 0, itemGramsSd = 0 } = uncertainty
  if (!(draws >= 1 && draws <= mostDraws)) throw new InputError('uncertainty.draws', `Draw 1 to ${mostDraws} times.`)
  const certain = makeOrBuy(input)
  const random = seededRandom(seed)
  const costs = new Float64Array(draws)
  let cheaper = 0
  for (let at = 0; at < draws; at += 1) {
    const drawn = makeOrBuy({
      ...input,
      yieldPct: draw(random, 'yieldSdPct', input.yieldPct, yieldSdPct, degreesOfFreedom, 100),
      item: { ...input.item, grams: draw(random, 'itemGramsSd', input.item.grams, itemGramsSd, degreesOfFreedom) },
      labour: { ...input.labour, minutesPerItem: draw(random, 'minutesSd', input.labour.minutesPerItem, minutesSd, degreesOfFreedom) },
    })
    costs[at] = drawn.make.costPerPortion
    if (drawn.make.costPerPortion < certain.buy.costPerPortion) cheaper += 1
  }
  costs.sort()
  const percentile = (share: number) => {
    const place = share * (draws - 1)
    const [low, high] = [costs[Math.floor(place)] as number, costs[Math.ceil(place)] as number]
    return low + (high - low) * (place - Math.floor(place))
  }
  return { ...certain, probability: cheaper / draws, p5: percentile(0.05), p50: percentile(0.5), p95: percentile(0.95) }
}

function draw(
  random: Random,
  field: string,
  mean: number,
  spread: number,
  degrees: number | undefined,
  most = Number.POSITIVE_INFINITY,
): number {
  if (spread === 0) return mean
  for (let tries = 0; tries < mostTries; tries += 1) {
    const value = degrees === undefined ? random.normal(mean, spread) : random.studentT(mean, spread, degrees)
    if (value > 0 && value <= most) return value
  }
  throw new InputError(`uncertainty.${field}`, `A spread of ${spread} about ${mean} gives hardly any possible value: check it.`)
}
