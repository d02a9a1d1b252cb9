import type {
  FollowOn,
  FollowOnBody,
  followOnCheck,
  followOnCreate,
  followOnDiscard,
  followOnFinish,
  followOnWeighing,
} from '@fleam/contract/follow-ons'
import { isOutOfLimit } from '@fleam/core/follow-ons/checks'
import { dayOf } from '@fleam/core/quantities/house-day'
import { daysAfter, thawed, useBy } from '@fleam/core/walk-in/use-by'
import { v7 as uuidv7 } from 'uuid'
import type { z } from 'zod'
import type { KitchenRecords } from '../../db/records.ts'
import type { Actor } from '../../http/access.ts'
import { createOnce, found, recordChange, refuseStale } from '../../http/changes.ts'
import { ProblemError, refuseField } from '../../http/problems.ts'
import { takeFollowOnNumber, takeLotNumber } from '../runs/run-number.ts'
import { findWeigher } from '../runs/weigh.ts'
import { findLots } from '../walk-in/find-lots.ts'
import type { LotRow } from '../walk-in/lot.model.ts'
import { applyMove, packedLine, todayOf } from '../walk-in/move-lot.ts'
import type { FollowOnRow } from './follow-on.model.ts'
import { costLots, costOfFollowOn, inputsOf } from './recost.ts'
import { sheetOf } from './sheets.ts'

const withPerson = { association: 'person', attributes: ['name'] }

export async function listFollowOns(records: KitchenRecords): Promise<FollowOn[]> {
  const [open, done] = await Promise.all([
    records.followOns.findAll({ where: { status: 'open' }, include: [withPerson], order: [['startedAt', 'DESC']], limit: 200 }),
    records.followOns.findAll({ where: { status: 'finished' }, include: [withPerson], order: [['startedAt', 'DESC']], limit: 50 }),
  ])
  return toFollowOns(records, [...open, ...done])
}

export async function findFollowOn(records: KitchenRecords, id: string): Promise<FollowOn | undefined> {
  return (await toFollowOns(records, await records.followOns.findAll({ where: { id }, include: [withPerson] })))[0]
}

async function toFollowOns(records: KitchenRecords, rows: readonly FollowOnRow[]): Promise<FollowOn[]> {
  if (rows.length === 0) return []
  const ids = rows.map(({ id }) => id)
  const [inputs, outputs] = await Promise.all([inputsOf(records, ids), findLots(records, { followOnId: ids })])
  return rows.map((row) => ({
    id: row.id,
    number: row.number,
    version: row.version,
    status: row.status,
    sheet: row.sheet,
    name: row.name,
    body: row.body,
    figures: row.figures,
    by: { id: row.personId, name: found(row.person).name },
    startedAt: row.startedAt.toISOString(),
    dueAt: row.dueAt?.toISOString() ?? null,
    finishedAt: row.finishedAt?.toISOString() ?? null,
    inputs: inputs
      .filter(({ followOnId }) => followOnId === row.id)
      .map(({ id, tenths, lot }) => {
        const { number, name, unit, useBy: date, supplierLot, cost, packedTenths, id: lotId } = found(lot)
        return {
          moveId: id,
          lot: { id: lotId, number, name, unit, useBy: date, supplierLot },
          tenths: -tenths,
          cost: cost === null ? null : (cost * -tenths) / packedTenths,
        }
      }),
    outputs: outputs.filter(({ followOn }) => followOn?.id === row.id),
  }))
}

/** Starts a follow-on: what goes in is taken from its lots, all of it or nothing. */
export async function startFollowOn(by: Actor, create: z.infer<typeof followOnCreate>, today = todayOf(by)): Promise<FollowOn> {
  const { records, kitchen } = by
  const { id, sheet, name, inputs, waitHours, startedAt } = create
  return createOnce(
    records,
    () =>
      records.transaction(async (tx) => {
        const started = new Date(startedAt)
        await tx.followOns.create({
          id,
          number: await takeFollowOnNumber(tx),
          status: 'open',
          sheet,
          name,
          body: {
            added: [],
            energy: 0,
            consumables: 0,
            minutes: null,
            method: 'byproduct-credit',
            rates: { ...kitchen.settings.labour, disposalPerKg: kitchen.settings.disposalPerKg },
            boughtPerUnit: null,
            weighings: [],
            checks: [],
            outputs: [],
            waste: [],
            note: '',
          },
          figures: null,
          personId: by.person.id,
          startedAt: started,
          dueAt: waitHours === null ? null : new Date(started.getTime() + waitHours * 3_600_000),
          finishedAt: null,
        })
        // in one order, so that two who take of the same lots wait for each other
        for (const input of inputs.toSorted((a, b) => a.lotId.localeCompare(b.lotId))) {
          const what = { kind: 'take' as const, tenths: input.tenths, portions: input.portions, takenFor: 'follow-on' as const, note: name }
          await applyMove(tx, by, input.lotId, { id: input.moveId, what, at: startedAt }, id, today)
        }
      }),
    () => findFollowOn(records, id),
  )
}

/** Most weighings, and most checks, of one follow-on. */
const mostLines = 400

/** Weighs into a tub of a follow-on, or what dries on the way, or takes such a weighing back: once, however often it is sent. */
export async function weighFollowOn(by: Actor, id: string, create: z.infer<typeof followOnWeighing>): Promise<FollowOn> {
  return addLine(by, id, 'weighings', create, ({ weighings }, who) => {
    const { personId: _who, ...line } = { ...create, at: new Date(create.at).toISOString(), by: who }
    if (line.reversesId === null) return line
    const { output = null, tenths, portions = null } = found(weighings.find((one) => one.id === line.reversesId && !one.reversesId))
    if (weighings.some(({ reversesId }) => reversesId === line.reversesId)) throw new ProblemError('already-reversed')
    return { ...line, output, tenths, portions }
  })
}

/** Puts down a temperature, or what was looked at; whether it is out of the kitchen's limit is kept as it was judged then. */
export async function checkFollowOn(by: Actor, id: string, create: z.infer<typeof followOnCheck>): Promise<FollowOn> {
  return addLine(by, id, 'checks', create, async ({ checks = [] }, who, row) => {
    const { personId: _who, ...line } = { ...create, at: new Date(create.at).toISOString(), by: who }
    const { core } = await sheetOf(by.records, row.sheet)
    const { limits } = by.kitchen.settings
    const limitC = line.kind === 'core' && core ? limits[core] : null
    return { ...line, limitC, isOut: isOutOfLimit(line, checks, limits, core) }
  })
}

async function addLine<Kind extends 'weighings' | 'checks'>(
  by: Actor,
  id: string,
  kind: Kind,
  { id: lineId, personId }: { id: string; personId?: string | undefined },
  lineOf: (body: FollowOnBody, who: string, row: FollowOnRow) => FollowOnBody[Kind][number] | Promise<FollowOnBody[Kind][number]>,
): Promise<FollowOn> {
  return by.records.transaction(async (tx) => {
    const row = found(await tx.followOns.lock({ id }))
    const lines = row.body[kind] ?? []
    if (lines.some((one) => one.id === lineId)) return found(await findFollowOn(tx, id))
    refuseClosed(row)
    if (lines.length >= mostLines) throw refuseField('id', `A follow-on takes at most ${mostLines} ${kind}.`)
    const weigher = await findWeigher(by, personId)
    const line = await lineOf(row.body, weigher.name, row)
    await tx.followOns.save(row, { body: { ...row.body, [kind]: [...lines, line] } })
    return found(await findFollowOn(tx, id))
  })
}

/** Closes a follow-on: what came out becomes lots, with what they cost and until when they keep. */
export async function finishFollowOn(by: Actor, id: string, finish: z.infer<typeof followOnFinish>): Promise<FollowOn> {
  return by.records.transaction(async (tx) => {
    const row = await lockOpen(tx, id)
    refuseStale(finish.version, row)
    const inputs = await inputsOf(tx, [id])
    const unknown = inputs.find(({ lot }) => lot?.cost === null)
    if (unknown) {
      const run = unknown.lot?.runId ? await tx.runs.findOne({ attributes: ['number'], where: { id: unknown.lot.runId } }) : null
      throw new ProblemError('lot-refused', {
        detail: `What ${unknown.lot?.name} carries is not known yet: finish run ${run?.number} first.`,
      })
    }
    const lots = finish.outputs.filter(({ role }) => role !== 'waste')
    const waste = finish.outputs.filter(({ role, unit }) => role === 'waste' && unit === 'g')
    const said = lots.map(({ id: output, name, unit, role, tenths, valuePerUnit }) => ({
      ...{ id: output, name, unit, tenths, valuePerUnit },
      role: role as 'main',
    }))
    const { added, energy, consumables, minutes, method, boughtPerUnit, note } = finish
    const body = {
      ...row.body,
      ...{ added, energy, consumables, minutes, method, boughtPerUnit, note },
      outputs: said,
      waste: waste.map(({ name, tenths }) => ({ name, grams: tenths / 10 })),
    }
    await tx.followOns.save(row, { status: 'finished', finishedAt: new Date(), body })
    await packOutputs(
      tx,
      by,
      row,
      inputs.map(({ lot }) => found(lot)),
      lots,
    )
    if (lots.length > 0) await costLots(tx, row)
    else costOfFollowOn(row, inputs, [])
    await recordChange(tx, by, { subject: 'follow-on', subjectId: id, action: 'finished', before: undefined, after: finish })
    return found(await findFollowOn(tx, id))
  })
}

type Output = z.infer<typeof followOnFinish>['outputs'][number]

async function packOutputs(
  tx: KitchenRecords,
  by: Actor,
  row: FollowOnRow,
  from: readonly LotRow[],
  outputs: readonly Output[],
): Promise<void> {
  if (outputs.length === 0) return
  const { keeping } = by.kitchen.settings.walkIn
  const today = todayOf(by)
  const startedOn = dayOf(row.startedAt, by.kitchen.settings.timeZone)
  const madeOf = from.map((lot) => dateOfInput(lot, startedOn, keeping))
  const line = { personId: by.person.id, sentById: by.person.id, at: new Date() }
  const animals = new Set(from.map(({ animal }) => animal))
  const supplierLots = new Set(from.map(({ supplierLot }) => supplierLot).filter((lot) => lot !== ''))
  const first = await takeLotNumber(tx, outputs.length)
  for (const [index, output] of outputs.entries()) {
    const { id, name, kind, unit, tenths, portions, place, isFormed } = output
    await tx.lots.create({
      id,
      number: first + index,
      name,
      kind,
      animal: animals.size === 1 ? ([...animals][0] ?? null) : null,
      outputKey: null,
      runId: null,
      tubId: id,
      followOnId: row.id,
      supplierLot: supplierLots.size === 1 ? ([...supplierLots][0] ?? '') : '',
      unit,
      packedTenths: tenths,
      leftTenths: tenths,
      packedPortions: portions,
      leftPortions: portions,
      place,
      state: 'chilled',
      packedOn: today,
      useBy: useBy(kind, today, keeping, { madeOf }),
      chilledDaysLeft: null,
      // whatever went in is in what came out
      allergens: [...new Set([...from.flatMap(({ allergens }) => allergens), ...output.allergens])],
      isFormed: isFormed || from.some((lot) => lot.isFormed),
      cost: null,
      personId: by.person.id,
      packedAt: line.at,
    })
    await tx.lotMoves.create(packedLine(id, tenths, portions, line))
  }
}

/** The date that an input gives to what is made of it: a frozen one as if it had been thawed that day. */
function dateOfInput(lot: LotRow, day: string, keeping: Actor['kitchen']['settings']['walkIn']['keeping']): string {
  if (lot.state !== 'frozen') return lot.useBy
  return lot.useBy < day ? daysAfter(day, 0) : thawed(lot, day, keeping).useBy
}

/** Strikes a follow-on: what had gone in lies where it lay. */
export async function discardFollowOn(by: Actor, id: string, { version, reason }: z.infer<typeof followOnDiscard>): Promise<FollowOn> {
  return by.records.transaction(async (tx) => {
    const row = await lockOpen(tx, id)
    refuseStale(version, row)
    for (const move of (await inputsOf(tx, [id])).toSorted((a, b) => a.lotId.localeCompare(b.lotId))) {
      const lot = found(await tx.lots.lock({ id: move.lotId }))
      await tx.lotMoves.create({
        ...packedLine(lot.id, -move.tenths, -move.portions, { personId: by.person.id, sentById: by.person.id, at: new Date() }),
        id: uuidv7(),
        kind: 'undo',
        takenFor: 'follow-on',
        undoesId: move.id,
        followOnId: id,
      })
      await tx.lots.save(lot, {
        leftTenths: lot.leftTenths - move.tenths,
        leftPortions: lot.leftPortions === null ? null : lot.leftPortions - move.portions,
      })
    }
    await tx.followOns.save(row, { status: 'discarded', body: { ...row.body, note: reason } })
    await recordChange(tx, by, { subject: 'follow-on', subjectId: id, action: 'discarded', before: undefined, after: { reason } })
    return found(await findFollowOn(tx, id))
  })
}

async function lockOpen(tx: KitchenRecords, id: string): Promise<FollowOnRow> {
  const row = found(await tx.followOns.lock({ id }))
  refuseClosed(row)
  return row
}

function refuseClosed({ status, number }: FollowOnRow): void {
  if (status !== 'open') throw new ProblemError('follow-on-closed', { detail: `Follow-on ${number} is closed already.` })
}
