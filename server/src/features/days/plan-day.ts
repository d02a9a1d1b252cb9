import type { CutSheet } from '@fleam/contract/cut-sheets'
import type { KitchenDay, PlannedDay } from '@fleam/contract/day'
import type { FollowOnSheetEntry } from '@fleam/contract/follow-ons'
import type { Item, Quote } from '@fleam/contract/prices'
import type { YieldBookEntry } from '@fleam/contract/yield-book'
import type { BuyingPlan, BuyingPlanInput } from '@fleam/core/day/buying-plan'
import {
  askOfDay,
  flowOf,
  type Making,
  nearestOf,
  ordersOf,
  productOf,
  type ReadyCutItem,
  type WholeItem,
  workOf,
} from '@fleam/core/day/kitchen-day'
import { portionOutput } from '@fleam/core/runs/portion-output'
import { keptKindOf } from '@fleam/core/walk-in/keeping'
import { expectCut } from '@fleam/core/yield-book/expected-cut'
import { Op } from 'sequelize'
import type { KitchenRecords } from '../../db/records.ts'
import type { Actor } from '../../http/access.ts'
import { listCutSheets } from '../cut-sheets/service.ts'
import { listDishNeeds } from '../dishes/service.ts'
import { listSheets } from '../follow-ons/sheets.ts'
import { listItems } from '../prices/items.ts'
import { latestQuotesBySupplier } from '../prices/quotes.sql.ts'
import { findQuotes, toQuote } from '../prices/quotes.ts'
import { readYieldBook } from '../yield-book/service.ts'
import { listWays } from '../yield-book/ways.ts'

export type Solve = (input: BuyingPlanInput) => Promise<BuyingPlan>
/** The same while there is time for more than the plan itself. */
type SolveInTime = (input: BuyingPlanInput) => Promise<BuyingPlan> | undefined

const mostItems = 10_000
/** What is told beside the plan may take so long in all: on a large day some of it is left out. */
const mostBesideMs = 12_000

/**
 * Plans what to buy for a day and how to cut it, from the kitchen's own prices, yields and lots; and says what the next best plan, the
 * safety and one more hour would cost or save.
 */
export async function planDay(by: Pick<Actor, 'records' | 'kitchen'>, day: KitchenDay, solve: Solve): Promise<PlannedDay> {
  const { input, names, itemOf, troubles, liquids, whole, ready, leftTo } = await readDay(by, day)
  const plan = await solve(input)
  const flow = flowOf(input, plan)
  const until = Date.now() + mostBesideMs
  const whileTime: SolveInTime = (asked) => (Date.now() < until ? solve(asked) : undefined)
  const inTime: SolveInTime = plan.status === 'optimal' ? whileTime : () => undefined
  const moves = plan.status === 'optimal' ? [] : await movesOf(input, whileTime)
  const binds = await bindsOf(input, plan, inTime)
  const hourSaves = await hourSavesOf(input, plan, inTime)
  const safetyCosts = await safetyCostsOf(input, plan, inTime)
  const nextBest = await nextBestOf(input, plan, inTime)
  const orders = ordersOf(plan, whole, ready, new Map(input.items.map(({ id, meanGrams }) => [id, meanGrams])))
  return {
    plan,
    names,
    itemOf,
    flow,
    orders,
    nextBest,
    hourSaves,
    binds,
    moves,
    nearest: nearestOf(input, plan),
    leftTo: leftTo(plan),
    safetyCosts,
    troubles,
    liquids,
  }
}

/** What the plan of a day means for its benches. */
export async function planWork(by: Pick<Actor, 'records' | 'kitchen'>, day: KitchenDay, solve: Solve) {
  const { input, names, whole } = await readDay(by, day)
  const plan = await solve(input)
  return { status: plan.status, ...workOf(input, plan, whole, names) }
}

/** The cheapest plan that does without one of the ways in use, and what it costs more. */
async function nextBestOf(input: BuyingPlanInput, plan: BuyingPlan, solve: SolveInTime): Promise<PlannedDay['nextBest']> {
  let best: PlannedDay['nextBest'] = null
  for (const { way } of plan.cut) {
    const item = input.items.find(({ ways }) => ways.some(({ id }) => id === way))
    if (!item || item.ways.length < 2) continue
    const other = await solve({ ...input, held: { ...input.held, way: { ...input.held?.way, [way]: 0 } } })
    if (other?.status === 'optimal' && (best === null || other.cost - plan.cost < best.cost))
      best = { without: way, cost: other.cost - plan.cost }
  }
  return best
}

/** What an hour more of hands would save, where all of them are taken. */
async function hourSavesOf(input: BuyingPlanInput, plan: BuyingPlan, solve: SolveInTime): Promise<number> {
  const { minutesAvailable } = input.labour
  if (minutesAvailable === undefined || plan.minutes < minutesAvailable - 1) return 0
  const more = await solve({ ...input, labour: { ...input.labour, minutesAvailable: minutesAvailable + 60 } })
  return more?.status === 'optimal' ? Math.max(0, plan.cost - more.cost) : 0
}

/** What one pack more of an offer that is all taken would save, and what an offer's least order costs. */
async function bindsOf(input: BuyingPlanInput, plan: BuyingPlan, solve: SolveInTime): Promise<PlannedDay['binds']> {
  const binds: PlannedDay['binds'] = []
  for (const item of input.items) {
    for (const offer of item.offers) {
      const bought = plan.buy.find((one) => one.offer === offer.id)?.items ?? 0
      const isAll = offer.most !== undefined && bought > 0 && bought + offer.pack > offer.most
      const isLeast = offer.least !== undefined && offer.least > offer.pack && bought <= offer.least
      if (!isAll && !isLeast) continue
      const moved = isAll ? { ...offer, most: (offer.most ?? 0) + offer.pack } : { ...offer, least: 0 }
      const items = input.items.map((one) =>
        one === item ? { ...one, offers: one.offers.map((other) => (other === offer ? moved : other)) } : one,
      )
      const other = await solve({ ...input, items })
      const saves = other?.status === 'optimal' ? plan.cost - other.cost : 0
      if (saves > 0.005) binds.push({ offer: offer.id, limit: isAll ? 'most' : 'least', saves })
    }
  }
  return binds
}

/** Of a day that cannot be met: which limit, moved alone, would let it be, and by how much. */
async function movesOf(input: BuyingPlanInput, solve: SolveInTime): Promise<PlannedDay['moves']> {
  const moves: PlannedDay['moves'] = []
  const { labour } = input
  if (labour.minutesAvailable !== undefined) {
    // where every minute costs dear, as few as can be are taken
    const dear = { ratePerHour: labour.ratePerHour + 1_000_000, onCostPct: labour.onCostPct }
    const free = await solve({ ...input, labour: dear })
    const most = labour.minutesAvailable + (labour.overtime?.minutes ?? 0)
    if (free?.status === 'optimal') moves.push({ limit: 'hands', minutes: Math.ceil(free.minutes - most) })
  }
  if (input.items.some(({ offers }) => offers.some(({ most }) => most !== undefined))) {
    const items = input.items.map((item) => ({ ...item, offers: item.offers.map(({ most: _most, ...offer }) => offer) }))
    const free = await solve({ ...input, items })
    const mostOf = new Map(input.items.flatMap(({ offers }) => offers.map(({ id, most }) => [id, most])))
    const over = (free?.buy ?? []).flatMap(({ offer, items: bought }) => {
      const beyond = bought - (mostOf.get(offer) ?? Number.POSITIVE_INFINITY)
      return beyond > 0 ? [{ offer, items: beyond }] : []
    })
    if (free?.status === 'optimal' && over.length > 0) moves.push({ limit: 'offers', items: over })
  }
  if (Object.values(input.held ?? {}).some((held) => Object.keys(held ?? {}).length > 0)) {
    const free = await solve({ ...input, held: {} })
    if (free?.status === 'optimal') moves.push({ limit: 'held' })
  }
  return moves
}

/** What being sure costs: against the same day planned to be enough on the average day only. */
async function safetyCostsOf(input: BuyingPlanInput, plan: BuyingPlan, solve: SolveInTime): Promise<number> {
  if (plan.margins.length === 0) return 0
  const bare = await solve({ ...input, demands: input.demands.map(({ servicePct: _sure, ...demand }) => demand) })
  return bare?.status === 'optimal' ? Math.max(0, plan.cost - bare.cost) : 0
}

async function readDay({ records, kitchen }: Pick<Actor, 'records' | 'kitchen'>, day: KitchenDay) {
  const [items, sheets, book, ways, quotes, onHand, making, needs] = await Promise.all([
    listItems(records, '', mostItems),
    listCutSheets(records, '', 1000),
    readYieldBook(records),
    listWays(records),
    quotesBySupplier(records),
    lotsOnHand(records, day.date),
    listSheets({ records, kitchen }),
    listDishNeeds({ records, kitchen }),
  ])
  const { settings } = kitchen
  const ready = items.filter(({ kind }) => kind === 'ready-cut').flatMap(readyCutOf)
  const wanted = new Set(day.body.dishes.map(({ itemId }) => itemId))
  const whole = items
    .filter(({ id, kind }) => kind === 'whole' && wanted.has(id))
    .map((item): WholeItem => {
      const offers = quotes
        .filter(({ itemId }) => itemId === item.id)
        .map(({ id, supplier, price }) => ({
          id: `${item.id}@${supplier?.id ?? id}`,
          supplierId: supplier?.id ?? null,
          supplier: supplier?.name ?? 'supplier not noted',
          price,
        }))
      const shownWays = ways.filter((way) => way.itemId === item.id)
      const own = sheetsOf(item, sheets, book, shownWays)
      return {
        ...{ id: item.id, name: item.name, board: item.animal === 'bird' ? 'raw poultry' : 'other', offers },
        ways: own.map((sheet) => {
          const entry = book.find(({ itemId, cutSheetId }) => itemId === item.id && cutSheetId === sheet.id)
          const said = shownWays.find(({ cutSheetId }) => cutSheetId === sheet.id)?.parts ?? {}
          const portion = portionOutput(sheet.body.outputs)?.key
          const parts = Object.fromEntries(
            sheet.body.outputs
              .filter(({ role }) => role !== 'waste')
              .map(({ key }) => {
                const readyCutId = said[key]?.readyCutId ?? (key === portion ? item.againstId : null)
                const own = said[key]?.ownPerKg ?? entry?.outputs.find((output) => output.key === key)?.lastValuePerKg ?? null
                return [key, { readyCutId, perKg: own }] as const
              }),
          )
          return {
            ...{ sheetId: sheet.id, name: sheet.body.name, parts },
            expected: expectCut(sheet.body, entry, Math.max(1, Math.round(entry?.itemsPerBatch ?? 1)), settings.cutting.priorTests),
            setupMinutes: settings.cutting.setupMinutes,
            consumablesPerItem: entry?.consumablesPerItem ?? 0,
            outputs: sheet.body.outputs.filter(({ role }) => role !== 'waste').map(({ key, name }) => ({ key, name })),
          }
        }),
      }
    })
  const makings = making.flatMap(makingOf)
  const asked = askOfDay(day.body, { items: whole, readyCut: ready, makings, onHand, labour: settings.labour })
  /** Where each leftover goes: a dish that waits for it, else what is made of its like, else the freezer. */
  const leftTo = ({ left }: BuyingPlan) =>
    Object.fromEntries(
      left.flatMap(({ product }) => {
        const [itemId = '', outputKey = '', ...name] = product.split(':')
        const item = items.find(({ id }) => id === itemId)
        const output = sheets
          .flatMap(({ body }) => body.outputs)
          .find(({ key, name: called }) => key === outputKey && called === name.join(':'))
        if (!item || !output) return []
        const need = needs.find((one) => one.animal === item.animal && one.product === outputKey && one.collectedTenths < one.need.tenths)
        if (need) return [[product, need.dish]]
        const kind = keptKindOf(item.animal, output.role, output.name)
        const sheet = making.find(
          ({ body, isRetired }) => !isRetired && body.madeOf.includes(kind) && (body.animals ?? [item.animal]).includes(item.animal),
        )
        const byproduct = output.role === 'byproduct'
        return [
          [
            product,
            byproduct && sheet ? sheet.body.name : settings.walkIn.keeping.kinds[kind].frozenDays > 0 ? 'the freezer' : 'the first service',
          ],
        ]
      }),
    )
  return { whole, ready, leftTo, ...asked }
}

/** What a way of making gives, by the kitchen's own follow-ons where there are any. */
function makingOf({ key, isRetired, body, book }: FollowOnSheetEntry): Making[] {
  const main = body.outputs.find(({ role, unit }) => role === 'main' && unit !== 'piece')
  if (isRetired || !main) return []
  const own = book.outputs.find(({ name }) => name === main.name)?.share
  const pct = own && own.tests > 0 ? own.mean : main.yieldPct.typical
  return [
    {
      key,
      name: body.name,
      perGram: pct / 100,
      unit: main.unit === 'ml' ? 'ml' : 'g',
      minutes: book.tests > 0 ? book.minutes : body.minutes,
    },
  ]
}

/** The ways that a kitchen cuts an item: those it has tested and looks at; else those of its animal that it said so of. */
function sheetsOf(
  item: Item,
  sheets: readonly CutSheet[],
  book: readonly YieldBookEntry[],
  ways: readonly { cutSheetId: string; shown: boolean }[],
) {
  const hidden = new Set(ways.filter(({ shown }) => !shown).map(({ cutSheetId }) => cutSheetId))
  const known = new Set([
    ...book.filter(({ itemId }) => itemId === item.id).map(({ cutSheetId }) => cutSheetId),
    ...ways.map(({ cutSheetId }) => cutSheetId),
  ])
  return sheets.filter(({ id, retired, body }) => !retired && body.animal === item.animal && known.has(id) && !hidden.has(id))
}

function readyCutOf({ id, name, readyCut, latestQuote }: Item): ReadyCutItem[] {
  if (!readyCut || !latestQuote) return []
  const { portionTenths, trimPct, lossPct } = readyCut
  return [
    {
      id,
      name,
      supplierId: latestQuote.supplier?.id ?? null,
      price: latestQuote.price,
      portionGrams: portionTenths / 10,
      trimPct,
      lossPct,
    },
  ]
}

/** The newest quote of every item by every supplier. */
async function quotesBySupplier(records: KitchenRecords): Promise<Quote[]> {
  const ids = await records.select<{ id: string }>(latestQuotesBySupplier)
  const rows = await findQuotes(
    records,
    ids.map(({ id }) => id),
  )
  return rows.map(toQuote)
}

/** Grams of each product that lie in the walk-in and may be used on that day. */
async function lotsOnHand(records: KitchenRecords, date: string): Promise<Map<string, number>> {
  const lots = await records.lots.findAll({
    where: { unit: 'g', leftTenths: { [Op.gt]: 0 }, isBlocked: false, useBy: { [Op.gte]: date }, outputKey: { [Op.ne]: null } },
    include: [{ association: 'run', attributes: ['itemId'], required: true }],
  })
  const onHand = new Map<string, number>()
  for (const { outputKey, name, leftTenths, run } of lots) {
    const product = productOf(run?.itemId ?? '', outputKey ?? '', name)
    onHand.set(product, (onHand.get(product) ?? 0) + leftTenths / 10)
  }
  return onHand
}
