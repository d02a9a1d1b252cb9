import { InputError } from '../input-error.ts'
import { costOfPurchase, type Price } from '../quantities/price.ts'
import { normalQuantile } from '../statistics/distributions.ts'
import { buildModel, type Margins, type PlanValues, type Relaxed, readValues } from './buying-model.ts'
import { drawDay } from './day-draws.ts'
import type { Solve, Solved } from './linear-model.ts'

/** Something bought whole, and the ways that it can be cut. */
export interface PlanItem {
  id: string
  meanGrams: number
  /** Standard deviation of one item's weight. */
  sdGrams?: number | undefined
  onHand?: number | undefined
  /** What one that stays whole is worth. */
  onHandValue?: number | undefined
  offers: readonly PlanOffer[]
  ways: readonly PlanWay[]
}

export interface PlanOffer {
  id: string
  price: Price
  /** Items in one pack. */
  pack: number
  /** Items: none, or from this on. */
  least?: number | undefined
  most?: number | undefined
}

export interface PlanWay {
  id: string
  minutes: number
  /** Once, where any is cut so. */
  setupMinutes?: number | undefined
  /** For each item. */
  consumables?: number | undefined
  /** `sdPct` in points of the item's weight. */
  outputs: readonly { product: string; pct: number; sdPct?: number | undefined }[]
}

export interface PlanProduct {
  id: string
  onHandGrams?: number | undefined
  leftValuePerKg: number
  mostLeftGrams?: number | undefined
}

export interface PlanDemand {
  product: string
  grams: number
  /** How often it is to be enough, percent of days; met as it stands where it is not said. */
  servicePct?: number | undefined
  /** How far the guests may be off, percent. */
  sdPct?: number | undefined
}

export interface PlanFollowOn {
  id: string
  /** For one batch. */
  uses: readonly { product: string; grams: number }[]
  gives: { product: string; grams: number }
  minutes: number
  cost?: number | undefined
  most?: number | undefined
}

export interface PlanReadyCut {
  id: string
  product: string
  pricePerPack: number
  packGrams: number
  /** Packs: none, or from this on. */
  least?: number | undefined
}

export interface BuyingPlanInput {
  items: readonly PlanItem[]
  products: readonly PlanProduct[]
  demands: readonly PlanDemand[]
  followOns?: readonly PlanFollowOn[] | undefined
  readyCut?: readonly PlanReadyCut[] | undefined
  labour: {
    ratePerHour: number
    onCostPct: number
    minutesAvailable?: number | undefined
    overtime?: { minutes: number; ratePerHour: number } | undefined
  }
  seed?: number | undefined
  /** Numbers that were decided by hand: items cut a way, items of an offer, batches, packs. The rest is planned around them. */
  held?:
    | {
        way?: Readonly<Record<string, number>>
        offer?: Readonly<Record<string, number>>
        followOn?: Readonly<Record<string, number>>
        readyCut?: Readonly<Record<string, number>>
      }
    | undefined
}

export interface BuyingPlan extends PlanValues {
  status: 'optimal' | 'infeasible'
  /** How far from the best it may still lie, as a share of the cost. */
  gap: number
  /** How often each demand is met over 5,000 draws of the day, and by how much it is short on average where it is. */
  met: { product: string; probability: number; shortGrams: number }[]
  /** What each demand carries above what it needs, so that it is enough as often as is wanted. */
  margins: { product: string; grams: number }[]
  /** What meeting every demand ready-cut would cost; `null` where one cannot be had so. */
  allReadyCutCost: number | null
  /** Where it cannot be met: what is short at least. */
  short: { product: string; grams: number }[]
}

export interface PlanOptions {
  solve: Solve
  /** For all of it. */
  seconds?: number
  gap?: number
  /** How many draws tell how often each demand is met. */
  draws?: number
  onProgress?: ((done: number) => void) | undefined
}

const usualSeconds = 9
const usualGap = 0.01
/** Small days are solved to the end: a hundredth of one is a decision. */
const smallModel = 60
const exactGap = 1e-6
const roughGap = 0.05
const mostRounds = 8
const usualDraws = 5000
/** A margin that changes by less, grams, has settled. */
const settledGrams = 1

/**
 * Which whole items to buy, how to cut each, what to make of what comes off and what to buy ready-cut, so that every demand is met
 * at least cost and as surely as it asks. Weights in grams, money in the kitchen's currency.
 *
 * A demand's margin is that of a normal distribution: the supply's spread follows from what the plan cuts, so that it is planned
 * again until margins and plan agree; the last plan meets the margins that itself needs.
 *
 * @throws InputError where the day is nonsense
 */
export function buyingPlan(
  input: BuyingPlanInput,
  { solve, seconds = usualSeconds, gap = usualGap, draws = usualDraws, onProgress }: PlanOptions,
): BuyingPlan {
  refuseNonsense(input)
  const until = Date.now() + seconds * 1000
  const left = () => Math.max(0.2, (until - Date.now()) / 1000)
  let margins: Margins = new Map()
  let best: { solved: Solved; values: PlanValues; margins: Margins } | undefined
  for (let round = 0; round < mostRounds; round += 1) {
    const model = buildModel(input, margins)
    const wanted = model.size <= smallModel ? exactGap : gap
    // the first only tells how large the margins will be
    const isRough = round === 0 && model.size > smallModel && input.demands.some(({ servicePct }) => servicePct !== undefined)
    const solved = solve(model.linear, isRough ? { seconds: left() / 4, gap: roughGap } : { seconds: left(), gap: wanted })
    onProgress?.((round + 1) / (mostRounds + 1))
    if (solved.values.length === 0) {
      if (best) break
      return infeasible(input, margins, solve, left())
    }
    const values = readValues(input, model, solved.values)
    const needed = marginsFor(input, values)
    const isEnough = !needsMore(needed, margins)
    if (isEnough && (!best || values.cost < best.values.cost)) best = { solved, values, margins }
    if (isEnough && !needsMore(margins, needed)) break
    if (until - Date.now() < 300 && best) break
    // first as each plan asks; then never less than before, so that plans cannot go round in a circle
    const isLate = round >= mostRounds / 2
    margins = new Map([...needed].map(([product, grams]) => [product, isLate ? Math.max(grams, margins.get(product) ?? 0) : grams]))
  }
  if (!best) return infeasible(input, margins, solve, left())
  const { values, solved } = best
  margins = best.margins
  return {
    status: 'optimal',
    cost: values.cost,
    gap: solved.gap,
    buy: values.buy,
    cut: values.cut.filter(({ items }) => items > 0),
    make: values.make,
    readyCut: values.readyCut,
    left: values.left,
    minutes: values.minutes,
    overtimeMinutes: values.overtimeMinutes,
    met: drawDay(input, values, draws, input.seed ?? 1),
    margins: [...margins].filter(([, grams]) => grams > 0).map(([product, grams]) => ({ product, grams })),
    allReadyCutCost: allReadyCut(input),
    short: [],
  }
}

/** Whether a plan needs more than the margins that it was made with. */
function needsMore(needed: Margins, given: Margins): boolean {
  return [...needed].some(([product, grams]) => grams > (given.get(product) ?? 0) + settledGrams)
}

/** What each demand needs above what it asks for, by the spread of what a plan cuts and of the guests. */
function marginsFor(input: BuyingPlanInput, { cut }: PlanValues): Margins {
  const counts = new Map(cut.map(({ way, items }) => [way, items]))
  const variances = new Map<string, number>()
  for (const item of input.items) {
    for (const way of item.ways) {
      const items = counts.get(way.id) ?? 0
      for (const output of way.outputs)
        variances.set(output.product, (variances.get(output.product) ?? 0) + items * varianceOf(item, output))
    }
  }
  const margins = new Map<string, number>()
  for (const { product, grams, servicePct, sdPct = 0 } of input.demands) {
    if (servicePct === undefined) continue
    const sd = Math.hypot(Math.sqrt(variances.get(product) ?? 0), (grams * sdPct) / 100)
    margins.set(product, (margins.get(product) ?? 0) + Math.max(0, normalQuantile(servicePct / 100) * sd))
  }
  return margins
}

/** The variance of what one item gives of an output, g². */
function varianceOf({ meanGrams, sdGrams = 0 }: PlanItem, { pct, sdPct = 0 }: PlanWay['outputs'][number]): number {
  return ((pct / 100) * sdGrams) ** 2 + ((meanGrams * sdPct) / 100) ** 2
}

/** What is short at least where the day cannot be met, and the demands as they stand with it. */
function infeasible(input: BuyingPlanInput, margins: Margins, solve: Solve, seconds: number): BuyingPlan {
  const relaxed: Relaxed = { demands: true }
  const model = buildModel(input, margins, relaxed)
  const { values } = solve(model.linear, { seconds, gap: usualGap })
  const short = values.length === 0 ? [] : model.shortOf(values)
  return {
    ...{
      status: 'infeasible',
      cost: 0,
      gap: 0,
      buy: [],
      cut: [],
      make: [],
      readyCut: [],
      left: [],
      minutes: 0,
      overtimeMinutes: 0,
      met: [],
    },
    margins: [...margins].map(([product, grams]) => ({ product, grams })),
    allReadyCutCost: allReadyCut(input),
    short,
  }
}

/** The cost of every demand met from packs alone; margins of the supply are not needed where packs weigh what they say. */
function allReadyCut({ demands, readyCut = [], products }: BuyingPlanInput): number | null {
  let cost = 0
  for (const { product, grams, servicePct, sdPct = 0 } of demands) {
    const guests = servicePct === undefined ? 0 : Math.max(0, normalQuantile(servicePct / 100) * ((grams * sdPct) / 100))
    const needed = grams + guests - (products.find(({ id }) => id === product)?.onHandGrams ?? 0)
    if (needed <= 0) continue
    const costs = readyCut
      .filter((one) => one.product === product)
      .map(({ packGrams, pricePerPack, least = 0 }) => Math.max(least, Math.ceil(needed / packGrams)) * pricePerPack)
    if (costs.length === 0) return null
    cost += Math.min(...costs)
  }
  return cost
}

/** What one item of an offer costs.
 * @example costOfItem({ id: 'farm', price: { amount: 6, per: 'kg' }, pack: 1 }, 2000) === 12
 */
export function costOfItem({ price }: PlanOffer, meanGrams: number): number {
  return costOfPurchase(price, { grams: meanGrams, pieces: 1 })
}

function refuseNonsense({ items, products, demands, followOns = [], readyCut = [], labour }: BuyingPlanInput): void {
  const known = new Set(products.map(({ id }) => id))
  const refuse = (field: string, message: string) => {
    throw new InputError(field, message)
  }
  if (demands.length === 0) refuse('demands', 'Nobody is to be fed: say what the day needs.')
  const ids = [...items.flatMap(({ offers, ways }) => [...offers, ...ways]), ...followOns, ...readyCut].map(({ id }) => id)
  const twice = ids.find((id, index) => ids.indexOf(id) !== index)
  if (twice !== undefined) refuse('items', `“${twice}” is there twice: give each offer, way, follow-on and pack an id of its own.`)
  for (const [index, { product, grams }] of demands.entries()) {
    if (!known.has(product)) refuse(`demands.${index}.product`, `There is no product “${product}”.`)
    if (grams > 5_000_000) refuse(`demands.${index}.grams`, 'That is over 5 t of one product: check the portions.')
  }
  for (const [index, { ways, offers, onHand = 0 }] of items.entries()) {
    for (const { id, outputs } of ways) {
      const sum = outputs.reduce((total, { pct }) => total + pct, 0)
      if (sum > 100.5) refuse(`items.${index}.ways`, `More comes off “${id}” than the item weighs: ${sum.toFixed(1)} %.`)
      for (const { product } of outputs)
        if (!known.has(product)) refuse(`items.${index}.ways`, `“${id}” gives “${product}”, which is no product of the day.`)
    }
    if (offers.length === 0 && onHand === 0 && ways.length > 0)
      refuse(`items.${index}.offers`, 'Nobody offers it, and none is there: give it an offer or leave it out.')
  }
  for (const [index, { id, uses, gives }] of followOns.entries()) {
    const missing = [...uses, gives].find(({ product }) => !known.has(product))
    if (missing) refuse(`followOns.${index}`, `“${id}” names “${missing.product}”, which is no product of the day.`)
    if (uses.some(({ product }) => product === gives.product)) refuse(`followOns.${index}`, `“${id}” needs what it gives.`)
  }
  refuseCircle(followOns, refuse)
  for (const [index, { product }] of readyCut.entries())
    if (!known.has(product)) refuse(`readyCut.${index}.product`, `There is no product “${product}”.`)
  if (labour.minutesAvailable === 0 && !labour.overtime) refuse('labour.minutesAvailable', 'Nobody has a minute: say who works.')
}

/** Refuses follow-ons that, by way of others, need what they give: such a day could feed itself. */
function refuseCircle(followOns: readonly PlanFollowOn[], refuse: (field: string, message: string) => never): void {
  const open = new Set<string>()
  const done = new Set<string>()
  const visit = (product: string): void => {
    if (done.has(product)) return
    open.add(product)
    for (const [index, { id, uses, gives }] of followOns.entries()) {
      if (gives.product !== product) continue
      for (const use of uses) {
        if (open.has(use.product)) refuse(`followOns.${index}`, `“${id}” needs what it gives, by way of others.`)
        visit(use.product)
      }
    }
    open.delete(product)
    done.add(product)
  }
  for (const { gives } of followOns) visit(gives.product)
}
