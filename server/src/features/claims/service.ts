import type { Claim, claimCreate, claimSettle } from '@fleam/contract/claims'
import { costOfPurchase } from '@fleam/core/quantities/price'
import { figuresOfRun } from '@fleam/core/runs/run-record'
import type { z } from 'zod'
import type { KitchenRecords } from '../../db/records.ts'
import type { Actor } from '../../http/access.ts'
import { createOnce, found, recordChange, refuseStale } from '../../http/changes.ts'
import { refuseField } from '../../http/problems.ts'
import { noteChanged } from '../runs/bench-events.ts'
import { findRun } from '../runs/find-run.ts'
import { takeClaimNumber } from '../runs/run-number.ts'
import { recostRun } from '../walk-in/put-away.ts'
import type { ClaimRow } from './claim.model.ts'

const withNames = [
  { association: 'person', attributes: ['name'] },
  { association: 'settledBy', attributes: ['name'] },
  {
    association: 'run',
    attributes: ['id', 'number', 'lot', 'startedAt', 'billedTenths', 'receivedTenths', 'coreTempC', 'temperature', 'supplierId'],
    include: [
      { association: 'item', attributes: ['name'] },
      { association: 'supplier', attributes: ['name'] },
    ],
  },
]
const mostShown = 500

export async function listClaims(records: KitchenRecords): Promise<Claim[]> {
  return (await records.claims.findAll({ include: withNames, order: [['number', 'DESC']], limit: mostShown })).map(toClaim)
}

export async function findClaim(records: KitchenRecords, id: string): Promise<Claim | undefined> {
  const row = await records.claims.findOne({ where: { id }, include: withNames })
  return row ? toClaim(row) : undefined
}

export async function createClaim(by: Actor, create: z.infer<typeof claimCreate>): Promise<Claim> {
  const { records } = by
  const { id, runId, kinds, words, asked, at } = create
  found(await records.runs.findOne({ attributes: ['id'], where: { id: runId }, raw: true }))
  return createOnce(
    records,
    () =>
      records.transaction(async (tx) => {
        const number = await takeClaimNumber(tx)
        await tx.claims.create({ id, number, runId, kinds, words, asked, state: 'open', personId: by.person.id, at: new Date(at) })
        await recordChange(tx, by, { subject: 'claim', subjectId: id, action: 'added', before: undefined, after: create })
      }),
    () => findClaim(records, id),
  )
}

/** Says what came of a claim. What was credited lowers what its run cost, and everything that came of it. */
export async function settleClaim(by: Actor, id: string, settle: z.infer<typeof claimSettle>): Promise<Claim> {
  return by.records.transaction(async (tx) => {
    const claim = found(await tx.claims.findOne({ where: { id } }))
    const runRow = found(await tx.runs.lock({ id: claim.runId }))
    const row = found(await tx.claims.lock({ id }))
    refuseStale(settle.version, row)
    const credited = settle.state === 'credited' ? settle.credited : 0
    if (settle.state === 'credited' && credited <= 0) throw refuseField('credited', 'Say how much was credited.')
    const run = found(await findRun(tx, row.runId))
    const paid = costOfPurchase(run.quote.price, { grams: run.billed.tenths / 10, pieces: run.pieces })
    const others = (await tx.claims.findAll({ where: { runId: row.runId } })).filter((other) => other.id !== id)
    const claimCredit = others.reduce((sum, other) => sum + other.credited, credited)
    if (claimCredit > paid) throw refuseField('credited', 'That is more than was paid for the delivery.')
    const before = { state: row.state, credited: row.credited }
    await tx.claims.save(row, {
      state: settle.state,
      credited,
      settledWords: settle.words,
      settledById: settle.state === 'open' ? null : by.person.id,
      settledAt: settle.state === 'open' ? null : new Date(),
    })
    if (claimCredit !== run.claimCredit) {
      const { netCost, costPerKg, costPerPortion } = figuresOfRun({ ...run, claimCredit })
      await tx.runs.save(runRow, { claimCredit, ...(run.status === 'finished' ? { netCost, costPerKg, costPerPortion } : {}) })
      if (run.status === 'finished') {
        const moved = await recostRun(tx, { ...run, claimCredit })
        if (moved.length > 0)
          await recordChange(tx, by, { subject: 'run', subjectId: run.id, action: 're-costed', before: undefined, after: { moved } })
      }
      await noteChanged(tx, by, run.id, 'status')
    }
    const after = { state: settle.state, credited }
    await recordChange(tx, by, { subject: 'claim', subjectId: id, action: 'settled', before, after })
    return found(await findClaim(tx, id))
  })
}

function toClaim(row: ClaimRow): Claim {
  const run = found(row.run)
  return {
    id: row.id,
    number: row.number,
    version: row.version,
    kinds: row.kinds,
    words: row.words,
    asked: row.asked,
    state: row.state,
    credited: row.credited,
    settledWords: row.settledWords,
    by: found(row.person).name,
    at: row.at.toISOString(),
    settledBy: row.settledBy?.name ?? null,
    settledAt: row.settledAt?.toISOString() ?? null,
    run: {
      id: run.id,
      number: run.number,
      item: run.item?.name ?? '',
      supplier: run.supplier?.name ?? null,
      supplierId: run.supplierId,
      lot: run.lot,
      startedAt: run.startedAt.toISOString(),
      billedTenths: run.billedTenths,
      receivedTenths: run.receivedTenths,
      coreTempC: run.coreTempC,
      limitC: run.temperature?.limitC ?? null,
    },
  }
}
