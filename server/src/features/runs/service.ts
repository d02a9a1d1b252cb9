import type { CutSheet } from '@fleam/contract/cut-sheets'
import type { Item } from '@fleam/contract/prices'
import type { Defect, defectCreate, Run, runCreate, runFinish, runReopen, Tub, tubChange, tubCreate } from '@fleam/contract/runs'
import { balanceOfRun, figuresOfRun } from '@fleam/core/runs/run-record'
import { v7 as uuidv7 } from 'uuid'
import type { z } from 'zod'
import type { Database, Queries } from '../../db/database.ts'
import { hasRole, type SignedIn } from '../../http/access.ts'
import { createOnce, found, recordChange, refuseStale } from '../../http/changes.ts'
import { ProblemError, refuseField } from '../../http/problems.ts'
import { findCutSheet } from '../cut-sheets/service.ts'
import { findItem, findQuoteOf, refuseUnknownSupplier } from '../prices/service.ts'
import { expectShares } from '../yield-book/service.ts'
import { keepShares } from '../yield-book/shares.ts'
import { noteChanged } from './bench-events.ts'
import { findRun, listDefects, listTubs } from './read.ts'
import { closedRun } from './weigh.ts'

type RunCreate = z.infer<typeof runCreate>

/** Starts a run, with the prices, rates and limits that are in force now, and a tub for every output of its sheet. */
export async function startRun(db: Database, by: SignedIn, create: RunCreate): Promise<Run> {
  const first = await findRun(db, by.kitchen.id, create.id)
  if (first) return first
  const item = await findItem(db, by.kitchen.id, create.itemId)
  if (item?.kind !== 'whole') throw refuseField('itemId', 'Choose something this kitchen buys whole.')
  const sheet = await findCutSheet(db, by.kitchen.id, create.cutSheetId)
  if (!sheet) throw refuseField('cutSheetId', 'Choose a cut sheet of this kitchen.')
  if (sheet.body.animal !== item.animal) throw refuseField('cutSheetId', `That sheet is for ${sheet.body.animal}, not ${item.animal}.`)
  if (create.supplierId !== null) await refuseUnknownSupplier(db, by.kitchen.id, create.supplierId)
  const quote = await findQuoteOf(db, by.kitchen.id, item.id, create.supplierId)
  if (!quote) throw refuseField('itemId', 'This item has no price yet: a manager can add a quote under Kitchen, Prices.', 'no-quote')
  const partner = item.againstId === null ? undefined : await findItem(db, by.kitchen.id, item.againstId)
  const temperature = decideTemperature(by, create)
  return createOnce(
    () =>
      db.transaction(async (tx) => {
        await tx.run('UPDATE kitchens SET last_run_number = LAST_INSERT_ID(last_run_number + 1) WHERE id = :id', { id: by.kitchen.id })
        await insertRun(tx, by, create, { sheet, quoteId: quote.id, partner, temperature })
        await insertTubs(tx, by, create, sheet)
      }),
    () => findRun(db, by.kitchen.id, create.id),
  )
}

/** A core temperature over the kitchen's limit needs a decision, which is kept with who made it and when. */
function decideTemperature(by: SignedIn, create: RunCreate): Run['temperature'] {
  const limitC = by.kitchen.settings.limits.receiveMaxC
  if (create.coreTempC === null || create.coreTempC <= limitC) return null
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

async function insertRun(
  tx: Queries,
  by: SignedIn,
  create: RunCreate,
  chosen: { sheet: CutSheet; quoteId: string; partner: Item | undefined; temperature: Run['temperature'] },
): Promise<void> {
  const { labour, disposalPerKg, limits } = by.kitchen.settings
  const { sheet, partner, temperature } = chosen
  await tx.run(
    `INSERT INTO runs (id, kitchen_id, number, status, item_id, cut_sheet_version_id, supplier_id, cook_id, lot,
       billed_tenths, billed_entered, received_tenths, received_entered, pieces, core_temp_c, temperature, quote_id,
       ready_cut_item_id, ready_cut_terms, ready_cut_quote_id, rates, method, by_item, fish, started_at)
     VALUES (:id, :kitchenId, LAST_INSERT_ID(), :status, :itemId, :versionId, :supplierId, :cookId, :lot,
       :billed, :billedEntered, :received, :receivedEntered, :pieces, :coreTempC, :temperature, :quoteId,
       :readyCutItemId, :readyCutTerms, :readyCutQuoteId, :rates, :method, :byItem, :fish, :startedAt)`,
    {
      id: create.id,
      kitchenId: by.kitchen.id,
      status: temperature?.decision === 'turn-away' ? 'turned-away' : 'open',
      itemId: create.itemId,
      versionId: sheet.versionId,
      supplierId: create.supplierId,
      cookId: by.person.id,
      lot: create.lot,
      billed: create.billed.tenths,
      billedEntered: create.billed.entered,
      received: create.received.tenths,
      receivedEntered: create.received.entered,
      pieces: create.pieces,
      coreTempC: create.coreTempC,
      temperature: temperature && JSON.stringify(temperature),
      quoteId: chosen.quoteId,
      readyCutItemId: partner?.id ?? null,
      readyCutTerms: partner?.readyCut ? JSON.stringify(partner.readyCut) : null,
      readyCutQuoteId: partner?.latestQuote?.id ?? null,
      rates: JSON.stringify({
        ...labour,
        disposalPerKg,
        unaccountedLimitPct: limits.unaccountedPct,
        shortDeliveryLimitPct: limits.shortDeliveryPct,
      }),
      method: sheet.body.jointCostMethod,
      byItem: create.byItem && create.pieces > 1 ? 1 : 0,
      fish: create.fish && JSON.stringify(create.fish),
      startedAt: new Date(create.startedAt),
    },
  )
}

/** Tubs expect what the yield book says, and take over the values that the kitchen last gave the same outputs of the same sheet. */
async function insertTubs(tx: Queries, by: SignedIn, create: RunCreate, sheet: CutSheet): Promise<void> {
  const kitchenId = by.kitchen.id
  const remembered = await rememberedValues(tx, kitchenId, sheet.id, create.id)
  const expected = await expectShares(tx, by.kitchen, create.itemId, sheet)
  const tubs = sheet.body.outputs.map((output, index) => ({
    id: uuidv7(),
    kitchen_id: kitchenId,
    run_id: create.id,
    position: index + 1,
    output_key: output.key,
    name: output.name,
    role: output.role,
    destination: output.destination,
    target_tenths: output.portion
      ? output.portion.askedAtReceiving && create.target
        ? create.target.tenths
        : Math.round(output.portion.targetGrams * 10)
      : null,
    tolerance_tenths: output.portion ? Math.round(output.portion.toleranceGrams * 10) : null,
    typical_pct: expected.get(output.key) ?? output.typicalPct,
    value_per_kg: remembered.get(output.key)?.valuePerKg ?? null,
    separable_cost: remembered.get(output.key)?.separableCost ?? 0,
  }))
  await tx.insertMany('tubs', tubs)
}

async function rememberedValues(tx: Queries, kitchenId: string, cutSheetId: string, exceptRunId: string) {
  const last = await tx.row<{ id: string }>(
    `SELECT r.id FROM runs r JOIN cut_sheet_versions v ON v.id = r.cut_sheet_version_id
     WHERE r.kitchen_id = :kitchenId AND v.cut_sheet_id = :cutSheetId AND r.id <> :exceptRunId
     ORDER BY r.started_at DESC, r.id DESC LIMIT 1`,
    { kitchenId, cutSheetId, exceptRunId },
  )
  const tubs = last ? await listTubs(tx, last.id) : []
  return new Map(tubs.map((tub) => [tub.key, { valuePerKg: tub.valuePerKg, separableCost: tub.separableCost }]))
}

export async function addTub(db: Database, by: SignedIn, runId: string, create: z.infer<typeof tubCreate>): Promise<Tub> {
  return createOnce(
    () =>
      db.transaction(async (tx) => {
        const run = await lockOpenRun(tx, by, runId)
        const position = Math.max(0, ...run.tubs.map((tub) => tub.position)) + 1
        if (position > 40) throw refuseField('name', 'A tray holds at most 40 tubs.')
        await tx.run(
          `INSERT INTO tubs (id, kitchen_id, run_id, position, name, role, destination, typical_pct)
           VALUES (:id, :kitchenId, :runId, :position, :name, :role, '', 0)`,
          { ...create, kitchenId: by.kitchen.id, runId, position },
        )
        await noteChanged(tx, by, runId, 'tubs')
      }),
    async () => (await findRun(db, by.kitchen.id, runId))?.tubs.find((tub) => tub.id === create.id),
  )
}

export async function changeTub(db: Database, by: SignedIn, runId: string, tubId: string, change: z.infer<typeof tubChange>): Promise<Run> {
  return db.transaction(async (tx) => {
    const run = await lockOpenRun(tx, by, runId)
    const before = found(run.tubs.find((tub) => tub.id === tubId))
    await tx.run('UPDATE tubs SET value_per_kg = :valuePerKg, separable_cost = :separableCost WHERE id = :tubId AND run_id = :runId', {
      ...change,
      tubId,
      runId,
    })
    const { valuePerKg, separableCost } = before
    await recordChange(tx, by, { subject: 'tub', subjectId: tubId, action: 'valued', before: { valuePerKg, separableCost }, after: change })
    await noteChanged(tx, by, runId, 'tubs')
    return found(await findRun(tx, by.kitchen.id, runId))
  })
}

export async function noteDefect(db: Database, by: SignedIn, runId: string, create: z.infer<typeof defectCreate>): Promise<Defect> {
  found(await findRun(db, by.kitchen.id, runId))
  return createOnce(
    () =>
      db.transaction(async (tx) => {
        await tx.run(
          `INSERT INTO defects (id, kitchen_id, run_id, kind, note, step, person_id, at)
           VALUES (:id, :kitchenId, :runId, :kind, :note, :step, :personId, UTC_TIMESTAMP(3))`,
          { ...create, kitchenId: by.kitchen.id, runId, personId: by.person.id },
        )
        await noteChanged(tx, by, runId, 'defects')
      }),
    async () => (await listDefects(db, runId)).find((defect) => defect.id === create.id),
  )
}

/** Closes a run with its minutes and figures. Of two people who finish it, the second is told who was first. */
export async function finishRun(db: Database, by: SignedIn, runId: string, finish: z.infer<typeof runFinish>): Promise<Run> {
  return db.transaction(async (tx) => {
    const run = await lockOpenRun(tx, by, runId)
    if (run.cook.id !== by.person.id && !hasRole(by.person, 'lead')) {
      throw new ProblemError('role-too-low', { detail: `This is ${run.cook.name}’s run: ${run.cook.name} or a lead finishes it.` })
    }
    refuseStale(finish.version, run)
    refuseUnsettled(run, finish.unaccountedReason)
    const figures = figuresOfRun({ ...run, minutes: finish.minutes, consumables: finish.consumables })
    await tx.run(
      `UPDATE runs SET status = 'finished', version = version + 1, minutes = :minutes, consumables = :consumables,
         unaccounted_reason = :reason, finished_at = UTC_TIMESTAMP(3), finished_by = :personId, main_pct = :mainPct,
         usable_pct = :usablePct, unaccounted_pct = :unaccountedPct, net_cost = :netCost, cost_per_kg = :costPerKg,
         cost_per_portion = :costPerPortion, portions = :portions
       WHERE id = :runId`,
      {
        ...figures,
        minutes: finish.minutes,
        consumables: finish.consumables,
        reason: finish.unaccountedReason === '' ? null : finish.unaccountedReason,
        personId: by.person.id,
        runId,
      },
    )
    await keepShares(tx, runId, run)
    await recordChange(tx, by, { subject: 'run', subjectId: runId, action: 'finished', before: undefined, after: finish })
    await noteChanged(tx, by, runId, 'status')
    return found(await findRun(tx, by.kitchen.id, runId))
  })
}

function refuseUnsettled(run: Run, reason: string): void {
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

/** Opens a finished run again for a correction. */
export async function reopenRun(db: Database, by: SignedIn, runId: string, reopen: z.infer<typeof runReopen>): Promise<Run> {
  return db.transaction(async (tx) => {
    await lockRun(tx, by, runId)
    const run = found(await findRun(tx, by.kitchen.id, runId))
    refuseStale(reopen.version, run)
    if (run.status !== 'finished') throw new ProblemError('run-open')
    await tx.run(
      `UPDATE runs SET status = 'open', version = version + 1, finished_at = NULL, finished_by = NULL, main_pct = NULL,
         usable_pct = NULL, unaccounted_pct = NULL, net_cost = NULL, cost_per_kg = NULL, cost_per_portion = NULL, portions = NULL
       WHERE id = :runId`,
      { runId },
    )
    await tx.run('DELETE FROM run_outputs WHERE run_id = :runId', { runId })
    const change = { action: 'opened again', before: run.figures, after: { reason: reopen.reason } }
    await recordChange(tx, by, { subject: 'run', subjectId: runId, ...change })
    await noteChanged(tx, by, runId, 'status')
    return found(await findRun(tx, by.kitchen.id, runId))
  })
}

async function lockRun(tx: Queries, by: SignedIn, runId: string): Promise<void> {
  found(await tx.row('SELECT id FROM runs WHERE id = :runId AND kitchen_id = :kitchenId FOR UPDATE', { runId, kitchenId: by.kitchen.id }))
}

async function lockOpenRun(tx: Queries, by: SignedIn, runId: string): Promise<Run> {
  await lockRun(tx, by, runId)
  const run = found(await findRun(tx, by.kitchen.id, runId))
  if (run.status !== 'open') throw closedRun(run)
  return run
}
