import { type ReadyCut, readyCutCost } from '../compare/ready-cut.ts'
import { InputError } from '../input-error.ts'
import type { Price } from '../quantities/price.ts'
import { gramsOf, type Tenths } from '../quantities/weight.ts'
import { type Balance, balanceOf } from './balance.ts'
import type { JointCostMethod } from './joint-cost.ts'
import { type LedgerLine, readLedger, totalsByTub } from './ledger.ts'
import type { Output } from './output.ts'
import { type PlateRule, platedTubs, platesOfRun } from './plates.ts'
import { projectRun } from './projection.ts'
import type { RunTub } from './run-tub.ts'
import { type OutputCost, type YieldTest, yieldTest } from './yield-test.ts'

/** What is on record of a run: as entered and quoted, nothing computed. */
export interface RunRecord {
  billed: { tenths: Tenths }
  received: { tenths: Tenths }
  pieces: number
  quote: { price: Price }
  readyCut: { terms: ReadyCutTerms; quote: { price: Price } } | null
  rates: { ratePerHour: number; onCostPct: number; disposalPerKg: number; unaccountedLimitPct: number }
  /** What claims brought back of what was paid. */
  claimCredit?: number | undefined
  minutes: number | null
  consumables: number
  method: JointCostMethod
  /** The cut sheet, where it is at hand: it says which portions are plates of several pieces. */
  sheet?: { outputs: readonly PlateRule[] } | undefined
  tubs: readonly RunTub[]
  weighings: readonly LedgerLine[]
}

export interface ReadyCutTerms {
  portionTenths: Tenths
  trimPct: number
  lossPct: number
  feePerOrder: number
  portionsPerOrder: number | null
}

/**
 * A quoted ready-cut item in the form that the comparison takes.
 * @example readyCutOf({ portionTenths: 1800, trimPct: 1, lossPct: 2, feePerOrder: 12, portionsPerOrder: 60 }, { amount: 10.9, per: 'each' }).portionGrams === 180
 */
export function readyCutOf(terms: ReadyCutTerms, price: Price): ReadyCut {
  return {
    price,
    portionGrams: gramsOf(terms.portionTenths),
    trimPct: terms.trimPct,
    lossPct: terms.lossPct,
    feePerOrder: terms.feePerOrder,
    portionsPerOrder: terms.portionsPerOrder ?? undefined,
  }
}

/** The tub of plate portions that a run is about: the first main output with a target. */
export function portionTub<Tub extends RunTub>(tubs: readonly Tub[]): Tub | undefined {
  return tubs.find((tub) => tub.role === 'main' && tub.targetTenths !== null)
}

/** The tub whose pieces are a run's portions: those cut to a target, else those of the first main as they come. */
export function tubOfPortions<Tub extends RunTub>(tubs: readonly Tub[]): Tub | undefined {
  return portionTub(tubs) ?? tubs.find((tub) => tub.role === 'main')
}

/**
 * Weights in grams of what lies in one tub, in the order of weighing.
 * @example weightsIn({ weighings: [{ id: 'a', tubId: 't', tenths: 1840, reversesId: null }] }, 't') // [184]
 */
export function weightsIn(run: Pick<RunRecord, 'weighings'>, tubId: string): number[] {
  return (readLedger(run.weighings).byTub.get(tubId) ?? []).map((line) => gramsOf(line.tenths))
}

/** Weights in grams of the portions that a run is about: what lies in its portion tub, or plates of several pieces. */
export function portionsOf(run: Pick<RunRecord, 'sheet' | 'tubs' | 'weighings'>): number[] {
  const plates = platesOfRun(run)
  if (plates) return plates.plates.map((plate) => plate.grams)
  const tub = tubOfPortions(run.tubs)
  return tub ? weightsIn(run, tub.id) : []
}

/** How the run's weighings stand against what was received. */
export function balanceOfRun(run: RunRecord): Balance {
  const { tenths, count } = readLedger(run.weighings).total
  return balanceOf(gramsOf(run.received.tenths), tenths, count, run.rates.unaccountedLimitPct)
}

/** What a run says of one output of its cut sheet. */
export interface TestedOutput {
  /** Percent of the received weight; 0 where the sheet has the output and none came off. */
  sharePct: number
  /** What its portions weighed on average over their target; `null` where none were weighed to one. */
  servedRatio: number | null
}

type KeyedTub = Pick<RunTub, 'id' | 'targetTenths'> & { key: string | null }

/** What a run says of every output of its cut sheet; tubs of one output together. */
export function testedOutputsOf(
  run: Pick<RunRecord, 'received' | 'weighings' | 'sheet'> & { tubs: readonly KeyedTub[] },
): Map<string, TestedOutput> {
  const totals = totalsByTub(run.weighings)
  const outputs = new Map<string, TestedOutput>()
  const plated = platedTubs(run)
  for (const { id, key, targetTenths } of run.tubs) {
    if (key === null) continue
    const { tenths, count } = totals.get(id) ?? { tenths: 0, count: 0 }
    const before = outputs.get(key)
    outputs.set(key, {
      sharePct: (before?.sharePct ?? 0) + (tenths / run.received.tenths) * 100,
      servedRatio:
        targetTenths && count > 0 && !plated?.tubs.some((tub) => tub.id === id)
          ? tenths / count / targetTenths
          : (before?.servedRatio ?? null),
    })
  }
  return outputs
}

/** The yield test of what has been weighed, its cost shared by the run's method or another. */
export function yieldTestOfRun(run: RunRecord, method: JointCostMethod = run.method): YieldTest {
  return yieldTestOf(run, method, weighedOutputs(run), run.minutes ?? 0)
}

/** A yield test with the method that shared its cost, and why that is not the one asked for. */
export interface SharedTest {
  test: YieldTest
  method: JointCostMethod
  trouble: string | undefined
}

/**
 * The same where a value may be missing: by-product credit then takes all mains for one kind, sales value gives way to
 * weight, and `trouble` says what is missing.
 */
export function sharedTestOfRun(run: RunRecord, method: JointCostMethod = run.method): SharedTest {
  try {
    return { test: yieldTestOfRun(run, method), method, trouble: undefined }
  } catch (error) {
    if (!(error instanceof InputError)) throw error
    if (method === 'sales-value')
      return { test: yieldTestOfRun(run, 'weight'), method: 'weight', trouble: `${error.message} Shared by weight until then.` }
    const outputs = weighedOutputs(run).map((output) => ({ ...output, kind: undefined }))
    const test = yieldTestOf(run, method, outputs, run.minutes ?? 0)
    return { test, method, trouble: `${error.message} All mains share by weight until then.` }
  }
}

/**
 * What a kg of the plate portions costs for the choice between cutting and buying them: everything else that came off, mains
 * of other kinds included, is credited at what it replaces, whatever school shares the cost. A main without a value counts as
 * of the portions' kind. `null` where no portions were weighed.
 */
export function decisionCostPerKg(run: RunRecord): number | null {
  return decisionPerKg(run, weighedOutputs(run), run.minutes ?? 0)
}

/** `decisionCostPerKg` if the rest comes off as the cut sheet expects. */
export function projectedDecisionCostPerKg(run: RunRecord, usualMinutes: number): number | null {
  return decisionPerKg(run, projectedOutputs(run), run.minutes ?? usualMinutes)
}

/** What there will be in every tub if the rest comes off as the cut sheet expects. */
function projectedOutputs(run: RunRecord): Output[] {
  const totals = totalsByTub(run.weighings)
  const expected = run.tubs.map((tub) => ({
    id: tub.id,
    weighedTenths: totals.get(tub.id)?.tenths ?? 0,
    typicalPct: tub.typicalPct,
  }))
  const projected = projectRun(gramsOf(run.received.tenths), expected)
  return run.tubs.map((tub) => {
    const grams = projected.get(tub.id) ?? 0
    return outputOf(run, tub, grams, 0)
  })
}

function weighedOutputs(run: RunRecord): Output[] {
  const totals = totalsByTub(run.weighings)
  return run.tubs.map((tub) => {
    const total = totals.get(tub.id) ?? { tenths: 0, count: 0 }
    return outputOf(run, tub, gramsOf(total.tenths), total.count)
  })
}

function decisionPerKg(run: RunRecord, outputs: readonly Output[], minutes: number): number | null {
  const portions = outputs.find((output) => output.id === tubOfPortions(run.tubs)?.id)
  if (!portions) return null
  const parted = outputs.map((output) =>
    output.role === 'main' && output.kind !== portions.kind && output.valuePerKg !== undefined
      ? { ...output, role: 'coproduct' as const }
      : { ...output, kind: undefined },
  )
  const test = yieldTestOf(run, 'byproduct-credit', parted, minutes)
  return test.outputs.find((output) => output.id === portions.id)?.costPerKg ?? null
}

/** What a ready-cut portion of this weight costs at the run's ready-cut quote; `undefined` where it has none. */
export function readyCutCostFor(run: Pick<RunRecord, 'readyCut'>, servedGrams: number): number | undefined {
  if (!run.readyCut) return undefined
  return readyCutCost(readyCutOf(run.readyCut.terms, run.readyCut.quote.price), servedGrams)
}

/** The figures that a finished run is listed by. */
export interface RunFigures {
  mainPct: number
  usablePct: number
  unaccountedPct: number
  netCost: number
  costPerKg: number | null
  costPerPortion: number | null
  portions: number
}

export function figuresOfRun(run: RunRecord): RunFigures {
  const { test } = sharedTestOfRun(run)
  const tub = tubOfPortions(run.tubs)
  const cost = test.outputs.find((output) => output.id === tub?.id)
  const portions = portionsOf(run)
  return {
    mainPct: test.yields.mainPct,
    usablePct: test.yields.usablePct,
    unaccountedPct: test.yields.unaccountedPct,
    netCost: test.cost.net,
    costPerKg: cost?.costPerKg ?? null,
    costPerPortion: costOfPortion(cost, portions),
    portions: portions.length,
  }
}

/**
 * What a portion carries on average: that of its output, or of the pieces on a plate, which carry alike by weight.
 * @example costOfPortion({ id: 'a', costPerKg: 50 }, [180, 184]) === 9.1
 */
export function costOfPortion(cost: OutputCost | undefined, portions: readonly number[]): number | null {
  if (cost?.costPerKg == null || portions.length === 0) return null
  return (cost.costPerKg * portions.reduce((sum, grams) => sum + grams, 0)) / portions.length / 1000
}

function yieldTestOf(run: RunRecord, method: JointCostMethod, outputs: readonly Output[], minutes: number): YieldTest {
  const { ratePerHour, onCostPct, disposalPerKg } = run.rates
  return yieldTest({
    purchase: {
      billedGrams: gramsOf(run.billed.tenths),
      receivedGrams: gramsOf(run.received.tenths),
      pieces: run.pieces,
      price: run.quote.price,
      claimCredit: run.claimCredit,
    },
    method,
    labour: { minutes, ratePerHour, onCostPct },
    consumables: run.consumables,
    disposalPerKg,
    outputs,
  })
}

function outputOf(run: RunRecord, tub: RunTub, grams: number, count: number): Output {
  return {
    id: tub.id,
    name: tub.name,
    role: tub.role,
    kind: tub.kind,
    grams,
    // a piece of a plate is no portion
    count: platedTubs(run)?.tubs.includes(tub) ? undefined : count,
    valuePerKg: worthOf(run, tub),
    separableCost: grams > 0 ? tub.separableCost : 0,
  }
}

/** A plate portion without a value of its own is worth what it costs ready-cut; a main of another kind is not that. */
function worthOf(run: RunRecord, tub: RunTub): number | undefined {
  if (tub.valuePerKg !== null) return tub.valuePerKg
  const isPortion = tub.role === 'main' && tub.targetTenths !== null && tub.kind === portionTub(run.tubs)?.kind
  return isPortion ? readyCutCostFor(run, 1000) : undefined
}
