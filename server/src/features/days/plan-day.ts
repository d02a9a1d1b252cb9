import type { CutSheet } from '@fleam/contract/cut-sheets'
import type { KitchenDay, PlannedDay } from '@fleam/contract/day'
import type { Item, Quote } from '@fleam/contract/prices'
import type { YieldBookEntry } from '@fleam/contract/yield-book'
import type { BuyingPlan, BuyingPlanInput } from '@fleam/core/day/buying-plan'
import { askOfDay, flowOf, ordersOf, productOf, type ReadyCutItem, type WholeItem, workOf } from '@fleam/core/day/kitchen-day'
import { portionOutput } from '@fleam/core/runs/portion-output'
import { expectCut } from '@fleam/core/yield-book/expected-cut'
import { Op } from 'sequelize'
import type { KitchenRecords } from '../../db/records.ts'
import type { Actor } from '../../http/access.ts'
import { listCutSheets } from '../cut-sheets/service.ts'
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
  const { input, names, itemOf, troubles, whole, ready } = await readDay(by, day)
  const plan = await solve(input)
  const flow = flowOf(input, plan)
  const until = Date.now() + mostBesideMs
  const inTime = plan.status === 'optimal' ? (asked: BuyingPlanInput) => (Date.now() < until ? solve(asked) : undefined) : () => undefined
  const hourSaves = await hourSavesOf(input, plan, inTime)
  const safetyCosts = await safetyCostsOf(input, plan, inTime)
  const nextBest = await nextBestOf(input, plan, inTime)
  const orders = ordersOf(plan, whole, ready, new Map(input.items.map(({ id, meanGrams }) => [id, meanGrams])))
  return { plan, names, itemOf, flow, orders, nextBest, hourSaves, safetyCosts, troubles }
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

/** What being sure costs: against the same day planned to be enough on the average day only. */
async function safetyCostsOf(input: BuyingPlanInput, plan: BuyingPlan, solve: SolveInTime): Promise<number> {
  if (plan.margins.length === 0) return 0
  const bare = await solve({ ...input, demands: input.demands.map(({ servicePct: _sure, ...demand }) => demand) })
  return bare?.status === 'optimal' ? Math.max(0, plan.cost - bare.cost) : 0
}

async function readDay({ records, kitchen }: Pick<Actor, 'records' | 'kitchen'>, day: KitchenDay) {
  const [items, sheets, book, ways, quotes, onHand] = await Promise.all([
    listItems(records, '', mostItems),
    listCutSheets(records, '', 1000),
    readYieldBook(records),
    listWays(records),
    quotesBySupplier(records),
    lotsOnHand(records, day.date),
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
  return { whole, ready, ...askOfDay(day.body, { items: whole, readyCut: ready, onHand, labour: settings.labour }) }
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
