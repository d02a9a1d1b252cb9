import type { CutSheet } from '@fleam/contract/cut-sheets'
import type { KitchenSettings } from '@fleam/contract/kitchen'
import type { defectKinds } from '@fleam/contract/runs'
import { formatWeight } from '@fleam/core/quantities/format-weight'
import type { Price } from '@fleam/core/quantities/price'
import { type Random, seededRandom } from '@fleam/core/random/seeded-random'
import type { Role } from '@fleam/core/runs/output'
import { portionOutput } from '@fleam/core/runs/portion-output'
import { figuresOfRun, testedOutputsOf } from '@fleam/core/runs/run-record'
import { v7 as uuidv7 } from 'uuid'
import type { KitchenRecords } from '../db/records.ts'
import type { FinishedTest } from '../features/yield-book/totals.ts'
import { cutPortions, drawShares, parted } from './drawn-weights.ts'
import { type Hand, hands, type Line, lines } from './lines.ts'
import { type demoItems, demoWays } from './prices.ts'

const seed = 20_417

export interface Context {
  today: Date
  settings: KitchenSettings
  personIds: ReadonlyMap<string, string>
  supplierIds: ReadonlyMap<string, string>
  sheets: readonly CutSheet[]
  items: readonly ((typeof demoItems)[number] & { id: string })[]
  quotes: readonly { id: string; item: string; itemId: string; supplier: string; daysAgo: number; price: Price }[]
}

type New<Name extends 'runs' | 'tubs' | 'weighings' | 'defects' | 'benchEvents'> = Parameters<KitchenRecords[Name]['create']>[0]

export interface DemoRun {
  run: New<'runs'>
  tubs: New<'tubs'>[]
  weighings: New<'weighings'>[]
  defects: New<'defects'>[]
  benchEvents: New<'benchEvents'>[]
  test: FinishedTest
}

/** A year of runs, oldest first, drawn from the cut sheets' shares; one delivery of loins is a bad one. */
export function makeDemoRuns(context: Context): DemoRun[] {
  const random = seededRandom(seed)
  const planned = lines.flatMap((line) => {
    const isLoin = line === lines[0]
    return Array.from({ length: line.runs }, (_, index) => ({
      line,
      daysAgo: Math.round(line.firstDaysAgo - (index * (line.firstDaysAgo - 1)) / (line.runs - 1)),
      isBad: isLoin && index === line.runs - 9,
    }))
  })
  planned.sort((a, b) => b.daysAgo - a.daysAgo)
  return planned.map((plan, index) => makeRun(context, random, plan, index))
}

interface Plan {
  line: Line
  daysAgo: number
  isBad: boolean
  /** Who cuts; one of the cooks unless given. */
  hand?: Hand
}

/** A run as somebody would have cut it; `index` is how many came before it. */
export function makeRun(context: Context, random: Random, { line, daysAgo, isBad, hand: given }: Plan, index: number): DemoRun {
  const start = startOf(context.today, daysAgo, random)
  const hand = given ?? random.pick(hands)
  const supplier = isBad ? 'Tidewater Meats' : random.pick(line.suppliers)
  const slug = pickByShare(line.sheets, random.next())
  const sheet = context.sheets.find((other) => other.slug === slug) as CutSheet
  const pieces = random.pick(line.pieces)
  const received = Math.round(random.normal(line.grams * pieces, line.spread * Math.sqrt(pieces))) * 10
  const optionalAt = sheet.body.steps.findIndex((step) => step.optional !== undefined)
  const isStepLeftOut = optionalAt >= 0 && random.next() < 0.45
  const freedPct = optionalAt >= 0 && !isStepLeftOut ? ((line.freedGrams ?? 0) / line.grams) * 100 : 0
  const shares = drawShares(sheet, random, hand, isBad, freedPct)
  const id = uuidv7()
  const tubs = sheet.body.outputs.map((output, position) => ({
    id: uuidv7(),
    runId: id,
    position: position + 1,
    outputKey: output.key,
    name: output.name,
    role: output.role,
    destination: output.destination,
    targetTenths: output.portion ? output.portion.targetGrams * 10 : null,
    toleranceTenths: output.portion ? output.portion.toleranceGrams * 10 : null,
    typicalPct: output.typicalPct,
    valuePerKg: output.role === 'waste' ? null : (line.values[output.key] ?? null),
    separableCost: 0,
  }))
  const usual = (sheet.body.minutes.low + sheet.body.minutes.high) / 2
  const optionalMinutes = optionalAt >= 0 && !isStepLeftOut ? (sheet.body.steps[optionalAt]?.optional?.minutes ?? 0) * pieces : 0
  const minutes = Math.round((random.normal(usual * hand.pace * pieces ** learned, usual * 0.08) + optionalMinutes) * 2) / 2
  const weighings = weigh({
    tubs,
    sheet,
    pieces,
    received,
    shares,
    hand,
    random,
    start,
    minutes,
    personId: idOf(context.personIds, hand.name),
  })
  const quote = quoteOn(context, line.item, supplier, daysAgo)
  const item = context.items.find((one) => one.name === line.item)
  const ofWay = demoWays.find((way) => way.item === line.item && way.sheet === slug)?.market[portionOutput(sheet.body.outputs)?.key ?? '']
  const readyCutItem = context.items.find((one) => one.name === (ofWay ?? item?.against))
  const readyCut = quoteOn(context, readyCutItem?.name ?? '', undefined, daysAgo)
  const billed = received + (isBad ? 1450 : Math.max(0, Math.round(random.normal(60, 90) / 10) * 10))
  const { labour, disposalPerKg, limits } = context.settings
  const rates = {
    ...labour,
    disposalPerKg,
    unaccountedLimitPct: limits.unaccountedPct,
    shortDeliveryLimitPct: limits.shortDeliveryPct,
  }
  const record = {
    billed: { tenths: billed },
    received: { tenths: received },
    pieces,
    quote: { price: quote.price },
    readyCut: readyCutItem?.readyCut ? { terms: readyCutItem.readyCut, quote: { price: readyCut.price } } : null,
    rates,
    minutes,
    consumables: 0.6,
    method: sheet.body.jointCostMethod,
    sheet: sheet.body,
    tubs: tubs.map((tub) => ({
      id: tub.id,
      key: tub.outputKey,
      name: tub.name,
      role: tub.role as Role,
      kind: sheet.body.outputs.find(({ key }) => key === tub.outputKey)?.kind,
      targetTenths: tub.targetTenths,
      toleranceTenths: tub.toleranceTenths,
      typicalPct: tub.typicalPct,
      valuePerKg: tub.valuePerKg,
      separableCost: 0,
    })),
    weighings: weighings.map((line) => ({ id: line.id, tubId: line.tubId, tenths: line.tenths, reversesId: line.reversesId })),
  }
  const figures = figuresOfRun(record)
  const finishedAt = new Date(start.getTime() + (minutes + 6) * 60_000)
  const personId = idOf(context.personIds, hand.name)
  const startedAt = start
  const { mainPct } = figures
  const consumables = 0.6
  return {
    run: {
      id,
      number: index + 1,
      version: 2,
      status: 'finished',
      itemId: item?.id ?? '',
      cutSheetVersionId: sheet.versionId,
      supplierId: context.supplierIds.get(supplier) ?? null,
      cookId: personId,
      lot: `${supplier.slice(0, 1)}${14 + Math.floor(index / 3)}-${String.fromCharCode(65 + (index % 3))}`,
      billedTenths: billed,
      billedEntered: formatWeight(billed, 'metric'),
      receivedTenths: received,
      receivedEntered: formatWeight(received, 'metric'),
      pieces,
      coreTempC: isBad ? 8.4 : Math.round(random.normal(2.6, 0.8) * 10) / 10,
      temperature: isBad ? warmDelivery(context, finishedAt) : null,
      quoteId: quote.id,
      readyCutItemId: readyCutItem?.id ?? null,
      readyCutTerms: readyCutItem?.readyCut ?? null,
      readyCutQuoteId: readyCut.id,
      rates,
      method: sheet.body.jointCostMethod,
      minutes,
      consumables,
      unaccountedReason: isBad ? 'The bag had leaked in the van; the liquid in the crate was not weighed.' : null,
      fish: null,
      startedAt,
      finishedAt,
      finishedById: personId,
      mainPct,
      usablePct: figures.usablePct,
      unaccountedPct: figures.unaccountedPct,
      netCost: figures.netCost,
      costPerKg: figures.costPerKg,
      costPerPortion: figures.costPerPortion,
      portions: figures.portions,
    },
    tubs,
    test: {
      runId: id,
      itemId: item?.id ?? '',
      cutSheetId: sheet.id,
      startedAt,
      pieces,
      receivedTenths: received,
      minutes,
      consumables,
      mainPct,
      outputs: testedOutputsOf(record),
    },
    weighings: weighings.map((line) => ({ ...line, runId: id, pieceNumber: null, movedFromId: null, sentById: null })),
    defects: noteDefects(hand, isBad, random).map((defect) => ({
      id: uuidv7(),
      runId: id,
      ...defect,
      step: null,
      personId,
      at: finishedAt,
    })),
    benchEvents: isStepLeftOut
      ? [
          {
            id: uuidv7(),
            runId: id,
            // the station comes before the sheet's first step
            body: { kind: 'optional-step', step: optionalAt + 1, done: false },
            personId,
            sentById: personId,
            happenedAt: start,
          },
        ]
      : [],
  }
}

/** Minutes grow slower than the count: the second bird goes quicker than the first. */
const learned = 0.78

function pickByShare(sheets: Line['sheets'], at: number): string {
  let sum = 0
  for (const [slug, share] of sheets) {
    sum += share
    if (at < sum) return slug
  }
  return sheets[0]?.[0] ?? ''
}

interface WeighingLine {
  id: string
  tubId: string
  tenths: number
  entered: string
  reversesId: string | null
  personId: string
  weighedAt: Date
}

function weigh(given: {
  tubs: { id: string; outputKey: string; targetTenths: number | null; role: string }[]
  sheet: CutSheet
  pieces: number
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
    const expected = Math.round((received * (shares.get(tub.outputKey) ?? 0)) / 1000) * 10
    const rule = given.sheet.body.outputs.find((output) => output.key === tub.outputKey)
    if (tub.targetTenths === null || rule?.portion?.pieces !== undefined) {
      const takesTrimmings = tub.role === 'coproduct'
      const total = takesTrimmings ? expected + leftOver : expected
      if (takesTrimmings) leftOver = 0
      const count = tub.role === 'byproduct' ? 1 : (rule?.countPerItem ?? 1) * given.pieces
      pieces.push(...parted(total, count, random).map((tenths) => ({ tubId: tub.id, tenths })))
      continue
    }
    const portions = cutPortions(expected, tub.targetTenths, hand, random)
    leftOver += expected - portions.reduce((sum, tenths) => sum + tenths, 0)
    pieces.push(...portions.map((tenths) => ({ tubId: tub.id, tenths })))
  }
  const gap = (given.minutes * 60_000) / (pieces.length + 1)
  const lines: WeighingLine[] = []
  const add = (tubId: string, tenths: number, index: number, reversesId: string | null) => {
    const id = uuidv7()
    lines.push({
      id,
      tubId,
      tenths,
      entered: `${tenths / 10} g`,
      reversesId,
      personId: given.personId,
      weighedAt: new Date(given.start.getTime() + Math.round(gap * index)),
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

function noteDefects(hand: Hand, isBad: boolean, random: Random): { kind: (typeof defectKinds)[number]; note: string }[] {
  const notes: { kind: (typeof defectKinds)[number]; note: string }[] = []
  if (isBad) notes.push({ kind: 'other', note: 'Bag leaked, loin soft and warm; supplier told.' })
  if (hand.mainPct < -2 && random.next() < 0.7) notes.push({ kind: 'gouged meat with the silverskin', note: '' })
  if (hand.offTargetGrams > 3 && random.next() < 0.6) notes.push({ kind: 'portions over target', note: 'Cut by eye until the fourth.' })
  if (random.next() < 0.08) notes.push({ kind: 'blunt knife', note: '' })
  return notes
}

function warmDelivery(context: Context, at: Date): DemoRun['run']['temperature'] {
  return {
    limitC: context.settings.limits.receiveMaxC,
    decision: 'use-at-once',
    note: 'Taken in for tonight only, chilled hard and cut at once. Supplier told.',
    by: { id: idOf(context.personIds, 'Tobias Quill'), name: 'Tobias Quill' },
    at: at.toISOString(),
  }
}

function quoteOn(context: Context, item: string, supplier: string | undefined, daysAgo: number) {
  const standing = context.quotes.filter(
    (quote) => quote.item === item && (supplier === undefined || quote.supplier === supplier) && quote.daysAgo >= daysAgo,
  )
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
