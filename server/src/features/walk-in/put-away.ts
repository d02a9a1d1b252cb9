import type { MovedCost } from '@fleam/contract/follow-ons'
import type { Run, Tub } from '@fleam/contract/runs'
import type { Lot, PortionsEaten, PutAway, ThrownAway } from '@fleam/contract/walk-in'
import { dayOf } from '@fleam/core/quantities/house-day'
import { gramsOf } from '@fleam/core/quantities/weight'
import { totalsByTub } from '@fleam/core/runs/ledger'
import { sharedTestOfRun } from '@fleam/core/runs/run-record'
import { keptKindOf } from '@fleam/core/walk-in/keeping'
import { frozen, useBy } from '@fleam/core/walk-in/use-by'
import { v7 as uuidv7 } from 'uuid'
import type { KitchenRecords } from '../../db/records.ts'
import type { Actor } from '../../http/access.ts'
import { found } from '../../http/changes.ts'
import { ProblemError, refuseField } from '../../http/problems.ts'
import { keepCosts, recostMadeOf } from '../follow-ons/recost.ts'
import { takeLotNumber } from '../runs/run-number.ts'
import { findLots, standOf } from './find-lots.ts'
import { packedLine, todayOf } from './move-lot.ts'
import { portionsThrownAway, thrownAwayByWeek } from './thrown-away.sql.ts'

type Pack = PutAway['lots'][number]

/** Puts some of a run's tubs away, while it is being cut or after; never more than lies in the tub. */
export async function putAway(by: Actor, run: Run, { lots: packs }: PutAway): Promise<Lot[]> {
  const { records } = by
  await records.transaction(async (tx) => {
    found(await tx.runs.lock({ id: run.id }))
    const known = new Set((await tx.lots.findAll({ attributes: ['id'], where: { id: packs.map(({ id }) => id) } })).map(({ id }) => id))
    const fresh = packs.filter(({ id }) => !known.has(id))
    const inTub = await notPutAway(tx, run)
    for (const [index, { tubId, tenths, id }] of packs.entries()) {
      if (known.has(id)) continue
      const left = (inTub.get(tubId) ?? 0) - tenths
      if (left < 0) throw refuseField(`lots.${index}.tenths`, 'That is more than lies in the tub and is not put away yet.')
      inTub.set(tubId, left)
    }
    await pack(tx, by, run, fresh)
    if (run.status === 'finished') await recostRun(tx, run)
  })
  return findLots(records, { runId: run.id })
}

/** What lies in each tub of a run and was not put away, in tenths of a gram. */
async function notPutAway(tx: KitchenRecords, run: Run): Promise<Map<string, number>> {
  const totals = totalsByTub(run.weighings)
  const left = new Map(run.tubs.map((tub) => [tub.id, totals.get(tub.id)?.tenths ?? 0]))
  const lots = await tx.lots.findAll({ attributes: ['id', 'tubId', 'packedTenths'], where: { runId: run.id } })
  const moved = await movedByLot(tx, lots)
  for (const { id, tubId, packedTenths } of lots) {
    // what was split off stands as a lot of its own
    if (tubId !== null) left.set(tubId, (left.get(tubId) ?? 0) - packedTenths + (moved.get(id) ?? 0))
  }
  return left
}

/** What was split off each of these lots. */
async function movedByLot(tx: KitchenRecords, lots: readonly { id: string }[]): Promise<Map<string, number>> {
  const splits = await tx.lotMoves.findAll({ attributes: ['lotId', 'tenths'], where: { lotId: lots.map(({ id }) => id), kind: 'split' } })
  const sums = new Map<string, number>()
  for (const { lotId, tenths } of splits) sums.set(lotId, (sums.get(lotId) ?? 0) - tenths)
  return sums
}

async function pack(tx: KitchenRecords, by: Actor, run: Run, packs: readonly Pack[], at = new Date()): Promise<void> {
  if (packs.length === 0) return
  const { keeping } = by.kitchen.settings.walkIn
  const { timeZone } = by.kitchen.settings
  const today = todayOf(by, at)
  // the clock of what was cut began when it was received
  const cutOn = dayOf(run.startedAt, timeZone)
  const first = await takeLotNumber(tx, packs.length)
  const line = { personId: by.person.id, sentById: by.person.id, at }
  for (const [index, one] of packs.entries()) {
    const tub = run.tubs.find((other) => other.id === one.tubId)
    if (!tub) throw refuseField(`lots.${index}.tubId`, 'There is no such tub on this run’s tray.', 'not-found')
    const chilled = { state: 'chilled' as const, useBy: useBy(one.kind, cutOn, keeping), chilledDaysLeft: null }
    const clock = one.state === 'frozen' && chilled.useBy >= today ? frozen(chilled, one.kind, today, keeping) : chilled
    await tx.lots.create({
      id: one.id,
      number: first + index,
      name: tub.name,
      kind: one.kind,
      animal: run.item.animal,
      outputKey: tub.key,
      runId: run.id,
      tubId: tub.id,
      followOnId: null,
      supplierLot: run.lot,
      unit: 'g',
      packedTenths: one.tenths,
      leftTenths: one.tenths,
      packedPortions: one.portions,
      leftPortions: one.portions,
      place: one.place,
      ...clock,
      packedOn: today,
      allergens: run.item.animal === 'fish' && !one.allergens.includes('fish') ? [...one.allergens, 'fish'] : one.allergens,
      isFormed: one.isFormed,
      cost: null,
      personId: by.person.id,
      packedAt: line.at,
    })
    await tx.lotMoves.create(packedLine(one.id, one.tenths, one.portions, line))
  }
}

/** Puts away what is left in the tubs of a run that is being finished, each where its like lay last. */
export async function putAwayRest(tx: KitchenRecords, by: Actor, run: Run, at = new Date()): Promise<void> {
  const left = await notPutAway(tx, run)
  const totals = totalsByTub(run.weighings)
  const packs: Pack[] = []
  for (const tub of run.tubs) {
    const tenths = left.get(tub.id) ?? 0
    if (tub.role === 'waste' || tenths === 0) continue
    if (tenths < 0) await takeBackOf(tx, by, tub, -tenths)
    else
      packs.push(
        await packOf(tx, by, run, tub, tenths, (totals.get(tub.id)?.tenths ?? 0) === tenths ? totals.get(tub.id)?.count : undefined),
      )
  }
  await pack(tx, by, run, packs, at)
}

async function packOf(tx: KitchenRecords, by: Actor, run: Run, tub: Tub, tenths: number, count: number | undefined): Promise<Pack> {
  const alike = { outputKey: tub.key, animal: run.item.animal, state: 'chilled' as const }
  const last = tub.key === null ? null : await tx.lots.findOne({ where: alike, order: [['packedAt', 'DESC']] })
  const { places } = by.kitchen.settings.walkIn
  return {
    id: uuidv7(),
    tubId: tub.id,
    tenths,
    // pieces without a target are no portions
    portions: tub.targetTenths === null ? null : (count ?? null),
    kind: last?.kind ?? keptKindOf(run.item.animal, tub.role, tub.name),
    state: 'chilled',
    place: (last && places.includes(last.place) ? last.place : places[0]) as string,
    allergens: [],
    isFormed: last?.isFormed ?? false,
  }
}

/** Less lies in a tub than was put away of it, after a correction: the newest of its lots are counted down. */
async function takeBackOf(tx: KitchenRecords, by: Actor, tub: Tub, tenths: number): Promise<void> {
  let more = tenths
  const lots = await tx.lots.findAll({ where: { tubId: tub.id }, order: [['number', 'DESC']] })
  for (const row of lots) {
    const less = Math.min(more, row.leftTenths)
    if (less === 0) continue
    more -= less
    const portions = Math.min(row.leftPortions ?? 0, Math.round(((row.packedPortions ?? 0) * less) / row.packedTenths))
    const line = { personId: by.person.id, sentById: by.person.id, at: new Date() }
    await tx.lotMoves.create({ ...packedLine(row.id, -less, -portions, line), id: uuidv7(), note: 'its run was put right' })
    await tx.lots.save(row, {
      leftTenths: row.leftTenths - less,
      packedTenths: row.packedTenths - less,
      leftPortions: row.leftPortions === null ? null : row.leftPortions - portions,
      packedPortions: row.packedPortions === null ? null : row.packedPortions - portions,
    })
  }
  if (more > 0)
    throw new ProblemError('lot-refused', {
      detail: `${gramsOf(more)} g of ${tub.name} were put away and used that are no longer in its tub: count its lots first.`,
    })
}

/** Nothing of a run that is discarded lies in the cold any more. */
export async function writeOffLots(tx: KitchenRecords, by: Actor, runId: string): Promise<void> {
  for (const row of await tx.lots.findAll({ where: { runId }, order: ['id'] })) {
    if (row.leftTenths === 0) continue
    const line = { personId: by.person.id, sentById: by.person.id, at: new Date() }
    const counted = {
      ...packedLine(row.id, -row.leftTenths, -(row.leftPortions ?? 0), line),
      kind: 'count' as const,
      stoodBefore: standOf(row),
    }
    await tx.lotMoves.create({ ...counted, id: uuidv7(), note: 'its run was discarded' })
    await tx.lots.save(row, { leftTenths: 0, leftPortions: row.leftPortions === null ? null : 0 })
  }
}

/** What the lots of a run cost, now that it is finished, or has been put right; and what was made of them. @returns what moved */
export async function recostRun(tx: KitchenRecords, run: Run): Promise<MovedCost[]> {
  const lots = await tx.lots.findAll({ where: { runId: run.id } })
  if (lots.length === 0) return []
  const { outputs } = sharedTestOfRun(run).test
  const totals = totalsByTub(run.weighings)
  const moved = await keepCosts(tx, lots, ({ tubId, packedTenths }) => {
    const tenths = totals.get(tubId ?? '')?.tenths ?? 0
    const cost = outputs.find(({ id }) => id === tubId)?.cost ?? 0
    return tenths > 0 ? (cost * packedTenths) / tenths : 0
  })
  const made = await recostMadeOf(
    tx,
    lots.map(({ id }) => id),
  )
  // what is made of the same lot by two ways was costed twice: it moved from the first to the last
  const byLot = new Map<string, MovedCost>()
  for (const one of [...moved, ...made]) byLot.set(one.lotId, { ...one, before: byLot.get(one.lotId)?.before ?? one.before })
  return [...byLot.values()]
}

/** What moved when a run was put right last. */
export async function listMovedCosts({ records }: Actor, runId: string): Promise<MovedCost[]> {
  const [last] = await records.auditTrail.findAll({
    where: { subject: 'run', subjectId: runId, action: 're-costed' },
    order: [['id', 'DESC']],
    limit: 1,
  })
  return (last?.after as { moved?: MovedCost[] } | undefined)?.moved ?? []
}

/** Portions of which some were thrown away, in so many weeks. */
export async function listPortionsEaten({ records }: Actor, weeks: number): Promise<PortionsEaten[]> {
  return records.select<PortionsEaten>(portionsThrownAway, { since: new Date(Date.now() - weeks * 7 * 86_400_000) })
}

/** What was thrown away in the last weeks, in money, by week, kind and reason. */
export async function listThrownAway({ records }: Actor, weeks: number): Promise<ThrownAway[]> {
  const since = new Date(Date.now() - weeks * 7 * 86_400_000)
  return records.select<ThrownAway>(thrownAwayByWeek, { since })
}
