import type { OrderUnit } from '../ordering/order.ts'
import type { Price } from '../quantities/price.ts'
import type { ExpectedCut } from '../yield-book/expected-cut.ts'
import type { BuyingPlan, BuyingPlanInput, PlanFollowOn, PlanItem } from './buying-plan.ts'
import type { PlannedCut, PlannedReady } from './day-jobs.ts'
import type { Board } from './schedule.ts'

/** What a kitchen buys whole, with who offers it and the ways that it cuts it. */
export interface WholeItem {
  id: string
  name: string
  board: Board
  offers: readonly { id: string; supplierId: string | null; supplier: string; price: Price }[]
  ways: readonly {
    sheetId: string
    name: string
    expected: ExpectedCut
    setupMinutes: number
    consumablesPerItem: number
    outputs: readonly { key: string; name: string }[]
    /** The ready-cut item that an output stands against, and what a kg of it is worth to the kitchen. */
    parts: Readonly<Record<string, { readyCutId: string | null; perKg: number | null }>>
  }[]
}

export interface ReadyCutItem {
  id: string
  name: string
  /** Who quoted for it last. */
  supplierId: string | null
  price: Price
  portionGrams: number
  trimPct: number
  lossPct: number
}

/** Something that a kitchen makes of what it cut. */
export interface Making {
  key: string
  name: string
  /** Grams or millilitres of what it is made for, of each gram that goes in. */
  perGram: number
  unit: 'g' | 'ml'
  /** Hands, for a batch. */
  minutes: number
}

/** What one offer can be had by, where the quote does not say. */
export interface OfferLimit {
  pack?: number | undefined
  least?: number | undefined
  most?: number | undefined
}

export interface DayOfKitchen {
  services: readonly { id: string; guests: number; sdPct: number }[]
  dishes: readonly {
    serviceId: string
    name: string
    portions: { kind: 'of-guests'; pct: number } | { kind: 'counted'; count: number }
    itemId: string
    outputKey: string
    outputName: string
    gramsPerPortion: number
    lossPct: number
    /** The follow-on that it is made by; `null` where it is eaten as it is cut. */
    madeBy: string | null
  }[]
  limits: Readonly<Record<string, OfferLimit>>
  servicePct: number
  minutesAvailable: number
  overtimeMinutes: number
  held: { way: Readonly<Record<string, number>>; offer: Readonly<Record<string, number>>; readyCut: Readonly<Record<string, number>> }
}

export interface DayNames {
  offer: Record<string, string>
  way: Record<string, string>
  readyCut: Record<string, string>
  product: Record<string, string>
  followOn: Record<string, string>
}

/** A follow-on is planned by the kilo; the hands that it takes are said for ten. */
const batchGrams = 1000
const batchesOfMinutes = 10
/** Overtime costs so much more than an hour of the day. */
const overtimeShare = 1.5

/** An output of an item, as the plan knows it. Its name is part of it: bone-in and boned thighs share a key.
 * @example productOf('turkey', 'leg', 'Legs') // 'turkey:leg:Legs'
 */
export function productOf(itemId: string, outputKey: string, name: string): string {
  return `${itemId}:${outputKey}:${name}`
}

/** A way of cutting an item, as the plan knows it.
 * @example wayOf('turkey', 'sheet') // 'turkey:sheet'
 */
export function wayOf(itemId: string, sheetId: string): string {
  return `${itemId}:${sheetId}`
}

/**
 * What the buying plan is asked of a kitchen's day: demands from guests and dishes, everything else from what the kitchen knows.
 * Only what a dish needs, and the other outputs of the ways that give it, is in it.
 */
export function askOfDay(
  day: DayOfKitchen,
  {
    items,
    readyCut,
    makings,
    onHand,
    labour,
  }: {
    items: readonly WholeItem[]
    readyCut: readonly ReadyCutItem[]
    makings: readonly Making[]
    onHand: ReadonlyMap<string, number>
    labour: { ratePerHour: number; onCostPct: number }
  },
): { input: BuyingPlanInput; names: DayNames; itemOf: Record<string, string>; troubles: string[]; liquids: string[] } {
  const names: DayNames = { offer: {}, way: {}, readyCut: {}, product: {}, followOn: {} }
  const itemOf: Record<string, string> = {}
  const troubles: string[] = []
  const demands = demandsOf(day, items, makings, troubles)
  const followOns = followOnsOf(day, makings)
  const asked = new Set(demands.map(({ product }) => product))
  const used = new Set(followOns.flatMap(({ uses }) => uses.map(({ product }) => product)))
  // a way that gives nothing that is asked for is not cut for its leftovers
  const wanted = items.flatMap((item) => {
    const ways = item.ways.filter(({ outputs }) =>
      outputs.some(({ key, name }) => asked.has(productOf(item.id, key, name)) || used.has(productOf(item.id, key, name))),
    )
    return ways.length > 0 ? [{ ...item, ways }] : []
  })
  const worth = new Map<string, number>()
  const planItems = wanted.map((item): PlanItem => {
    const grams = item.ways[0]?.expected.itemGrams
    for (const { id, supplier } of item.offers) names.offer[id] = `${item.name}, ${supplier}`
    return {
      id: item.id,
      meanGrams: grams?.mean ?? 0,
      sdGrams: grams?.sd ?? 0,
      offers: item.offers.map(({ id, price }) => ({ id, price, ...packOfOffer(price, day.limits[id]) })),
      ways: item.ways.map((way) => {
        const id = wayOf(item.id, way.sheetId)
        names.way[id] = way.name
        itemOf[id] = item.name
        return {
          id,
          minutes: way.expected.minutesPerItem.mean,
          setupMinutes: way.setupMinutes,
          consumables: way.consumablesPerItem,
          outputs: way.outputs.map(({ key, name }) => {
            const product = productOf(item.id, key, name)
            names.product[product] ??= `${name} (${item.name.split(',')[0]})`
            const perKg = way.parts[key]?.perKg
            // more of what is asked for is no plate that somebody pays for: it counts for nothing
            if (perKg != null && !asked.has(product)) worth.set(product, Math.max(worth.get(product) ?? 0, perKg))
            const share = way.expected.shares.get(key)
            return { product, pct: share?.mean ?? 0, sdPct: share?.sd ?? 0 }
          }),
        }
      }),
    }
  })
  for (const { id, uses, gives } of followOns) {
    const making = makings.find(({ key }) => id.startsWith(`${key}>`))
    names.followOn[id] = making?.name ?? id
    names.product[gives.product] = `${making?.name ?? id} (${names.product[uses[0]?.product ?? ''] ?? ''})`
  }
  const products = Object.keys(names.product).map((id) => ({ id, onHandGrams: onHand.get(id) ?? 0, leftValuePerKg: worth.get(id) ?? 0 }))
  const packs = wanted.flatMap((item) =>
    item.ways.flatMap(({ parts, outputs }) =>
      outputs.flatMap(({ key, name }) => {
        const ready = readyCut.find(({ id }) => id === parts[key]?.readyCutId)
        const product = productOf(item.id, key, name)
        if (!ready || !asked.has(product)) return []
        const id = `${ready.id}>${product}`
        names.readyCut[id] = ready.name
        return [{ id, product, ...packOf(ready), ...leastOf(day.limits[id]) }]
      }),
    ),
  )
  const readyPacks = [...new Map(packs.map((pack) => [pack.id, pack])).values()]
  const known = new Set(Object.keys(names.product))
  return {
    names,
    itemOf,
    troubles,
    // what is made and measured in millilitres: its “grams” are those
    liquids: followOns.flatMap(({ id, gives }) =>
      makings.some(({ key, unit }) => unit === 'ml' && id.startsWith(`${key}>`)) ? [gives.product] : [],
    ),
    input: {
      items: planItems,
      products,
      demands: demands
        .filter(({ product }) => known.has(product))
        .map(({ itemId: _item, ...demand }) => ({ ...demand, servicePct: day.servicePct })),
      readyCut: readyPacks,
      followOns: followOns.filter(({ uses }) => uses.every(({ product }) => known.has(product))),
      labour: {
        ...labour,
        minutesAvailable: day.minutesAvailable,
        ...(day.overtimeMinutes > 0 ? { overtime: { minutes: day.overtimeMinutes, ratePerHour: labour.ratePerHour * overtimeShare } } : {}),
      },
      held: {
        way: within(day.held.way, names.way),
        offer: within(day.held.offer, names.offer),
        readyCut: within(day.held.readyCut, names.readyCut),
      },
    },
  }
}

/** Pack, least and most of an offer: as the kitchen said for the day, else the case of its price. */
function packOfOffer(price: Price, { pack, least, most }: OfferLimit = {}): { pack: number; least?: number; most?: number } {
  return {
    pack: pack ?? (price.per === 'case' ? (price.count ?? 1) : 1),
    ...(least === undefined ? {} : { least }),
    ...(most === undefined ? {} : { most }),
  }
}

const leastOf = ({ least }: OfferLimit = {}) => (least === undefined ? {} : { least })

/** What is made of something that was cut, as the plan knows it.
 * @example madeOf('stock', 'bird:carcass:Carcass') // 'stock>bird:carcass:Carcass'
 */
export function madeOf(key: string, product: string): string {
  return `${key}>${product}`
}

/** The follow-ons that the day's dishes are made by, each for a kilo that goes in. */
function followOnsOf({ dishes }: DayOfKitchen, makings: readonly Making[]): PlanFollowOn[] {
  const all = dishes.flatMap(({ madeBy, itemId, outputKey, outputName }): PlanFollowOn[] => {
    const making = makings.find(({ key }) => key === madeBy)
    if (!making || making.perGram <= 0) return []
    const product = productOf(itemId, outputKey, outputName)
    const id = madeOf(making.key, product)
    return [
      {
        ...{ id, uses: [{ product, grams: batchGrams }], gives: { product: id, grams: batchGrams * making.perGram } },
        minutes: making.minutes / batchesOfMinutes,
      },
    ]
  })
  return [...new Map(all.map((one) => [one.id, one])).values()]
}

/** What was held of what is still there. */
const within = (held: Readonly<Record<string, number>>, known: Readonly<Record<string, string>>) =>
  Object.fromEntries(Object.entries(held).filter(([id]) => id in known))

/** What one pack brings of usable weight, and costs: a case, a kg, or a portion. */
function packOf({ price, portionGrams, trimPct, lossPct }: ReadyCutItem): { pricePerPack: number; packGrams: number } {
  const usable = (1 - trimPct / 100) * (1 - lossPct / 100)
  if (price.per === 'kg') return { pricePerPack: price.amount, packGrams: 1000 * usable }
  if (price.per === 'lb') return { pricePerPack: price.amount, packGrams: 453.592_37 * usable }
  if (price.per === 'each') return { pricePerPack: price.amount, packGrams: portionGrams * usable }
  return { pricePerPack: price.amount, packGrams: (price.grams ?? portionGrams * (price.count ?? 1)) * usable }
}

/** Portions of a dish, and what they need of its product: g, or ml of what is made.
 * @example demandOf({ itemId: 'bird', outputKey: 'leg', outputName: 'Legs', portions: { kind: 'of-guests', pct: 55 }, gramsPerPortion: 200, lossPct: 0, madeBy: null }, 240) // { product: 'bird:leg:Legs', portions: 132, grams: 26400 }
 */
export function demandOf(
  { itemId, outputKey, outputName, portions: asked, gramsPerPortion, lossPct, madeBy }: DayOfKitchen['dishes'][number],
  guests: number,
): { product: string; portions: number; grams: number } {
  const portions = asked.kind === 'counted' ? asked.count : (guests * asked.pct) / 100
  const raw = productOf(itemId, outputKey, outputName)
  return {
    product: madeBy === null ? raw : madeOf(madeBy, raw),
    ...{ portions, grams: (portions * gramsPerPortion) / (1 - lossPct / 100) },
  }
}

/** Grams of each product, with how far the guests who ask for it may be off. */
function demandsOf(day: DayOfKitchen, items: readonly WholeItem[], makings: readonly Making[], troubles: string[]) {
  const sums = new Map<string, { itemId: string; grams: number; variance: number }>()
  for (const dish of day.dishes) {
    const service = day.services.find(({ id }) => id === dish.serviceId)
    const item = items.find(({ id }) => id === dish.itemId)
    if (!service || !item) continue
    if (!item.ways.some(({ outputs }) => outputs.some(({ key, name }) => key === dish.outputKey && name === dish.outputName))) {
      troubles.push(`“${dish.name}” needs what no way of cutting ${item.name} gives.`)
      continue
    }
    if (dish.madeBy !== null && !makings.some(({ key }) => key === dish.madeBy)) {
      troubles.push(`“${dish.name}” is made by a way of making that is gone: choose another.`)
      continue
    }
    if (item.offers.length === 0) troubles.push(`Nobody quotes for ${item.name}: “${dish.name}” is planned without it.`)
    const { product, grams } = demandOf(dish, service.guests)
    const sum = sums.get(product) ?? { itemId: dish.itemId, grams: 0, variance: 0 }
    // counted portions are known; guests of one service are off together, those of two apart
    const sd = dish.portions.kind === 'counted' ? 0 : (grams * service.sdPct) / 100
    sums.set(product, { itemId: dish.itemId, grams: sum.grams + grams, variance: sum.variance + sd * sd })
  }
  return [...sums].map(([product, { itemId, grams, variance }]) => ({
    ...{ product, itemId, grams },
    sdPct: grams > 0 ? (Math.sqrt(variance) / grams) * 100 : 0,
  }))
}

export interface ProductFlow {
  product: string
  needed: number
  margin: number
  /** What goes into something made of it. */
  used: number
  left: number
  from: { kind: 'way' | 'readyCut' | 'onHand' | 'made'; id: string; grams: number }[]
}

/** What each product that is needed or left over comes from. */
export function flowOf(input: BuyingPlanInput, plan: BuyingPlan): ProductFlow[] {
  const cut = new Map(plan.cut.map(({ way, items }) => [way, items]))
  const batches = new Map(plan.make.map(({ followOn, batches: count }) => [followOn, count]))
  return input.products
    .map(({ id, onHandGrams = 0 }): ProductFlow => {
      const needed = input.demands.reduce((sum, demand) => sum + (demand.product === id ? demand.grams : 0), 0)
      const ways = input.items.flatMap((item) =>
        item.ways.flatMap((way) => {
          const pct = way.outputs.find(({ product }) => product === id)?.pct ?? 0
          const grams = ((cut.get(way.id) ?? 0) * item.meanGrams * pct) / 100
          return grams > 0 ? [{ kind: 'way' as const, id: way.id, grams }] : []
        }),
      )
      const packs = (input.readyCut ?? []).flatMap(({ id: pack, product, packGrams }) => {
        const grams = product === id ? (plan.readyCut.find((one) => one.id === pack)?.packs ?? 0) * packGrams : 0
        return grams > 0 ? [{ kind: 'readyCut' as const, id: pack, grams }] : []
      })
      const made = (input.followOns ?? []).flatMap(({ id: followOn, gives }) => {
        const grams = gives.product === id ? (batches.get(followOn) ?? 0) * gives.grams : 0
        return grams > 0 ? [{ kind: 'made' as const, id: followOn, grams }] : []
      })
      const used = (input.followOns ?? []).reduce(
        (sum, { id: followOn, uses }) => sum + (batches.get(followOn) ?? 0) * (uses.find(({ product }) => product === id)?.grams ?? 0),
        0,
      )
      const from = [...(onHandGrams > 0 ? [{ kind: 'onHand' as const, id: '', grams: onHandGrams }] : []), ...ways, ...packs, ...made]
      return {
        product: id,
        needed,
        margin: plan.margins.find((margin) => margin.product === id)?.grams ?? 0,
        left: from.reduce((sum, { grams }) => sum + grams, 0) - needed - used,
        used,
        from,
      }
    })
    .filter(({ needed, from }) => needed > 0 || from.length > 0)
    .sort((a, b) => b.needed - a.needed)
}

/** What a plan means for the benches: what is cut which way, and what is there without cutting. */
export function workOf(
  input: BuyingPlanInput,
  plan: BuyingPlan,
  items: readonly WholeItem[],
  names: DayNames,
): { cuts: PlannedCut[]; ready: PlannedReady[]; made: { product: string; of: string; perGram: number }[] } {
  const counts = new Map(plan.cut.map(({ way, items: count }) => [way, count]))
  const cuts = input.items.flatMap((item) =>
    item.ways.flatMap((way): PlannedCut[] => {
      const whole = items.find(({ id }) => id === item.id)
      const count = counts.get(way.id) ?? 0
      if (count === 0) return []
      return [
        {
          ...{
            way: way.id,
            itemId: item.id,
            itemName: whole?.name ?? '',
            wayName: names.way[way.id] ?? '',
            board: whole?.board ?? 'other',
          },
          ...{ items: count, itemGrams: item.meanGrams, minutesPerItem: way.minutes, setupMinutes: way.setupMinutes ?? 0 },
          outputs: way.outputs.map(({ product, pct }) => ({ product, name: names.product[product] ?? '', pct })),
        },
      ]
    }),
  )
  const onHand = input.products.flatMap(({ id, onHandGrams = 0 }): PlannedReady[] =>
    onHandGrams > 0 ? [{ itemId: null, name: names.product[id] ?? '', product: id, grams: onHandGrams }] : [],
  )
  const bought = (input.readyCut ?? []).flatMap(({ id, product, packGrams }): PlannedReady[] => {
    const packs = plan.readyCut.find((one) => one.id === id)?.packs ?? 0
    return packs > 0 ? [{ itemId: id.split('>')[0] ?? '', name: names.readyCut[id] ?? '', product, grams: packs * packGrams }] : []
  })
  const made = (input.followOns ?? []).flatMap(({ uses: [use], gives }) =>
    use ? [{ product: gives.product, of: use.product, perGram: gives.grams / use.grams }] : [],
  )
  return { cuts, ready: [...onHand, ...bought], made }
}

/** What is nearest to hand where each demand falls short: packs of what costs least of its weight ready-cut. */
export function nearestOf({ readyCut = [] }: BuyingPlanInput, { met }: BuyingPlan): Record<string, { readyCut: string; packs: number }> {
  return Object.fromEntries(
    met.flatMap(({ product, shortGrams }) => {
      const packs = readyCut.filter((pack) => pack.product === product && pack.packGrams > 0)
      const [pack] = packs.sort((a, b) => a.pricePerPack / a.packGrams - b.pricePerPack / b.packGrams)
      return pack && shortGrams > 0.5 ? [[product, { readyCut: pack.id, packs: Math.ceil(shortGrams / pack.packGrams) }]] : []
    }),
  )
}

export interface PlannedOrder {
  supplierId: string
  lines: { article: string; quantity: number; unit: OrderUnit; price: number | null }[]
}

/** What to order of whom, as suppliers count it: by the kg, the piece or the case. Weights are rounded up to a tenth of a kg. */
export function ordersOf(
  plan: BuyingPlan,
  items: readonly WholeItem[],
  readyCut: readonly ReadyCutItem[],
  meanGrams: ReadonlyMap<string, number>,
): PlannedOrder[] {
  const orders = new Map<string, PlannedOrder['lines']>()
  const add = (supplierId: string, line: PlannedOrder['lines'][number]) => orders.set(supplierId, [...(orders.get(supplierId) ?? []), line])
  for (const { offer: id, items: count } of plan.buy) {
    for (const item of items) {
      const offer = item.offers.find((one) => one.id === id)
      if (offer?.supplierId)
        add(offer.supplierId, { article: item.name, ...countedBy(offer.price, count, (count * (meanGrams.get(item.id) ?? 0)) / 1000) })
    }
  }
  for (const { id, packs } of plan.readyCut) {
    const ready = readyCut.find((one) => id.startsWith(`${one.id}>`))
    if (ready?.supplierId) add(ready.supplierId, { article: ready.name, ...packsBy(ready.price, packs) })
  }
  return [...orders].map(([supplierId, lines]) => ({ supplierId, lines }))
}

const kgPerPound = 0.453_592_37

/** Whole items as their price counts them. */
function countedBy(price: Price, count: number, kg: number): Omit<PlannedOrder['lines'][number], 'article'> {
  if (price.per === 'each') return { quantity: count, unit: 'each', price: price.amount }
  if (price.per === 'case') return { quantity: Math.ceil(count / (price.count ?? 1)), unit: 'case', price: price.amount }
  return { quantity: Math.ceil(kg * 10) / 10, unit: 'kg', price: price.per === 'kg' ? price.amount : price.amount / kgPerPound }
}

/** Packs of the plan as their price counts them: a pack is a kg, a pound, a piece or a case. */
function packsBy(price: Price, packs: number): Omit<PlannedOrder['lines'][number], 'article'> {
  if (price.per === 'each' || price.per === 'case') return { quantity: packs, unit: price.per, price: price.amount }
  if (price.per === 'kg') return { quantity: packs, unit: 'kg', price: price.amount }
  return { quantity: Math.ceil(packs * kgPerPound * 10) / 10, unit: 'kg', price: price.amount / kgPerPound }
}
