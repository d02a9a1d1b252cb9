import type { CutSheet } from '@fleam/contract/cut-sheets'
import type { KitchenSettings } from '@fleam/contract/kitchen'
import type { defectKinds } from '@fleam/contract/runs'
import { formatWeight } from '@fleam/core/quantities/format-weight'
import type { Price } from '@fleam/core/quantities/price'
import { figuresOfRun } from '@fleam/core/runs/run-record'
import type { Role } from '@fleam/core/runs/yield-test'
import { v7 as uuidv7 } from 'uuid'
import type { Values } from '../db/database.ts'
import type { demoItems } from './prices.ts'
import { tenderloin } from './prices.ts'
import { type Random, seededRandom } from './random.ts'

const seed = 20_417
const runCount = 30
const badDelivery = 21

/** How a cook of the demo works: grams off target, spread of the portions, share of the main lost to trim, minutes. */
interface Hand {
  name: string
  offTargetGrams: number
  spreadGrams: number
  mainPct: number
  minutes: number
}
const hands: readonly Hand[] = [
  { name: 'Tobias Quill', offTargetGrams: 0.8, spreadGrams: 3.2, mainPct: 1, minutes: 17 },
  { name: 'Ines Calloway', offTargetGrams: 1.5, spreadGrams: 4, mainPct: 0.4, minutes: 19 },
  { name: 'Jory Penhale', offTargetGrams: 3.5, spreadGrams: 6, mainPct: -0.6, minutes: 22 },
  { name: 'Pip Marsden', offTargetGrams: 2, spreadGrams: 8.5, mainPct: -2.2, minutes: 27 },
]
const values: Record<string, number> = {
  'centre-steak': 58,
  head: 38,
  tail: 17,
  'side-muscle': 14,
  'lean-trim': 8.5,
  silverskin: 1.2,
  steak: 58,
  'ear-steak': 36,
  skewers: 15,
  grind: 8.5,
}

interface Context {
  today: Date
  kitchenId: string
  settings: KitchenSettings
  personIds: ReadonlyMap<string, string>
  supplierIds: ReadonlyMap<string, string>
  sheets: readonly CutSheet[]
  items: readonly ((typeof demoItems)[number] & { id: string })[]
  quotes: readonly { id: string; item: string; supplier: string; daysAgo: number; price: Price }[]
}

export interface DemoRun {
  run: Values
  tubs: Values[]
  weighings: Values[]
  defects: Values[]
}

/** Thirty tenderloin runs over three months, drawn from the cut sheets' shares; one delivery is a bad one. */
export function makeTenderloinRuns(context: Context): DemoRun[] {
  const random = seededRandom(seed)
  return Array.from({ length: runCount }, (_, index) => makeRun(context, random, index))
}

function makeRun(context: Context, random: Random, index: number): DemoRun {
  const daysAgo = Math.round(91 - (index * 90) / (runCount - 1))
  const start = startOf(context.today, daysAgo, random)
  const isBad = index === badDelivery
  const hand = random.pick(hands)
  const supplier = isBad || random.next() < 0.45 ? 'Tidewater Meats' : 'Harrow & Fenn Butchers'
  const slug = random.next() < 0.68 ? 'beef-tenderloin-traditional' : 'beef-tenderloin-used-to-the-last'
  const sheet = context.sheets.find((other) => other.slug === slug) as CutSheet
  const received = Math.round(random.normal(2930, 220)) * 10
  const shares = drawShares(sheet, random, hand, isBad)
  const id = uuidv7()
  const tubs = sheet.body.outputs.map((output, position) => ({
    id: uuidv7(),
    kitchen_id: context.kitchenId,
    run_id: id,
    position: position + 1,
    output_key: output.key,
    name: output.name,
    role: output.role,
    destination: output.destination,
    target_tenths: output.portion ? output.portion.targetGrams * 10 : null,
    tolerance_tenths: output.portion ? output.portion.toleranceGrams * 10 : null,
    typical_pct: output.typicalPct,
    value_per_kg: values[output.key] ?? null,
    separable_cost: 0,
  }))
  const minutes = Math.round(random.normal(hand.minutes + (slug.endsWith('last') ? 5 : 0), 1.8) * 2) / 2
  const weighings = weigh({ tubs, received, shares, hand, random, start, minutes, personId: idOf(context.personIds, hand.name) })
  const quote = quoteOn(context, tenderloin, supplier, daysAgo)
  const readyCut = quoteOn(context, 'Tenderloin steak 180 g, ready-cut', 'Harrow & Fenn Butchers', daysAgo)
  const readyCutItem = context.items.find((item) => item.name === readyCut.item)
  const billed = received + (isBad ? 1450 : Math.max(0, Math.round(random.normal(60, 90) / 10) * 10))
  const { labour, disposalPerKg, limits } = context.settings
  const rates = {
    ...labour,
    disposalPerKg,
    unaccountedLimitPct: limits.unaccountedPct,
    shortDeliveryLimitPct: limits.shortDeliveryPct,
  }
  const figures = figuresOfRun({
    billed: { tenths: billed },
    received: { tenths: received },
    pieces: 1,
    quote: { price: quote.price },
    readyCut: readyCutItem?.readyCut ? { terms: readyCutItem.readyCut, quote: { price: readyCut.price } } : null,
    rates,
    minutes,
    consumables: 0.6,
    method: sheet.body.jointCostMethod,
    tubs: tubs.map((tub) => ({
      id: tub.id,
      name: tub.name,
      role: tub.role as Role,
      targetTenths: tub.target_tenths,
      toleranceTenths: tub.tolerance_tenths,
      typicalPct: tub.typical_pct,
      valuePerKg: tub.value_per_kg,
      separableCost: 0,
    })),
    weighings: weighings.map((line) => ({ id: line.id, tubId: line.tub_id, tenths: line.tenths, reversesId: line.reverses_id })),
  })
  const finishedAt = new Date(start.getTime() + (minutes + 6) * 60_000)
  const personId = idOf(context.personIds, hand.name)
  return {
    run: {
      id,
      kitchen_id: context.kitchenId,
      number: index + 1,
      version: 2,
      status: 'finished',
      item_id: context.items.find((item) => item.name === tenderloin)?.id,
      cut_sheet_version_id: sheet.versionId,
      supplier_id: context.supplierIds.get(supplier),
      cook_id: personId,
      lot: `${supplier.slice(0, 1)}${14 + Math.floor(index / 3)}-${String.fromCharCode(65 + (index % 3))}`,
      billed_tenths: billed,
      billed_entered: formatWeight(billed, 'metric'),
      received_tenths: received,
      received_entered: formatWeight(received, 'metric'),
      pieces: 1,
      core_temp_c: isBad ? 8.4 : Math.round(random.normal(2.6, 0.8) * 10) / 10,
      temperature: isBad ? JSON.stringify(warmDelivery(context, finishedAt)) : null,
      quote_id: quote.id,
      ready_cut_item_id: readyCutItem?.id ?? null,
      ready_cut_terms: readyCutItem?.readyCut ? JSON.stringify(readyCutItem.readyCut) : null,
      ready_cut_quote_id: readyCut.id,
      rates: JSON.stringify(rates),
      method: sheet.body.jointCostMethod,
      minutes,
      consumables: 0.6,
      unaccounted_reason: isBad ? 'The bag had leaked in the van; the liquid in the crate was not weighed.' : null,
      started_at: start,
      finished_at: finishedAt,
      finished_by: personId,
      main_pct: figures.mainPct,
      usable_pct: figures.usablePct,
      unaccounted_pct: figures.unaccountedPct,
      net_cost: figures.netCost,
      cost_per_kg: figures.costPerKg,
      cost_per_portion: figures.costPerPortion,
      portions: figures.portions,
    },
    tubs,
    weighings: weighings.map((line) => ({ ...line, kitchen_id: context.kitchenId, run_id: id })),
    defects: noteDefects(hand, isBad, random).map((defect) => ({
      id: uuidv7(),
      kitchen_id: context.kitchenId,
      run_id: id,
      ...defect,
      person_id: personId,
      at: finishedAt,
    })),
  }
}

/** Shares drawn about the sheet's typical ones, then scaled so that they and the unaccounted loss make the whole. */
function drawShares(sheet: CutSheet, random: Random, hand: Hand, isBad: boolean): Map<string, number> {
  const loss = isBad ? 3.1 : 0.3 + random.next() * 1.2
  const drawn = sheet.body.outputs.map((output, index) => {
    const sd = (output.highPct - output.lowPct) / 4.5
    const lean = index === 0 ? hand.mainPct : 0
    const soaked = isBad && output.key === 'liquid' ? 3.6 : 0
    const share = random.normal(output.typicalPct + lean, sd) + soaked
    return [output.key, Math.min(output.highPct * 1.1 + soaked, Math.max(output.lowPct * 0.85, share))] as const
  })
  const total = drawn.reduce((sum, [, share]) => sum + share, 0)
  return new Map(drawn.map(([key, share]) => [key, (share * (100 - loss)) / total]))
}

interface WeighingLine {
  id: string
  tub_id: string
  tenths: number
  entered: string
  reverses_id: string | null
  person_id: string
  weighed_at: Date
}

function weigh(given: {
  tubs: { id: string; output_key: string; target_tenths: number | null; role: string }[]
  received: number
  shares: ReadonlyMap<string, number>
  hand: Hand
  random: Random
  start: Date
  minutes: number
  personId: string
}): WeighingLine[] {
  const { tubs, received, shares, hand, random } = given
  const pieces: { tubId: string; tenths: number }[] = []
  let leftOver = 0
  for (const tub of tubs) {
    const expected = Math.round((received * (shares.get(tub.output_key) ?? 0)) / 1000) * 10
    if (tub.target_tenths === null) {
      const takesTrimmings = tub.role === 'coproduct'
      pieces.push({ tubId: tub.id, tenths: takesTrimmings ? expected + leftOver : expected })
      if (takesTrimmings) leftOver = 0
      continue
    }
    const portions = cutPortions(expected, tub.target_tenths, hand, random)
    leftOver += expected - portions.reduce((sum, tenths) => sum + tenths, 0)
    pieces.push(...portions.map((tenths) => ({ tubId: tub.id, tenths })))
  }
  const gap = (given.minutes * 60_000) / (pieces.length + 1)
  const lines: WeighingLine[] = []
  const add = (tubId: string, tenths: number, index: number, reversesId: string | null) => {
    const id = uuidv7()
    lines.push({
      id,
      tub_id: tubId,
      tenths,
      entered: `${tenths / 10} g`,
      reverses_id: reversesId,
      person_id: given.personId,
      weighed_at: new Date(given.start.getTime() + Math.round(gap * index)),
    })
    return id
  }
  pieces.forEach((piece, index) => {
    const mistyped = index > 0 && random.next() < 0.012
    if (mistyped) add(piece.tubId, piece.tenths, index + 0.4, add(piece.tubId, piece.tenths, index + 0.2, null))
    add(piece.tubId, piece.tenths, index + 1, null)
  })
  return lines
}

/** As many portions about the target as a weight makes, in whole grams; what is left over or short goes to the tips. */
function cutPortions(total: number, target: number, hand: Hand, random: Random): number[] {
  const count = Math.max(1, Math.round(total / (target + hand.offTargetGrams * 10)))
  return Array.from({ length: count }, () => Math.round(random.normal(target / 10 + hand.offTargetGrams, hand.spreadGrams)) * 10)
}

function noteDefects(hand: Hand, isBad: boolean, random: Random): { kind: (typeof defectKinds)[number]; note: string }[] {
  const notes: { kind: (typeof defectKinds)[number]; note: string }[] = []
  if (isBad) notes.push({ kind: 'other', note: 'Bag leaked, loin soft and warm; supplier told.' })
  if (hand.mainPct < -2 && random.next() < 0.7) notes.push({ kind: 'gouged meat with the silverskin', note: '' })
  if (hand.offTargetGrams > 3 && random.next() < 0.6) notes.push({ kind: 'portions over target', note: 'Cut by eye until the fourth.' })
  if (random.next() < 0.08) notes.push({ kind: 'blunt knife', note: '' })
  return notes
}

function warmDelivery(context: Context, at: Date) {
  return {
    limitC: context.settings.limits.receiveMaxC,
    decision: 'use-at-once',
    note: 'Taken in for tonight only, chilled hard and cut at once. Supplier told.',
    by: { id: idOf(context.personIds, 'Tobias Quill'), name: 'Tobias Quill' },
    at: at.toISOString(),
  }
}

function quoteOn(context: Context, item: string, supplier: string, daysAgo: number) {
  const standing = context.quotes.filter((quote) => quote.item === item && quote.supplier === supplier && quote.daysAgo >= daysAgo)
  return standing.reduce((latest, quote) => (quote.daysAgo < latest.daysAgo ? quote : latest))
}

function startOf(today: Date, daysAgo: number, random: Random): Date {
  const day = new Date(today.getTime() - daysAgo * 86_400_000)
  day.setUTCHours(8 + Math.floor(random.next() * 5), Math.floor(random.next() * 60), 0, 0)
  return day
}

function idOf(ids: ReadonlyMap<string, string>, name: string): string {
  return ids.get(name) as string
}
