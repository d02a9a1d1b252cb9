import type { LotWithMoves, lotMoveCreate, lotUndo } from '@fleam/contract/walk-in'
import { InputError } from '@fleam/core/input-error'
import { dayOf } from '@fleam/core/quantities/house-day'
import { happen, type LotChange, type LotHappening } from '@fleam/core/walk-in/lot'
import type { z } from 'zod'
import type { KitchenRecords } from '../../db/records.ts'
import { type Actor, hasRole } from '../../http/access.ts'
import { found, storeOnce } from '../../http/changes.ts'
import { ProblemError } from '../../http/problems.ts'
import { takeLotNumber } from '../runs/run-number.ts'
import { findWeigher } from '../runs/weigh.ts'
import { findLot, standOf } from './find-lots.ts'
import type { LotRow } from './lot.model.ts'

type MoveCreate = z.infer<typeof lotMoveCreate>

/** What only a lead may do to a lot. */
const forLeads: ReadonlySet<LotHappening['kind']> = new Set(['keep', 'block', 'release'])

/** The kitchen's calendar day. */
export const todayOf = ({ kitchen }: Actor, at = new Date()) => dayOf(at, kitchen.settings.timeZone)

/** Does something to a lot, once, however often it is sent. Of two who take the last of it, the second is told how it stands. */
export async function moveLot(by: Actor, lotId: string, create: MoveCreate): Promise<LotWithMoves> {
  const { records } = by
  const { id, what } = create
  if (forLeads.has(what.kind) && !hasRole(by.person, 'lead')) {
    throw new ProblemError('role-too-low', { detail: 'A lead keeps, blocks and releases.' })
  }
  const done = await storeOnce(
    records,
    async () => {
      if (await records.lotMoves.findOne({ attributes: ['id'], where: { id } })) return false
      await records.transaction((tx) => applyMove(tx, by, lotId, create))
      return true
    },
    async () => ((await records.lotMoves.findOne({ where: { id, lotId } })) ? findLot(records, lotId) : undefined),
  )
  return found(done, 'id-in-use')
}

/** Does it inside a transaction. @param today what counts as today for its date @returns the lot, and what it carried of its cost */
export async function applyMove(
  tx: KitchenRecords,
  by: Actor,
  lotId: string,
  { id, what, at, personId }: Omit<MoveCreate, 'what'> & { what: LotHappening },
  followOnId: string | null = null,
  today = todayOf(by),
): Promise<{ row: LotRow; change: LotChange; cost: number | null }> {
  const row = found(await tx.lots.lock({ id: lotId }))
  const stoodBefore = standOf(row)
  const change = await decide(tx, row, () => happen(stoodBefore, what, today, by.kitchen.settings.walkIn.keeping))
  const cost = row.cost === null ? null : (row.cost * -change.tenths) / row.packedTenths
  const mover = await findWeigher(by, personId)
  const line = { lotId, personId: mover.id, sentById: by.person.id, at: new Date(at), undoesId: null, followOnId, stoodBefore }
  const { kind } = what
  const note = 'note' in what ? what.note : 'place' in what ? what.place : ''
  const takenFor = what.kind === 'take' ? what.takenFor : null
  await tx.lotMoves.create({
    ...line,
    id,
    kind,
    tenths: change.tenths,
    portions: change.portions,
    takenFor,
    note,
    cost: what.kind === 'take' ? cost : null,
  })
  await tx.lots.save(row, change.after)
  if (what.kind === 'split') await splitOff(tx, row, change, what, line)
  return { row, change, cost }
}

/** A pack of its own, with the same origin and the same clock. */
async function splitOff(
  tx: KitchenRecords,
  row: LotRow,
  change: LotChange,
  { lotId, place }: Extract<LotHappening, { kind: 'split' }>,
  line: { personId: string; sentById: string; at: Date },
): Promise<void> {
  const { kitchenId: _kitchen, ...from } = row.get({ plain: true })
  const tenths = -change.tenths
  const portions = from.leftPortions === null ? null : -change.portions
  await tx.lots.create({
    ...from,
    id: lotId,
    number: await takeLotNumber(tx),
    version: 1,
    packedTenths: tenths,
    leftTenths: tenths,
    packedPortions: portions,
    leftPortions: portions,
    place,
    cost: from.cost === null ? null : (from.cost * tenths) / from.packedTenths,
  })
  await tx.lotMoves.create({ ...packedLine(lotId, tenths, portions, line), note: `split off lot ${from.number}` })
}

/** The first line of a lot's books. */
export function packedLine(lotId: string, tenths: number, portions: number | null, line: { personId: string; sentById: string; at: Date }) {
  const nothing = { takenFor: null, note: '', undoesId: null, followOnId: null, cost: null, stoodBefore: null }
  const { personId, sentById, at } = line
  return { ...nothing, id: lotId, lotId, kind: 'packed' as const, tenths, portions: portions ?? 0, personId, sentById, at }
}

/** Takes back what was done last, or what was taken or counted at any time. */
export async function undoMove(by: Actor, lotId: string, { id, moveId, at, personId }: z.infer<typeof lotUndo>): Promise<LotWithMoves> {
  const { records } = by
  const done = await storeOnce(
    records,
    async () => {
      if (await records.lotMoves.findOne({ attributes: ['id'], where: { id } })) return false
      await records.transaction(async (tx) => {
        const row = found(await tx.lots.lock({ id: lotId }))
        const moves = await tx.lotMoves.findAll({ where: { lotId }, order: ['sequence'] })
        const move = found(moves.find((one) => one.id === moveId))
        const undone = new Set(moves.map((one) => one.undoesId))
        const refuse = (detail: string) => new ProblemError('lot-refused', { detail })
        if (undone.has(moveId)) throw new ProblemError('already-reversed')
        if (move.kind === 'packed' || move.kind === 'undo' || move.kind === 'split')
          throw refuse('That is not taken back: count what is there, or take it out with the reason.')
        if (forLeads.has(move.kind as LotHappening['kind']) && !hasRole(by.person, 'lead'))
          throw new ProblemError('role-too-low', { detail: 'A lead keeps, blocks and releases.' })
        if (move.runId) throw refuse('It is being cut: discard its run, and it lies here again.')
        if (move.followOnId) {
          const made = await tx.followOns.findOne({ attributes: ['status', 'number'], where: { id: move.followOnId } })
          if (made?.status === 'finished')
            throw refuse(`Follow-on ${made.number} is finished: what went into it has become something else.`)
        }
        const before = found(move.stoodBefore)
        const isAmount = move.kind === 'take' || move.kind === 'count'
        const later = moves.find((one) => one.sequence > move.sequence && !undone.has(one.id) && one.kind !== 'undo' && one.kind !== 'take')
        if (!isAmount && later) throw refuse('Something else has happened to it since: take that back first.')
        const left = row.leftTenths - move.tenths
        if (left < 0) throw refuse('More has been taken since than would be left.')
        await tx.lotMoves.create({
          lotId,
          id,
          kind: 'undo',
          tenths: 0 - move.tenths,
          portions: 0 - move.portions,
          takenFor: move.takenFor,
          note: '',
          undoesId: moveId,
          followOnId: move.followOnId,
          cost: move.cost === null ? null : -move.cost,
          stoodBefore: null,
          personId: (await findWeigher(by, personId)).id,
          sentById: by.person.id,
          at: new Date(at),
        })
        const amounts = { leftTenths: left, leftPortions: row.leftPortions === null ? null : Math.max(0, row.leftPortions - move.portions) }
        const { leftTenths: _tenths, leftPortions: _portions, ...stood } = before
        await tx.lots.save(row, isAmount ? amounts : stood)
      })
      return true
    },
    async () => ((await records.lotMoves.findOne({ where: { id, lotId } })) ? findLot(records, lotId) : undefined),
  )
  return found(done, 'id-in-use')
}

/** What cannot be is refused with how the lot stands. */
async function decide<Result>(tx: KitchenRecords, row: LotRow, work: () => Result): Promise<Result> {
  try {
    return work()
  } catch (error) {
    if (!(error instanceof InputError)) throw error
    const last = await tx.lotMoves.findOne({
      where: { lotId: row.id, kind: 'take' },
      include: [{ association: 'person', attributes: ['name'] }],
      order: [['sequence', 'DESC']],
    })
    const isShort = /left/.test(error.message) && last !== null
    const detail = isShort ? `${error.message} ${last?.person?.name} took some last.` : error.message
    throw new ProblemError('lot-refused', {
      detail,
      errors: [{ field: error.field, message: error.message }],
      current: await findLot(tx, row.id),
    })
  }
}
