import type { ComparisonBody } from '@fleam/contract/compare'
import type { CutSheet } from '@fleam/contract/cut-sheets'
import type { KitchenSettings } from '@fleam/contract/kitchen'
import type { Item } from '@fleam/contract/prices'
import type { WayOfCutting, YieldBookEntry } from '@fleam/contract/yield-book'
import { inputOfCase, openCase, type PortionCase, spreadsOfAverage, spreadsOfCase } from '@fleam/core/compare/portion-case'
import { type ReadyCut, readyCutCost } from '@fleam/core/compare/ready-cut'
import type { Part } from '@fleam/core/compare/value-in-parts'
import type { Price } from '@fleam/core/quantities/price'
import { gramsOf } from '@fleam/core/quantities/weight'
import { nameOfPortions, platedOutputs } from '@fleam/core/runs/plates'
import { portionOutput } from '@fleam/core/runs/portion-output'
import { readyCutOf } from '@fleam/core/runs/run-record'
import { type ExpectedCut, expectCut, type TestedCut } from '@fleam/core/yield-book/expected-cut'
import type { DrawnPortion } from '../../workers/draw-worker.ts'

/** What comparisons are made from: the kitchen's lists, its yield book and its settings. */
export interface Sources {
  items: readonly Item[]
  sheets: readonly CutSheet[]
  book: readonly YieldBookEntry[]
  ways: readonly WayOfCutting[]
  settings: KitchenSettings
}

type Output = CutSheet['body']['outputs'][number]

export type NamedPart = Part & { name: string; readyCut: Item | undefined }

/** A portion with everything that its comparison is about. */
export interface OpenPortion {
  item: Item
  sheet: CutSheet
  output: Output
  /** What the portions are called. */
  name: string
  quotes: Item[]
  portionCase: PortionCase
  /** Keys of the portions' output and of the mains that carry the cost with it by weight. */
  yieldKeys: string[]
  /** Names of mains of another kind that nothing says the value of: they carry the cost by weight until something does. */
  unvalued: string[]
  /** Whether there are mains of another kind, which the two schools of mains treat unlike. */
  hasOtherMains: boolean
  expected: ExpectedCut
  itemsPerBatch: number
}

export const entryOf = ({ book }: Sources, itemId: string, cutSheetId: string) =>
  book.find((entry) => entry.itemId === itemId && entry.cutSheetId === cutSheetId)
export const wayOf = ({ ways }: Sources, itemId: string, cutSheetId: string) =>
  ways.find((way) => way.itemId === itemId && way.cutSheetId === cutSheetId)

export const mainKeysOf = ({ body }: CutSheet) => body.outputs.filter((output) => output.role === 'main').map((output) => output.key)

/** A ready-cut item's quote in the form that comparisons take; `undefined` where it has no price. */
export function readyCutOfItem(item: Item | undefined): ReadyCut | undefined {
  return item?.readyCut && item.latestQuote ? readyCutOf(item.readyCut, item.latestQuote.price) : undefined
}

/**
 * The ready-cut item that an output stands for: as the kitchen said; else what its item is set against, where the output
 * is the portions of a way that has a portion weight or that the item is mostly cut by.
 */
function standsFor(sources: Sources, item: Item, sheet: CutSheet, outputKey: string): string | null {
  const said = wayOf(sources, item.id, sheet.id)?.parts[outputKey]
  if (said) return said.readyCutId
  const output = portionOutput(sheet.body.outputs)
  if (output?.key !== outputKey) return null
  const most = Math.max(...sources.book.filter((entry) => entry.itemId === item.id).map((entry) => entry.tests))
  const isUsual = entryOf(sources, item.id, sheet.id)?.tests === most
  return output.portion !== undefined || isUsual ? item.againstId : null
}

/** The parts of an item by a sheet, each with what it costs ready-cut and what the kitchen says it is worth. */
export function partsOf(sources: Sources, item: Item, sheet: CutSheet, expected: ExpectedCut): NamedPart[] {
  const entry = entryOf(sources, item.id, sheet.id)
  const way = wayOf(sources, item.id, sheet.id)
  return sheet.body.outputs.map(({ key, name, role }) => {
    const said = way?.parts[key]
    const readyCut = sources.items.find((other) => other.id === standsFor(sources, item, sheet, key))
    const quote = readyCutOfItem(readyCut)
    return {
      key,
      name,
      role,
      pct: expected.shares.get(key)?.mean ?? 0,
      marketPerKg: quote ? readyCutCost(quote, 1000) : null,
      ownPerKg: said?.ownPerKg ?? entry?.outputs.find((output) => output.key === key)?.lastValuePerKg ?? null,
      readyCut,
    }
  })
}

/** Sheets that an item may be cut by: those it has been cut by and those the kitchen weighs up, the most tested first. */
export function sheetsFor(sources: Sources, item: Item): CutSheet[] {
  const tests = (sheet: CutSheet) => entryOf(sources, item.id, sheet.id)?.tests ?? 0
  return sources.sheets
    .filter((sheet) => sheet.body.animal === item.animal)
    .filter((sheet) => wayOf(sources, item.id, sheet.id)?.shown ?? tests(sheet) > 0)
    .sort((a, b) => tests(b) - tests(a))
}

/** Ready-cut items that an output can be set against: its own, then those of the same animal. */
export function quotesFor(sources: Sources, item: Item, sheet: CutSheet, outputKey: string): Item[] {
  const own = standsFor(sources, item, sheet, outputKey)
  return sources.items
    .filter((other) => other.kind === 'ready-cut' && other.animal === item.animal && other.latestQuote !== null)
    .sort((a, b) => Number(b.id === own) - Number(a.id === own))
}

/** What a comparison starts from: the way that is tested most, its portions, the quote they stand against. */
export function firstBody(
  sources: Sources,
  item: Item,
  sheet = sheetsFor(sources, item)[0],
  outputKey?: string,
): ComparisonBody | undefined {
  const key = outputKey ?? (sheet && portionOutput(sheet.body.outputs)?.key)
  if (!sheet || key === undefined) return undefined
  const against = standsFor(sources, item, sheet, key)
  return {
    itemId: item.id,
    cutSheetId: sheet.id,
    outputKey: key,
    readyCutIds: against ? [against] : [],
    changed: {},
    byproducts: 'market',
    mains: 'credited',
    asServed: true,
    idleHands: sources.settings.cutting.idleHands,
    pricesMove: false,
    leftOver: 'used',
    supplierId: null,
    cookId: null,
  }
}

/**
 * The kitchen's own figures for a comparison; a sentence where something is missing that it cannot do without.
 * @param tested the tests to go by, where a choice of them was made; all of them otherwise
 * @param price the item's price, where a supplier was chosen; the latest quote otherwise
 */
export function openPortion(sources: Sources, body: ComparisonBody, tested?: TestedCut, price?: Price): OpenPortion | { missing: string } {
  const item = sources.items.find((one) => one.id === body.itemId)
  const sheet = sources.sheets.find((one) => one.id === body.cutSheetId)
  const output = sheet?.body.outputs.find((one) => one.key === body.outputKey)
  if (!item || !sheet || !output) return { missing: 'What this comparison is about is no longer in the kitchen’s lists.' }
  const asked = price ?? item.latestQuote?.price
  if (!asked) return { missing: `${item.name} has no price yet: add a quote under Kitchen, Prices.` }
  const entry = entryOf(sources, item.id, sheet.id)
  const itemsPerBatch = Math.max(1, body.changed.itemsPerBatch ?? Math.round(entry?.itemsPerBatch ?? 1))
  const next = { items: 1, grams: body.changed.itemGrams }
  const expected = expectCut(sheet.body, tested ?? entry, itemsPerBatch, sources.settings.cutting.priorTests, next)
  const parts = partsOf(sources, item, sheet, expected)
  const quotes = sources.items.filter((one) => body.readyCutIds.includes(one.id) && readyCutOfItem(one) !== undefined)
  const portions = portionsOfSheet(sheet, output)
  const { perItem } = portions
  const share = portions.keys.reduce((sum, key) => sum + (expected.shares.get(key)?.mean ?? 0), 0)
  const servedGrams =
    perItem === undefined
      ? (output.portion?.targetGrams ?? gramsOf(quotes[0]?.readyCut?.portionTenths ?? 10_000))
      : (expected.itemGrams.mean * share) / 100 / perItem
  const servedRatio = (tested ?? entry)?.outputs.find((one) => one.key === output.key)?.servedRatio
  const { yieldKeys, unvalued, hasOtherMains } = mainsBeside(sheet, output, parts, body.mains)
  if (share <= 0) return { missing: `${output.name}: no test and no cut sheet says what share of the item they are.` }
  const { labour, cutting, disposalPerKg } = sources.settings
  const portionCase = openCase({
    outputKey: output.key,
    price: asked,
    servedGrams,
    overServedPct: body.asServed && servedRatio && perItem === undefined ? (servedRatio - 1) * 100 : 0,
    portionKeys: portions.keys,
    isCounted: perItem !== undefined,
    yieldKeys,
    sideCuts: parts.filter((part) => !yieldKeys.includes(part.key) && part.role !== 'waste'),
    wasteKeys: parts.filter((part) => part.role === 'waste').map((part) => part.key),
    quotes: quotes.map((quote) => ({ id: quote.id, readyCut: readyCutOfItem(quote) as ReadyCut })),
    byproducts: body.byproducts,
    expected,
    labour: { ...labour, setupMinutes: cutting.setupMinutes, itemsPerBatch: Math.max(1, Math.round(entry?.itemsPerBatch ?? 1)) },
    storageLossPct: cutting.storageLossPct,
    rejectedPct: cutting.rejectedPct,
    consumablesPerItem: entry?.consumablesPerItem ?? pricedConsumables(sheet),
    disposalPerKg,
    portionsPerWeek: Math.round(((entry?.itemsPerWeek ?? 0) * expected.itemGrams.mean * share) / 100 / servedGrams),
  })
  const { name } = portions
  return { item, sheet, output, name, quotes, portionCase, yieldKeys, unvalued, hasOtherMains, expected, itemsPerBatch }
}

/**
 * Which mains carry the cost with a portion: those of its kind; those of another kind too where all mains carry it together,
 * or where nothing says what they are worth.
 */
function mainsBeside(sheet: CutSheet, output: Output, parts: readonly NamedPart[], mains: ComparisonBody['mains']) {
  if (output.role !== 'main') return { yieldKeys: [output.key], unvalued: [], hasOtherMains: false }
  const others = sheet.body.outputs.filter((other) => other.role === 'main' && other.kind !== output.kind)
  const isUnvalued = ({ key }: Output) => parts.every((part) => part.key !== key || (part.marketPerKg ?? part.ownPerKg) === null)
  const unvalued = others.filter(isUnvalued)
  const apart = mains === 'together' ? [] : others.filter((other) => !unvalued.includes(other)).map(({ key }) => key)
  return {
    yieldKeys: mainKeysOf(sheet).filter((key) => !apart.includes(key)),
    unvalued: unvalued.map(({ name }) => name),
    hasOtherMains: others.length > unvalued.length,
  }
}

/**
 * What a portion of an output is: a plate of several pieces where the sheet says so, and so many of an item as there are
 * pieces where they cannot be cut to weight; `perItem` is `undefined` where they are cut to weight.
 */
function portionsOfSheet({ body }: CutSheet, output: Output): { name: string; keys: string[]; perItem: number | undefined } {
  const plated = platedOutputs(body.outputs)
  const plates = plated?.outputs.includes(output) ? plated : undefined
  const outputs = plates?.outputs ?? [output]
  const pieces = outputs.reduce((sum, one) => sum + (one.countPerItem ?? Number.NaN), 0) / (plates?.perPlate ?? 1)
  return {
    name: nameOfPortions(output, plates?.outputs),
    keys: outputs.map(({ key }) => key),
    perItem: pieces > 0 ? pieces : undefined,
  }
}

function pricedConsumables({ body }: CutSheet): number {
  return body.consumables.reduce((sum, one) => sum + one.quantity * (one.pricePerUnit ?? 0), 0)
}

export const draws = 5000
/** One seed for all, so that the same question has the same answer wherever it is asked. */
export const drawSeed = 1834

/** The portion as the worker draws it. */
export function drawnPortion(
  open: OpenPortion,
  inputs: Readonly<Record<string, number>>,
  { idleHands }: Pick<ComparisonBody, 'idleHands'>,
  itemPrice?: { low: number; high: number },
): DrawnPortion | undefined {
  const [first] = open.quotes
  if (!first) return undefined
  const input = inputOfCase(open.portionCase, inputs, first.id, idleHands)
  return {
    id: `${open.item.id} ${open.sheet.id} ${open.output.key}`,
    input,
    uncertainty: { ...spreadsOfCase(open.portionCase), itemPrice, draws, seed: drawSeed },
    onAverage: { ...spreadsOfAverage(open.portionCase), itemPrice, draws, seed: drawSeed },
    quotes: open.quotes.map((quote) => inputOfCase(open.portionCase, inputs, quote.id, idleHands).buy),
  }
}
