import { InputError } from '../input-error.ts'
import { labourCost } from '../quantities/labour.ts'
import { costOfPurchase } from '../quantities/price.ts'
import { type Random, seededRandom } from '../random/seeded-random.ts'
import { cutGramsOf, type MakeOrBuy, type MakeOrBuyInput, makeOrBuy } from './make-or-buy.ts'
import { type ReadyCut, readyCutCost } from './ready-cut.ts'

/** How far yield, minutes and item weight spread from test to test; each may be absent. */
export interface Spreads {
  yieldSdPct?: number | undefined
  minutesSd?: number | undefined
  itemGramsSd?: number | undefined
  /** Of the tests that the spreads come from: Student-t where given, else normal. */
  degreesOfFreedom?: number | undefined
  /** The item's quoted amount, drawn evenly between these; as quoted where absent. */
  itemPrice?: { low: number; high: number } | undefined
}

export interface Uncertainty extends Spreads {
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
  const certain = makeOrBuy(input)
  const costs = drawMakeCosts(input, uncertainty)
  const probability = probabilityUnder(costs, certain.buy.costPerPortion)
  return { ...certain, probability, p5: percentileOf(costs, 0.05), p50: percentileOf(costs, 0.5), p95: percentileOf(costs, 0.95) }
}

/** Cost of a portion cut here, so many times drawn, in rising order. */
export function drawMakeCosts(input: MakeOrBuyInput, uncertainty: Uncertainty): Float64Array {
  const steps = drawMakeCostsInSteps(input, uncertainty, uncertainty.draws)
  for (;;) {
    const { done, value } = steps.next()
    if (done) return value
  }
}

/**
 * The same in steps of so many draws, so that a worker can say how far it is; each step yields the draws made.
 * @throws InputError naming the field
 */
export function* drawMakeCostsInSteps(
  input: MakeOrBuyInput,
  uncertainty: Uncertainty,
  stepDraws: number,
): Generator<number, Float64Array, void> {
  const { draws, seed, degreesOfFreedom, yieldSdPct = 0, minutesSd = 0, itemGramsSd = 0, itemPrice } = uncertainty
  if (!(draws >= 1 && draws <= mostDraws)) throw new InputError('uncertainty.draws', `Draw 1 to ${mostDraws} times.`)
  makeOrBuy(input)
  const costOf = costOfDraw(input)
  const random = seededRandom(seed)
  const costs = new Float64Array(draws)
  const { grams } = input.item
  const { minutesPerItem } = input.labour
  const { amount } = input.item.price
  for (let at = 0; at < draws; at += 1) {
    if (at > 0 && at % stepDraws === 0) yield at
    const yieldPct = draw(random, 'yieldSdPct', input.yieldPct, yieldSdPct, degreesOfFreedom, 100)
    const itemGrams = draw(random, 'itemGramsSd', grams, itemGramsSd, degreesOfFreedom)
    const minutes = draw(random, 'minutesSd', minutesPerItem, minutesSd, degreesOfFreedom)
    const price = itemPrice ? itemPrice.low + (itemPrice.high - itemPrice.low) * random.next() : amount
    costs[at] = costOf(itemGrams, yieldPct, minutes, price)
  }
  return costs.sort()
}

/** The make side of `makeOrBuy` with everything worked out beforehand that no draw changes. */
function costOfDraw(input: MakeOrBuyInput) {
  const { labour, item } = input
  const perMinute = labourCost({ minutes: 1, ratePerHour: labour.ratePerHour, onCostPct: labour.onCostPct })
  const ofItem = costOfPurchase({ ...item.price, amount: 1 }, { grams: 0, pieces: 1 })
  const ofGram = costOfPurchase({ ...item.price, amount: 1 }, { grams: 1, pieces: 1 }) - ofItem
  const fixed = input.consumablesPerItem + (labour.setupMinutes / labour.itemsPerBatch) * perMinute
  const disposal = (input.disposalPerKg * (input.wastePct / 100)) / 1000
  const credit = input.byproducts.reduce((sum, part) => sum + ((part.pct / 100) * part.valuePerKg) / 1000, 0)
  const portionsOfGram = (1 - input.lossPct / 100) / 100 / cutGramsOf(input)
  return (grams: number, yieldPct: number, minutes: number, amount: number) =>
    (amount * (ofItem + ofGram * grams) + minutes * perMinute + fixed + (disposal - credit) * grams) / (grams * yieldPct * portionsOfGram)
}

/**
 * Share of costs, in rising order, that lie under a figure.
 * @example probabilityUnder(Float64Array.of(1, 2, 3, 4), 3) === 0.5
 */
export function probabilityUnder(costs: Float64Array, figure: number): number {
  let [low, high] = [0, costs.length]
  while (low < high) {
    const middle = (low + high) >> 1
    if ((costs[middle] as number) < figure) low = middle + 1
    else high = middle
  }
  return low / costs.length
}

/**
 * The cost that a share of them, in rising order, stays below; between two neighbours in proportion.
 * @example percentileOf(Float64Array.of(1, 2, 3, 5), 0.5) === 2.5
 */
export function percentileOf(costs: Float64Array, share: number): number {
  const place = share * (costs.length - 1)
  const [low, high] = [costs[Math.floor(place)] as number, costs[Math.ceil(place)] as number]
  return low + (high - low) * (place - Math.floor(place))
}

/**
 * Quotes against which the draws of one portion stand: how likely cutting is cheaper than each.
 * @example probabilitiesAgainst(Float64Array.of(9, 10, 11, 12), [{ price: { amount: 10.5, per: 'each' }, portionGrams: 180 }], 180) // [0.5]
 */
export function probabilitiesAgainst(costs: Float64Array, quotes: readonly ReadyCut[], portionGrams: number): number[] {
  return quotes.map((quote) => probabilityUnder(costs, readyCutCost(quote, portionGrams)))
}

export interface Bin {
  from: number
  to: number
  count: number
}

/**
 * Costs in rising order, counted in even bins from the 0.5th percentile to the 99.5th; the few beyond are left out.
 * @example binCosts(Float64Array.of(5, 5, 5), 4) // [{ from: 5, to: 5, count: 3 }]
 */
export function binCosts(costs: Float64Array, bins: number): Bin[] {
  const [low, high] = [percentileOf(costs, 0.005), percentileOf(costs, 0.995)]
  const width = (high - low) / bins
  if (!(width > 0)) return [{ from: low, to: high, count: costs.length }]
  const counts = new Array<number>(bins).fill(0)
  for (const cost of costs) {
    if (cost < low || cost > high) continue
    const at = Math.min(bins - 1, Math.floor((cost - low) / width))
    counts[at] = (counts[at] as number) + 1
  }
  return counts.map((count, index) => ({ from: low + index * width, to: low + (index + 1) * width, count }))
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
