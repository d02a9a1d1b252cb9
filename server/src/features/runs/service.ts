import type { CutSheet } from '@fleam/contract/cut-sheets'
import type { Item } from '@fleam/contract/prices'
import type { Defect, defectCreate, Run, runCreate, runFinish, Tub, tubChange, tubCreate } from '@fleam/contract/runs'
import { formatWeight } from '@fleam/core/quantities/format-weight'
import { gramsOf, tenthsOf } from '@fleam/core/quantities/weight'
import { inWords, lookKeys, looksAt } from '@fleam/core/receiving/delivery-check'
import { portionOutput } from '@fleam/core/runs/portion-output'
import { questionedWeights } from '@fleam/core/runs/questioned-weights'
import { balanceOfRun, figuresOfRun } from '@fleam/core/runs/run-record'
import { noSample, sampleOfSums } from '@fleam/core/statistics/sample'
import { v7 as uuidv7 } from 'uuid'
import type { z } from 'zod'
import type { KitchenRecords } from '../../db/records.ts'
import { type Actor, hasRole } from '../../http/access.ts'
import { createOnce, found, recordChange, refuseStale } from '../../http/changes.ts'
import { ProblemError, refuseField } from '../../http/problems.ts'
import { findCutSheet } from '../cut-sheets/service.ts'
import { findItem, findItemAlone } from '../prices/items.ts'
import { findQuoteOf } from '../prices/quotes.ts'
import { refuseUnknownSupplier } from '../prices/suppliers.ts'
import { putAwayRest, recostRun } from '../walk-in/put-away.ts'
import { takeForRun } from '../walk-in/whole-lots.ts'
import { expectShares } from '../yield-book/service.ts'
import { addTests } from '../yield-book/totals.ts'
import { noteChanged } from './bench-events.ts'
import { findRun, toDefect, toTub } from './find-run.ts'
import { finishedTest } from './finished-test.ts'
import type { RunRow } from './run.model.ts'
import { takeRunNumber } from './run-number.ts'
import { closedRun } from './weigh.ts'

type RunCreate = z.infer<typeof runCreate>

/** Starts a run, with the prices, rates and limits that are in force now, and a tub for every output of its sheet. */
export async function startRun(by: Actor, create: RunCreate): Promise<Run> {
  const { records } = by
  const find = () => findRun(records, create.id)
  if (await records.runs.findOne({ attributes: ['id'], where: { id: create.id }, raw: true })) return found(await find())
  const write = await prepareRun(by, create)
  // the run's number is the kitchen's: who takes the next waits for this one, so that all else is read before
  return createOnce(records, () => records.transaction(write), find)
}

/** Reads and checks all that a new run needs. @returns what writes it within a transaction */
export async function prepareRun(by: Actor, create: RunCreate): Promise<(tx: KitchenRecords) => Promise<void>> {
  const { records } = by
  const { item, sheet, quote, partner } = await readDelivery(records, create)
  refuseUnsaidCheck(create, item)
  await refuseOddWeights(records, by, create, sheet)
  const temperature = decideTemperature(by, create)
  const tubs = await tubsOf(records, by, create, sheet)
  return async (tx) => {
    await insertRun(tx, by, create, { sheet, quoteId: quote.id, partner, temperature })
    await tx.tubs.bulkCreate(tubs)
    if (create.fromLotId) await takeForRun(tx, by, create.fromLotId, { id: create.id, itemId: create.itemId, at: create.startedAt })
  }
}

type Delivery = Pick<RunCreate, 'itemId' | 'cutSheetId' | 'supplierId' | 'billed' | 'received' | 'pieces' | 'weightsChecked'>

/** What a delivery names, read from the kitchen's lists; refuses what does not go together. */
export async function readDelivery(records: KitchenRecords, { itemId, cutSheetId, supplierId }: Delivery) {
  const [item, sheet, quote] = await Promise.all([
    findItemAlone(records, itemId),
    findCutSheet(records, cutSheetId),
    findQuoteOf(records, itemId, supplierId),
    supplierId === null ? undefined : refuseUnknownSupplier(records, supplierId),
  ])
  if (item?.kind !== 'whole') throw refuseField('itemId', 'Choose something this kitchen buys whole.')
  if (!sheet) throw refuseField('cutSheetId', 'Choose a cut sheet of this kitchen.')
  if (sheet.body.animal !== item.animal) throw refuseField('cutSheetId', `That sheet is for ${sheet.body.animal}, not ${item.animal}.`)
  if (!quote) throw refuseField('itemId', 'This item has no price yet: a manager can add a quote under Kitchen, Prices.', 'no-quote')
  const partnerId = await readyCutFor(records, item, sheet)
  const partner = partnerId === null ? undefined : await findItem(records, partnerId)
  return { item, sheet, quote, partner }
}

/** Weights that look wrong are asked about once; who says that they stand is believed. */
export async function refuseOddWeights(records: KitchenRecords, by: Actor, delivery: Delivery, sheet: CutSheet): Promise<void> {
  if (delivery.weightsChecked) return
  const cut = await records.cutTotals.findOne({ where: { itemId: delivery.itemId, cutSheetId: sheet.id } })
  const { billed, received, pieces } = delivery
  const weights = { billedGrams: gramsOf(billed.tenths), receivedGrams: gramsOf(received.tenths), pieces }
  const delivered = cut && cut.tests > 0 ? sampleOfSums(cut.tests, cut.gramsSum, cut.gramsSquares) : noSample
  const { weightSystem } = by.kitchen.settings
  const odd = questionedWeights(weights, delivered, sheet.body.weightKg, (grams) => formatWeight(tenthsOf(Math.round(grams)), weightSystem))
  if (odd) throw refuseField('weightsChecked', odd, 'odd-weights')
}

/** The ready-cut item that the portions of a way of cutting stand against: as the kitchen said for it, else for the item. */
async function readyCutFor(records: KitchenRecords, item: Pick<Item, 'id' | 'againstId'>, sheet: CutSheet): Promise<string | null> {
  const way = await records.waysOfCutting.findOne({ where: { itemId: item.id, cutSheetId: sheet.id } })
  return way?.parts[portionOutput(sheet.body.outputs)?.key ?? '']?.readyCutId ?? item.againstId
}

/**
 * A core temperature over the kitchen's limit needs a decision, which is kept with who made it and when. Anything else may be
 * turned away too, with the reason.
 */
function decideTemperature(by: Actor, create: RunCreate): Run['temperature'] {
  const limitC = by.kitchen.settings.limits.receiveMaxC
  if (create.coreTempC === null || create.coreTempC <= limitC) {
    if (create.temperature?.decision !== 'turn-away') return null
    if (create.temperature.note === '') throw refuseField('temperature.note', 'Say why it is turned away.', 'decision-needed')
    const { id, name } = by.person
    return { limitC, ...create.temperature, by: { id, name }, at: new Date().toISOString() }
  }
  if (!create.temperature) {
    throw refuseField(
      'temperature',
      `${create.coreTempC} °C is over the limit of ${limitC} °C: say what is done with it.`,
      'decision-needed',
    )
  }
  if (create.temperature.decision !== 'turn-away' && create.temperature.note === '') {
    throw refuseField('temperature.note', 'Say why it is taken in all the same, and what was done.', 'decision-needed')
  }
  const { id, name } = by.person
  return { limitC, ...create.temperature, by: { id, name }, at: new Date().toISOString() }
}

/** What was found wrong needs a word, and what was sent back a weight. */
function refuseUnsaidCheck({ deliveryCheck, temperature }: RunCreate, { animal }: Pick<Item, 'animal'>): void {
  if (!deliveryCheck) return
  const { looked, outcome, note, refused } = deliveryCheck
  const looks = new Map(looksAt(animal).map(({ key, answers }) => [key, answers]))
  for (const key of lookKeys) {
    const answer = looked[key]
    if (answer !== undefined && !looks.get(key)?.includes(answer))
      throw refuseField(`deliveryCheck.looked.${key}`, `That is not looked at, or not answered so, where ${animal} comes.`)
  }
  const wrong = inWords(animal, looked)
  if (wrong !== '' && outcome === 'taken' && temperature?.decision !== 'turn-away')
    throw refuseField('deliveryCheck.outcome', `It came with ${wrong}: say what is done with it.`, 'decision-needed')
  if (outcome !== 'taken' && note === '')
    throw refuseField('deliveryCheck.note', 'Say what was wrong, and what was done.', 'decision-needed')
  if ((outcome === 'in-part') !== (refused !== null))
    throw refuseField(
      'deliveryCheck.refused',
      outcome === 'in-part' ? 'Weigh what goes back.' : 'Only what is refused in part is weighed so.',
    )
}

/** What came, as the run's row holds it. */
export function deliveryColumns({ lot, billed, received, pieces }: Pick<RunCreate, 'lot' | 'billed' | 'received' | 'pieces'>) {
  return {
    lot,
    billedTenths: billed.tenths,
    billedEntered: billed.entered,
    receivedTenths: received.tenths,
    receivedEntered: received.entered,
    pieces,
  }
}

async function insertRun(
  tx: KitchenRecords,
  by: Actor,
  create: RunCreate,
  chosen: { sheet: CutSheet; quoteId: string; partner: Item | undefined; temperature: Run['temperature'] },
): Promise<void> {
  const { labour, disposalPerKg, limits } = by.kitchen.settings
  const { sheet, partner, temperature, quoteId } = chosen
  const { id, itemId, supplierId, lot, billed, received, pieces, coreTempC, fish } = create
  await tx.runs.create({
    id,
    number: await takeRunNumber(tx),
    status: temperature?.decision === 'turn-away' ? 'turned-away' : 'open',
    itemId,
    cutSheetVersionId: sheet.versionId,
    supplierId,
    cookId: by.person.id,
    ...deliveryColumns({ lot, billed, received, pieces }),
    coreTempC,
    temperature,
    quoteId,
    readyCutItemId: partner?.id ?? null,
    readyCutTerms: partner?.readyCut ?? null,
    readyCutQuoteId: partner?.latestQuote?.id ?? null,
    rates: {
      ...labour,
      disposalPerKg,
      unaccountedLimitPct: limits.unaccountedPct,
      shortDeliveryLimitPct: limits.shortDeliveryPct,
    },
    method: sheet.body.jointCostMethod,
    byPiece: create.byPiece && pieces > 1,
    fish,
    deliveryCheck: create.deliveryCheck,
    startedAt: new Date(create.startedAt),
  })
}

/** Tubs expect what the yield book says, and take over the values that the kitchen last gave the same outputs of the same sheet. */
export async function tubsOf(
  records: KitchenRecords,
  by: Actor,
  create: Pick<RunCreate, 'id' | 'itemId' | 'target' | 'received' | 'pieces'>,
  sheet: CutSheet,
) {
  const next = { items: create.pieces, grams: gramsOf(create.received.tenths) / create.pieces }
  const [remembered, expected] = await Promise.all([
    rememberedValues(records, sheet.id, create.id),
    expectShares(records, by.kitchen, create.itemId, sheet, next),
  ])
  return sheet.body.outputs.map(({ key, name, role, destination, portion, typicalPct }, index) => ({
    id: uuidv7(),
    runId: create.id,
    position: index + 1,
    outputKey: key,
    name,
    role,
    destination,
    targetTenths: portion ? askedTargetOf(portion, create.target) : null,
    toleranceTenths: portion ? Math.round(portion.toleranceGrams * 10) : null,
    typicalPct: expected.get(key) ?? typicalPct,
    valuePerKg: remembered.get(key)?.valuePerKg ?? null,
    separableCost: remembered.get(key)?.separableCost ?? 0,
  }))
}

/** The target of portions: the run's own where it was asked, else the sheet's. */
export function askedTargetOf(portion: NonNullable<CutSheet['body']['outputs'][number]['portion']>, asked: RunCreate['target']): number {
  return portion.askedAtReceiving && asked ? asked.tenths : Math.round(portion.targetGrams * 10)
}

async function rememberedValues(tx: KitchenRecords, cutSheetId: string, exceptRunId: string) {
  const versions = await tx.cutSheetVersions.findAll({ attributes: ['id'], where: { cutSheetId }, raw: true })
  const [latest, next] = await tx.runs.findAll({
    attributes: ['id'],
    where: { cutSheetVersionId: versions.map(({ id }) => id) },
    order: [
      ['startedAt', 'DESC'],
      ['id', 'DESC'],
    ],
    limit: 2,
    raw: true,
  })
  const last = latest?.id === exceptRunId ? next : latest
  if (!last) return new Map<string | null, never>()
  const attributes = ['outputKey', 'valuePerKg', 'separableCost']
  const tubs = await tx.tubs.findAll({ attributes, where: { runId: last.id }, raw: true })
  return new Map(tubs.map(({ outputKey: key, valuePerKg, separableCost }) => [key, { valuePerKg, separableCost }]))
}

export async function addTub(by: Actor, runId: string, { id, name, role }: z.infer<typeof tubCreate>): Promise<Tub> {
  return createOnce(
    by.records,
    () =>
      by.records.transaction(async (tx) => {
        const { run } = await lockOpenRun(tx, runId)
        const position = Math.max(0, ...run.tubs.map((tub) => tub.position)) + 1
        if (position > 40) throw refuseField('name', 'A tray holds at most 40 tubs.')
        const unsaid = { outputKey: null, targetTenths: null, toleranceTenths: null, valuePerKg: null }
        await tx.tubs.create({ id, runId, position, name, role, destination: '', typicalPct: 0, ...unsaid })
        await noteChanged(tx, by, runId, 'tubs')
      }),
    async () => {
      const row = await by.records.tubs.findOne({ where: { id, runId } })
      return row ? toTub(row) : undefined
    },
  )
}

export async function changeTub(by: Actor, runId: string, tubId: string, change: z.infer<typeof tubChange>): Promise<Run> {
  return by.records.transaction(async (tx) => {
    const { run } = await lockOpenRun(tx, runId)
    const { valuePerKg, separableCost } = found(run.tubs.find((tub) => tub.id === tubId))
    await tx.tubs.update({ valuePerKg: change.valuePerKg, separableCost: change.separableCost }, { id: tubId, runId })
    await recordChange(tx, by, { subject: 'tub', subjectId: tubId, action: 'valued', before: { valuePerKg, separableCost }, after: change })
    await noteChanged(tx, by, runId, 'tubs')
    return found(await findRun(tx, runId))
  })
}

export async function noteDefect(by: Actor, runId: string, create: z.infer<typeof defectCreate>): Promise<Defect> {
  const { records } = by
  const { id, kind, note, step } = create
  found(await records.runs.findOne({ attributes: ['id'], where: { id: runId } }))
  return createOnce(
    records,
    () =>
      records.transaction(async (tx) => {
        await tx.defects.create({ id, runId, kind, note, step, personId: by.person.id, at: new Date() })
        await noteChanged(tx, by, runId, 'defects')
      }),
    async () => {
      const row = await records.defects.findOne({ where: { id, runId }, include: [{ association: 'person', attributes: ['name'] }] })
      return row ? toDefect(row, found(row.person).name) : undefined
    },
  )
}

/** Closes a run with its minutes and figures. Of two people who finish it, the second is told who was first. */
export async function finishRun(by: Actor, runId: string, finish: z.infer<typeof runFinish>): Promise<Run> {
  return by.records.transaction(async (tx) => {
    const { row, run } = await lockOpenRun(tx, runId)
    if (run.cook.id !== by.person.id && !hasRole(by.person, 'lead')) {
      throw new ProblemError('role-too-low', { detail: `This is ${run.cook.name}’s run: ${run.cook.name} or a lead finishes it.` })
    }
    refuseStale(finish.version, run)
    refuseUnsettled(run, finish.unaccountedReason)
    const { minutes, consumables } = finish
    const { mainPct, usablePct, unaccountedPct, netCost, costPerKg, costPerPortion, portions } = figuresOfRun({
      ...run,
      minutes,
      consumables,
    })
    await tx.runs.save(row, {
      status: 'finished',
      minutes,
      consumables,
      // a reason for a loss goes when the loss goes
      unaccountedReason: finish.unaccountedReason !== '' && balanceOfRun(run).state === 'over-limit' ? finish.unaccountedReason : null,
      finishedAt: new Date(),
      finishedById: by.person.id,
      mainPct,
      usablePct,
      unaccountedPct,
      netCost,
      costPerKg,
      costPerPortion,
      portions,
    })
    if (run.leftOut === null) await addTests(tx, [finishedTest(row, run.cutSheet.id, run)])
    await recordChange(tx, by, { subject: 'run', subjectId: runId, action: 'finished', before: undefined, after: finish })
    await noteChanged(tx, by, runId, 'status')
    const finished = found(await findRun(tx, runId))
    await putAwayRest(tx, by, finished)
    const moved = await recostRun(tx, finished)
    if (moved.length > 0)
      await recordChange(tx, by, { subject: 'run', subjectId: runId, action: 're-costed', before: undefined, after: { moved } })
    return finished
  })
}

export function refuseUnsettled(run: Run, reason: string): void {
  const balance = balanceOfRun(run)
  if (run.weighings.length === 0) throw refuseField('weighings', 'Nothing has been weighed yet.')
  if (balance.state === 'more-than-received') {
    const message = `${-balance.unaccountedGrams} g more came off than went on: take back the wrong weighing first.`
    throw refuseField('weighings', message, 'unsettled-balance')
  }
  if (balance.state === 'over-limit' && reason === '') {
    const message = `${balance.unaccountedGrams} g are unaccounted for, over ${run.rates.unaccountedLimitPct} %: say where they went.`
    throw refuseField('unaccountedReason', message, 'reason-needed')
  }
}

export async function lockRun(tx: KitchenRecords, runId: string): Promise<{ row: RunRow; run: Run }> {
  const row = found(await tx.runs.lock({ id: runId }))
  return { row, run: found(await findRun(tx, runId)) }
}

export async function lockOpenRun(tx: KitchenRecords, runId: string): Promise<{ row: RunRow; run: Run }> {
  const locked = await lockRun(tx, runId)
  if (locked.run.status !== 'open') throw closedRun(locked.run)
  return locked
}
