import { type BuyingPlanInput, costOfItem, type PlanItem, type PlanOffer } from './buying-plan.ts'
import { type LinearModel, modelBuilder } from './linear-model.ts'

/** What each product's demand carries above what it needs, g. */
export type Margins = ReadonlyMap<string, number>

/** Limits that may be passed over, each at a high price, to see by how much they would have to move. */
export interface Relaxed {
  demands?: boolean
}

export interface BuyingModel {
  linear: LinearModel
  /** How many whole numbers are to be found. */
  size: number
  /** What is short of each product, g, of a model whose demands may be. */
  shortOf(values: readonly number[]): { product: string; grams: number }[]
  columns: {
    packs: ReadonlyMap<string, number>
    ways: ReadonlyMap<string, number>
    batches: ReadonlyMap<string, number>
    readyCut: ReadonlyMap<string, number>
  }
}

/** The numbers of a plan, as whole ones, and all that follows from them. */
export interface PlanValues {
  cost: number
  buy: { offer: string; items: number; cost: number }[]
  /** Of every way, those with none too. */
  cut: { way: string; items: number }[]
  make: { followOn: string; batches: number }[]
  readyCut: { id: string; packs: number; cost: number }[]
  left: { product: string; grams: number; value: number }[]
  minutes: number
  overtimeMinutes: number
}

const kilo = 1000
const mostItems = 5000
const mostPacks = 20_000
const mostBatches = 1000
/** What a kg that is short costs where demands may be: more than anything else does. */
const shortPerKg = 1_000_000

/** The day as a mixed-integer model. Weights in kg, so that its numbers are of like size. */
export function buildModel(input: BuyingPlanInput, margins: Margins, relaxed: Relaxed = {}): BuyingModel {
  const { items, products, demands, followOns = [], readyCut = [], labour, held = {} } = input
  const { model, column, row } = modelBuilder()
  const packs = new Map<string, number>()
  const ways = new Map<string, number>()
  const batches = new Map<string, number>()
  const readyPacks = new Map<string, number>()
  const short = new Map<string, number>()
  const balance = new Map<string, [number, number][]>(products.map(({ id }) => [id, []]))
  const put = (product: string, term: [number, number]) => balance.get(product)?.push(term)
  const minutes: [number, number][] = []
  const bounds = boundsOf(input, margins)

  for (const item of items) {
    const { all: most, ways: mostOf } = bounds.items.get(item.id) as ItemBound
    const supply: [number, number][] = []
    for (const offer of item.offers) {
      const at = column({ cost: costOfItem(offer, item.meanGrams) * offer.pack, ...packBounds(offer, most, held.offer?.[offer.id]) })
      packs.set(offer.id, at)
      supply.push([at, offer.pack])
    }
    const cuts: [number, number][] = []
    for (const way of item.ways) {
      const mostCut = held.way?.[way.id] ?? mostOf.get(way.id) ?? most
      const at = column({ cost: way.consumables ?? 0, kind: 'whole', ...heldOr(held.way?.[way.id], 0, mostCut) })
      ways.set(way.id, at)
      cuts.push([at, 1])
      minutes.push([at, way.minutes])
      for (const { product, pct } of way.outputs) put(product, [at, (item.meanGrams * pct) / 100 / kilo])
      if (way.setupMinutes) {
        const isCut = column({ kind: 'whole', upper: 1 })
        row(
          [
            [at, 1],
            [isCut, -mostCut],
          ],
          Number.NEGATIVE_INFINITY,
          0,
        )
        minutes.push([isCut, way.setupMinutes])
      }
    }
    // what stays whole is worth something, or nothing; there is never less than nothing of it, nor more than could be bought
    const bought = item.offers.reduce((sum, { id, pack }) => sum + Math.ceil((held.offer?.[id] ?? 0) / pack) * pack, 0)
    const whole = column({ cost: -(item.onHandValue ?? 0), upper: most + bought + (item.onHand ?? 0) })
    row([...supply, ...cuts.map(([at]): [number, number] => [at, -1]), [whole, -1]], -(item.onHand ?? 0), -(item.onHand ?? 0))
  }
  for (const { id, uses, gives, minutes: each, cost = 0, most = mostBatches } of followOns) {
    const at = column({ cost, kind: 'whole', ...heldOr(held.followOn?.[id], 0, Math.min(most, bounds.batches.get(id) ?? most)) })
    batches.set(id, at)
    minutes.push([at, each])
    for (const { product, grams } of uses) put(product, [at, -grams / kilo])
    put(gives.product, [at, gives.grams / kilo])
  }
  for (const { id, product, pricePerPack, packGrams, least = 0 } of readyCut) {
    const upper = Math.min(mostPacks, Math.max(least, bounds.packs.get(id) ?? mostPacks))
    const kind = least > 1 ? ('whole-or-none' as const) : ('whole' as const)
    const at = column({ cost: pricePerPack, kind, ...heldOr(held.readyCut?.[id], least > 1 ? least : 0, upper) })
    readyPacks.set(id, at)
    put(product, [at, packGrams / kilo])
  }
  const needed = neededOf(demands, margins)
  for (const { id, onHandGrams = 0, leftValuePerKg, mostLeftGrams } of products) {
    const terms = balance.get(id) ?? []
    const left = column({ cost: -leftValuePerKg, upper: mostLeftGrams === undefined ? Number.POSITIVE_INFINITY : mostLeftGrams / kilo })
    terms.push([left, -1])
    if (relaxed.demands && needed.has(id)) {
      const missing = column({ cost: shortPerKg })
      short.set(id, missing)
      terms.push([missing, 1])
    }
    const level = ((needed.get(id) ?? 0) - onHandGrams) / kilo
    row(terms, level, level)
  }
  const { ratePerHour, onCostPct, minutesAvailable, overtime } = labour
  const regular = column({ cost: (ratePerHour * (1 + onCostPct / 100)) / 60, upper: minutesAvailable ?? Number.POSITIVE_INFINITY })
  const over = column({ cost: ((overtime?.ratePerHour ?? 0) * (1 + onCostPct / 100)) / 60, upper: overtime?.minutes ?? 0 })
  row([...minutes, [regular, -1], [over, -1]], 0, 0)
  return {
    linear: model,
    size: model.columns.filter(({ kind }) => kind !== 'real').length,
    shortOf: (values) =>
      [...short].flatMap(([product, at]) => {
        const grams = Math.round((values[at] ?? 0) * kilo)
        return grams > 0 ? [{ product, grams }] : []
      }),
    columns: { packs, ways, batches, readyCut: readyPacks },
  }
}

/** What the day needs of each product with its margin, g.
 * @example neededOf([{ product: 'leg', grams: 900 }], new Map([['leg', 50]])).get('leg') === 950
 */
export function neededOf(demands: BuyingPlanInput['demands'], margins: Margins): Map<string, number> {
  const needed = new Map<string, number>()
  for (const { product, grams } of demands) needed.set(product, (needed.get(product) ?? 0) + grams)
  for (const [product, grams] of margins) needed.set(product, (needed.get(product) ?? 0) + grams)
  return needed
}

const heldOr = (held: number | undefined, lower: number, upper: number) =>
  held === undefined ? { lower, upper } : { lower: held, upper: held, kind: 'whole' as const }

function packBounds({ pack, least = 0, most }: PlanOffer, mostNeeded: number, held: number | undefined) {
  if (held !== undefined) return { lower: Math.ceil(held / pack), upper: Math.ceil(held / pack), kind: 'whole' as const }
  const lower = Math.ceil(least / pack)
  const offered = Math.floor((most ?? Number.POSITIVE_INFINITY) / pack)
  // no whole pack lies between the least and the most
  if (offered < lower || offered === 0) return { lower: 0, upper: 0, kind: 'whole' as const }
  const upper = Math.min(mostPacks, offered, Math.max(lower, Math.ceil(mostNeeded / pack) + 1))
  return lower > 1 ? { lower, upper: Math.max(lower, upper), kind: 'whole-or-none' as const } : { lower: 0, upper, kind: 'whole' as const }
}

/**
 * How many of each could ever be wanted: as many as it takes to meet every demand from it alone, since one more than that is only
 * left over. Where what is left over is worth more than it costs, only the offers and what may be left bound it.
 */
function boundsOf(input: BuyingPlanInput, margins: Margins) {
  const { items, products, demands, followOns = [], readyCut = [], labour, held } = input
  const perMinute = (labour.ratePerHour * (1 + labour.onCostPct / 100)) / 60
  const needed = neededOf(demands, margins)
  const worth = new Map(products.map(({ id, leftValuePerKg }) => [id, leftValuePerKg]))
  const batches = new Map<string, number>()
  // what a follow-on gives may be used by another: from what is asked for down, as often as there are follow-ons
  for (let depth = 0; depth <= followOns.length; depth += 1) {
    for (const { id, uses, gives, most = mostBatches } of followOns) {
      const isGain = (worth.get(gives.product) ?? 0) > 0
      const wanted = isGain ? most : Math.min(most, Math.ceil((needed.get(gives.product) ?? 0) / gives.grams) + 1)
      const count = Math.max(wanted, held?.followOn?.[id] ?? 0)
      const more = count - (batches.get(id) ?? 0)
      if (more <= 0) continue
      batches.set(id, count)
      for (const { product, grams } of uses) needed.set(product, (needed.get(product) ?? 0) + more * grams)
    }
  }
  return {
    batches,
    packs: new Map(readyCut.map(({ id, product, packGrams }) => [id, Math.ceil((needed.get(product) ?? 0) / packGrams) + 1])),
    items: new Map(items.map((item) => [item.id, itemBound(item, needed, worth, perMinute, held)])),
  }
}

/** How many of an item could be wanted in all, and cut each way. */
function itemBound(
  item: PlanItem,
  needed: ReadonlyMap<string, number>,
  worth: ReadonlyMap<string, number>,
  perMinute: number,
  held: BuyingPlanInput['held'],
): ItemBound {
  const offered = item.offers.reduce((sum, { most }) => sum + (most ?? Number.POSITIVE_INFINITY), 0) + (item.onHand ?? 0)
  const cheapest = Math.min(
    ...item.offers.map((offer) => costOfItem(offer, item.meanGrams)),
    ...(item.onHand ? [item.onHandValue ?? 0] : []),
  )
  // what is bought beyond what is needed, since packs are whole and orders have a least
  const beyond = Math.max(0, ...item.offers.map(({ least = 0, pack }) => Math.max(least, pack))) + (item.onHand ?? 0)
  const ways = new Map<string, number>()
  let all = 0
  for (const { id, outputs, consumables = 0, minutes } of item.ways) {
    const left = outputs.reduce((sum, { product, pct }) => sum + ((item.meanGrams * pct) / 100 / kilo) * (worth.get(product) ?? 0), 0)
    const most = Math.min(offered, mostItems)
    if (left >= cheapest + consumables) return { all: most, ways: new Map(item.ways.map((way) => [way.id, most])) }
    const wanted = outputs.reduce((sum, { product, pct }) => {
      const grams = (item.meanGrams * pct) / 100
      return grams > 0 ? Math.max(sum, Math.ceil((needed.get(product) ?? 0) / grams)) : sum
    }, 0)
    // a person may have more cut than is needed
    all += Math.max(wanted, held?.way?.[id] ?? 0)
    // one that is there anyway is cut for what comes off it only where that is worth the work
    const isWorth = left > consumables + minutes * perMinute + (item.onHandValue ?? 0)
    ways.set(id, Math.min(most, wanted + (isWorth ? beyond : 0)))
  }
  return { all: Math.min(offered, mostItems, all + beyond), ways }
}

interface ItemBound {
  all: number
  ways: ReadonlyMap<string, number>
}

/** The whole numbers that were found, and what follows from them, reckoned anew. */
export function readValues(input: BuyingPlanInput, { columns }: BuyingModel, values: readonly number[]): PlanValues {
  const whole = (at: number | undefined) => Math.round(values[at ?? -1] ?? 0)
  const counts = {
    offer: new Map(input.items.flatMap(({ offers }) => offers.map(({ id, pack }) => [id, whole(columns.packs.get(id)) * pack] as const))),
    way: new Map(input.items.flatMap((item) => item.ways.map(({ id }) => [id, whole(columns.ways.get(id))] as const))),
    followOn: new Map((input.followOns ?? []).map(({ id }) => [id, whole(columns.batches.get(id))])),
    readyCut: new Map((input.readyCut ?? []).map(({ id }) => [id, whole(columns.readyCut.get(id))])),
  }
  return reckon(input, counts)
}

export interface PlanCounts {
  offer: ReadonlyMap<string, number>
  way: ReadonlyMap<string, number>
  followOn: ReadonlyMap<string, number>
  readyCut: ReadonlyMap<string, number>
}

/** What a plan costs, gives and leaves over, from its decisions alone. Products that are short are left below zero. */
export function reckon(input: BuyingPlanInput, counts: PlanCounts): PlanValues {
  const { items, products, demands, followOns = [], readyCut = [], labour } = input
  const made = new Map<string, number>(products.map(({ id, onHandGrams = 0 }) => [id, onHandGrams]))
  const add = (product: string, grams: number) => made.set(product, (made.get(product) ?? 0) + grams)
  let cost = 0
  let minutes = 0
  const buy: PlanValues['buy'] = []
  for (const item of items) {
    let whole = item.onHand ?? 0
    for (const offer of item.offers) {
      const bought = counts.offer.get(offer.id) ?? 0
      whole += bought
      if (bought === 0) continue
      const paid = costOfItem(offer, item.meanGrams) * bought
      buy.push({ offer: offer.id, items: bought, cost: paid })
      cost += paid
    }
    for (const way of item.ways) {
      const cut = counts.way.get(way.id) ?? 0
      if (cut === 0) continue
      whole -= cut
      cost += (way.consumables ?? 0) * cut
      minutes += way.minutes * cut + (way.setupMinutes ?? 0)
      for (const { product, pct } of way.outputs) add(product, (cut * item.meanGrams * pct) / 100)
    }
    cost -= (item.onHandValue ?? 0) * whole
  }
  for (const { id, uses, gives, minutes: each, cost: costEach = 0 } of followOns) {
    const batches = counts.followOn.get(id) ?? 0
    cost += costEach * batches
    minutes += each * batches
    for (const { product, grams } of uses) add(product, -grams * batches)
    add(gives.product, gives.grams * batches)
  }
  const ready = readyCut.flatMap(({ id, product, pricePerPack, packGrams }) => {
    const packs = counts.readyCut.get(id) ?? 0
    add(product, packs * packGrams)
    cost += packs * pricePerPack
    return packs > 0 ? [{ id, packs, cost: packs * pricePerPack }] : []
  })
  const left = products.map(({ id, leftValuePerKg }) => {
    const asked = demands.reduce((sum, demand) => sum + (demand.product === id ? demand.grams : 0), 0)
    const grams = (made.get(id) ?? 0) - asked
    return { product: id, grams, value: (leftValuePerKg * grams) / kilo }
  })
  const overtimeMinutes = Math.max(0, minutes - (labour.minutesAvailable ?? Number.POSITIVE_INFINITY))
  const regular = minutes - overtimeMinutes
  cost += ((regular * labour.ratePerHour + overtimeMinutes * (labour.overtime?.ratePerHour ?? 0)) * (1 + labour.onCostPct / 100)) / 60
  for (const { value } of left) cost -= value
  return {
    cost,
    buy,
    cut: items.flatMap(({ ways }) => ways.map(({ id }) => ({ way: id, items: counts.way.get(id) ?? 0 }))),
    make: followOns.flatMap(({ id }) => {
      const count = counts.followOn.get(id) ?? 0
      return count > 0 ? [{ followOn: id, batches: count }] : []
    }),
    readyCut: ready,
    left: left.filter(({ grams }) => Math.abs(grams) > 0.05),
    minutes,
    overtimeMinutes,
  }
}
